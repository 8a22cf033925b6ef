<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\FileRefused;
use MerryOrbit\Core\Exchange\Imported;
use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Exchange\NativeReader;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;

/**
 * Reads a file of the open standard XMILE 1.0 (OASIS) into a model. What cannot be carried over exactly is a line of the log with
 * the element, the reason, and what was done instead.
 */
final class XmileReader
{
    private const VARIABLES = ['stock', 'flow', 'aux', 'gf', 'module', 'group'];

    /** Modules that hold modules twice, each, double with every line of the file. */
    private const MOST_MODULES = 2_000;

    private readonly ImportLog $log;

    /** @var array<string, array{XmlNode, string}> variables by key of their full name, with the scope they stand in */
    private array $variables = [];

    /** @var array<string, string> what stands for the inputs of modules, by key */
    private array $connected = [];

    /** @var array<string, array{list<string>, string}> */
    private array $macros = [];

    /** @var array<string, XmlNode> */
    private array $models = [];

    /** @var list<array{XmlNode, string}> the models of modules, with the scope that each stands in */
    private array $parts = [];

    private readonly FreeNames $freeNames;

    private function __construct(private readonly XmlNode $root)
    {
        $this->log = new ImportLog();
        $this->freeNames = new FreeNames();
    }

    /** @throws FileRefused */
    public static function read(string $xml): Imported
    {
        $reader = new self(XmlTree::read($xml));
        $file = $reader->file();
        $imported = NativeReader::readRecord($file);

        return new Imported($imported->model, [...$reader->log->of($imported->model), ...$imported->log]);
    }

    /** @return array<string, mixed> the record of a native file */
    private function file(): array
    {
        if ($this->root->name !== 'xmile') {
            throw FileRefused::because('This is no XMILE file: it does not begin with an <xmile> element.');
        }
        foreach ($this->root->all('macro') as $macro) {
            $this->readMacro($macro);
        }
        $main = null;
        foreach ($this->root->all('model') as $model) {
            $name = $model->attribute('name') ?? '';
            if ($main === null && ($name === '' || count($this->root->all('model')) === 1)) {
                $main = $model;
            } else {
                $this->models[Name::key(XmileName::tidy($name))] = $model;
            }
        }
        $main ??= $this->root->child('model') ?? throw FileRefused::asModel('This XMILE file holds no <model>.');
        $header = $this->root->child('header');
        $this->noteRest($header);
        $this->collect($main, '', 0);
        $dimensions = $this->dimensions();
        $arrays = $this->arrays($dimensions);
        $variables = new VariableReader($this->variables, $this->connected, $this->macros, $this->defaults(), $this->log, $arrays);
        $elements = $variables->elements();
        $views = new ViewReader(array_values(array_filter(array_column($elements, 'name'), is_string(...))), $this->log);
        $views->read($main);
        foreach ($this->parts as [$model, $scope]) {
            $views->read($model, $scope);
        }

        return [
            'format' => NativeFile::FORMAT,
            'version' => NativeFile::VERSION,
            'name' => mb_substr(XmileName::tidy($header?->textOf('name') ?? ($main->attribute('name') ?? '')), 0, Name::LONGEST),
            'note' => mb_substr($header?->textOf('caption') ?? '', 0, 20_000),
            'time' => (new TimeReader($this->root, $this->log))->read(),
            'elements' => $elements,
            'layout' => $views->layout(),
            'sheets' => $views->sheets,
            'echoes' => $views->echoes,
            'links' => $views->links,
            'sameUnits' => $this->sameUnits(),
            'dimensions' => $dimensions,
            'tables' => $variables->tables,
        ];
    }

    /** Says what of the file as a whole is left out. */
    private function noteRest(?XmlNode $header): void
    {
        $this->root->noteForeign($this->log, 'the file');
        $left = array_diff(
            array_map(
                static fn (XmlNode $n): string => $n->name,
                array_filter($header->children ?? [], static fn (XmlNode $n): bool => $n->prefix === ''),
            ),
            ['name', 'caption', 'vendor', 'product', 'options', 'smile'],
        );
        if ($left !== []) {
            $this->log->noted('header', 'Not carried over: '.implode(', ', array_unique($left)).'.');
        }
        foreach ($this->root->children as $child) {
            if (
                $child->prefix === '' &&
                ! in_array($child->name, ['header', 'sim_specs', 'model_units', 'dimensions', 'behavior', 'macro', 'model'], true)
            ) {
                $this->log->drawing(
                    $child->name,
                    $child->name === 'style'
                        ? 'Colours and styles of the drawing are not carried over.'
                        : "<$child->name> is not carried over.",
                );
            }
        }
        foreach ($this->root->all('model') as $model) {
            if ($model->child('sim_specs') !== null) {
                $this->log->guessed(
                    'model '.($model->attribute('name') ?? ''),
                    'Time settings of its own are not carried over; the whole model runs with one time step.',
                );
            }
        }
    }

