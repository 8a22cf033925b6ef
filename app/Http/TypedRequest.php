<?php

declare(strict_types=1);

namespace App\Http;

use Illuminate\Http\Request;
use Illuminate\Support\Stringable;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A request whose values are of the kind they are asked for, or are refused with a sentence: what nobody has looked at may be anything. */
final class TypedRequest extends Request
{
    /**
     * @param  string  $key
     * @param  mixed  $default
     *
     * @throws NotUnderstood
     */
    public function string($key, $default = null): Stringable
    {
        $value = $this->input($key);
        if ($value !== null && ! is_string($value) && ! is_int($value) && ! is_float($value)) {
            throw NotUnderstood::because("`$key` is text.");
        }

        return parent::string($key, $default);
    }

    /**
     * @param  string  $key
     * @param  int  $default
     *
     * @throws NotUnderstood
     */
    public function integer($key, $default = 0): int
    {
        $this->refuseNoNumber($key);

        return parent::integer($key, $default);
    }

    /**
     * @param  string  $key
     * @param  float  $default
     *
     * @throws NotUnderstood
     */
    public function float($key, $default = 0.0): float
    {
        $this->refuseNoNumber($key);

        return parent::float($key, $default);
    }

    /** @throws NotUnderstood */
    private function refuseNoNumber(string $key): void
    {
        $value = $this->input($key);
        if ($value !== null && $value !== '' && ! is_numeric($value)) {
            throw NotUnderstood::because("`$key` is a number.");
        }
    }
}
