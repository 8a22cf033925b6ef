<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile;

use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaError;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Problem\Nearest;
use MerryOrbit\Core\Problem\Problem;
use MerryOrbit\Core\Problem\Severity;

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

    private function __construct(private readonly Model $model)
    {
    }

    public static function analyse(Model $model): Analysis
    {
        $analyser = new self($model);
        foreach ($model->elements as $element) {
            $analyser->read($element);
        }
        $order = $analyser->evaluationOrder();
        $startOrder = $analyser->startOrder();
        $analyser->problems = [...$model->time->problems(), ...$analyser->problems, ...$analyser->remarks()];
        $analyser->spreadWaiting();
        $canCompute = fn (string $id): bool => ! isset($analyser->waiting[$id]);
        $order = array_values(array_filter($order, $canCompute));

        return new Analysis($model, $analyser->nodes, $analyser->uses, $analyser->parameters, $order,
            array_values(array_filter($startOrder, $canCompute)), $analyser->constants($order), $analyser->waiting, $analyser->problems);
    }

    /**
     * Reads one formula as if it were the element's: what the editor needs while someone types.
     *
     * @return list<Problem> with positions in the text
     */
    public static function check(Model $model, Element $element, string $text): array
    {
        $analyser = new self($model);
        $analyser->readText($element, $text);

        return $analyser->problems;
    }

    private function read(Element $element): void
    {
        if ($element->formula->isEmpty()) {
            $this->uses[$element->id] = [];
            $word = $element instanceof Parameter ? 'value' : $element->formulaWord();
            $this->add($element, 'formula.missing', "`$element->name` has no $word yet.", severity: Severity::Missing);

            return;
        }
        $this->readText($element, $this->model->formulaOf($element));
    }

    private function readText(Element $element, string $text): void
    {
        $this->uses[$element->id] = [];
        try {
            $node = Parser::parse($text);
        } catch (FormulaError $e) {
            $this->problems[] = $e->problem()->at($element->id, 'formula');
            $this->waiting[$element->id] = $element->id;

            return;
        }
        $sound = $this->resolve($element, $node, $text);
        if (! $sound) {
            $this->waiting[$element->id] = $element->id;
        }
        $this->nodes[$element->id] = $node;
        if ($element instanceof Parameter && $sound) {
            $this->readParameter($element, $node);
        }
    }

    /** Finds what the names mean; false if one means nothing. */
    private function resolve(Element $element, Node $node, string $text): bool
    {
        $sound = true;
        $stack = [$node];
        $uses = [];
        while (($part = array_pop($stack)) !== null) {
            if ($part instanceof NameUse) {
                $id = $this->model->idOf($part->key);
                if ($id !== null) {
                    $uses[$id] = true;

                    continue;
                }
                $sound = false;
                $error = FormulaError::at('name.unknown', "Nothing is called `{$part->written}`".$this->elsewhere($part->written).'.'.Nearest::question($part->written, $this->model->names()), $text, $part->from, $part->length);
                $this->problems[] = $error->problem()->at($element->id, 'formula');
            }
            array_push($stack, ...array_reverse($part->parts()));
        }
        $this->uses[$element->id] = array_map(strval(...), array_keys($uses));

        return $sound;
    }

    /** A word for what people often write for a built-in quantity. */
    private function elsewhere(string $written): string
    {
        return Name::key($written) === 'dt' ? '; the length of a step is `time step`' : '';
    }

    private function readParameter(Parameter $element, Node $node): void
    {
        $used = $this->uses[$element->id];
        if ($used !== []) {
            $name = $this->model->nameOf($used[0]);
            $this->add($element, 'parameter.computed', "`$element->name` is a parameter, a plain number, but mentions `$name`. Make it an auxiliary to compute it from others.");

            return;
        }
        if (! self::isTimeless($node)) {
            $this->add($element, 'parameter.moving', "`$element->name` is a parameter, a plain number, but what it says changes during a run. Make it an auxiliary.");

            return;
        }
        try {
            $this->parameters[$element->id] = (new Evaluator([], [], new Moment($this->model->time)))->value($node);
        } catch (EvaluationError $e) {
            $this->add($element, 'parameter.value', "`$element->name` has no value: {$e->getMessage()}.");
        }
    }

    private static function isTimeless(Node $node): bool
    {
        if (($node instanceof QuantityUse && ! $node->quantity->isConstant()) || ($node instanceof Call && ! $node->function->timeless)) {
            return false;
        }
        foreach ($node->parts() as $part) {
            if (! self::isTimeless($part)) {
                return false;
            }
        }

        return true;
    }

    /** @return list<string> flows and auxiliaries, each after what it uses */
    private function evaluationOrder(): array
    {
        $needs = array_filter($this->uses, fn (string $id): bool => $this->model->elements[$id] instanceof Flow || $this->model->elements[$id] instanceof Auxiliary, ARRAY_FILTER_USE_KEY);
        $circles = new Circles($needs);
        foreach ($circles->circles as $way) {
            $this->reportCircle($way, 'circle.now', 'at the same moment', 'Let one of them act through a stock.');
        }

        return $circles->order;
    }

    /** @return list<string> stocks and all that their initial values need, each after what it uses */
    private function startOrder(): array
    {
        $needs = [];
        $queue = array_keys(array_filter($this->model->elements, static fn (Element $e): bool => $e instanceof Stock));
        while (($id = array_pop($queue)) !== null) {
            if (isset($needs[$id]) || $this->model->elements[$id] instanceof Parameter) {
                continue;
            }
            $needs[$id] = $this->uses[$id] ?? [];
            array_push($queue, ...$needs[$id]);
        }
        $circles = new Circles($needs);
        foreach ($circles->circles as $way) {
            if (array_filter($way, fn (string $id): bool => $this->model->elements[$id] instanceof Stock) !== []) {
                $this->reportCircle($way, 'circle.start', 'to know how the run starts', 'Give one of the stocks an initial value that does not depend on the others.');
            }
        }

        return $circles->order;
    }

    /** @param  non-empty-list<string>  $way */
    private function reportCircle(array $way, string $code, string $when, string $mend): void
    {
        $names = array_map(fn (string $id): string => '`'.$this->model->nameOf($id).'`', $way);
        $shown = count($names) > 8 ? [...array_slice($names, 0, 7), '…'] : $names;
        $sentence = count($way) === 1
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

    /**
     * @param  list<string>  $order
     * @return array<string, true>
     */
    private function constants(array $order): array
    {
        $constants = [];
        foreach ($order as $id) {
            $steady = self::isTimeless($this->nodes[$id]);
            foreach ($this->uses[$id] as $used) {
                $steady = $steady && ($this->model->elements[$used] instanceof Parameter || isset($constants[$used]));
            }
            if ($steady) {
                $constants[$id] = true;
            }
        }

        return $constants;
    }

    /** @return list<Problem> */
    private function remarks(): array
    {
        $remarks = [];
        foreach ($this->model->links as $link) {
            $from = $this->model->nameOf($link->from);
            $to = $this->model->elements[$link->to];
            $remarks[] = new Problem('link.unused', "`$from` is linked to `$to->name` but not used in its {$to->formulaWord()} yet.", $to->id, 'formula', severity: Severity::Remark);
        }
        foreach ($this->model->elements as $element) {
            $key = Name::key($element->name);
            if (Catalogue::find($key) !== null || Quantity::tryFrom($key) !== null) {
                $remarks[] = new Problem('name.quoted', "`$element->name` is also a word of the formula language; formulas mention this thing as \"$element->name\", in quotes.", $element->id, 'name', severity: Severity::Remark);
            }
        }

        return $remarks;
    }

    private function add(Element $element, string $code, string $sentence, Severity $severity = Severity::Wrong): void
    {
        $this->problems[] = new Problem($code, $sentence, $element->id, 'formula', severity: $severity);
        $this->waiting[$element->id] = $element->id;
    }
}