    /** @return list<string> */
    private function sameUnits(): array
    {
        $lines = [];
        foreach ($this->root->child('model_units')?->all('unit') ?? [] as $unit) {
            $names = [XmileName::tidy($unit->attribute('name') ?? '')];
            $equation = trim($unit->textOf('eqn') ?? '');
            if ($equation !== '' && $equation !== $names[0]) {
                if (preg_match('/^[\p{L}_ ]+$/u', $equation) === 1) {
                    $names[] = XmileName::tidy($equation);
                } else {
                    $this->log->noted(
                        'model_units',
                        "The unit `$names[0]` is defined as `$equation`; only units that mean exactly the same can be stated here, so the two are told apart.",
                    );
                }
            }
            foreach ($unit->all('alias') as $alias) {
                $names[] = XmileName::tidy($alias->text);
            }
            $names = array_values(array_unique(array_filter($names, static fn (string $n): bool => $n !== '' && ! str_contains($n, '='))));
            if (count($names) > 1 && count($lines) < 200) {
                $lines[] = mb_substr(implode(' = ', $names), 0, 400);
            }
        }

        return $lines;
    }

    /** @return list<array{name: string, elements?: list<string>, from?: int, to?: int}> */
    private function dimensions(): array
    {
        $dimensions = [];
        foreach ($this->root->child('dimensions')?->all('dim') ?? [] as $dim) {
            $elements = array_map(static fn (XmlNode $e): string => XmileName::tidy($e->attribute('name') ?? ''), $dim->all('elem'));
            $name = XmileName::tidy($dim->attribute('name') ?? '');
            $numbers = array_filter($elements, static fn (string $e): bool => preg_match('/^(?:0|[1-9]\d{0,6})$/D', $e) === 1);
            $first = (int) ($elements[0] ?? '1');
            $isCounted = $numbers === $elements && $elements === array_map(strval(...), range($first, $first + count($elements) - 1));
            $dimensions[] = match (true) {
                $elements === [] => ['name' => $name, 'from' => 1, 'to' => max(1, min(1000, (int) ($dim->attribute('size') ?? '1')))],
                $isCounted => ['name' => $name, 'from' => $first, 'to' => $first + count($elements) - 1],
                default => ['name' => $name, 'elements' => $elements],
            };
        }

        return $dimensions;
    }

    /** @param  list<array{name: string, elements?: list<string>, from?: int, to?: int}>  $dimensions */
    private function arrays(array $dimensions): Arrays
    {
        $elements = $over = [];
        foreach ($dimensions as $d) {
            $elements[$d['name']] = $d['elements'] ?? array_map(strval(...), range($d['from'] ?? 1, $d['to'] ?? 1));
        }
        foreach ($this->variables as $key => [$node]) {
            $named = [];
            foreach ($node->child('dimensions')?->all('dim') ?? [] as $dim) {
                $wanted = Name::key(XmileName::tidy($dim->attribute('name') ?? ''));
                $found = array_filter(array_keys($elements), static fn (int|string $n): bool => Name::key((string) $n) === $wanted);
                if ($found === []) {
                    $this->log->guessed((string) $key, "It extends over $wanted, which the file does not define: that was left out.");
                }
                array_push($named, ...array_map(strval(...), array_values($found)));
            }
            if ($named !== []) {
                $over[$key] = $named;
            }
        }

        return new Arrays($elements, $over);
    }

    /** @return array<string, bool> which kinds never go below zero unless they say so */
    private function defaults(): array
    {
        $defaults = [];
        foreach (
            [
                $this->root->child('behavior'),
                ...array_map(static fn (XmlNode $m): ?XmlNode => $m->child('behavior'), $this->root->all('model')),
            ] as $behavior
        ) {
            $all = $behavior?->child('non_negative');
            foreach (['stock', 'flow'] as $kind) {
                $own = $behavior?->child($kind)?->child('non_negative') ?? $all;
                if ($own !== null) {
                    $defaults[$kind] = strtolower(trim($own->text)) !== 'false';
                }
            }
        }

        return $defaults;
    }

