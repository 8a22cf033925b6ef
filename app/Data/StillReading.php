<?php

declare(strict_types=1);

namespace App\Data;

use Illuminate\Http\JsonResponse;

/** A worker reads a large file; who asked for it asks again in a moment. */
final class StillReading extends \RuntimeException
{
    public function __construct(public readonly string $content, public readonly string $name)
    {
        parent::__construct('The table is being read.');
    }

    public function report(): bool
    {
        return true;
    }

    public function render(): JsonResponse
    {
        return new JsonResponse(['reading' => true, 'content' => $this->content, 'name' => $this->name], 202);
    }
}
