<?php

declare(strict_types=1);

namespace App\Data;

use App\Runs\Results;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use MerryOrbit\Core\Data\TableFile;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Wishes;

/** Reads a large file once, for all who ask; reading it twice does no harm. */
final class ReadTableJob implements ShouldBeUnique, ShouldQueue
{
    use Queueable;

    public int $tries = 2;

    public int $timeout = 120;

    public int $uniqueFor = 150;

    public function __construct(
        public readonly string $content,
        public readonly string $name,
        public readonly Wishes $wishes,
        public readonly bool $isTraced,
    ) {
    }

    public function uniqueId(): string
    {
        return ReadTable::place($this->content, $this->wishes, $this->isTraced);
    }

    public function handle(): void
    {
        try {
            $open = fn (): TableFile => TableStore::file($this->content, $this->name);
            ReadTable::ofContent($this->content, $this->wishes, $this->isTraced, $open);
        } catch (TableRefused $e) {
            Results::write($this->uniqueId().ReadTable::REFUSED, $e->getMessage());
        }
    }
}
