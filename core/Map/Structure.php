<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Map;

/** A common structure: a pattern of loops that is met in many places, with the course that it makes over time. */
final readonly class Structure
{
    /**
     * @param  string  $recognise  how one knows it when one meets it
     * @param  string  $course  what it does over time
     * @param  string  $helps  what one can do about it
     * @param  array<string, string>  $roles  what plays a part, by id, named as in the example
     * @param  list<GraphLink>  $links  between roles
     * @param  list<Push>  $play  what shows its course
     */
    public function __construct(
        public string $id,
        public string $title,
        public string $recognise,
        public string $course,
        public string $helps,
        public array $roles,
        public array $links,
        public array $play,
    ) {
    }

    public function graph(): CausalGraph
    {
        return CausalGraph::of($this->roles, $this->links);
    }
}
