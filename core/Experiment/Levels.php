<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Experiment;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaReader;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Printer;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Dimension;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Mapping;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Roster;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\Table;
use MerryOrbit\Core\Problem\NotUnderstood;

/**
 * The same definition at another level: instead of single members, classes of them by how long they are there, or one class of all. A class
 * is a number and the mean of each thing that its members have; the same formulas hold of the means. Where members belong to elements of
 * other dimensions, there is a class for each of these.
 *
 * The number of a class is a stock, and so is the sum of what its members have. Who enters brings along what one starts with; who leaves
 * takes the mean; who grows older takes it on to the next class. Of a class the part 1 − exp(−hazard × step) leaves by chance in a step,
 * and all of them when a condition holds.
 */
final class Levels
{
    /** @var array<string, Element> */
    private array $elements = [];

    /** @var array<string, list<string>> */
    private array $shapes;

    /** @var array<string, Table> */
    private array $tables = [];

    /** @var array<string, string> names of the dimensions of a class, by id */
    private array $over = [];

    private readonly Dimension $of;

    private readonly LevelFormulas $formulas;

    private readonly string $number;

    /** @var array<string, true> ids of what each member has */
    private array $own = [];

    /** @var array<string, Mapping> */
    private array $belongs = [];

    /**
     * @param  ?string  $since  the parameter with the time since which a member is there, by which classes are told apart; null for one class
     * @param  float  $width  of a class, in the time unit
     * @param  int  $classes  how many; in the last one all older ones stay
     */
    private function __construct(
        private readonly Model $model,
        private readonly Roster $roster,
        private readonly ?string $since,
        private readonly float $width,
        private readonly int $classes,
    ) {
        $dimensions = $model->dimensions();
        $this->of = $dimensions->find($roster->of) ?? throw NotUnderstood::because('The dimension of the roster is not there any more.');
        $name = $this->of->name;
        $this->number = "number of $name";
        $analysis = Analyser::analyse($model);
        if ($analysis->waiting !== []) {
            throw NotUnderstood::because('Something in the model cannot be computed yet; see its problems.');
        }
        foreach ($analysis->extents as $id => $extent) {
            if (in_array($this->of->id, $extent, true) && $extent !== [$this->of->id]) {
                throw NotUnderstood::because(
                    '`'.$model->nameOf((string) $id).'` extends over more than members: there is no such class.',
                );
            }
            $isOwn = $extent === [$this->of->id] && $model->element((string) $id) !== null;
            $this->own += $isOwn ? [(string) $id => true] : [];
        }
        $relations = [];
        if ($since !== null) {
            $this->over["class-of-{$this->of->id}"] = "$name class";
        }
        $rosters = [];
        foreach ($model->part('rosters') as $one) {
            $rosters[] = $one instanceof Roster ? $one->of : '';
        }
        foreach ($model->mappings() as $key => $mapping) {
            if ($mapping->from === $this->of->id && in_array($mapping->to, $rosters, true)) {
                $relations[$key] = true;
            } elseif ($mapping->from === $this->of->id) {
                $this->belongs[$key] = $mapping;
                $this->over[$mapping->to] = $dimensions->nameOf($mapping->to);
            }
        }
        $to = array_map(static fn (Mapping $m): string => $m->to, $this->belongs);
        $this->formulas = new LevelFormulas($dimensions, $this->of->id, $this->own, $to, $relations, $this->over, $this->number);
        $this->shapes = array_diff_key($model->shapes, $this->own);
    }

    /**
     * @param  ?string  $since  a parameter of each member: the time since which it is there; null for one class of all
     * @return array{Model, list<string>} and in words what is lost
     *
     * @throws NotUnderstood where the definition has no counterpart
     */
    public static function of(Model $model, Roster $roster, ?string $since = null, float $width = 1.0, int $classes = 10): array
    {
        if (
            $since !== null &&
            (! ($model->element($since) instanceof Parameter) || $width <= 0.0 || $classes < 1 || $classes > Roster::MOST_CLASSES)
        ) {
            throw NotUnderstood::because(
                'Classes have a parameter with the time since which a member is there, a width above 0, and are 1 to 200.',
            );
        }
        $levels = new self($model, $roster, $since, $width, $classes);
        try {
            return [$levels->made(), array_map(strval(...), array_keys($levels->formulas->lost))];
        } catch (FormulaError) {
            throw NotUnderstood::because('A formula of the members cannot be read yet; see the problems of the model.');
        }
    }

    /**
     * A model whose rosters are at the levels of a setting.
     *
     * @param  array<string, string>  $levels  by id of the roster
     *
     * @throws NotUnderstood
     */
    public static function applied(Model $model, array $levels): Model
    {
        foreach ($levels as $id => $level) {
            $roster = $model->part('rosters')[$id] ?? null;
            if ($roster instanceof Roster && $level !== 'members') {
                $model = self::at($model, $roster, $level)[0];
            }
        }

        return $model;
    }

