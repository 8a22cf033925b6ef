<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Data\DataTable;
use MerryOrbit\Core\Data\Reading;
use MerryOrbit\Core\Data\Steps\Others;
use MerryOrbit\Core\Data\Steps\WordRows;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;

/** Other sources of steps on the command line: `--with ID=FILE`. */
final readonly class OtherFiles implements Others
{
    /** @param  array<string, string>  $files  by id */
    private function __construct(private array $files)
    {
    }

    /**
     * @param  list<string>  $said  as `ID=FILE`
     *
     * @throws UsageError
     */
    public static function of(array $said): self
    {
        $files = [];
        foreach ($said as $one) {
            [$id, $file] = [...explode('=', $one, 2), ''];
            if ($file === '') {
                throw new UsageError("--with takes ID=FILE, not `$one`.");
            }
            $files[trim($id)] = $file;
        }

        return new self($files);
    }

    public function table(string $source): DataTable
    {
        return Reading::of(TableFile::open($this->file($source))->grid(null));
    }

    public function words(string $source): WordRows
    {
        return WordRows::of(TableFile::open($this->file($source))->grid(null));
    }

    public function name(string $source): string
    {
        return basename($this->file($source));
    }

    private function file(string $source): string
    {
        return $this->files[$source] ??
            throw TableRefused::because("It asks for the source `$source`: say which file that is, with --with $source=FILE.");
    }
}
