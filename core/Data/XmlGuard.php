<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/**
 * A look at XML that may have been made with bad intentions, before a parser sees it: document types and so entities, encodings in
 * which they could be hidden, and elements with so many attributes that comparing them takes hours, which no limit of time stops.
 */
final class XmlGuard
{
    private const MOST_ATTRIBUTES = 200;

    /** Bytes of one tag. */
    private const LONGEST_TAG = 1_000_000;

    private const ATTRIBUTE = '(?:\s++[^\s<>=\/]++\s*+=\s*+(?:"[^"<]*+"|\'[^\'<]*+\'))';

    private const OVERLOADED = '/<[^\s<>\/!?=]++'.self::ATTRIBUTE.'{'.(self::MOST_ATTRIBUTES + 1).'}/';

    /** What a parser takes for ASCII where it matters here. */
    private const ENCODINGS = 'utf-8|us-ascii|ascii|iso-8859-1|windows-1252';

    /**
     * @param  iterable<string>  $pieces  of one document, in order
     * @return ?string a sentence that says why it is not read; null if nothing speaks against it
     */
    public static function refusal(iterable $pieces): ?string
    {
        $carry = '';
        $isFirst = true;
        foreach ($pieces as $piece) {
            $text = $carry.$piece;
            if ($isFirst && $text !== '') {
                $isFirst = false;
                if (preg_match('/^(?:\xFE\xFF|\xFF\xFE)/', $text) === 1 || str_contains(substr($text, 0, 1_000), "\0")) {
                    return 'It is not written in UTF-8. Save it in UTF-8.';
                }
                $encoding =
                    preg_match('/^(?:\xEF\xBB\xBF)?\s*<\?xml[^>]*?\sencoding\s*=\s*["\']([^"\']*)/i', $text, $m) === 1 ? $m[1] : 'utf-8';
                if (preg_match('/^(?:'.self::ENCODINGS.')$/iD', $encoding) !== 1) {
                    return 'It is written in an encoding that is not read here. Save it in UTF-8.';
                }
            }
            if (preg_match('/<!\s*(?:DOCTYPE|ENTITY)/i', $text) === 1) {
                return 'It declares a document type or entities, which a file of its kind does not need and which can do harm. '.
                    'Delete the lines with <!DOCTYPE and <!ENTITY.';
            }
            if (preg_match(self::OVERLOADED, $text) !== 0) {
                return 'An element of it has more than '.
                    self::MOST_ATTRIBUTES.
                    ' attributes, more than any of its kind has. Delete those it does not need.';
            }
            // A tag that goes on in the next piece is looked at there, whole.
            $carry = (string) strrchr($text, '<');
            if (strlen($carry) > self::LONGEST_TAG) {
                if (preg_match('/^<(?:[!?]|\/|[^\s<>\/!?=]++'.self::ATTRIBUTE.'*+\s*+\/?>)/', $carry) !== 1) {
                    return 'A tag of it is longer than '.number_format(self::LONGEST_TAG / 1e6).' MB, which none is.';
                }
                $carry = '';
            }
        }

        return null;
    }
}
