<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Along;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\Pick;
use MerryOrbit\Core\Formula\Node\PickStep;

/** The dimensions of an XMILE file, over which of them each variable extends, and what subscripts and array functions mean. */
final class Arrays
{
    /** Functions of the standard over arrays, as functions along dimensions. */
    public const GATHERINGS = [
        'sum' => 'sum',
        'mean' => 'mean',
        'max' => 'greatest',
        'min' => 'least',
        'stddev' => 'sd',
        'prod' => 'product',
    ];

    /** @var \WeakMap<Node, list<string>> over which dimensions a star stood in the subscripts of a mention */
    private readonly \WeakMap $stars;

    /**
     * @param  array<string, list<string>>  $elements  names of elements by name of the dimension
     * @param  array<string, list<string>>  $over  names of dimensions by key of the variable
     */
    public function __construct(public readonly array $elements, private readonly array $over)
    {
        $this->stars = new \WeakMap();
    }

    /** @return list<string> */
    public function over(string $key): array
    {
        return $this->over[$key] ?? [];
    }

    private function dimension(string $written): ?string
    {
        foreach (array_keys($this->elements) as $name) {
            if (Name::key((string) $name) === Name::key(XmileName::tidy($written))) {
                return (string) $name;
            }
        }

        return null;
    }

    private function element(string $dimension, string $written): ?string
    {
        $key = Name::key(XmileName::tidy($written));
        foreach ($this->elements[$dimension] ?? [] as $name) {
            if (Name::key($name) === $key || Name::key("$dimension.$name") === $key) {
                return $name;
            }
        }

        return null;
    }

    /**
     * A variable with subscripts.
     *
     * @param  list<list<array{string, string}>>  $items  the tokens of each, by kind and text
     *
     * @throws EquationRefused
     */
    public function subscripted(NameUse $use, array $items): Node
    {
        $over = $this->over($use->key);
        if (count($over) !== count($items)) {
            throw new EquationRefused("`$use->written` has ".count($over).' dimensions, but '.count($items).' subscripts');
        }
        $steps = $stars = [];
        foreach ($items as $i => $item) {
            $step = $this->step($use, $over[$i], $item);
            if ($step === '*') {
                $stars[] = $over[$i];
            } elseif ($step !== null) {
                $steps[] = $step;
            }
        }
        // A fresh node each time: stars are known by the object.
        $use = new NameUse($use->key, $use->written, 0, 0);
        $node = $steps === [] ? $use : new Pick($use, $steps, null, 0, 0);
        if ($stars !== []) {
            $this->stars[$node] = $stars;
        }

        return $node;
    }

    /**
     * @param  list<array{string, string}>  $item
     * @return PickStep|'*'|null null for the present element
     */
    private function step(NameUse $use, string $dimension, array $item): PickStep|string|null
    {
        $words = array_column($item, 1);
        $text = implode('', $words);
        if ($text === '*') {
            return '*';
        }
        $element = $this->element($dimension, $text);
        if ($element !== null) {
            return new PickStep(Name::key($dimension), Name::key($element), $element, false, null, 0, 0);
        }
        $other = $this->dimension($words[0] ?? '');
        if ($other !== null && count($words) === 1) {
            return Name::key($other) === Name::key($dimension)
                ? null
                : new PickStep(Name::key($dimension), Name::key($other), $other, false, null, 0, 0);
        }
        $isShift = $other === $dimension && count($words) === 3 && ($words[1] === '-' || $words[1] === '+') && ctype_digit($words[2]);
        if ($isShift) {
            $move = $words[1] === '-' ? 'previous' : 'next';

            return new PickStep(Name::key($dimension), $move, $move, true, (int) $words[2], 0, 0);
        }
        throw new EquationRefused("`$text` is no element of the dimension `$dimension` of `$use->written`");
    }

    /**
     * A function of the standard over what stands in an array, by the stars in it; null if it is none.
     *
     * @param  list<Node>  $arguments
     */
    public function gathered(string $function, array $arguments): ?Node
    {
        if (count($arguments) !== 1) {
            return null;
        }
        $stars = [];
        $extended = [];
        foreach ($arguments[0]->all() as $part) {
            array_push($stars, ...$this->stars[$part] ?? []);
            array_push($extended, ...$part instanceof NameUse ? $this->over($part->key) : []);
        }
        $over = array_values(array_unique($stars !== [] ? $stars : $extended));
        if ($over === []) {
            return null;
        }
        $along = static fn (string $d): Along => new Along(Name::key($d), $d, 0, 0);
        foreach ($arguments[0]->all() as $part) {
            unset($this->stars[$part]);
        }
        if ($function === 'size') {
            $counts = array_map(static fn (string $d): Node => new Call(Catalogue::all()['count'], [$along($d)], 0, 0), $over);

            return count($counts) === 1 ? $counts[0] : Rewriting::product($counts);
        }
        $name = self::GATHERINGS[$function] ?? null;

        return $name === null ? null : new Call(Catalogue::all()[$name], [$arguments[0], ...array_map($along, $over)], 0, 0);
    }

    /** Whether a star stands where no function gathers over it. */
    public function isLoose(Node $node): bool
    {
        foreach ($node->all() as $part) {
            if (isset($this->stars[$part])) {
                return true;
            }
        }

        return false;
    }
}
