<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\Mentions;
use MerryOrbit\Core\Edit\SetSameUnits;
use MerryOrbit\Core\Formula\Catalogue;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\FreeNames;
use MerryOrbit\Core\Formula\Lexer;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Formula\Parser;
use MerryOrbit\Core\Formula\Symbol;
use MerryOrbit\Core\Formula\TokenKind;
use MerryOrbit\Core\Model\Computed;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Stock;
use MerryOrbit\Core\Model\TimeSettings;

/** Reads a native file that may have been written by hand, by another version, or by someone with bad intentions. */
final class NativeReader
{
    public const LARGEST = 20_000_000;

    private const DEEPEST = 12;

    private const KEYS = [
        'bends',
        'dimensions',
        'echoes',
        'elements',
        'endWhen',
        'findings',
        'format',
        'groups',
        'layout',
        'links',
        'mapSpots',
        'name',
        'note',
        'plots',
        'sameUnits',
        'scenarios',
        'sheets',
        'time',
        'tracks',
        'version',
    ];

    private const ELEMENT_KEYS = [
        'id',
        'kind',
        'name',
        'formula',
        'unit',
        'note',
        'from',
        'to',
        'low',
        'high',
        'step',
        'choices',
        'oneWay',
        'priority',
        'neverNegative',
        'travel',
        'exceptions',
        'points',
        'between',
        'beyond',
        'inputUnit',
        'dimensions',
        'symbol',
    ];

    /** @var list<LogLine> */
    private array $log = [];

    /** @param  array<string, mixed>  $file */
    private function __construct(private readonly array $file, private readonly bool $lenient)
    {
    }

