<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Fit;

/** All freed numbers as shares of their range, from 0 to 1, in which searches without slopes move. */
final readonly class Box
{
    /** @param  list<Freed>  $freed */
    public function __construct(private array $freed)
    {
    }

    /**
     * @param  list<float>  $point
     * @return list<float>
     */
    public function shares(array $point): array
    {
        return array_map(static fn (Freed $f, float $v): float => $f->share($v), $this->freed, $point);
    }

    /**
     * @param  list<float>  $shares
     * @return list<float>
     */
    public function point(array $shares): array
    {
        return array_map(static fn (Freed $f, float $s): float => $f->at($s), $this->freed, $shares);
    }

    /**
     * @param  array<float>  $shares
     * @return list<float>
     */
    public function clipped(array $shares): array
    {
        return array_values(array_map(static fn (float $s): float => min(1.0, max(0.0, $s)), $shares));
    }
}
