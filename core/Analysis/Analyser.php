<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Analysis;

use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\FormulaReader;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Grip;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Plan\Keys;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\Planner;
use MerryOrbit\Core\Plan\Positions;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;
use MerryOrbit\Core\Shape\ElementExtents;
use MerryOrbit\Core\Shape\ExtentError;
use MerryOrbit\Core\Shape\Extents;
use MerryOrbit\Core\Shape\Packing;
use MerryOrbit\Core\Shape\ShapedPlan;

/** Reads a whole model. What is wrong in one place hinders only what depends on it. */
final class Analyser
{
    /** @var array<string, Node> */
    private array $nodes = [];

    /** @var array<string, list<string>> */
    private array $uses = [];

    /** @var array<string, float> */
    private array $parameters = [];

    /** @var list<Problem> */
    private array $problems = [];

    /** @var array<string, string> */
    private array $waiting = [];

    /** @var array<string, Lowering> */
    private array $lowerings = [];

    /** @var array<string, Node> what the formulas became */
    private array $lowered = [];

    /** @var array<string, Node> */
    private array $travels = [];

    /** Whether a formula picks, or calls a function along dimensions. */
    private bool $looksAlong = false;

    private readonly Model $model;

    private readonly Names $names;

    private readonly Keys $keys;

    private readonly \Closure $nameOf;

    private readonly \Closure $idOf;

    /** @var array<string, Holding> by what is held */
    private readonly array $held;

    /** @param  array<string, Grip>  $grips  by element id */
    private function __construct(Expanded $expanded, array $grips = [])
    {
        $model = $this->model = $expanded->model;
        $grips = array_filter($grips, static fn (Grip $g): bool => $g->on && Holding::refusal($model, $g) === null);
        $this->keys = new Keys();
        $this->held = array_map(fn (Grip $g): Holding => new Holding($g, $this->keys), $grips);
        $this->names = new Names($model, $expanded->factors);
        $this->nameOf = $model->nameOf(...);
        $this->idOf = $model->idOf(...);
    }

    /** The last analysis: a model is often shown, run and asked about one after the other. */
    private static ?Analysis $last = null;

    /** @param  array<string, Grip>  $grips  by element id: what is held by hand, as far as it can be; see Holding::refusal() */
    public static function analyse(Model $model, array $grips = []): Analysis
    {
        if ($grips !== []) {
            return self::made($model, $grips);
        }

        return self::$last = self::$last?->source === $model ? self::$last : self::made($model, []);
    }

    /**
     * @param  array<string, Grip>  $grips
     * @param  int  $loopsFrom  how many values a model has that is run in loops over its elements
     */
    public static function made(Model $source, array $grips, int $loopsFrom = Packing::FROM): Analysis
    {
        $expanded = Expanded::of($source);
        $model = $expanded->model;
        $analyser = new self($expanded, $grips);
        foreach ($model->elements as $element) {
            $analyser->read($element);
        }
        $endWhen = $analyser->readEnd();
        $extents = $model->dimensions === [] && ! $analyser->looksAlong ? null : $analyser->extents();
        $assembly = new Assembly(
            $model,
            $analyser->lowered,
            $analyser->lowerings,
            $analyser->parameters,
            $analyser->held,
            $analyser->keys,
            $extents->known ?? [],
        );
        $shaping =
            $extents === null
                ? null
                : new Shaping($model, $extents, $assembly, $analyser->travels, $analyser->keys, $analyser->waiting, $endWhen, $loopsFrom);
        foreach ($shaping->problems ?? [] as $problem) {
            $analyser->problems[] = $problem;
            if ($problem->element !== null) {
                $analyser->waiting[$problem->element] = $problem->element;
            }
        }
        $endWhen = $shaping === null ? $endWhen : $shaping->endWhen;
        $planner = $shaping->planner ?? $assembly->planner($analyser->travels);
        if ($extents?->rosters->isAny() === true) {
            $analyser->readRosters($extents, $shaping);
        }
        foreach ($planner->circlesNow as $way) {
            $analyser->reportCircle($way, 'circle.now', 'at the same moment', 'Let one of them act through a stock.');
        }
        foreach ($planner->circlesAtStart as $way) {
            $analyser->reportCircle(
                $way,
                'circle.start',
                'to know how the run starts',
                'Give one of the stocks an initial value that does not depend on the others, or a function with a memory its first value.',
            );
        }
        $analyser->problems = $expanded->led([
            ...$model->time->problems(),
            ...$expanded->problems,
            ...$analyser->problems,
            ...Remarks::on($model),
        ]);
        $analyser->spreadWaiting();
        $endWhen =
            $endWhen !== null && array_intersect_key(array_flip(Plan::keys($endWhen)), $analyser->waiting) === [] ? $endWhen : null;

        $spread = $shaping?->spread;
        $plan = $planner->plan($analyser->waiting, $endWhen === null ? null : $spread->endWhen ?? $endWhen);
        $isLooped = $shaping !== null && $spread === null;

        return new Analysis(
            $model,
            $analyser->nodes,
            $analyser->uses,
            [...$analyser->parameters, ...$assembly->hidden],
            $isLooped ? static fn (): Plan => $shaping->writtenOut($analyser->waiting) : $plan,
            $analyser->waiting,
            $analyser->problems,
            $extents->known ?? [],
            $shaping?->positions() ?? new Positions(),
            $expanded,
            $source,
            $isLooped ? new ShapedPlan($plan, $extents) : null,
        );
    }

