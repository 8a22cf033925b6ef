<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Unit;

/** A unit as powers of base units; without any it is a plain number. */
final readonly class Unit
{
    /** @param  array<string, float>  $powers  by base unit, sorted, none zero */
    private function __construct(public array $powers, public bool $isFlexible = false)
    {
    }

    public static function plain(): self
    {
        return new self([]);
    }

    /** The unit of a written number, which takes on that of its partner. */
    public static function flexible(): self
    {
        return new self([], true);
    }

    public static function base(string $name): self
    {
        return new self([$name => 1.0]);
    }

    public function times(self $other, float $power = 1.0): self
    {
        $powers = $this->powers;
        foreach ($other->powers as $base => $exponent) {
            $powers[$base] = ($powers[$base] ?? 0.0) + $power * $exponent;
        }
        $powers = array_filter($powers, static fn (float $p): bool => abs($p) > 1e-9);
        ksort($powers);

        return new self($powers, $this->isFlexible && $other->isFlexible);
    }

    public function per(self $other): self
    {
        return $this->times($other, -1.0);
    }

    public function power(float $exponent): self
    {
        return self::plain()->times($this, $exponent);
    }

    public function equals(self $other): bool
    {
        return $this->powers === $other->powers;
    }

    public function isPlain(): bool
    {
        return $this->powers === [];
    }

    /** In words: `people per year`, `people·year`, `a plain number`. */
    public function words(): string
    {
        $above = $below = [];
        foreach ($this->powers as $base => $power) {
            $size = abs($power);
            $word = $base.($size === 1.0 ? '' : '^'.$size);
            $power > 0 ? ($above[] = $word) : ($below[] = $word);
        }
        if ($above === [] && $below === []) {
            return 'a plain number';
        }

        return ($above === [] ? '1' : implode('·', $above)).($below === [] ? '' : ' per '.implode(' per ', $below));
    }

    /** As it is typed: `people/year`. */
    public function text(): string
    {
        $above = $below = '';
        foreach ($this->powers as $base => $power) {
            $size = abs($power);
            $word = $base.($size === 1.0 ? '' : '^'.$size);
            if ($power > 0) {
                $above .= ($above === '' ? '' : '*').$word;
            } else {
                $below .= '/'.$word;
            }
        }

        return ($above === '' ? '1' : $above).$below;
    }
}
