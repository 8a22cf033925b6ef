<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\NameUse;
use MerryOrbit\Core\Formula\Node\Negative;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Printer;

/** Turns the variables of an XMILE file into element lines of a native file. */
final class VariableReader
{
    /** What is read of a variable. */
    private const READ = [
        'eqn',
        'gf',
        'units',
        'doc',
        'inflow',
        'outflow',
        'non_negative',
        'conveyor',
        'queue',
        'range',
        'scale',
        'dimensions',
        'element',
        'multiplier',
        'overflow',
        'leak',
        'leak_integers',
        'leak_start',
        'leak_end',
    ];

    /** @var list<non-empty-array<string, mixed>> */
    private array $lines = [];

    /** @var array<string, array{from?: string, to?: string, priority?: float}> ends of flows by key */
    private array $ends = [];

    /**
     * @param  array<string, array{XmlNode, string}>  $variables  by key of the full name, with the scope
     * @param  array<string, string>  $connected  names of what stands for inputs of modules, by key
     * @param  array<string, array{list<string>, string}>  $macros  by key: parameters and equation
     * @param  array<string, bool>  $nonNegative  by kind, unless a variable says so itself
     */
    public function __construct(
        private readonly array $variables,
        private readonly array $connected,
        array $macros,
        private readonly array $nonNegative,
        private readonly ImportLog $log,
        private readonly Arrays $arrays,
    ) {
        $this->expansion = new MacroExpansion($macros);
        $this->freeNames = new FreeNames(fn (string $key): bool => isset($this->variables[$key]));
    }

    private readonly MacroExpansion $expansion;

    private readonly FreeNames $freeNames;

    /** @var array<string, string> names of the curves that stand on variables, by key of the variable */
    private array $curves = [];

    /** @var list<array{id: string, of: string, values: list<array{list<string>, float}>}> values of parameters by elements */
    public array $tables = [];

    /** @return list<non-empty-array<string, mixed>> */
    public function elements(): array
    {
        foreach ($this->variables as $key => [$node, $scope]) {
            if ($node->name === 'stock') {
                $this->readEnds($node, (string) $key, $scope);
            }
        }
        foreach ($this->variables as $key => [$node]) {
            if ($node->name !== 'gf' && $node->child('gf') !== null) {
                $this->curves[$key] = $this->freeNames->of(mb_substr($this->nameOf((string) $key), 0, Name::LONGEST - 6).' curve');
            }
        }
        foreach ($this->variables as $key => [$node, $scope]) {
            $this->read($node, (string) $key, $scope);
        }

        return $this->lines;
    }

    private function readEnds(XmlNode $stock, string $key, string $scope): void
    {
        $name = $this->nameOf($key);
        foreach (['inflow' => 'to', 'outflow' => 'from'] as $tag => $end) {
            foreach ($stock->all($tag) as $i => $flow) {
                $flowKey = Name::key($this->resolve(trim($flow->text), $scope));
                if (($this->variables[$flowKey][0]->name ?? '') !== 'flow') {
                    $this->log->guessed($name, "Its <$tag> `".trim($flow->text).'` is no flow of the file and was left out.');
                } elseif (isset($this->ends[$flowKey][$end])) {
                    $this->log->guessed(
                        $name,
                        'The flow `'.trim($flow->text)."` already has a stock at this end; its <$tag> here was left out.",
                    );
                } else {
                    $this->ends[$flowKey][$end] = $name;
                    if ($end === 'from' && $i > 0) {
                        $this->ends[$flowKey]['priority'] = (float) $i;
                    }
                }
            }
        }
    }

    private function nameOf(string $key): string
    {
        [$node, $scope] = $this->variables[$key];
        $name = XmileName::tidy($scope.' '.XmileName::tidy($node->attribute('name') ?? ''));

        // A name that was cut or numbered is known by its key only.
        return Name::key($name) === $key ? $name : $key;
    }

