<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Analysis\KeyReading;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Plan\Key;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Unit\UnitBook;

/**
 * One number that a run comes to: `NAME` its last saved value, `NAME@TIME`, `NAME:min`, `NAME:max`, `NAME:total` its integral
 * over the run, `NAME:mean` that divided by the duration, `NAME:peak` the time of its largest value, the first of several. How far it
 * stays apart from another variable or from a drawn course, as the root of the mean square, is not written that way.
 */
final readonly class Outcome
{
    private const BEHIND = ['min', 'max', 'total', 'mean', 'peak'];

    public const KINDS = ['last', 'at', ...self::BEHIND];

    /**
     * @param  string  $id  of what it is, or the key of one of its elements
     * @param  'last'|'at'|'min'|'max'|'total'|'mean'|'peak'|'apart'  $kind
     * @param  string  $from  for `apart`, the key of another variable
     * @param  list<array{float, float}>  $course  for `apart`, times increasing and values, where it is no variable
     */
    public function __construct(
        public string $written,
        public string $id,
        public string $kind = 'last',
        public float $time = 0.0,
        public string $from = '',
        public array $course = [],
    ) {
    }

    /** @throws NotUnderstood with a sentence */
    public static function read(string $text, Analysis $analysis): self
    {
        $model = $analysis->model;
        $text = trim($text);
        $name = $text;
        $kind = 'last';
        $time = 0.0;
        if ($model->idOf(Name::key(trim($name, '"'))) === null && preg_match('/^(.*?)(?:@([^@:]*)|:\s*(\w+))$/Ds', $text, $m)) {
            $name = $m[1];
            if (($m[3] ?? '') !== '') {
                $kind = in_array($m[3], self::BEHIND, true)
                    ? $m[3]
                    : throw NotUnderstood::because(
                        "An outcome ends in :min, :max, :total, :mean or :peak, in @ and a time, or in the name alone; not in `:$m[3]`.",
                    );
            } else {
                $kind = 'at';
                $written = trim($m[2] ?? '');
                $time = is_numeric($written)
                    ? (float) $written
                    : throw NotUnderstood::because(
                        "Behind the @ of an outcome stands a time, as in `$name@10`; `$written` is no number.",
                    );
            }
        }
        $name = trim($name);
        $id = KeyReading::key($analysis, $name);
        $owner = Key::ownerOf($id ?? '');
        if ($id === null || $model->elements[$owner] instanceof Relation) {
            $whole = KeyReading::apart($name)[0];
            $of = $model->idOf(Name::key($whole));
            throw NotUnderstood::because(
                $of !== null && $whole !== $name
                    ? "`$name` names no element of `$whole`".self::example($analysis, $of).'.'
                    : "Nothing that a run computes is called `$name`.".Nearest::question($name, $model->names()),
            );
        }
        if ($id === $owner && ($analysis->extents[$id] ?? []) !== []) {
            throw NotUnderstood::because(
                "An outcome is one number, and `$name` has several: name an element".self::example($analysis, $id).'.',
            );
        }

        return new self($text, $id, $kind, $time);
    }

    private static function example(Analysis $analysis, string $id): string
    {
        $first = $analysis->partsOf($id, 1)[0]['key'] ?? null;

        return $first === null ? '' : ", as in `{$analysis->nameOf($first)}`";
    }

    /** The unit of the number: of an integral that of the variable times time, of a peak that of time; empty where none is known. */
    public function unit(Model $model): string
    {
        $own = trim($model->element(Key::ownerOf($this->id))->unit ?? '');
        $time = $model->time->unit;
        if ($this->kind === 'peak') {
            return $time;
        }
        if ($this->kind !== 'total' || $own === '') {
            return $own;
        }
        $book = new UnitBook($model->sameUnits);
        [$one, $other] = [$book->read($own), $book->read($time)];

        return $one === null || $other === null ? "{$own}·$time" : $one->times($other)->text();
    }

    public function isIntegral(): bool
    {
        return $this->kind === 'total' || $this->kind === 'mean';
    }

    /** Whether it needs more than the end of a run. */
    public function needsSteps(): bool
    {
        return in_array($this->kind, ['at', 'min', 'max', 'peak', 'apart'], true);
    }
}
