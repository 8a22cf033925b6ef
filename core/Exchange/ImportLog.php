<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Model;

/** Gathers, while a file is read, what is not carried over as it stands. */
final class ImportLog
{
    /** @var list<array{string, string, Grade}> name of the element (or a place in the file), sentence, grade */
    private array $lines = [];

    /** Something was guessed or left out that changes numbers or structure. */
    public function guessed(string $where, string $sentence): void
    {
        $this->lines[] = [$where, $sentence, Grade::Numbers];
    }

    public function drawing(string $where, string $sentence): void
    {
        $this->lines[] = [$where, $sentence, Grade::Drawing];
    }

    public function noted(string $where, string $sentence): void
    {
        $this->lines[] = [$where, $sentence, Grade::Information];
    }

    /** @return list<LogLine> each leads to the element that it names */
    public function of(Model $model): array
    {
        return array_map(static fn (array $l): LogLine => new LogLine($l[0], $l[1], $model->idOf(Name::key($l[0])), $l[2]), $this->lines);
    }
}