    /**
     * All members that come and go at one level, for files that cannot hold them.
     *
     * @return array{Model, list<string>} and in words what is lost
     *
     * @throws NotUnderstood
     */
    public static function throughout(Model $model, string $level): array
    {
        $lost = [];
        foreach ($model->part('rosters') as $roster) {
            if ($roster instanceof Roster && $roster->isOpen()) {
                [$model, $more] = self::at($model, $roster, $level);
                $lost = [...$lost, ...$more];
            }
        }

        return [$model, array_values(array_unique($lost))];
    }

    /**
     * @param  string  $level  classes or one
     * @return array{Model, list<string>} and in words what is lost
     *
     * @throws NotUnderstood
     */
    public static function at(Model $model, Roster $roster, string $level): array
    {
        if ($level === 'one') {
            return self::of($model, $roster);
        }
        $classes = $roster->classes ?? throw NotUnderstood::because('It is not said yet by what members are taken together in classes.');

        return self::of($model, $roster, $classes['since'], $classes['width'], $classes['count']);
    }

    private function made(): Model
    {
        foreach ($this->model->elements as $id => $element) {
            $this->elements[$id] = isset($this->own[$id])
                ? $this->mean((string) $id, $element)
                : $element->withFormulas($this->outside(...));
        }
        $this->numbers();
        foreach (array_keys($this->own) as $id) {
            $element = $this->model->elements[$id];
            if ($element instanceof Stock || ($element instanceof Parameter && $this->varies((string) $id))) {
                $this->total((string) $id, $element);
            }
        }
        $dimensions = array_values(array_filter($this->model->dimensions, fn (Dimension $d): bool => $d->id !== $this->of->id));
        if ($this->since !== null) {
            $ids = array_map(strval(...), range(1, $this->classes));
            $dimensions[] = new Dimension("class-of-{$this->of->id}", "{$this->of->name} class", $ids, $ids, true);
        }
        $more = ['rosters', 'mappings', 'tables'];
        $kept = array_filter(
            $this->model->part('mappings'),
            fn (mixed $m): bool => $m instanceof Mapping && $m->from !== $this->of->id && $m->to !== $this->of->id,
        );
        $tables = array_filter($this->model->part('tables'), fn (mixed $t): bool => $t instanceof Table && ! isset($this->own[$t->of]));
        $rosters = array_filter(
            $this->model->part('rosters'),
            fn (mixed $r): bool => $r instanceof Roster && $r->id !== $this->roster->id,
        );
        $bare = $this->model->with([
            'elements' => $this->elements,
            'dimensions' => $dimensions,
            'shapes' => $this->shapes,
            ...array_combine($more, [$rosters, $kept, [...$tables, ...$this->tables]]),
        ]);

        // Names that were typed before there was what they mean are bound now.
        $bound = array_map(
            static fn (Element $e): Element => $e->withFormulas(
                static fn (FormulaText $f): FormulaText => FormulaText::typed($f->text($bare->nameOf(...)), $bare->idOf(...)),
            ),
            $bare->elements,
        );

        return $bare->with(['elements' => $bound]);
    }

    /** A formula of the outside, or of members, said of classes. */
    private function outside(FormulaText $formula): FormulaText
    {
        if ($formula->isEmpty()) {
            return $formula;
        }

        return self::typed(Printer::print($this->formulas->of($this->node($formula))));
    }

    private static function typed(string $text): FormulaText
    {
        return FormulaText::typed($text, static fn (string $key): ?string => null);
    }

    private function name(string $id): string
    {
        return Name::written((string) $this->model->nameOf($id));
    }

    private function written(): string
    {
        return Name::written($this->number);
    }

    /** What each has is the mean of a class: computed as before, or of a sum that is a stock. */
    private function mean(string $id, Element $element): Element
    {
        if ($element instanceof Stock || ($element instanceof Parameter && $this->varies($id))) {
            $first = $this->first($id, $element);
            $formula = self::typed('divide('.Name::written($this->sumName($id)).", {$this->written()}, $first)");
            $this->extend($id);

            return new Auxiliary($id, $element->name, $formula, $element->unit, $element->note, $element->symbol);
        }
        if ($element instanceof Parameter) {
            return $element;
        }
        $formula = $this->outside($element->formula);
        $this->extend($id);

        return new Auxiliary($id, $element->name, $formula, $element->unit, $element->note, $element->symbol);
    }

    private function extend(string $id): void
    {
        if ($this->over !== []) {
            $this->shapes[$id] = array_map(strval(...), array_keys($this->over));
        }
    }

