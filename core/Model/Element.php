<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/** One thing of a model. Its id never changes; its name may. */
abstract readonly class Element
{
    /** Whether text can be the id of an element or a sheet: up to 40 small letters, digits and hyphens, a letter first. */
    public static function isId(mixed $text): bool
    {
        return is_string($text) && preg_match('/^[a-z][a-z0-9-]{0,39}$/D', $text) === 1;
    }

    public function __construct(
        public string $id,
        public string $name,
        /** For a stock the initial value, for all others the value at every moment. */
        public FormulaText $formula,
        /** As typed; empty means unknown. */
        public string $unit = '',
        public string $note = '',
        /** A short sign for equations, axes and narrow places, as in `\pi_r`; formulas use the name. */
        public string $symbol = '',
    ) {
    }

    abstract public function kind(): Kind;

    /**
     * The same element with some fields changed.
     *
     * @param  array<string, mixed>  $fields  by the names of the constructor's arguments
     */
    public function with(array $fields): static
    {
        return (new \ReflectionClass($this))->newInstanceArgs([...get_object_vars($this), ...$fields]);
    }

    /**
     * Everything that is typed as a formula, by the name of its field.
     *
     * @return array<string, FormulaText>
     */
    public function formulas(): array
    {
        return ['formula' => $this->formula];
    }

    /**
     * With every formula put through a change; the same object where that gives the same ones.
     *
     * @param  \Closure(FormulaText): FormulaText  $change
     */
    public function withFormulas(\Closure $change): static
    {
        $formula = $change($this->formula);

        return $formula === $this->formula ? $this : $this->with(['formula' => $formula]);
    }

    public function mentions(string $id): bool
    {
        foreach ($this->formulas() as $formula) {
            if ($formula->mentions($id)) {
                return true;
            }
        }

        return false;
    }

    /** What the formula is called in sentences: "initial value" of a stock, else "formula". */
    public function formulaWord(): string
    {
        return $this->kind() === Kind::Stock ? 'initial value' : 'formula';
    }
}
