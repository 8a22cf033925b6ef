<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Library\RunWatcher;
use MerryOrbit\Core\Model\TimeSettings;

/** What a run changes of its model, without changing the model. */
final readonly class RunOptions
{
    /**
     * @param  array<string, float>  $parameters  values by element id
     * @param  ?TimeSettings  $time  instead of the model's own
     * @param  int  $seed  of chance
     * @param  int  $grain  how many steps share a draw of chance
     * @param  ?RunWatcher  $watch  who looks at the run while it goes on
     */
    public function __construct(
        public array $parameters = [],
        public ?TimeSettings $time = null,
        public int $seed = 1,
        public int $grain = 1,
        public ?RunWatcher $watch = null,
    ) {
    }

    public function seeded(int $seed): self
    {
        return new self($this->parameters, $this->time, $seed, $this->grain, $this->watch);
    }
}
