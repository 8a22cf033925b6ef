<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\SpecialCase;

/** An equation for each element of a variable: what most of them say is its formula; plain numbers of an auxiliary are a table. */
final class ElementEquations
{
    /** What holds for all but the others. */
    public readonly string $usual;

    /** @var list<array{array<string, list<string>>, string}> for whom, and which equation */
    public array $others = [];

    /** @var list<array{list<string>, float}> where all are plain numbers */
    public array $values = [];

    /** What could not be taken, for the note. */
    public string $note = '';

    /** @param  list<string>  $dimensions  names */
    public function __construct(
        XmlNode $node,
        string $name,
        private readonly array $dimensions,
        private readonly Arrays $arrays,
        ImportLog $log,
    ) {
        $texts = $lost = [];
        foreach ($node->all('element') as $element) {
            $at = array_map(trim(...), explode(',', $element->attribute('subscript') ?? ''));
            $place = $this->place($at);
            $text = trim($element->textOf('eqn') ?? '');
            if ($place === null) {
                $lost[] = implode(', ', $at).": $text";
            } else {
                $texts[] = [$place, $text];
            }
        }
        $own = trim($node->textOf('eqn') ?? '');
        if ($texts === []) {
            $written = array_map(
                static fn (XmlNode $d): string => XmileName::tidy($d->attribute('name') ?? ''),
                $node->child('dimensions')?->all('dim') ?? [],
            );
            $log->guessed(
                $name,
                'It has dimensions ('.
                    implode(', ', $written).
                    ') without elements of the names in its equations: '.
                    'that of the first one was taken for all; all of them are in its note.',
            );
            $this->usual = $own !== '' ? $own : trim($node->all('element')[0]->textOf('eqn') ?? '');
            $this->note = "\n\nEquations by element:\n\n    ".implode("\n    ", $lost);

            return;
        }
        if ($lost !== []) {
            $log->guessed($name, 'It has equations for what is no element of it, which were left out: '.implode('; ', $lost).'.');
        }
        $counts = array_count_values(array_column($texts, 1));
        arsort($counts);
        $this->usual = $own !== '' ? $own : (string) array_key_first($counts);
        $size = array_product(array_map(fn (string $d): int => count($this->arrays->elements[$d] ?? []), $dimensions));
        if ($own === '' && count($texts) < $size) {
            $log->guessed($name, "It has equations for some of its elements only; all others got `$this->usual`.");
        }
        $others = array_values(array_filter($texts, fn (array $t): bool => $t[1] !== $this->usual));
        $numbers = array_filter(array_map(Numeral::read(...), [$this->usual, ...array_column($others, 1)]), is_float(...));
        $isTable = $node->name === 'aux' || count($others) > SpecialCase::MOST;
        if ($isTable && count($numbers) === count($others) + 1) {
            $this->values = array_map(static fn (array $t): array => [$t[0], Numeral::read($t[1]) ?? 0.0], $others);

            return;
        }
        if (count($others) > SpecialCase::MOST) {
            $log->guessed(
                $name,
                'It has '.
                    count($others).
                    ' other equations for elements; those after the first '.
                    SpecialCase::MOST.
                    ' were left out.',
            );
        }
        foreach (array_slice($others, 0, SpecialCase::MOST) as [$place, $text]) {
            $this->others[] = [array_combine($dimensions, array_map(static fn (string $e): array => [$e], $place)), $text];
        }
    }

    /**
     * @param  list<string>  $at
     * @return ?list<string> names of elements; null where one is none
     */
    private function place(array $at): ?array
    {
        if (count($at) !== count($this->dimensions)) {
            return null;
        }
        $place = [];
        foreach ($this->dimensions as $i => $dimension) {
            $key = Name::key(XmileName::tidy($at[$i]));
            foreach ($this->arrays->elements[$dimension] ?? [] as $name) {
                if (Name::key($name) === $key) {
                    $place[] = $name;
                }
            }
        }

        return count($place) === count($this->dimensions) ? $place : null;
    }
}