    /**
     * Reads one formula as if it were the element's: what the editor needs while someone types.
     *
     * @return list<Problem> with positions in the text
     */
    public static function check(Model $model, Element $element, string $text): array
    {
        $analyser = new self(Expanded::of($model));
        $analyser->readFormula($element, FormulaText::typed($text, $analyser->model->idOf(...)));
        $node = $analyser->nodes[$element->id] ?? null;
        if ($analyser->problems === [] && $node !== null && ($model->dimensions !== [] || $analyser->looksAlong)) {
            try {
                (new Extents($analyser->model, self::analyse($model)->extents))->of($node);
            } catch (ExtentError $e) {
                $analyser->problems[] = new Problem($e->reason, $e->getMessage(), $element->id, 'formula', $e->from, $e->length);
            }
        }

        return $analyser->problems;
    }

    private function read(Element $element): void
    {
        $this->uses[$element->id] = [];
        if ($element instanceof Relation) {
            if (count($element->points) < 2) {
                $this->add(
                    $element,
                    'curve.missing',
                    "`$element->name` needs at least two points to be a {$element->kind()->value}.",
                    severity: Severity::Missing,
                    field: 'points',
                );
            }

            return;
        }
        if ($element instanceof Stock && $element->isTransit()) {
            $this->readTravel($element);
        }
        if (! $element->formula->isEmpty()) {
            $this->readFormula($element, $element->formula);
        } elseif (! $this->model->isArrival($element)) {
            $word = $element instanceof Parameter ? 'value' : $element->formulaWord();
            $this->add($element, 'formula.missing', "`$element->name` has no $word yet.", severity: Severity::Missing);
        }
    }

    private function readTravel(Stock $stock): void
    {
        $node = $this->readSide($stock->travel, $stock->id, 'travel');
        if ($node === null) {
            $this->waiting[$stock->id] = $stock->id;
        } else {
            $this->travels[$stock->id] = $node;
        }
        if ($this->model->arrival($stock) === null) {
            $this->problems[] = new Problem(
                'transit.arrival',
                "Nothing leaves `$stock->name`, so what travels in it never arrives. Add a flow out of it.",
                $stock->id,
                'travel',
                severity: Severity::Remark,
            );
        }
    }

    private function readEnd(): ?Node
    {
        return $this->model->endWhen->isEmpty() ? null : $this->readSide($this->model->endWhen, null, 'endWhen');
    }

    /** A formula beside the main ones, which may not remember anything; null if it cannot be used. */
    private function readSide(FormulaText $formula, ?string $owner, string $field): ?Node
    {
        try {
            $node = $this->node($formula);
            [$errors] = $this->names->check($node, $formula);
            if ($errors !== []) {
                throw $errors[0];
            }
            $lowering = new Lowering($this->model, $owner ?? '', $formula, $this->keys);
            $plain = $lowering->expression($node);
            if ($lowering->equations !== [] || $lowering->states !== [] || $lowering->cells !== [] || $lowering->initials !== []) {
                throw FormulaError::at(
                    'formula.plain',
                    'Here only plain arithmetic is possible, nothing with a memory, chance or events. Put that into an auxiliary and mention it.',
                    $formula->text($this->nameOf),
                    $node->from,
                    $node->length,
                );
            }

            return $plain;
        } catch (FormulaError $e) {
            $problem = $e->problem();
            $this->problems[] = new Problem($problem->code, $problem->sentence, $owner, $field, $problem->from, $problem->length);

            return null;
        }
    }

    /** @throws FormulaError */
    private function node(FormulaText $formula): Node
    {
        return FormulaReader::node($formula, $this->nameOf, $this->idOf);
    }

    private function readFormula(Element $element, FormulaText $formula): void
    {
        $this->uses[$element->id] = [];
        try {
            $node = $this->node($formula);
        } catch (FormulaError $e) {
            $this->problems[] = $e->problem()->at($element->id, 'formula');
            $this->waiting[$element->id] = $element->id;

            return;
        }
        if ($node instanceof NumberLiteral && $element instanceof Parameter && is_finite($node->value)) {
            // Most of a large model's elements are just numbers.
            $this->nodes[$element->id] = $node;
            $this->parameters[$element->id] = $node->value;

            return;
        }
        [$errors, $this->uses[$element->id]] = $this->names->check($node, $formula);
        foreach ($errors as $error) {
            $this->problems[] = $error->problem()->at($element->id, 'formula');
        }
        $sound = $errors === [];
        if (! $sound) {
            $this->waiting[$element->id] = $element->id;
        }
        if ($element instanceof Computed && $element->exceptions !== []) {
            $this->readExceptions($element, $node, $formula);

            return;
        }
        $this->nodes[$element->id] = $node;
        $this->looksAlong = $this->looksAlong || ($formula->hasBrackets() && Extents::isAlong($node));
        if ($element instanceof Parameter && $sound) {
            $this->readParameter($element, $node);
        }
        if (! $sound || $element instanceof Parameter) {
            return;
        }
        if ($this->held === [] && ! $formula->hasBrackets()) {
            // Plain arithmetic stays as it is.
            $this->lowered[$element->id] = $node;

            return;
        }
        $this->lowerings[$element->id] = $lowering = new Lowering($this->model, $element->id, $formula, $this->keys, $this->held);
        try {
            $this->lowered[$element->id] = $lowering->expression($node);
        } catch (FormulaError $e) {
            $this->problems[] = $e->problem()->at($element->id, 'formula');
            $this->waiting[$element->id] = $element->id;
        }
    }

