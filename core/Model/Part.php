<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\FormulaText;

/**
 * One part of a study's document, declared once: how it is recorded and read back, what of it an edit touches, how it stands in a
 * file. Storage, patches, history, comparison, the native file, its schema, the page's types and the detection of clashes follow.
 *
 * A keyed part is a collection of Recorded values by id; a whole one is a single value that is replaced as a whole.
 */
final readonly class Part
{
    /**
     * @param  \Closure  $record  of one value (keyed), or of all of it (whole)
     * @param  \Closure  $read  the way back; throws NotUnderstood where records come from outside
     * @param  list<string>  $names  where in a record ids of elements stand, which are names in files: `of[]` each item, `setting.parameters{}` each key, `from`
     * @param  list<string>  $belongs  fields with an element's id: with that element it goes
     * @param  array<string, mixed>  $schema  JSON Schema (2020-12) of one line of the file
     * @param  list<string>  $formulas  fields with formulas: pieces in a record, text in a file
     */
    private function __construct(
        /** Of the field of a model, in records and files. */
        public string $name,
        public bool $isKeyed,
        public \Closure $record,
        public \Closure $read,
        /** What one of it is called. */
        public string $word = '',
        /** Of one model. */
        public int $most = 0,
        public array $names = [],
        public array $belongs = [],
        /** Whether two people who write the same field of it at once are told. */
        public bool $clashes = true,
        /** Whether it has lines of its own in files; else the reader and writer of the native file know it by themselves. */
        public bool $inFile = false,
        public array $schema = [],
        public array $formulas = [],
    ) {
    }

    /**
     * Values with an id, which are compared, told and filed one by one.
     *
     * @param  class-string<Recorded&Readable>  $class
     * @param  list<string>  $names
     * @param  list<string>  $belongs
     * @param  array<string, mixed>  $schema
     * @param  list<string>  $formulas
     */
    public static function of(
        string $name,
        string $word,
        string $class,
        int $most,
        array $names = [],
        array $belongs = [],
        array $schema = [],
        array $formulas = [],
    ): self {
        return new self(
            $name,
            true,
            static fn (Recorded $v): array => $v->toRecord(),
            $class::read(...),
            $word,
            $most,
            $names,
            $belongs,
            inFile: true,
            schema: $schema,
            formulas: $formulas,
        );
    }

    /**
     * What is only shown, by key: the later one of two who move it wins.
     *
     * @param  class-string<Placement|Appearance|Point|Link>  $class
     */
    public static function drawn(string $name, string $class): self
    {
        return new self($name, true, static fn (Recorded $v): array => $v->toRecord(), $class::fromRecord(...), clashes: false);
    }

    /**
     * @param  \Closure(mixed): mixed  $record
     * @param  \Closure(mixed): mixed  $read
     */
    public static function whole(string $name, \Closure $record, \Closure $read, bool $clashes = true): self
    {
        return new self($name, false, $record, $read, clashes: $clashes);
    }

    /**
     * How one of it is called in sentences.
     *
     * @param  array<string, mixed>  $record
     * @param  callable(string): ?string  $nameOf
     */
    public function title(array $record, callable $nameOf): string
    {
        foreach (['title', 'name'] as $field) {
            if (is_string($record[$field] ?? null) && $record[$field] !== '') {
                return "“{$record[$field]}”";
            }
        }
        $ends = array_filter(
            array_map(static fn (string $f): ?string => is_string($record[$f] ?? null) ? $nameOf($record[$f]) : null, $this->belongs),
        );

        return $ends === [] ? '' : 'of `'.implode('` and `', $ends).'`';
    }

    /**
     * A record with other words at the places that name elements: from ids to names for a file, or back.
     *
     * @param  array<string, mixed>  $record
     * @param  \Closure(string): string  $other
     * @return array<string, mixed>
     */
    public function translated(array $record, \Closure $other): array
    {
        foreach ($this->names as $path) {
            $record = (array) self::at($record, explode('.', $path), $other);
        }

        foreach ($this->formulas as $field) {
            $formula = $record[$field] ?? null;
            if (is_array($formula)) {
                $record[$field] = FormulaText::given($formula)->text($other);
            }
        }

        return array_filter($record, is_string(...), ARRAY_FILTER_USE_KEY);
    }

    /**
     * @param  list<string>  $path
     * @param  \Closure(string): string  $other
     */
    private static function at(mixed $value, array $path, \Closure $other): mixed
    {
        $step = array_shift($path);
        if ($step === null) {
            return is_string($value) ? $other($value) : $value;
        }
        $field = rtrim($step, '[]{}');
        if (! is_array($value) || ! isset($value[$field])) {
            return $value;
        }
        $inner = $value[$field];
        if (str_ends_with($step, '{}') && $path === []) {
            $inner = is_array($inner)
                ? array_combine(
                    array_map(static fn (int|string $k): string => $other((string) $k), array_keys($inner)),
                    array_values($inner),
                )
                : $inner;
        } elseif ($step !== $field) {
            $inner = is_array($inner) ? array_map(static fn (mixed $one): mixed => self::at($one, $path, $other), $inner) : $inner;
        } else {
            $inner = self::at($inner, $path, $other);
        }
        $value[$field] = $inner;

        return $value;
    }
}
