<?php

declare(strict_types=1);

namespace Tests\Core;

/**
 * A random model over dimensions, twice: with dimensions, and written out by hand into one variable for each element. Formulas are
 * made as texts for both at once, so that nothing of the engine writes them out.
 */
final class RandomShape
{
    /** @var list<array{name: string, elements: list<string>}> */
    public array $dimensions = [];

    /** @var list<array<string, mixed>> lines of elements */
    public array $shaped = [];

    /** @var list<array<string, mixed>> */
    public array $plain = [];

    /** @var list<array<string, mixed>> */
    public array $tables = [];

    /** @var array<string, string> the variables of the one by those of the other */
    public array $names = [];

    /** @var array<string, list<string>> */
    private array $elements = [];

    /** @var array<string, list<string>> over what each variable extends */
    private array $over = [];

    public function __construct()
    {
        foreach (['bay', 'age'] as $dimension) {
            $this->elements[$dimension] = array_slice(['a', 'b', 'c'], 0, mt_rand(1, 3));
            $this->dimensions[] = ['name' => $dimension, 'elements' => $this->elements[$dimension]];
        }
        foreach ([['one', []], ['by bay', ['bay']], ['by age', ['age']], ['both', ['bay', 'age']]] as [$name, $over]) {
            $this->parameter($name, $over);
        }
        $this->stock('level', ['bay'], 'by bay + 3');
        $this->stock('crowd', ['bay', 'age'], 'both');
        for ($i = 0; $i < 5; $i++) {
            $this->variable('auxiliary', "v$i", [[], ['bay'], ['age'], ['bay', 'age']][mt_rand(0, 3)]);
        }
        $this->variable('flow', 'in', ['bay'], ['to' => 'level']);
        $this->variable('flow', 'out', ['bay'], ['from' => 'level']);
        $this->variable('flow', 'move', ['bay', 'age'], ['from' => 'crowd']);
    }

    /** @param  list<string>  $over */
    private function parameter(string $name, array $over): void
    {
        $this->over[$name] = $over;
        $values = [];
        $usual = mt_rand(1, 9);
        foreach ($this->places($over) as $place) {
            $value = mt_rand(0, 3) === 0 ? $usual : mt_rand(1, 90) / 10;
            $this->write('parameter', $name, $place, (string) $value);
            if ($value !== $usual && $over !== []) {
                $values[] = [array_values($place), $value];
            } elseif ($over === []) {
                $usual = $value;
            }
        }
        $this->shaped[] = ['kind' => 'parameter', 'name' => $name, 'formula' => (string) $usual, 'dimensions' => $over];
        if ($values !== []) {
            $this->tables[] = ['id' => 't'.count($this->tables), 'of' => $name, 'values' => $values];
        }
    }

    /** @param  list<string>  $over */
    private function stock(string $name, array $over, string $initial): void
    {
        $limited = mt_rand(0, 1) === 1;
        $this->shaped[] = ['kind' => 'stock', 'name' => $name, 'formula' => $initial, 'neverNegative' => $limited, 'dimensions' => $over];
        $this->over[$name] = $over;
        foreach ($this->places($over) as $place) {
            $by = $name === 'level' ? 'by bay' : 'both';
            $this->write('stock', $name, $place, str_replace($by, $this->name($by, $place), $initial), ['neverNegative' => $limited]);
        }
    }

    /**
     * @param  list<string>  $over
     * @param  array<string, string>  $ends
     */
    private function variable(string $kind, string $name, array $over, array $ends = []): void
    {
        $term = $this->term($over, 3);
        // Some are otherwise for one element of a dimension, and otherwise again for one of both.
        $cases = [];
        foreach ($over === [] || mt_rand(0, 2) > 0 ? [] : array_unique([[$over[0]], $over], SORT_REGULAR) as $dimensions) {
            $for = array_intersect_key(array_map(static fn (array $e): string => $e[0], $this->elements), array_flip($dimensions));
            $cases[] = [$for, $this->term($over, 2)];
        }
        $this->shaped[] = [
            'kind' => $kind,
            'name' => $name,
            'formula' => $this->text($term, null),
            'dimensions' => $over,
            'exceptions' => array_map(
                fn (array $c): array => [
                    'for' => array_map(static fn (string $e): array => [$e], $c[0]),
                    'formula' => $this->text($c[1], null),
                ],
                $cases,
            ),
            ...$ends,
        ];
        foreach ($this->places($over) as $place) {
            $own = array_map(fn (string $stock): string => $this->name($stock, $place), $ends);
            $here = $term;
            foreach ($cases as [$for, $other]) {
                $here = array_intersect_assoc($for, $place) === $for ? $other : $here;
            }
            $this->write($kind, $name, $place, $this->text($here, $place), $own);
        }
        $this->over[$name] = $over;
    }

    /**
     * @param  list<string>  $over  the dimensions that are bound
     * @return list<mixed> what it is, and of what
     */
    private function term(array $over, int $depth): array
    {
        $next = fn (): array => $this->term($over, $depth - 1);

        return match ($depth === 0 ? mt_rand(0, 2) : mt_rand(0, 13)) {
            0, 1 => ['name', $this->known($over)],
            2 => ['number', (string) (mt_rand(1, 30) / 10)],
            3, 4, 5 => ['joined', self::one(['+', '-', '*']), $next(), $next()],
            6 => ['call', self::one(['min', 'max']), $next(), $next()],
            7 => ['call', 'smooth', $next(), ['number', (string) mt_rand(1, 3)]],
            8 => ['call', 'delay', $next(), ['number', '2'], ['number', '2']],
            9 => ['call', 'previous', $next(), $next()],
            10 => ['call', 'if', ['joined', '>', $next(), $next()], $next(), $next()],
            11 => $this->pick($over),
            default => $this->gathering($over, $depth),
        };
    }

