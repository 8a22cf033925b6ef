<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange\Xmile;

use MerryOrbit\Core\Data\XmlGuard;
use MerryOrbit\Core\Exchange\FileRefused;

/**
 * Reads XML that may have been made with bad intentions: no document types and so no entities, no network, and limits on
 * size, depth and number.
 */
final class XmlTree
{
    public const LARGEST = 20_000_000;

    private const DEEPEST = 60;

    private const MOST = 150_000;

    private const NAMESPACE = 'http://docs.oasis-open.org/xmile/ns/XMILE/';

    private const GRAPHML = 'http://graphml.graphdrawing.org/xmlns';

    /**
     * @param  string  $root  the name of the element that all stands in
     * @param  string  $called  what such a file is called
     *
     * @throws FileRefused
     */
    public static function read(string $xml, string $root = 'xmile', string $called = 'XMILE'): XmlNode
    {
        if (strlen($xml) > self::LARGEST) {
            throw FileRefused::because(
                'This file is larger than '.number_format(self::LARGEST / 1e6).' MB, more than a model needs.',
            );
        }
        if (preg_match('/^(?:\xFE\xFF|\xFF\xFE)/', $xml) === 1) {
            $xml = mb_convert_encoding($xml, 'UTF-8', 'UTF-16');
            $xml = preg_replace('/^(<\?xml[^>]*)encoding\s*=\s*["\'][^"\']*["\']/i', '$1', $xml) ?? '';
        }
        if (preg_match("/<{$root}[\\s>:\\/]/i", substr($xml, 0, 20_000)) !== 1 || str_contains(substr($xml, 0, 20_000), "\0")) {
            throw FileRefused::because("This is no $called file: it does not begin with an <$root> element.");
        }
        $refusal = XmlGuard::refusal([$xml]);
        if ($refusal !== null) {
            throw FileRefused::because("This file is not read. $refusal");
        }

        return self::tree($xml);
    }

    private static function tree(string $xml): XmlNode
    {
        $before = libxml_use_internal_errors(true);
        try {
            $reader = new \XMLReader();
            if ($reader->XML($xml, null, LIBXML_NONET | LIBXML_COMPACT) !== true) {
                throw FileRefused::because('This file is no readable XML.');
            }
            $root = null;
            /** @var list<XmlNode> $open */
            $open = [];
            $count = 0;
            while (@$reader->read()) {
                if ($reader->nodeType === \XMLReader::ELEMENT) {
                    if (++$count > self::MOST) {
                        throw FileRefused::because(
                            'This file has more than '.number_format(self::MOST).' elements, more than a model needs.',
                        );
                    }
                    if (count($open) >= self::DEEPEST) {
                        throw FileRefused::because(
                            'Elements stand more than '.self::DEEPEST.' deep within each other here, deeper than in any model.',
                        );
                    }
                    $node = new XmlNode(strtolower($reader->localName), self::foreign($reader), self::attributes($reader));
                    $isEmpty = $reader->isEmptyElement;
                    $root ??= $node;
                    if ($open !== []) {
                        $open[count($open) - 1]->children[] = $node;
                    }
                    if (! $isEmpty) {
                        $open[] = $node;
                    }
                } elseif ($reader->nodeType === \XMLReader::END_ELEMENT) {
                    array_pop($open);
                } elseif (
                    in_array(
                        $reader->nodeType,
                        [\XMLReader::TEXT, \XMLReader::CDATA, \XMLReader::WHITESPACE, \XMLReader::SIGNIFICANT_WHITESPACE],
                        true,
                    ) &&
                    $open !== []
                ) {
                    $open[count($open) - 1]->text .= $reader->value;
                }
            }
            $error = libxml_get_last_error();
            if (($error !== false && $error->level >= LIBXML_ERR_ERROR) || $open !== [] || $root === null) {
                $where = $error === false ? '' : " at line $error->line (".lcfirst(trim($error->message)).')';
                throw FileRefused::because("This file is no readable XML: it breaks off$where.");
            }

            return $root;
        } finally {
            libxml_clear_errors();
            libxml_use_internal_errors($before);
        }
    }

    private static function foreign(\XMLReader $reader): string
    {
        // Asked of each of very many elements.
        $space = $reader->namespaceURI;

        return $space === '' || str_starts_with($space, self::NAMESPACE) || str_starts_with($space, self::GRAPHML)
            ? ''
            : ($reader->prefix === ''
                ? 'foreign'
                : $reader->prefix);
    }

    /** @return array<string, string> */
    private static function attributes(\XMLReader $reader): array
    {
        $attributes = [];
        while ($reader->moveToNextAttribute()) {
            if (! str_starts_with(strtolower($reader->name), 'xmlns')) {
                $attributes[strtolower($reader->name)] = $reader->value;
            }
        }
        $reader->moveToElement();

        return $attributes;
    }
}
