<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

/** Things that belong together and are coloured so. A thing is in one group at most. */
final readonly class Group implements Recorded
{
    /** How a group may be coloured; the colours themselves are the page's. */
    public const TINTS = ['moss', 'sky', 'clay', 'heather', 'sand', 'slate'];

    /** @param  list<string>  $members  element ids */
    public function __construct(public string $name, public string $tint, public array $members)
    {
    }

    /** @return array{name: string, tint: string, members: list<string>} */
    public function toRecord(): array
    {
        return ['name' => $this->name, 'tint' => $this->tint, 'members' => $this->members];
    }

    /** @param  array{name: string, tint: string, members: list<string>}  $record */
    public static function fromRecord(array $record): self
    {
        return new self($record['name'], $record['tint'], $record['members']);
    }
}