    /** Whether members differ in a parameter, or new ones from those of the list. */
    private function varies(string $id): bool
    {
        if ($this->model->table($id) !== []) {
            return true;
        }
        foreach ($this->roster->entries as $entry) {
            if (in_array($id, array_column($entry['starts'], 'of'), true)) {
                return true;
            }
        }

        return false;
    }

    /** What one starts with who enters. */
    private function first(string $id, Element $element): string
    {
        if ($element instanceof Stock) {
            // It depends on parameters of each: those that a newcomer has.
            return '('.Printer::print($this->formulas->of($this->node($element->formula))->map($this->newcomers(...))).')';
        }
        foreach ($this->roster->entries as $entry) {
            foreach ($entry['starts'] as $start) {
                if ($start['of'] === $id) {
                    return $this->name($start['from']);
                }
            }
        }

        return '('.$this->model->formulaOf($element).')';
    }

    /** A parameter of each in what a newcomer starts with. */
    private function newcomers(Node $part): ?Node
    {
        $element = $part instanceof NameUse && isset($this->own[$part->key]) ? $this->model->element($part->key) : null;

        return $element instanceof Parameter ? $this->node(self::typed($this->first($element->id, $element))) : null;
    }

    /** @throws FormulaError */
    private function node(FormulaText $formula): Node
    {
        return FormulaReader::node($formula, $this->model->nameOf(...), $this->model->idOf(...));
    }

    private function sumName(string $id): string
    {
        return $this->model->nameOf($id)." of all {$this->of->name}";
    }

    /** @param  list<array{string, string}>  $flows  name and formula of what leaves and enters */
    private function stock(string $id, string $name, string $initial, array $flows, string $unit = ''): void
    {
        $this->elements[$id] = new Stock($id, $name, self::typed($initial), $unit, '', true);
        $this->extend($id);
        foreach ($flows as $k => [$flow, $formula]) {
            $isIn = str_starts_with($flow, '+');
            $own = "$id-f$k";
            $this->elements[$own] = new Flow(
                $own,
                "$name ".substr($flow, 1),
                self::typed($formula),
                '',
                '',
                $isIn ? null : $id,
                $isIn ? $id : null,
            );
            $this->extend($own);
        }
    }

    /** How many there are in a class, who comes and who goes. */
    private function numbers(): void
    {
        $id = "number-of-{$this->of->id}";
        $step = 'time step';
        $stay = '1';
        $flows = [];
        foreach ($this->roster->exits as $exit) {
            $of = $this->name($exit['of']);
            $part = $exit['kind'] === 'chance' ? "(1 - exp(-max(0, $of) * $step))" : "if($of, 1, 0)";
            $flows[] = ["-{$exit['words']}", "{$this->written()} * $stay * $part / $step"];
            $stay = "$stay * (1 - $part)";
        }
        foreach ($this->roster->entries as $entry) {
            $flows[] = ["+{$entry['words']}", $this->entering($entry)];
        }
        if ($this->since !== null) {
            $flows[] = ['-older', $this->ageing($this->written(), $stay)];
            $flows[] = ['+from younger', $this->younger($this->ageing($this->written(), $stay))];
        }
        $this->listed($id);
        $this->stock($id, $this->number, Name::written("listed {$this->number}"), $flows, '1');
    }

    /**
     * @param  array{id: string, words: string, of: string, starts: list<array{of: string, from: string}>, joins: array<string, string>}  $entry
     */
    private function entering(array $entry): string
    {
        $text = 'max(0, '.$this->name($entry['of']).')';
        foreach ($this->belongs as $mapping) {
            $isSpread = ($this->model->shapes[$entry['of']] ?? (Analyser::analyse($this->model)->extents[$entry['of']] ?? [])) === [
                $mapping->to,
            ];
            if ($isSpread) {
                continue;
            }
            $at =
                $entry['joins'][$mapping->id] ??
                throw NotUnderstood::because(
                    "Who enters as “{$entry['words']}” belongs nowhere by `{$mapping->name}`; a class has to know where.",
                );
            $dimensions = $this->model->dimensions();
            $element = Name::written($dimensions->elementName($mapping->to, $at));
            $text .= ' * is('.Name::written($dimensions->nameOf($mapping->to)).", $element)";
        }

        return $this->since === null ? $text : "$text * is(".Name::written("{$this->of->name} class").', 1)';
    }

    /** What of a class goes on to the next in a step, of those who stay; the oldest class keeps all. */
    private function ageing(string $what, string $stay): string
    {
        $class = Name::written("{$this->of->name} class");

        return "$what * $stay / ".json_encode($this->width)." * (1 - is($class, $this->classes))";
    }