    private function read(XmlNode $node, string $key, string $scope): void
    {
        $name = $this->nameOf($key);
        $note = trim($node->textOf('doc') ?? '');
        $unit = mb_substr(trim($node->textOf('units') ?? ''), 0, 200);
        $line = ['name' => $name, 'unit' => $unit];
        if ($node->name === 'gf') {
            $this->lines[] = GraphicalFunction::read($name, $node, $unit, $note, $this->log);

            return;
        }
        $equation = $node->textOf('eqn') ?? '';
        if (isset($this->connected[$key])) {
            $line += ['kind' => 'auxiliary', 'formula' => Name::written($this->connected[$key])];
            $this->lines[] = [...$line, 'note' => $note];

            return;
        }
        $dimensions = $this->arrays->over($key);
        $line += $dimensions === [] ? [] : ['dimensions' => $dimensions];
        if ($node->all('element') !== []) {
            $each = new ElementEquations($node, $name, $dimensions, $this->arrays, $this->log);
            $equation = $node->name === 'aux' ? $each->usual : $this->apart($each, $name, $dimensions, $unit);
            $line += $this->exceptions($each, $name, $scope);
            $note .= $each->note;
        }
        $parsed = $this->equation($equation, $name, $scope);
        $formula = is_string($parsed) ? $parsed : Printer::print($parsed);
        $gf = $node->child('gf');
        if ($gf !== null) {
            $curve = $this->curves[$key];
            $this->lines[] = GraphicalFunction::read($curve, $gf, $unit, '', $this->log);
            $formula = Name::written($curve).'('.($formula === '' ? 'time' : $formula).')';
        }
        foreach ($node->children as $child) {
            if ($child->prefix === '' && ! in_array($child->name, self::READ, true)) {
                $this->log->noted($name, "<$child->name> is not carried over.");
            }
        }
        $kind = match (true) {
            $node->name === 'stock' => 'stock',
            $node->name === 'flow' => 'flow',
            $gf === null && $parsed instanceof NumberLiteral,
            $gf === null && $parsed instanceof Negative && $parsed->operand instanceof NumberLiteral => 'parameter',
            default => 'auxiliary',
        };
        $line += ['kind' => $kind, 'formula' => $formula];
        $line += match ($kind) {
            'stock' => $this->stock($node, $name, $scope),
            'flow' => $this->flow($node, $name, $key),
            'parameter' => self::range($node),
            default => [],
        };
        if ($kind === 'flow' && $this->isArrival($key)) {
            $line['formula'] = '';
        } elseif ($kind === 'flow' && ($node->child('leak') !== null || $node->child('leak_integers') !== null)) {
            $line['formula'] = $this->leak($node, $name, $key, $parsed);
        }
        $this->lines[] = [...$line, 'note' => mb_substr($note, 0, 20_000)];
    }

    /**
     * More numbers than a formula has exceptions become a parameter of their own, with a table.
     *
     * @param  list<string>  $dimensions  names
     * @return string the equation that mentions it, else the usual one
     */
    private function apart(ElementEquations $each, string $name, array $dimensions, string $unit): string
    {
        if ($each->values === []) {
            return $each->usual;
        }
        $own = $this->freeNames->of(mb_substr($name, 0, Name::LONGEST - 11).' by element');
        $this->lines[] = ['kind' => 'parameter', 'name' => $own, 'formula' => $each->usual, 'unit' => $unit, 'dimensions' => $dimensions];
        $this->tables[] = ['id' => 't'.(count($this->tables) + 1), 'of' => $own, 'values' => $each->values];
        $each->values = [];

        return Name::written($own);
    }

    /**
     * What elements have besides the usual equation: values of a parameter become a table, all else exceptions.
     *
     * @return array<string, mixed> more for the line
     */
    private function exceptions(ElementEquations $each, string $name, string $scope): array
    {
        if ($each->values !== []) {
            $this->tables[] = ['id' => 't'.(count($this->tables) + 1), 'of' => $name, 'values' => $each->values];
        }
        $exceptions = [];
        foreach ($each->others as [$for, $text]) {
            $parsed = $this->equation($text, $name, $scope);
            $exceptions[] = ['for' => $for, 'formula' => is_string($parsed) ? $parsed : Printer::print($parsed)];
        }

        return $exceptions === [] ? [] : ['exceptions' => $exceptions];
    }

    /** A formula; as text where it cannot be read, which is kept as a draft. */
    private function equation(string $equation, string $name, string $scope): Node|string
    {
        $equation = trim($equation);
        if ($equation === '') {
            return '';
        }
        try {
            $resolve = fn (string $written): string => $this->resolve($written, $scope);
            $reader = new EquationReader($equation, $resolve, $name, $this->expansion, $this->arrays);
            $node = $this->checkedCurves($reader->read());
            foreach (array_unique($reader->losses) as $loss) {
                $this->log->guessed($name, ucfirst($loss).'.');
            }
            foreach (array_unique($reader->remarks) as $remark) {
                $this->log->noted($name, ucfirst($remark).'.');
            }

            return $node;
        } catch (EquationRefused $e) {
            $this->log->guessed(
                $name,
                "Its equation `$equation` could not be read: {$e->getMessage()}. It was kept as it stands, for you to mend.",
            );

            return mb_strcut($equation, 0, 19_000);
        }
    }

    /** A name before a bracket may be a curve that stands on a variable of its own. */
    private function checkedCurves(Node $node): Node
    {
        $by = [];
        $stack = [$node];
        while (($part = array_pop($stack)) !== null) {
            if ($part instanceof CurveCall) {
                $own = $this->variables[$part->key][0] ?? null;
                if ($own === null) {
                    throw new EquationRefused("`$part->written` is no function of the standard and no graphical function of the file");
                }
                if (isset($this->curves[$part->key])) {
                    $by[$part->key] = $this->curves[$part->key];
                } elseif ($own->name !== 'gf') {
                    throw new EquationRefused("`$part->written` is not a function; an operator is missing before the bracket");
                }
            }
            array_push($stack, ...$part->parts());
        }

        return $by === [] ? $node : Rewriting::curves($node, $by);
    }

