<?php

declare(strict_types=1);

namespace App\Database;

use Illuminate\Database\Connection;
use Illuminate\Database\Migrations\Migrator;

/** Everything of one database into another of any kind, and whether both hold the same, row by row. */
final class Transfer
{
    /** Rows that are written at once. */
    private const ROWS = 100;

    /** Rows that are read at once: some hold a whole model. */
    private const READ = 200;

    /** Of the database itself, and what waits for workers, which are made new or are over. */
    private const NOT = ['migrations', 'sqlite_sequence', 'workers'];

    private function __construct(private readonly Connection $from, private readonly Connection $to)
    {
    }

    /**
     * @return array<string, int> rows by table
     *
     * @throws TransferRefused where there is something already, or the copy is not the same
     */
    public static function make(Connection $from, Connection $to): array
    {
        $name = (string) $to->getName();
        self::prepare($name);
        $transfer = new self($from, $to);
        foreach ($transfer->tables() as $table) {
            if ($to->table($table)->exists()) {
                throw TransferRefused::because(
                    "The database `$name` is not empty: there is something in `$table`. Name one that is, or empty it first.",
                );
            }
        }

        // What others write meanwhile is not seen: one moment is copied, and compared.
        return $from->transaction(static function () use ($transfer, $from, $to): array {
            // Within a transaction of somebody else's it is theirs to say.
            if ($from->getDriverName() === 'pgsql' && $from->transactionLevel() === 1) {
                $from->statement('set transaction isolation level repeatable read');
            }

            return $to->transaction(static function () use ($transfer): array {
                $counts = $transfer->copy();
                $differences = $transfer->differences();
                if ($differences !== []) {
                    throw TransferRefused::because(
                        'The copy is not the same, so it was taken back: '.implode('; ', $differences).'.',
                    );
                }

                return $counts;
            });
        });
    }

    /** Tables as the newest version has them. */
    private static function prepare(string $name): void
    {
        $migrator = app(Migrator::class);
        $migrator->usingConnection($name, static function () use ($migrator): void {
            if (! $migrator->repositoryExists()) {
                $migrator->getRepository()->createRepository();
            }
            $migrator->run([database_path('migrations')]);
        });
    }

    /**
     * Whether two databases hold the same.
     *
     * @return list<string> what differs, in words; none where nothing does
     */
    public static function compare(Connection $one, Connection $other): array
    {
        return (new self($one, $other))->differences();
    }

    /** @return array<string, int> */
    private function copy(): array
    {
        $counts = [];
        foreach ($this->tables() as $table) {
            $counts[$table] = 0;
            $rows = [];
            foreach ($this->rows($this->from, $table) as $row) {
                $counts[$table]++;
                // What is true or false is 1 or 0 in one of them.
                $rows[] = array_map(static fn (mixed $v): mixed => is_bool($v) ? (int) $v : $v, $row);
                if (count($rows) === self::ROWS) {
                    $this->to->table($table)->insert($rows);
                    $rows = [];
                }
            }
            $this->to->table($table)->insert($rows);
        }
        $this->count();

        return $counts;
    }

    /** New rows go on from the last number. */
    private function count(): void
    {
        if ($this->to->getDriverName() !== 'pgsql') {
            return;
        }
        foreach ($this->tables() as $table) {
            foreach ($this->to->getSchemaBuilder()->getColumns($table) as $column) {
                if ($column['auto_increment']) {
                    $last = $this->to->table($table)->max($column['name']);
                    $this->to->select('select setval(pg_get_serial_sequence(?, ?), ?, ?)', [
                        $table,
                        $column['name'],
                        max(1, is_numeric($last) ? (int) $last : 0),
                        $last !== null,
                    ]);
                }
            }
        }
    }

    /** @return list<string> in an order in which each stands behind those that its rows must refer to */
    private function tables(): array
    {
        $schema = $this->to->getSchemaBuilder();
        $left = array_values(
            array_diff($schema->getTableListing($this->to->getDriverName() === 'pgsql' ? $this->schemas() : null, false), self::NOT),
        );
        sort($left);
        $placed = [];
        while ($left !== []) {
            $ready = array_values(array_filter($left, fn (string $t): bool => array_diff($this->before($t), $placed, [$t]) === []));
            if ($ready === []) {
                throw new \LogicException('Tables refer to one another in a circle: '.implode(', ', $left));
            }
            array_push($placed, ...$ready);
            $left = array_values(array_diff($left, $ready));
        }

        return $placed;
    }

    /** @return list<string> */
    private function schemas(): array
    {
        $path = $this->to->getConfig('search_path');

        return [is_string($path) ? $path : 'public'];
    }

    /** @return list<string> tables that there must be something in before a row of this one */
    private function before(string $table): array
    {
        return array_values(array_unique(array_column($this->to->getSchemaBuilder()->getForeignKeys($table), 'foreign_table')));
    }

    /** @return \Generator<int, array<string, mixed>> */
    private function rows(Connection $of, string $table): \Generator
    {
        $query = $of->table($table);
        foreach ($this->order($table) as $column) {
            $query->orderBy($column);
        }
        foreach ($query->lazy(self::READ) as $row) {
            yield (array) $row;
        }
    }

    /** @return list<string> columns that tell rows apart */
    private function order(string $table): array
    {
        foreach ($this->to->getSchemaBuilder()->getIndexes($table) as $index) {
            if ($index['primary']) {
                return $index['columns'];
            }
        }

        return $this->to->getSchemaBuilder()->getColumnListing($table);
    }

    /** @return list<string> */
    private function differences(): array
    {
        $said = [];
        foreach ($this->tables() as $table) {
            [$one, $other] = [$this->prints($this->from, $table), $this->prints($this->to, $table)];
            $missing = count(array_diff_key($one, $other));
            $added = count(array_diff_key($other, $one));
            if ($missing + $added > 0) {
                $said[] = "of `$table` $missing rows of the one are not in the other, and $added the other way";
            }
        }

        return $said;
    }

    /** @return array<string, true> one for each row, by all that it holds */
    private function prints(Connection $of, string $table): array
    {
        $prints = [];
        foreach ($this->rows($of, $table) as $row) {
            ksort($row);
            // Numbers alike, whether they come as such or as text.
            $plain = array_map(
                static fn (mixed $v): ?string => match (true) {
                    $v === null => null,
                    is_bool($v) => (string) (int) $v,
                    is_float($v) && $v === floor($v) && abs($v) < 1e15 => (string) (int) $v,
                    is_float($v) => var_export($v, true),
                    is_scalar($v) => (string) $v,
                    default => throw new \LogicException("A value of `$table` is of no known kind."),
                },
                $row,
            );
            $prints[hash('sha256', serialize($plain), true)] = true;
        }

        return $prints;
    }
}
