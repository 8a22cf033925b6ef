<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Data\TableText;
use MerryOrbit\Core\Experiment\Muster;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/** The members of a roster at a time of the run, one row each. */
final class MembersCommand implements Reporting
{
    public const TAKES = ['roster', 'at'];

    private bool $isFailed = false;

    public function __construct(private readonly Arguments $arguments, private readonly Setting $setting)
    {
    }

    /** @throws NotUnderstood|RunRefused|UsageError */
    public function document(Simulator $simulator, Model $model): array
    {
        $called = $this->arguments->last('roster') ?? throw new UsageError('--roster names the roster whose members are told.');
        $trial = Trial::of($model, $this->setting);
        $of = Muster::find($trial->analysis->model, $called);
        $run = $trial->run($simulator);
        $this->isFailed = $run->fault !== null;
        $times = $run->times();
        $last = $times === [] ? 0.0 : $times[count($times) - 1];
        $at = $this->arguments->number('at') ?? $last;
        if ($times === [] || $at < $times[0] || $at > $last) {
            throw new UsageError(
                '--at is a time of the run, which goes from '.Shown::number($times[0] ?? 0.0).' to '.Shown::number($last).'.',
            );
        }
        $muster = Muster::of($trial->analysis, $run, $of->id);
        $moment = $muster->momentAt($at);
        $rows = $muster->rows($moment);

        return [
            'roster' => $of->name,
            'time' => $times[$moment],
            'count' => count($rows),
            'belongs' => array_map(static fn (Mapping $m): string => $m->name, array_values($muster->belongs())),
            'columns' => array_values($muster->columns()),
            'members' => array_map(
                static fn (array $row): array => [
                    'member' => $row['name'],
                    'id' => $row['id'],
                    'from' => $row['from'],
                    'entered' => $row['how'],
                    'belongs' => array_values($row['belongs']),
                    'values' => array_values(
                        array_map(static fn (?float $v): ?float => $v !== null && is_finite($v) ? $v : null, $row['values']),
                    ),
                ],
                $rows,
            ),
        ];
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string> CSV: `member`, what it belongs to, then attributes and variables by name
     */
    public function lines(array $document): \Generator
    {
        /** @var array{belongs: list<string>, columns: list<string>, members: list<array{member: string, belongs: list<string>, values: list<?float>}>} $document */
        yield TableText::line(['member', ...$document['belongs'], ...$document['columns']]);
        foreach ($document['members'] as $row) {
            yield TableText::line([$row['member'], ...$row['belongs'], ...$row['values']]);
        }
    }
}