    /**
     * @param  bool  $lenient  whether to guess what is meant where the file contradicts itself, with a line of the log
     *
     * @throws FileRefused
     */
    public static function read(string $json, bool $lenient = false): Imported
    {
        if (strlen($json) > self::LARGEST) {
            throw FileRefused::because(
                'This file is larger than '.number_format(self::LARGEST / 1e6).' MB, more than a model needs.',
            );
        }
        try {
            $file = json_decode($json, true, self::DEEPEST, JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw FileRefused::because(
                'This is not a Merry Orbit model: the file is not readable JSON ('.lcfirst($e->getMessage()).').',
            );
        }
        if (is_array($file) && self::isEndless($file)) {
            throw FileRefused::because(
                'A number of this file is larger than any that can be computed with (beyond 1e308). Write it smaller.',
            );
        }
        if (! is_array($file) || ($file['format'] ?? null) !== NativeFile::FORMAT) {
            throw FileRefused::because('This is not a Merry Orbit model: it lacks the line "format": "'.NativeFile::FORMAT.'".');
        }
        $version = $file['version'] ?? null;
        if (! is_int($version) || $version < 1) {
            throw FileRefused::because(
                'The file does not say in which version of the format it is written: "version": '.NativeFile::VERSION.'.',
            );
        }
        if ($version > NativeFile::VERSION) {
            throw FileRefused::because(
                "This file is written in version $version of the format; this Merry Orbit reads up to version ".
                    NativeFile::VERSION.
                    '. Open it with a newer one.',
            );
        }

        return self::readRecord(array_filter($file, is_string(...), ARRAY_FILTER_USE_KEY), $lenient);
    }

    /**
     * Reads what a native file holds, from wherever it comes.
     *
     * @param  array<string, mixed>  $file
     *
     * @throws FileRefused
     */
    public static function readRecord(array $file, bool $lenient = false): Imported
    {
        $reader = new self($file, $lenient);

        return new Imported($reader->model(), $reader->log);
    }

    /**
     * Takes a guess, if that is wished.
     *
     * @throws FileRefused else
     */
    private function guess(string $where, string $sentence, string $guess): void
    {
        if (! $this->lenient) {
            throw FileRefused::asModel($sentence);
        }
        $this->log[] = new LogLine($where, "$sentence $guess", grade: Grade::Numbers);
    }

    private function model(): Model
    {
        foreach (array_diff(array_keys($this->file), self::KEYS, array_keys(Parts::filed())) as $key) {
            $this->log[] = new LogLine((string) $key, "\"$key\" means nothing in this format and was left out.");
        }
        $time = $this->time(NativeFields::record($this->file['time'] ?? [], 'time'));
        $lines = $this->listOf('elements');
        $name = NativeFields::text($this->file, 'name', 'the file', 'Untitled');
        $model = new Model($name, NativeFields::text($this->file, 'note', 'the file'), $time);
        $model = $this->withElements($model->with(['dimensions' => NativeDimensions::read($this->listOf('dimensions'))]), $lines);
        $endWhen = NativeFields::text($this->file, 'endWhen', 'the file');
        if (strlen($endWhen) > Parser::LONGEST) {
            throw FileRefused::asModel(
                '"endWhen" is longer than '.number_format(Parser::LONGEST).' characters. Put it into an auxiliary.',
            );
        }
        try {
            $sameUnits = SetSameUnits::fit(array_values(array_filter($this->listOf('sameUnits'), is_string(...))));
        } catch (EditRefused $e) {
            throw FileRefused::asModel($e->getMessage());
        }
        $model = $model->with([
            'endWhen' => FormulaText::typed($endWhen, $model->idOf(...)),
            'sameUnits' => $sameUnits,
        ]);

        $making = Mentions::follow($model, NativeParts::makers($this->file, $model, $this->log));
        $drawn = NativeDrawing::read($this->file, $making, $this->log);

        return NativeParts::read($this->file, $drawn, $this->log);
    }

    /** @param  array<array-key, mixed>  $file */
    private static function isEndless(array $file): bool
    {
        $found = false;
        array_walk_recursive($file, static function (mixed $one) use (&$found): void {
            $found = $found || (is_float($one) && ! is_finite($one));
        });

        return $found;
    }

    /** @param  array<string, mixed>  $record */
    private function time(array $record): TimeSettings
    {
        $fields = [];
        foreach (['start', 'end', 'step', 'saveEvery', 'tolerance', 'absoluteTolerance'] as $field) {
            $value = $record[$field] ?? null;
            if ($value === null) {
                continue;
            }
            if ((is_int($value) || is_float($value)) && ($field !== 'step' || $value > 0)) {
                $fields[$field] = (float) $value;
            } else {
                $this->guess(
                    'time',
                    "\"$field\" of time must be a number".($field === 'step' ? ' larger than zero.' : '.'),
                    'The usual one was taken.',
                );
            }
        }
        if (isset($record['startDate'])) {
            $fields['startDate'] = NativeFields::text($record, 'startDate', 'time');
        }
        if (isset($record['unit'])) {
            $fields['unit'] = NativeFields::text($record, 'unit', 'time');
        }
        if (isset($record['method'])) {
            $method = Method::tryFrom(NativeFields::text($record, 'method', 'time'));
            if ($method === null) {
                throw FileRefused::asModel(
                    'The method in "time" must be one of '.implode(', ', array_column(Method::cases(), 'value')).'.',
                );
            }
            $fields['method'] = $method;
        }

        return new TimeSettings(...$fields);
    }

    /** @param  list<mixed>  $lines */
    private function withElements(Model $model, array $lines): Model
    {
        $elements = [];
        $texts = [];
        $travels = [];
        $shapes = [];
        $exceptions = [];
        $ends = [];
        $keys = [];
        $freeNames = new FreeNames();
        foreach ($lines as $i => $line) {
            $where = 'element '.($i + 1);
            $record = NativeFields::record($line, $where);
            foreach (array_diff(array_keys($record), self::ELEMENT_KEYS) as $unknown) {
                $this->log[] = new LogLine($where, "\"$unknown\" means nothing for an element and was left out.");
            }
            $name = Name::tidy(NativeFields::text($record, 'name', $where));
            $where .= $name === '' ? '' : " (`$name`)";
            $refusal = Name::refusal($name);
            if ($refusal !== null) {
                throw FileRefused::asModel("The name of $where does not fit: $refusal");
            }
            $free = $freeNames->of($name);
            if ($free !== $name) {
                $this->guess(
                    $where,
                    "Two elements are called `$name`. Names are unique in a model: rename one of them.",
                    "This one was called `$free`; formulas mention the first.",
                );
                $name = $free;
            }
            $key = Name::key($name);
            $id = $this->idFor(NativeFields::text($record, 'id', $where), $key, $elements);
            $keys[$key] = $id;
            $symbol = NativeFields::text($record, 'symbol', $where);
            $refusal = Symbol::refusal($symbol);
            if ($refusal !== null) {
                $this->log[] = new LogLine("`$name`", "Its symbol was left out: $refusal");
                $symbol = '';
            }
            $elements[$id] = NativeElement::read($id, $name, $record, $where)->with(['symbol' => $symbol]);
            $texts[$id] = NativeFields::text($record, 'formula', $where);
            $travels[$id] = NativeFields::text($record, 'travel', $where);
            if (max(strlen($texts[$id]), strlen($travels[$id])) > Parser::LONGEST) {
                throw FileRefused::asModel("The formula of $where is longer than ".number_format(Parser::LONGEST).' characters.');
            }
            if (isset($record['exceptions'])) {
                $exceptions[$id] = $record['exceptions'];
            }
            $shape = is_array($record['dimensions'] ?? null) ? array_values(array_filter($record['dimensions'], is_string(...))) : [];
            foreach ($shape as $called) {
                $shapes[$id][] =
                    $model->dimensions()->find($called)->id ??
                    throw FileRefused::asModel("$where extends over `$called`, but the file has no dimension of that name.");
            }
            $ends[$id] = ['from' => NativeFields::text($record, 'from', $where), 'to' => NativeFields::text($record, 'to', $where)];
        }
        $idOf = static fn (string $key): ?string => $keys[$key] ?? null;
        $isOld = ($this->file['version'] ?? NativeFile::VERSION) === 1;
        foreach ($elements as $id => $element) {
            $fields = ['formula' => FormulaText::typed($isOld ? self::quoted($texts[$id], $keys) : $texts[$id], $idOf)];
            if ($element instanceof Stock) {
                $fields['travel'] = FormulaText::typed($travels[$id], $idOf);
            }
            if ($element instanceof Computed && isset($exceptions[$id])) {
                $fields['exceptions'] = NativeDimensions::exceptions($exceptions[$id], "`$element->name`", $model->dimensions(), $idOf);
            }
            if ($element instanceof Flow) {
                foreach ($ends[$id] as $end => $name) {
                    $fields[$end] = $this->end($element, $end, $name, $elements, $idOf);
                }
                if ($fields['from'] !== null && $fields['from'] === $fields['to']) {
                    throw FileRefused::asModel(
                        "The flow `$element->name` leaves and enters the same stock. Let one end be another stock, or leave it out for the outside.",
                    );
                }
            }
            $elements[$id] = $element->with($fields);
        }

        return $model->with(['elements' => $elements, 'shapes' => $shapes]);
    }

    /**
     * Version 1 knew fewer functions: names that have become one since are put in quotes.
     *
     * @param  array<string, string>  $keys  of the elements
     */
    private static function quoted(string $text, array $keys): string
    {
        $quoted = '';
        $done = 0;
        foreach (Lexer::tokens($text) as $token) {
            $key = Name::key($token->text);
            if ($token->kind === TokenKind::Name && ! $token->called && isset($keys[$key]) && Catalogue::isTaken($key)) {
                $quoted .= substr($text, $done, $token->from - $done).Name::quoted($token->text);
                $done = $token->from + $token->length;
            }
        }

        return $quoted.substr($text, $done);
    }

    /**
     * @param  array<string, Element>  $elements
     * @param  \Closure(string): ?string  $idOf
     */
    private function end(Flow $flow, string $end, string $name, array $elements, \Closure $idOf): ?string
    {
        if ($name === '') {
            return null;
        }
        $id = $idOf(Name::key($name));
        if ($id === null || ! ($elements[$id] instanceof Stock)) {
            $this->guess(
                "`$flow->name`",
                "The flow `$flow->name` runs $end `$name`, but there is no stock of that name. Leave \"$end\" out for the outside.",
                'The outside was taken.',
            );

            return null;
        }

        return $id;
    }

    /** @param  array<string, Element>  $taken */
    private function idFor(string $given, string $key, array $taken): string
    {
        if (Element::isId($given) && ! isset($taken[$given])) {
            return $given;
        }
        if ($given !== '') {
            $this->log[] = new LogLine(
                "`$key`",
                'Its id was not a free one of up to 40 small letters, digits and hyphens; it has a new one.',
            );
        }
        for ($salt = 0; ; $salt++) {
            $id = 'e'.substr(hash('sha256', $key.($salt === 0 ? '' : "#$salt")), 0, 11);
            if (! isset($taken[$id])) {
                return $id;
            }
        }
    }

    /** @return list<mixed> */
    private function listOf(string $key): array
    {
        return NativeList::of($this->file, $key);
    }
}
