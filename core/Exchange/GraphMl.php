<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\MapSpots;
use MerryOrbit\Core\Exchange\Xmile\XmileName;
use MerryOrbit\Core\Exchange\Xmile\XmlNode;
use MerryOrbit\Core\Exchange\Xmile\XmlTree;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Point;

/** Causal maps as GraphML 1.0 (graphml.graphdrawing.org): factors are nodes, links directed edges with what is said of them. */
final class GraphMl
{
    private const NODE = ['name' => 'string', 'x' => 'double', 'y' => 'double'];

    private const EDGE = [
        'sign' => 'string',
        'late' => 'boolean',
        'strength' => 'string',
        'mechanism' => 'string',
        'grounds' => 'string',
        'standing' => 'string',
    ];

    public static function write(Model $model): string
    {
        $xml = new \XMLWriter();
        $xml->openMemory();
        $xml->setIndent(true);
        $xml->setIndentString('  ');
        $xml->startDocument('1.0', 'UTF-8');
        $xml->startElement('graphml');
        $xml->writeAttribute('xmlns', 'http://graphml.graphdrawing.org/xmlns');
        foreach (['node' => self::NODE, 'edge' => self::EDGE] as $for => $keys) {
            foreach ($keys as $key => $type) {
                $xml->startElement('key');
                foreach (['id' => "$for-$key", 'for' => $for, 'attr.name' => $key, 'attr.type' => $type] as $attribute => $value) {
                    $xml->writeAttribute($attribute, $value);
                }
                $xml->endElement();
            }
        }
        $xml->startElement('graph');
        $xml->writeAttribute('id', 'map');
        $xml->writeAttribute('edgedefault', 'directed');
        $spots = MapSpots::of($model);
        foreach (CausalGraph::ofMap($model)->names as $id => $name) {
            $xml->startElement('node');
            $xml->writeAttribute('id', (string) $id);
            self::data($xml, 'node', ['name' => $name, 'x' => $spots[$id]->x ?? null, 'y' => $spots[$id]->y ?? null]);
            $xml->endElement();
        }
        foreach ($model->part('causalLinks') as $link) {
            if ($link instanceof CausalLink) {
                $xml->startElement('edge');
                $xml->writeAttribute('id', $link->id);
                $xml->writeAttribute('source', $link->from);
                $xml->writeAttribute('target', $link->to);
                self::data($xml, 'edge', [
                    'sign' => $link->sign,
                    ...array_diff_key($link->toRecord(), ['id' => 0, 'from' => 0, 'to' => 0]),
                ]);
                $xml->endElement();
            }
        }
        $xml->endElement();
        $xml->endElement();

        return $xml->outputMemory();
    }

    /** @param  array<string, mixed>  $fields */
    private static function data(\XMLWriter $xml, string $for, array $fields): void
    {
        foreach ($fields as $key => $value) {
            if ($value !== null && is_scalar($value)) {
                $xml->startElement('data');
                $xml->writeAttribute('key', "$for-$key");
                $xml->text(is_bool($value) ? ($value ? 'true' : 'false') : XmileName::clean((string) $value));
                $xml->endElement();
            }
        }
    }

    /** @throws FileRefused */
    public static function read(string $text): Imported
    {
        $root = XmlTree::read($text, 'graphml', 'GraphML');
        $keys = [];
        foreach ($root->all('key') as $key) {
            $keys[(string) $key->attribute('id')] = strtolower((string) $key->attribute('attr.name'));
        }
        $graph = $root->child('graph') ?? throw FileRefused::because('This GraphML file has no <graph> in it.');
        $names = $spots = $links = [];
        foreach ($graph->all('node') as $node) {
            $data = self::fields($node, $keys);
            $id = (string) $node->attribute('id');
            $names[$id] = $data['name'] ?? ($data['label'] ?? $id);
            if (is_numeric($data['x'] ?? null) && is_numeric($data['y'] ?? null)) {
                $within = static fn (string $v): float => max(-Point::FARTHEST, min(Point::FARTHEST, (float) $v));
                $spots[$names[$id]] = new Point($within($data['x']), $within($data['y']));
            }
        }
        foreach ($graph->all('edge') as $i => $edge) {
            $data = self::fields($edge, $keys);
            [$from, $to] = [$names[(string) $edge->attribute('source')] ?? null, $names[(string) $edge->attribute('target')] ?? null];
            if ($from === null || $to === null) {
                throw FileRefused::because('Edge '.($i + 1).' of this graph leads from or to a node that is not there.');
            }
            $links[] = ['from' => $from, 'to' => $to, 'sign' => self::sign($data), 'said' => self::said($data)];
        }
        $linked = array_merge(array_column($links, 'from'), array_column($links, 'to'));
        $name = (string) $graph->attribute('id');

        return MapFile::made(
            $links,
            array_values(array_diff($names, $linked)),
            $spots,
            $name === '' || $name === 'map' ? 'Causal map' : $name,
        );
    }

    /**
     * @param  array<string, string>  $keys  names of attributes by the id of their key
     * @return array<string, string>
     */
    private static function fields(XmlNode $node, array $keys): array
    {
        $fields = [];
        foreach ($node->all('data') as $data) {
            $fields[$keys[(string) $data->attribute('key')] ?? ''] = trim($data->text);
        }

        return array_filter($fields, static fn (string $v): bool => $v !== '');
    }

    /**
     * A sign as such, or that of a weight.
     *
     * @param  array<string, string>  $data
     * @return '+'|'-'|'?'
     */
    private static function sign(array $data): string
    {
        $given = $data['sign'] ?? ($data['polarity'] ?? ($data['weight'] ?? '?'));
        if (is_numeric($given)) {
            return (float) $given > 0.0 ? '+' : ((float) $given < 0.0 ? '-' : '?');
        }

        return ['+' => '+', '-' => '-', '−' => '-', 'positive' => '+', 'negative' => '-'][strtolower($given)] ?? '?';
    }

    /**
     * @param  array<string, string>  $data
     * @return array<string, mixed>
     */
    private static function said(array $data): array
    {
        $said = ['late' => in_array(strtolower($data['late'] ?? ''), ['true', '1', 'yes'], true)];
        foreach (['strength' => CausalLink::STRENGTHS, 'standing' => CausalLink::STANDINGS] as $field => $known) {
            $said += in_array($data[$field] ?? null, $known, true) ? [$field => $data[$field]] : [];
        }

        return $said + array_intersect_key($data, ['mechanism' => 0, 'grounds' => 0]);
    }
}