    /** The same of the class before. */
    private function younger(string $text): string
    {
        $id = 'going-on-'.count($this->elements);
        $name = "going on $id";
        $this->elements[$id] = new Auxiliary($id, $name, self::typed($text));
        $this->extend($id);

        return Name::written($name).'['.Name::written("{$this->of->name} class").': previous; else 0]';
    }

    /** How many of the list are in each class, and what they have on average. */
    private function listed(string $id): void
    {
        $analysis = Analyser::analyse($this->model);
        $counts = $sums = [];
        $dimensions = $this->model->dimensions();
        $start = $this->model->time->start;
        foreach ($dimensions->elements($this->of->id) as $member) {
            $at = [];
            if ($this->since !== null) {
                $since = $this->model->table($this->since)[$member] ?? (float) $analysis->parameter($this->since);
                $at[] = (string) (1 + max(0, min($this->classes - 1, (int) floor(($start - $since) / $this->width + 1e-9))));
            }
            foreach ($this->belongs as $mapping) {
                $to = array_values(array_filter($mapping->pairs, static fn (array $p): bool => $p[0] === $member))[0][1] ?? null;
                $at[] =
                    $to ??
                    throw NotUnderstood::because(
                        '`'.$dimensions->elementName($this->of->id, $member)."` belongs nowhere by `$mapping->name`.",
                    );
            }
            $key = implode(',', $at);
            $counts[$key] = ($counts[$key] ?? 0.0) + 1.0;
            foreach (array_keys($this->own) as $own) {
                if ($this->model->elements[$own] instanceof Parameter) {
                    $value = $this->model->table((string) $own)[$member] ?? (float) $analysis->parameter((string) $own);
                    $sums[$own][$key] = ($sums[$own][$key] ?? 0.0) + $value;
                }
            }
        }
        $this->table("$id-listed", "listed {$this->number}", $counts);
        foreach ($sums as $own => $values) {
            if ($this->varies((string) $own)) {
                $this->table("listed-$own", 'listed '.$this->sumName((string) $own), $values);
            }
        }
    }

    /** @param  array<string, float>  $values  by place; the empty one for a single number */
    private function table(string $id, string $name, array $values): void
    {
        $this->elements[$id] = new Parameter(
            $id,
            $name,
            self::typed((string) json_encode($this->over === [] ? $values[''] ?? 0.0 : 0.0)),
        );
        $this->extend($id);
        if ($this->over !== []) {
            $lines = array_map(
                static fn (string $at, float $v): array => [explode(',', $at), $v],
                array_map(strval(...), array_keys($values)),
                $values,
            );
            $this->tables[$id] = new Table($id, $id, $lines);
        }
    }

    /** The sum of what the members of a class have, with what they bring, take and take along. */
    private function total(string $id, Element $element): void
    {
        $own = "all-$id";
        $name = $this->sumName($id);
        $mean = $this->name($id);
        $flows = [];
        $number = "number-of-{$this->of->id}";
        $count = count($this->roster->exits);
        foreach ($this->roster->exits as $k => $exit) {
            $flows[] = ["-{$exit['words']}", Name::written($this->elements["$number-f$k"]->name)." * $mean"];
        }
        foreach ($this->roster->entries as $k => $entry) {
            $flows[] = [
                "+{$entry['words']}",
                Name::written($this->elements["$number-f".($count + $k)]->name).' * '.$this->first($id, $element),
            ];
        }
        if ($this->since !== null) {
            $going = Name::written($this->elements["$number-f".($count + count($this->roster->entries))]->name)." * $mean";
            $flows[] = ['-older', $going];
            $flows[] = ['+from younger', $this->younger($going)];
        }
        $this->stock($own, $name, $this->initial($id, $element), $flows, '');
        foreach ($this->model->elements as $flow => $one) {
            if (! ($one instanceof Flow) || ($one->from !== $id && $one->to !== $id)) {
                continue;
            }
            $ends = [$this->end($one->from), $this->end($one->to)];
            $made = "all-$flow";
            $this->elements[$made] ??= new Flow(
                $made,
                $this->model->nameOf((string) $flow)." of all {$this->of->name}",
                self::typed($this->name((string) $flow)." * {$this->written()}"),
                '',
                '',
                ...[...$ends, $one->oneWay],
            );
            $this->extend($made);
        }
    }

    private function end(?string $stock): ?string
    {
        return $stock !== null && isset($this->own[$stock]) ? "all-$stock" : $stock;
    }

    private function initial(string $id, Element $element): string
    {
        if ($element instanceof Parameter) {
            return Name::written('listed '.$this->sumName($id));
        }

        // Of a class as if all of it had its means.
        return Name::written("listed {$this->number}").
            ' * ('.
            Printer::print($this->formulas->of($this->node($element->formula))).
            ')';
    }
}