    private function readMacro(XmlNode $macro): void
    {
        $name = XmileName::tidy($macro->attribute('name') ?? '');
        if ($macro->child('variables') !== null) {
            $this->log->guessed(
                "macro $name",
                'It has variables of its own, which cannot be written into the formulas that use it; those formulas are kept as drafts.',
            );

            return;
        }
        $this->macros[strtolower(str_replace(' ', '_', $name))] = [
            array_map(static fn (XmlNode $p): string => trim($p->text), $macro->all('parm')),
            $macro->textOf('eqn') ?? '0',
        ];
        $this->log->noted("macro $name", 'It was written into the formulas that use it.');
    }

    /** Gathers the variables of a model and those of its modules, whose names begin with that of the module. */
    private function collect(XmlNode $model, string $scope, int $depth): void
    {
        if ($depth > 20) {
            throw FileRefused::asModel('Modules stand more than 20 deep within each other, perhaps in a circle. Take the circle apart.');
        }
        foreach ($model->child('variables')->children ?? [] as $variable) {
            $variable->noteForeign($this->log, XmileName::tidy($variable->attribute('name') ?? 'variables'));
            if ($variable->prefix !== '') {
                continue;
            }
            if (! in_array($variable->name, self::VARIABLES, true)) {
                $this->log->guessed('variables', "<$variable->name> is nothing the standard puts here and was left out.");

                continue;
            }
            if ($variable->name === 'group') {
                $this->log->noted(
                    'group '.XmileName::tidy($variable->attribute('name') ?? ''),
                    'Groups are not carried over; their variables are.',
                );

                continue;
            }
            $name = XmileName::tidy($scope.' '.XmileName::tidy($variable->attribute('name') ?? ''));
            if ($variable->name === 'module') {
                $this->module($variable, $name, $scope, $depth);

                continue;
            }
            $this->add($variable, $name, $scope);
        }
    }

    private function add(XmlNode $variable, string $name, string $scope): void
    {
        $fit = mb_substr($name, 0, Name::LONGEST - 4);
        if ($fit === '') {
            $this->log->guessed('variables', "A <$variable->name> without a name was left out.");

            return;
        }
        if (mb_strlen($name) > Name::LONGEST) {
            $this->log->noted($fit, 'Its name was longer than '.Name::LONGEST." characters and was cut: $name");
        } else {
            $fit = $name;
        }
        $free = $this->freeNames->of($fit);
        if ($free !== $fit) {
            $this->log->guessed($free, "Two variables are called `$fit`; this one was renamed, and formulas mention the first.");
        }
        $this->variables[Name::key($free)] = [$variable, $scope];
        if (count($this->variables) > Model::MOST_ELEMENTS) {
            throw FileRefused::asModel(
                'The file holds more than '.number_format(Model::MOST_ELEMENTS).' variables, which a model cannot hold.',
            );
        }
    }

    private function module(XmlNode $module, string $name, string $scope, int $depth): void
    {
        $of = Name::key(XmileName::tidy($module->attribute('name') ?? ''));
        $model = $this->models[$of] ?? null;
        if ($model === null) {
            $this->log->guessed(
                "module $name",
                'Its model is not in this file, so it was left out'.
                    ($module->attribute('resource') === null ? '.' : '; other files are not fetched.'),
            );

            return;
        }
        $this->log->noted("module $name", "It was laid flat: the names of its variables begin with `$name`.");
        foreach ([...$module->all('connect'), ...$module->all('connect2')] as $connect) {
            $to = XmileName::tidy(str_replace('.', ' ', $connect->attribute('to') ?? ''));
            $from = $connect->attribute('from') ?? '';
            $source = str_starts_with($from, '.')
                ? XmileName::tidy(substr($from, 1))
                : XmileName::tidy($scope.' '.str_replace('.', ' ', $from));
            $target = XmileName::tidy($scope.' '.$to);
            $this->connected[Name::key(str_starts_with(Name::key($target), Name::key($name).' ') ? $target : "$name $to")] = $source;
        }
        $this->parts[] = [$model, $name];
        if (count($this->parts) > self::MOST_MODULES) {
            throw FileRefused::asModel(
                'Modules within modules come to more than '.number_format(self::MOST_MODULES).'. Take some of them out.',
            );
        }
        $this->collect($model, $name, $depth + 1);
    }
}