    /** @param  list<string>  $over */
    private function known(array $over): string
    {
        $known = [];
        foreach ($this->over as $name => $own) {
            if (array_diff($own, $over) === []) {
                $known[] = $name;
            }
        }

        return self::one($known);
    }

    /**
     * @param  list<string>  $over
     * @return list<mixed>
     */
    private function pick(array $over): array
    {
        $dimension = self::one(['bay', 'age']);
        $bound = [...$over, $dimension];
        $known = [];
        foreach ($this->over as $one => $own) {
            if (in_array($dimension, $own, true) && array_diff($own, $bound) === []) {
                $known[] = $one;
            }
        }
        $name = self::one($known);
        $moves = in_array($dimension, $over, true) ? ['previous', 'next'] : [];

        return [
            'pick',
            $name,
            $dimension,
            self::one([...$moves, 'first', 'last', ...$this->elements[$dimension]]),
            ['number', (string) mt_rand(1, 5)],
        ];
    }

    /**
     * @param  list<string>  $over
     * @return list<mixed>
     */
    private function gathering(array $over, int $depth): array
    {
        $dimension = self::one(['bay', 'age']);
        $inner = $this->term(array_values(array_unique([...$over, $dimension])), $depth - 1);

        return [
            'gathered',
            self::one(['sum', 'mean', 'least', 'greatest', 'product', 'any', 'all']),
            $dimension,
            // Whatever stands within, it extends over the dimension.
            ['joined', '*', ['name', "by $dimension"], $inner],
        ];
    }

    /**
     * The formula with dimensions, or what it is at a place.
     *
     * @param  list<mixed>  $term
     * @param  ?array<string, string>  $place
     */
    private function text(array $term, ?array $place): string
    {
        $text = fn (mixed $t): string => $this->text(is_array($t) ? array_values($t) : [], $place);
        $word = static fn (int $i): string => is_string($term[$i] ?? null) ? $term[$i] : '';

        return match ($term[0] ?? '') {
            'number' => $word(1),
            'name' => $place === null ? $word(1) : $this->name($word(1), $place),
            'joined' => '('.$text($term[2])." {$word(1)} ".$text($term[3]).')',
            'call' => $word(1).'('.implode(', ', array_map($text, array_slice($term, 2))).')',
            'pick' => $this->pickText($word(1), $word(2), $word(3), $text($term[4]), $place),
            default => $this->gatheredText($word(1), $word(2), is_array($term[3] ?? null) ? array_values($term[3]) : [], $place),
        };
    }

    /** @param  ?array<string, string>  $place */
    private function pickText(string $name, string $dimension, string $step, string $otherwise, ?array $place): string
    {
        if ($place === null) {
            return "{$name}[$dimension: $step; else $otherwise]";
        }
        $all = $this->elements[$dimension];
        $at = (int) array_search($place[$dimension] ?? '', $all, true);
        $to = match ($step) {
            'previous' => $all[$at - 1] ?? null,
            'next' => $all[$at + 1] ?? null,
            'first' => $all[0],
            'last' => $all[count($all) - 1],
            default => $step,
        };

        return $to === null ? $otherwise : $this->name($name, [...$place, $dimension => $to]);
    }

    /**
     * @param  list<mixed>  $inner
     * @param  ?array<string, string>  $place
     */
    private function gatheredText(string $function, string $dimension, array $inner, ?array $place): string
    {
        if ($place === null) {
            return "$function(".$this->text($inner, null).", $dimension)";
        }
        $terms = array_map(fn (string $e): string => $this->text($inner, [...$place, $dimension => $e]), $this->elements[$dimension]);
        $held = array_map(static fn (string $t): string => "($t <> 0)", $terms);

        return match ($function) {
            'sum' => '('.implode(' + ', $terms).')',
            'mean' => '(('.implode(' + ', $terms).') / '.count($terms).')',
            'product' => '('.implode(' * ', $terms).')',
            'least' => count($terms) === 1 ? $terms[0] : 'min('.implode(', ', $terms).')',
            'greatest' => count($terms) === 1 ? $terms[0] : 'max('.implode(', ', $terms).')',
            'any' => '('.implode(' or ', $held).')',
            default => '('.implode(' and ', $held).')',
        };
    }

    /**
     * @param  list<string>  $over
     * @return list<array<string, string>>
     */
    private function places(array $over): array
    {
        $places = [[]];
        foreach ($over as $dimension) {
            $next = [];
            foreach ($places as $place) {
                foreach ($this->elements[$dimension] as $element) {
                    $next[] = [...$place, $dimension => $element];
                }
            }
            $places = $next;
        }

        return $places;
    }

    /**
     * What the variable that stands for one element is called by hand.
     *
     * @param  array<string, string>  $place
     */
    private function name(string $name, array $place): string
    {
        $at = array_map(static fn (string $d): string => "of $d {$place[$d]}", $this->over[$name]);

        return implode(' ', [$name, ...$at]);
    }

    /**
     * @param  array<string, string>  $place
     * @param  array<string, mixed>  $more
     */
    private function write(string $kind, string $name, array $place, string $formula, array $more = []): void
    {
        $at = array_map(static fn (string $d, string $e): string => "of $d $e", array_keys($place), $place);
        $own = implode(' ', [$name, ...$at]);
        $this->plain[] = ['kind' => $kind, 'name' => $own, 'formula' => $formula, ...$more];
        $this->names[$place === [] ? $name : "{$name}[".implode(', ', $place).']'] = $own;
    }

    /** @param  list<string>  $of */
    private static function one(array $of): string
    {
        return $of[mt_rand(0, count($of) - 1)];
    }
}
