<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Exchange\ImportLog;
use MerryOrbit\Core\Formula\Name;

/**
 * Where things stand, as far as the views of an XMILE file say it: each view is a sheet, and so is each module, whose variables
 * stand below each other where its model has no view.
 */
final class ViewReader
{
    private const VARIABLES = ['stock', 'flow', 'aux', 'gf'];

    /** Between the rows, and within them, of what stands on a sheet without a drawing. */
    private const ROW = 90.0;

    private const COLUMN = 230.0;

    private const PER_ROW = 5;

    /** @var list<array{id: string, name: string}> */
    public array $sheets = [];

    /** @var list<array{element: string, at: array{float, float}, sheet: string, id: string}> */
    public array $echoes = [];

    /** @var list<array{from: string, to: string}> */
    public array $links = [];

    /** @var array<string, array<string, mixed>> by name */
    private array $layout = [];

    /** @var array<string, string> names of elements by key */
    private array $known = [];

    /** @param  list<string>  $names  of the elements */
    public function __construct(array $names, private readonly ImportLog $log)
    {
        foreach ($names as $name) {
            $this->known[Name::key($name)] = $name;
        }
    }

    /** @return list<array<string, mixed>> as in a native file */
    public function layout(): array
    {
        return array_values($this->layout);
    }

    /** @param  string  $scope  what the names of a module's variables begin with; empty for the model itself */
    public function read(XmlNode $model, string $scope = ''): void
    {
        $left = [];
        $drawn = 0;
        if ($scope !== '' && $this->sheets === []) {
            $this->sheet('', 0);
        }
        foreach ($model->child('views')?->all('view') ?? [] as $view) {
            if (! in_array($view->attribute('type') ?? 'stock_flow', ['stock_flow', ''], true)) {
                $left["view of the type {$view->attribute('type')}"] = true;

                continue;
            }
            $name = XmileName::tidy($view->attribute('name') ?? '');
            $left += $this->readView(
                $view,
                $this->sheet($scope === '' ? $name : trim("$scope ".($drawn === 0 ? '' : $name)), $drawn++),
                $scope,
            );
        }
        if ($scope !== '' && $drawn === 0) {
            $this->placeModule($scope);
        }
        if ($left !== []) {
            $this->log->drawing(
                $scope === '' ? 'views' : "views of $scope",
                'Not carried over from the drawing: '.implode(', ', array_keys($left)).'.',
            );
        }
    }

    /** @param  int  $drawn  how many sheets this model has already */
    private function sheet(string $name, int $drawn): string
    {
        $number = count($this->sheets) + 1;
        $id = $number === 1 ? 'main' : "sheet-$number";
        $this->sheets[] = ['id' => $id, 'name' => mb_substr($name, 0, Name::LONGEST) ?: ($drawn === 0 ? 'Main' : "Sheet $number")];

        return $id;
    }

    /** @return array<string, true> what of the view is not carried over */
    private function readView(XmlNode $view, string $sheet, string $scope): array
    {
        $left = [];
        foreach ($view->children as $thing) {
            $name = $this->nameOf($thing->attribute('name'), $scope);
            $at = self::point($thing);
            if ($name !== null && $at !== null && in_array($thing->name, self::VARIABLES, true) && $thing->prefix === '') {
                if (isset($this->layout[$name])) {
                    continue;
                }
                $this->layout[$name] = ['element' => $name, 'at' => $at, 'sheet' => $sheet];
                $points = array_values(array_filter(array_map(self::point(...), $thing->child('pts')?->all('pt') ?? [])));
                if ($thing->name === 'flow' && count($points) > 1) {
                    $this->layout[$name] += ['source' => $points[0], 'target' => $points[count($points) - 1]];
                }
            } elseif ($thing->name === 'alias' && $thing->prefix === '') {
                $this->readAlias($thing, $sheet, $scope);
            } elseif ($thing->name === 'connector') {
                $from = $this->nameOf($thing->textOf('from'), $scope);
                $to = $this->nameOf($thing->textOf('to'), $scope);
                if ($from !== null && $to !== null && $from !== $to) {
                    $this->links[] = ['from' => $from, 'to' => $to];
                }
            } elseif (! in_array($thing->name, ['style', 'group', 'module'], true)) {
                $left[$thing->prefix === '' ? $thing->name : "$thing->prefix:$thing->name"] = true;
            }
        }

        return $left;
    }

    private function readAlias(XmlNode $alias, string $sheet, string $scope): void
    {
        $of = $alias->textOf('of') ?? '';
        $name = $this->nameOf($of, $scope);
        $at = self::point($alias);
        if ($name === null || $at === null) {
            $this->log->drawing('views', "An alias of `$of` names no variable of the file, or has no place, and was left out.");

            return;
        }
        $this->echoes[] = ['element' => $name, 'at' => $at, 'sheet' => $sheet, 'id' => 'echo-'.(count($this->echoes) + 1)];
        $this->log->drawing($name, 'Its alias in the drawing became an echo.');
    }

    /** Without a drawing of its own the variables of a module stand in rows on a sheet of its name. */
    private function placeModule(string $scope): void
    {
        $begin = Name::key($scope).' ';
        $names = array_filter(
            $this->known,
            fn (string $name, string $key): bool => str_starts_with($key, $begin) && ! isset($this->layout[$name]),
            ARRAY_FILTER_USE_BOTH,
        );
        if ($names === []) {
            return;
        }
        $sheet = $this->sheet($scope, 1);
        foreach (array_values($names) as $i => $name) {
            $this->layout[$name] = [
                'element' => $name,
                'at' => [140.0 + self::COLUMN * ($i % self::PER_ROW), 140.0 + self::ROW * intdiv($i, self::PER_ROW)],
                'sheet' => $sheet,
            ];
        }
    }

    private function nameOf(?string $written, string $scope): ?string
    {
        $name = XmileName::tidy(str_replace('.', ' ', $written ?? ''));

        return $this->known[Name::key(XmileName::tidy("$scope $name"))] ?? null;
    }

    /** @return array{float, float}|null */
    private static function point(XmlNode $node): ?array
    {
        $x = Numeral::read($node->attribute('x'));
        $y = Numeral::read($node->attribute('y'));

        return $x === null || $y === null ? null : [$x, $y];
    }
}
