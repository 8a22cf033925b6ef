<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Roster;

use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Roster;

/**
 * A roster whose members come and go, ready to be compiled. Within loops its members are those at the places from 0 to one less than
 * `$there` with its number: lists over it have room to grow, and what lies behind is not looked at.
 */
final readonly class OpenRoster
{
    /**
     * @param  list<string>  $listed  ids of the members of the list
     * @param  array<string, Mapping>  $belongs  mappings by which each member belongs to one element of another dimension, by id
     * @param  array<string, Mapping>  $relations  mappings to its members, or to those of another such roster, by id
     */
    public function __construct(
        public int $number,
        public string $dimension,
        public string $name,
        public Roster $roster,
        public array $listed,
        public array $belongs,
        public array $relations,
    ) {
    }

    /** The variable with how many there are. */
    public function count(): string
    {
        return '$there'.$this->number;
    }

    /** The variable with something of its members. */
    public function variable(string $what): string
    {
        return '$'.$what.$this->number;
    }

    /** The variable with where each member belongs by a mapping, or with something of a relation. */
    public function of(string $what, string $mapping): string
    {
        $at = array_search($mapping, [...array_keys($this->belongs), ...array_keys($this->relations)], true);

        return "\${$what}{$this->number}_".(int) $at;
    }

    /** All that its program depends on. */
    public function content(): string
    {
        return serialize([$this->number, $this->dimension, $this->roster->toRecord(), $this->listed, $this->belongs, $this->relations]);
    }
}
