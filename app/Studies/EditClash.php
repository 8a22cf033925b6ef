<?php

declare(strict_types=1);

namespace App\Studies;

/** An edit that would overwrite what someone else wrote since. Both versions are handed back. */
final class EditClash extends \RuntimeException
{
    /**
     * @param  mixed  $yours  the edit as it was sent, null for an undo
     * @param  ?array<string, mixed>  $theirs  the element as it is now, null when it is gone
     */
    public function __construct(
        string $sentence,
        private readonly int $revision,
        private readonly mixed $yours,
        private readonly ?array $theirs,
    ) {
        parent::__construct($sentence);
    }

    /** @return array<string, mixed> */
    public function details(): array
    {
        return ['revision' => $this->revision, 'yours' => $this->yours, 'theirs' => $this->theirs];
    }
}
