<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Formula\Name;

/** Where things stand, as far as the views of an XMILE file say it. */
final class ViewReader
{
    /** @var list<array{string, string}> place in the file and sentence */
    public array $log = [];

    /**
     * @param  list<string>  $names  of the elements
     * @return array{list<array<string, mixed>>, list<array{id: string, name: string}>, list<array{from: string, to: string}>} layout, sheets and links as in a native file
     */
    public function read(XmlNode $model, array $names): array
    {
        $known = [];
        foreach ($names as $name) {
            $known[Name::key($name)] = $name;
        }
        $layout = $sheets = $links = [];
        $uids = [];
        $left = [];
        foreach ($model->child('views')?->all('view') ?? [] as $v => $view) {
            if (! in_array($view->attribute('type') ?? 'stock_flow', ['stock_flow', ''], true)) {
                $left["view of the type {$view->attribute('type')}"] = true;

                continue;
            }
            $sheet = $v === 0 ? 'main' : 'sheet-'.($v + 1);
            $sheets[] = ['id' => $sheet, 'name' => XmileName::tidy($view->attribute('name') ?? '') ?: ($v === 0 ? 'Main' : 'Sheet '.($v + 1))];
            foreach ($view->children as $thing) {
                $name = $known[Name::key(XmileName::tidy($thing->attribute('name') ?? ''))] ?? null;
                $at = self::point($thing);
                if ($name !== null && $at !== null && in_array($thing->name, ['stock', 'flow', 'aux', 'gf'], true) && $thing->prefix === '') {
                    $uids[$thing->attribute('uid') ?? ''] = $name;
                    if (isset($layout[$name])) {
                        continue;
                    }
                    $layout[$name] = ['element' => $name, 'at' => $at, 'sheet' => $sheet];
                    $points = array_values(array_filter(array_map(self::point(...), $thing->child('pts')?->all('pt') ?? [])));
                    if ($thing->name === 'flow' && count($points) > 1) {
                        $layout[$name] += ['source' => $points[0], 'target' => $points[count($points) - 1]];
                    }
                } elseif ($thing->name === 'connector') {
                    $from = $known[Name::key(XmileName::tidy($thing->textOf('from') ?? ''))] ?? null;
                    $to = $known[Name::key(XmileName::tidy($thing->textOf('to') ?? ''))] ?? null;
                    if ($from !== null && $to !== null && $from !== $to) {
                        $links[] = ['from' => $from, 'to' => $to];
                    }
                } elseif (! in_array($thing->name, ['style', 'alias', 'group'], true)) {
                    $left[$thing->prefix === '' ? $thing->name : "$thing->prefix:$thing->name"] = true;
                }
            }
        }
        if ($left !== []) {
            $this->log[] = ['views', 'Not carried over from the drawing: '.implode(', ', array_keys($left)).'.'];
        }

        return [array_values($layout), $sheets, $links];
    }

    /** @return array{float, float}|null */
    private static function point(XmlNode $node): ?array
    {
        $x = $node->attribute('x');
        $y = $node->attribute('y');

        return is_numeric($x) && is_numeric($y) ? [(float) $x, (float) $y] : null;
    }
}
