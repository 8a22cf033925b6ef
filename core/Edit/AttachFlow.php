<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Stock;

/** New ends of a flow: stocks, or the outside. */
final readonly class AttachFlow extends Edit
{
    public function __construct(public string $id, public ?string $from, public ?string $to)
    {
    }

    public function apply(Model $model): Model
    {
        $flow = $model->element($this->id) ?? throw EditRefused::gone();
        if (! ($flow instanceof Flow)) {
            throw EditRefused::because('flow.kind', "Only a flow has ends; `$flow->name` is a {$flow->kind()->value}.");
        }
        [$from, $to] = self::fitEnds($model, $this->from, $this->to);

        return Echoes::complete($model->withElement($flow->with(['from' => $from, 'to' => $to])), [$this->id]);
    }

    public function words(Model $before): string
    {
        $end = static fn (?string $id): string => $id === null ? 'outside' : '`'.$before->nameOf($id).'`';

        return '`'.$before->nameOf($this->id).'` now runs from '.$end($this->from).' to '.$end($this->to);
    }

    /**
     * @return array{?string, ?string}
     *
     * @throws EditRefused when a flow cannot run so
     */
    public static function fitEnds(Model $model, ?string $from, ?string $to): array
    {
        foreach ([$from, $to] as $end) {
            if ($end !== null && ! ($model->element($end) instanceof Stock)) {
                $name = $model->nameOf($end);
                throw EditRefused::because(
                    'flow.end',
                    $name === null
                        ? 'The stock at an end of this flow is not in the model any more.'
                        : "A flow runs between stocks or the outside; `$name` is no stock.",
                );
            }
        }
        if ($from !== null && $from === $to) {
            throw EditRefused::because(
                'flow.ends',
                'A flow that leaves and enters the same stock changes nothing. Let one end be outside or another stock.',
            );
        }

        return [$from, $to];
    }
}
