<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Group;
use MerryOrbit\Core\Model\Model;

/** Puts things into a group of this name, or out of every group. */
final readonly class SetGroup extends Edit
{
    /** @param  list<string>  $ids */
    public function __construct(public array $ids, /** Empty for none. */ public string $name, public string $tint = '')
    {
    }

    public function apply(Model $model): Model
    {
        $ids = array_values(array_filter(array_unique($this->ids), static fn (string $id): bool => $model->element($id) !== null));
        if ($ids === []) {
            throw EditRefused::gone();
        }
        $name = trim($this->name);
        if (mb_strlen($name) > Name::LONGEST) {
            throw EditRefused::because('group.name', 'The name of a group has at most '.Name::LONGEST.' characters.', 'name');
        }
        if ($this->tint !== '' && ! in_array($this->tint, Group::TINTS, true)) {
            throw EditRefused::because('group.tint', 'The colour of a group is one of '.implode(', ', Group::TINTS).'.', 'tint');
        }
        $groups = [];
        $known = false;
        foreach ($model->groups as $group) {
            $mine = $name !== '' && mb_strtolower($group->name) === mb_strtolower($name);
            $known = $known || $mine;
            $members = array_values(array_diff($group->members, $ids));
            $groups[] = new Group(
                $group->name,
                $mine && $this->tint !== '' ? $this->tint : $group->tint,
                $mine ? [...$members, ...$ids] : $members,
            );
        }
        if ($name !== '' && ! $known) {
            $groups[] = new Group($name, $this->tint !== '' ? $this->tint : self::freeTint($model), $ids);
        }

        return $model->with(['groups' => array_values(array_filter($groups, static fn (Group $g): bool => $g->members !== []))]);
    }

    private static function freeTint(Model $model): string
    {
        $free = array_values(array_diff(Group::TINTS, array_map(static fn (Group $g): string => $g->tint, $model->groups)));

        return $free[0] ?? Group::TINTS[count($model->groups) % count(Group::TINTS)];
    }

    public function words(Model $before): string
    {
        $names = array_values(array_filter(array_map($before->nameOf(...), $this->ids)));
        $what = count($names) === 1 ? "`$names[0]`" : count($names).' things';

        return trim($this->name) === '' ? "Took $what out of its group" : "Put $what into the group “".trim($this->name).'”';
    }
}