    private function readExceptions(Computed $element, Node $main, FormulaText $formula): void
    {
        $lowering = $this->lowerings[$element->id] = new Lowering($this->model, $element->id, $formula, $this->keys, $this->held);
        $reading = new ExceptionReading($this->model, $this->names, $lowering);
        $cases = $reading->cases($element, $main);
        array_push($this->problems, ...$reading->problems);
        $this->uses[$element->id] = array_values(array_unique([...$this->uses[$element->id], ...$reading->uses]));
        if ($cases === null || isset($this->waiting[$element->id])) {
            $this->waiting[$element->id] = $element->id;
            unset($this->lowerings[$element->id]);
            $this->nodes[$element->id] = $main;

            return;
        }
        [$this->nodes[$element->id], $this->lowered[$element->id]] = $cases;
        $this->looksAlong = true;
    }

    /** Over what every element extends. What does not fit is said and waits. */
    private function extents(): Extents
    {
        [$extents, $errors, $remarks] = ElementExtents::of($this->model, $this->nodes, $this->travels);
        array_push($this->problems, ...$remarks);
        foreach ($errors as $id => $problem) {
            $this->problems[] = $problem;
            $this->waiting[$id] = $id;
            unset($this->lowered[$id], $this->lowerings[$id], $this->travels[$id]);
        }

        return $extents;
    }

    private function readRosters(Extents $extents, Shaping $shaping): void
    {
        $reading = new RosterReading($this->model, $extents, $this->waiting);
        $reading->read($shaping->planner->plan($this->waiting, null), $this->keys, $shaping->spread === null, $shaping->hindrance);
        array_push($this->problems, ...$reading->problems);
        $this->waiting += $reading->waiting;
    }

    private function readParameter(Parameter $element, Node $node): void
    {
        $used = $this->uses[$element->id];
        if ($used !== []) {
            $name = $this->model->nameOf($used[0]);
            $this->add(
                $element,
                'parameter.computed',
                "`$element->name` is a parameter, a plain number, but mentions `$name`. Make it an auxiliary to compute it from others.",
            );

            return;
        }
        if (! Planner::isTimeless($node)) {
            $this->add(
                $element,
                'parameter.moving',
                "`$element->name` is a parameter, a plain number, but what it says changes during a run. Make it an auxiliary.",
            );

            return;
        }
        try {
            $this->parameters[$element->id] = (new Evaluator([], new Moment($this->model->time)))->value($node);
        } catch (EvaluationError $e) {
            $this->add($element, 'parameter.value', "`$element->name` has no value: {$e->getMessage()}.");
        }
    }

    /** @param  non-empty-list<string>  $way */
    private function reportCircle(array $way, string $code, string $when, string $mend): void
    {
        $names = array_map(fn (string $id): string => '`'.$this->model->nameOf($id).'`', $way);
        $shown = count($names) > 8 ? [...array_slice($names, 0, 7), '…'] : $names;
        $sentence =
            count($way) === 1
                ? "$names[0] uses itself $when. $mend"
                : "These need each other $when: ".implode(' uses ', $shown)." uses $names[0]. $mend";
        foreach ($way as $id) {
            $this->waiting[$id] ??= $id;
        }
        $this->problems[] = new Problem($code, $sentence, $way[0], 'formula');
    }

    /** What depends on something that cannot be computed cannot be computed either. */
    private function spreadWaiting(): void
    {
        $users = [];
        foreach ($this->uses as $id => $used) {
            foreach ($used as $one) {
                $users[$one][] = $id;
            }
        }
        foreach ($this->model->elements as $id => $element) {
            if ($element instanceof Flow) {
                foreach (array_filter([$element->from, $element->to]) as $stock) {
                    $users[$id][] = $stock;
                }
            }
        }
        $queue = array_keys($this->waiting);
        while (($id = array_shift($queue)) !== null) {
            foreach ($users[$id] ?? [] as $user) {
                if (! isset($this->waiting[$user])) {
                    $this->waiting[$user] = $this->waiting[$id];
                    $queue[] = $user;
                }
            }
        }
    }

    private function add(
        Element $element,
        string $code,
        string $sentence,
        Severity $severity = Severity::Wrong,
        string $field = 'formula',
    ): void {
        $this->problems[] = new Problem($code, $sentence, $element->id, $field, severity: $severity);
        $this->waiting[$element->id] = $element->id;
    }
}
