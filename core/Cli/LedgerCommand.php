<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Experiment\Alignment;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Claim;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** What parties own, owe and are worth at a time of the run, and whether their books balance. */
final class LedgerCommand implements Reporting
{
    public const TAKES = ['at'];

    private bool $isFailed = false;

    public function __construct(private readonly Arguments $arguments, private readonly Setting $setting)
    {
    }

    /** @throws NotUnderstood|RunRefused|UsageError */
    public function document(Simulator $simulator, Model $model): array
    {
        $books = Books::of($model);
        if ($books->isEmpty()) {
            throw NotUnderstood::because('Nobody keeps a ledger in this study: it has no parties and no claims.');
        }
        $trial = Trial::of($model, $this->setting);
        $columns = [];
        foreach ($books->claims as $id => $claim) {
            $columns[$id] = $trial->analysis->positions->of($claim->balance());
        }
        $run = $trial->run($simulator, array_merge([], ...array_values($columns)));
        $this->isFailed = $run->fault !== null;
        $times = $run->times();
        $at = $this->arguments->number('at') ?? ($times === [] ? 0.0 : $times[count($times) - 1]);
        if ($times === [] || $at < $times[0] || $at > $times[count($times) - 1]) {
            throw new UsageError(
                '--at is a time of the run, which goes from '.($times[0] ?? 0).' to '.($times === [] ? 0 : end($times)).'.',
            );
        }
        // Of a party that is several, all together.
        $value = static fn (string $claim): float => array_sum(
            array_map(
                static fn (string $key): float => $run->has($key)
                    ? Alignment::at($times, $run->column($key), [$at])[0]
                    : $run->steadyOf($key) ?? NAN,
                $columns[$claim],
            ),
        );
        $known = static fn (float $v): ?float => is_finite($v) ? $v : null;
        $sheets = $books->sheets($value);

        return [
            'time' => $at,
            'parties' => array_map(
                static fn (array $s): array => [
                    'name' => $s['name'],
                    'owns' => (object) array_map($known, $s['owns']),
                    'owes' => (object) array_map($known, $s['owes']),
                    'net_worth' => $known($s['net_worth']),
                ],
                $sheets,
            ),
            'unheld' => array_values(
                array_map(
                    static fn (Claim $c): string => $c->name,
                    array_filter($books->open(), static fn (Claim $c): bool => $c->holder === ''),
                ),
            ),
            'balanced' => $books->isBalanced(),
            'sum_of_net_worth' => $known((float) array_sum(array_column($sheets, 'net_worth'))),
            'remarks' => array_column($books->findings(), 'sentence'),
        ];
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public function lines(array $document): \Generator
    {
        $shown = static fn (mixed $v): string => is_float($v)
            ? str_pad(Shown::brief($v), 14, ' ', STR_PAD_LEFT)
            : str_pad('–', 14, ' ', STR_PAD_LEFT);
        yield 'At '.Shown::number(is_numeric($document['time']) ? (float) $document['time'] : 0.0)."\n";
        /** @var list<array{name: string, owns: object, owes: object, net_worth: ?float}> $parties */
        $parties = $document['parties'];
        foreach ($parties as $party) {
            yield "\n{$party['name']}\n";
            foreach (['owns' => (array) $party['owns'], 'owes' => (array) $party['owes']] as $what => $claims) {
                foreach ($claims as $name => $value) {
                    yield "  $what  ".str_pad((string) $name, 40)."{$shown($value)}\n";
                }
            }
            yield '  is worth'.str_repeat(' ', 38)."{$shown($party['net_worth'])}\n";
        }
        yield "\nAll together".str_repeat(' ', 36)."{$shown($document['sum_of_net_worth'])}\n";
        /** @var list<string> $remarks */
        $remarks = $document['remarks'];
        foreach ($remarks as $sentence) {
            yield "$sentence\n";
        }
    }
}
