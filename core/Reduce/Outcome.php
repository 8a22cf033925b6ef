<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\NotUnderstood;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Problem\Nearest;

/**
 * One number that a run comes to: `NAME` its last saved value, `NAME@TIME`, `NAME:min`, `NAME:max`, `NAME:total` its integral
 * over the run, `NAME:mean` that divided by the duration, `NAME:peak` the time of its largest value, the first of several.
 */
final readonly class Outcome
{
    private const KINDS = ['min', 'max', 'total', 'mean', 'peak'];

    /** @param  'last'|'at'|'min'|'max'|'total'|'mean'|'peak'  $kind */
    public function __construct(public string $written, public string $id, public string $kind = 'last', public float $time = 0.0)
    {
    }

    /** @throws NotUnderstood with a sentence */
    public static function read(string $text, Model $model): self
    {
        $text = trim($text);
        $name = $text;
        $kind = 'last';
        $time = 0.0;
        if ($model->idOf(Name::key(trim($name, '"'))) === null && preg_match('/^(.*?)(?:@([^@:]*)|:\s*(\w+))$/Ds', $text, $m)) {
            $name = $m[1];
            if (($m[3] ?? '') !== '') {
                $kind = in_array($m[3], self::KINDS, true)
                    ? $m[3]
                    : throw NotUnderstood::because(
                        "An outcome ends in :min, :max, :total, :mean or :peak, in @ and a time, or in the name alone; not in `:$m[3]`.",
                    );
            } else {
                $kind = 'at';
                $written = trim($m[2] ?? '');
                $time = is_numeric($written)
                    ? (float) $written
                    : throw NotUnderstood::because("Behind the @ of an outcome stands a time, as in `$name@10`; `$written` is no number.");
            }
        }
        $name = trim($name);
        $id = $model->idOf(Name::key(preg_match('/^".*"$/Ds', $name) ? substr($name, 1, -1) : $name));
        if ($id === null || $model->elements[$id] instanceof Relation) {
            throw NotUnderstood::because("Nothing that a run computes is called `$name`.".Nearest::question($name, $model->names()));
        }

        return new self($text, $id, $kind, $time);
    }

    public function isIntegral(): bool
    {
        return $this->kind === 'total' || $this->kind === 'mean';
    }

    /** Whether it needs more than the end of a run. */
    public function needsSteps(): bool
    {
        return in_array($this->kind, ['at', 'min', 'max', 'peak'], true);
    }
}
