<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\ModelRecord;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Recorded;

/**
 * One change that was made in a copy, made in the model that it was copied from: what else has changed in either stays as it is. Of a
 * thing that was changed in both, the fields that the copy changed are as in the copy.
 */
final readonly class TakeOver extends Edit
{
    /** @param  string  $key  as Structure\Comparison tells it: `model`, `elements/e1`, `scenarios/s1` */
    public function __construct(private Model $copied, private Model $copy, public string $key, private string $name)
    {
    }

    public function apply(Model $model): Model
    {
        return $this->edit($model)->apply($model);
    }

    /** @throws EditRefused where the copy has no such change */
    private function edit(Model $model): Edit
    {
        $patch = Patch::between($this->copied, $this->copy);
        [$what, $id] = [...explode('/', $this->key, 2), ''];
        if ($what === 'model') {
            // Each goes on by its own name.
            $set = array_intersect_key($patch->record['set'], ['note' => 0, 'time' => 0, 'endWhen' => 0]);

            return $set === []
                ? throw $this->unknown()
                : Patch::fromRecord(['set' => $set, 'removed' => [], 'added' => [], 'changed' => []]);
        }
        if ($what === 'elements') {
            return $this->element($model, $id, $patch);
        }
        $part = Parts::find($what) ?? throw $this->unknown();
        $all = $part->isKeyed ? $patch->of($what) : [];
        if (! array_key_exists($id, $all)) {
            throw $this->unknown();
        }

        return $all[$id] === null ? new DropPart($part, $id) : new PutPart($part, $id, $all[$id]);
    }

    private function element(Model $model, string $id, Patch $patch): Edit
    {
        $theirs = $this->copy->element($id);
        if ($theirs === null) {
            return $this->copied->element($id) === null ? throw $this->unknown() : new DeleteElements([$id]);
        }
        $fields = $patch->record['changed'][$id] ?? null;
        $own = $model->element($id);
        if ($fields === null && ! in_array($id, $patch->elements(), true)) {
            throw $this->unknown();
        }
        // Of another kind, or gone here meanwhile, it comes as a whole.
        $merged =
            $own !== null && $fields !== null && $own::class === $theirs::class
                ? ModelRecord::toElement([...ModelRecord::ofElement($own), ...$fields])
                : $theirs;

        return new Restore($this->copy->withElement($merged), [$id], "the copy of {$this->name}");
    }

    private function unknown(): EditRefused
    {
        return EditRefused::because('copy.same', 'The copy has no such change any more. Look at it anew.');
    }

    public function words(Model $before): string
    {
        [$what, $id] = [...explode('/', $this->key, 2), ''];
        $part = Parts::find($what);
        $known = $part === null ? null : $this->copy->part($what)[$id] ?? ($this->copied->part($what)[$id] ?? null);
        $told = match (true) {
            $what === 'model' => 'what was said of the study and its time',
            $known instanceof Recorded => "the $part->word ".$part->title($known->toRecord(), $this->copy->nameOf(...)),
            default => '`'.($this->copy->nameOf($id) ?? $this->copied->nameOf($id)).'`',
        };

        return 'Took over '.trim($told).' from a copy';
    }
}