    /** The name in the model of what an equation in a scope mentions. */
    private function resolve(string $written, string $scope): string
    {
        $absolute = str_starts_with($written, '.');
        $name = XmileName::tidy(str_starts_with($written, '"') ? $written : str_replace('.', ' ', ltrim($written, '.')));
        $inScope = XmileName::tidy("$scope $name");
        $key = Name::key($inScope);
        if (! $absolute && $scope !== '' && (isset($this->variables[$key]) || isset($this->connected[$key]))) {
            return $inScope;
        }

        return isset($this->variables[Name::key($name)])
            ? $this->nameOf(Name::key($name))
            : ($scope === '' || $absolute
                ? $name
                : $inScope);
    }

    /** @return array<string, mixed> */
    private function stock(XmlNode $node, string $name, string $scope): array
    {
        $own = $node->child('non_negative');
        $fields = ['neverNegative' => $own === null ? $this->nonNegative['stock'] ?? false : strtolower(trim($own->text)) !== 'false'];
        $conveyor = $node->child('conveyor');
        if ($node->child('queue') !== null) {
            $this->log->guessed($name, 'It is a queue, which keeps batches apart; here it is a stock that never goes below zero.');
            $fields['neverNegative'] = true;
        }
        if ($conveyor === null) {
            return $fields;
        }
        $travel = $this->equation($conveyor->textOf('len') ?? '', $name, $scope);
        foreach (['capacity', 'in_limit', 'sample', 'arrest'] as $tag) {
            $value = $conveyor->textOf($tag);
            if ($value !== null && ! in_array(strtolower($value), ['inf', '', '1'], true)) {
                $this->log->guessed(
                    $name,
                    "The <$tag> of the conveyor, `$value`, is not carried over; let the inflow depend on what is there instead.",
                );
            }
        }
        foreach (['discrete', 'batch_integrity'] as $attribute) {
            if (strtolower($conveyor->attribute($attribute) ?? '') === 'true') {
                $this->log->guessed($name, "The conveyor is marked `$attribute`; a transit stock takes what enters as a stream.");
            }
        }

        return [...$fields, 'travel' => is_string($travel) ? $travel : Printer::print($travel)];
    }

    /** @return array<string, mixed> */
    private function flow(XmlNode $node, string $name, string $key): array
    {
        $own = $node->child('non_negative');
        $fields = [
            'oneWay' => $own === null ? $this->nonNegative['flow'] ?? false : strtolower(trim($own->text)) !== 'false',
            ...$this->ends[$key] ?? [],
        ];
        if (isset($fields['from'], $fields['to']) && $fields['from'] === $fields['to']) {
            unset($fields['to']);
            $this->log->guessed($name, 'It left and entered the same stock; now it leads outside.');
        }
        $multiplier = $node->textOf('multiplier');
        if ($multiplier !== null && trim($multiplier) !== '1') {
            $this->log->guessed(
                $name,
                "Its unit conversion by $multiplier between the two stocks is not carried over: both ends book the same mass here.",
            );
        }
        if ($node->child('overflow') !== null) {
            $this->log->guessed($name, 'It is the overflow of a queue, which has no counterpart; write its formula.');
        }

        return $fields;
    }

    /** Whether a flow is the one by which the content of a conveyor arrives, which follows from it. */
    private function isArrival(string $key): bool
    {
        $ends = $this->ends[$key] ?? [];
        $stock = $this->variables[Name::key($ends['from'] ?? '')][0] ?? null;

        return $stock?->child('conveyor') !== null && ! isset($ends['priority']);
    }

    /** A leak of the standard is a share of the content; here it is an amount. */
    private function leak(XmlNode $node, string $name, string $key, Node|string $share): string
    {
        $stock = $this->ends[$key]['from'] ?? null;
        if ($stock === null || is_string($share)) {
            return is_string($share) ? $share : Printer::print($share);
        }
        $amount = new Binary(Operator::Multiply, new NameUse(Name::key($stock), $stock, 0, 0), $share);
        $conveyor = $this->variables[Name::key($stock)][0]->child('conveyor');
        if (
            strtolower($conveyor?->attribute('exponential_leak') ?? '') === 'true' &&
            $node->child('leak_start') === null &&
            $node->child('leak_end') === null
        ) {
            return Printer::print($amount);
        }
        $length = $this->equation($conveyor?->textOf('len') ?? '1', $name, '');
        $this->log->guessed(
            $name,
            'It leaks a share of what entered, evenly along the way; here it takes that share of the content per travel time from all that is on the way.',
        );

        return Printer::print(is_string($length) ? $amount : new Binary(Operator::Divide, $amount, $length));
    }

    /** @return array<string, float> */
    private static function range(XmlNode $node): array
    {
        $range = $node->child('range') ?? $node->child('scale');
        $fields = [];
        foreach (['low' => 'min', 'high' => 'max'] as $field => $attribute) {
            $value = Numeral::read($range?->attribute($attribute));
            if ($value !== null) {
                $fields[$field] = $value;
            }
        }

        return isset($fields['low'], $fields['high']) && $fields['low'] >= $fields['high'] ? [] : $fields;
    }
}
