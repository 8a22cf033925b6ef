<?php

declare(strict_types=1);

namespace App\Data;

use App\Models\DataFile;
use App\Models\ModelDocument;
use App\Models\User;
use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Steps\Others;
use MerryOrbit\Core\Data\Steps\Steps;
use MerryOrbit\Core\Data\Steps\WordRows;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Wishes;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Source;

/** The files of a study's sources, and the tables that they hold. */
final class StudySources implements Others
{
    /** @var array<string, true> sources whose steps are being taken: they may ask for each other, but not in a circle */
    private array $open = [];

    /** @var array<string, TableFile> */
    private array $files = [];

    public function __construct(private readonly ModelDocument $document, private readonly User $user, private readonly Model $model)
    {
    }

    /**
     * @param  string  $name  what it was called
     *
     * @throws TableRefused where it is not there, or not this study's
     */
    public function file(string $content, string $name): TableFile
    {
        $this->mustKnow($content);

        return $this->files["$content/$name"] ??= TableStore::file($content, $name);
    }

    /** @throws TableRefused where it is not there, or not this study's */
    public function bytes(string $content): string
    {
        $this->mustKnow($content);

        return TableStore::bytes($content);
    }

    private function mustKnow(string $content): void
    {
        $isOwn = DataFile::query()->whereBelongsTo($this->user)->where('content', $content)->exists();
        if (! $isOwn && ! $this->document->mentions($content)) {
            throw TableRefused::because(TableStore::GONE);
        }
    }

    /** @throws TableRefused where it is not there, or not this study's */
    public function read(string $content, string $name, Wishes $wishes, bool $isTraced = false): ReadTable
    {
        $this->mustKnow($content);

        return ReadTable::awaited($content, $name, $wishes, $isTraced);
    }

    /**
     * Rows of a file as they stand.
     *
     * @return array{int, list<list<string>>} how many there are in all, and those that were asked for
     *
     * @throws TableRefused where it is not there, or not this study's
     */
    public function rows(string $content, string $name, Wishes $wishes, int $from, int $count): array
    {
        $this->mustKnow($content);

        return ReadTable::rowsOf($content, $name, $wishes, $from, $count);
    }

    public function table(string $source): DataTable
    {
        $known = $this->source($source);
        if (isset($this->open[$source])) {
            throw TableRefused::because("The steps of `$known->name` lead back to itself.");
        }
        $this->open[$source] = true;
        try {
            return Steps::of($this->read($known->content, $known->name, Wishes::of($known), true)->table, $known->steps, $this);
        } finally {
            unset($this->open[$source]);
        }
    }

    public function words(string $source): WordRows
    {
        $known = $this->source($source);
        $sheet = $known->sheet === '' ? null : $known->sheet;

        return WordRows::of($this->file($known->content, $known->name)->grid($sheet), $known->names === 0 ? null : $known->names);
    }

    public function name(string $source): string
    {
        return $this->source($source)->name;
    }

    /** That steps are taken for a source: others may not ask for it meanwhile. */
    public function taking(string $source): self
    {
        $this->open[$source] = true;

        return $this;
    }

    private function source(string $id): Source
    {
        $known = $this->model->part('sources')[$id] ?? null;

        return $known instanceof Source
            ? $known
            : throw TableRefused::because('The source that it asks for is not in the study any more.');
    }
}
