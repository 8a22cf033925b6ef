<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Model;

use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Problem\NotUnderstood;

/** A saved view with words. The view is the page's own record of what was shown; the runs in it are settings and revisions, so that it can be shown again. */
final readonly class Finding implements Readable, Recorded
{
    public const KINDS = ['plot', 'table', 'trail', 'sheet', 'comparison', 'spread', 'nudge', 'candidates'];

    public const MOST = 300;

    private const LONGEST = 20_000;

    public const SCHEMA = [
        'type' => 'object',
        'required' => ['id', 'title', 'view'],
        'additionalProperties' => false,
        'properties' => [
            'id' => ['$ref' => '#/$defs/id'],
            'title' => ['type' => 'string', 'maxLength' => Name::LONGEST],
            'words' => ['type' => 'string', 'maxLength' => self::LONGEST],
            'view' => [
                'type' => 'object',
                'description' => 'The page\'s own record of what was shown, with ids.',
                'required' => ['kind'],
                'properties' => ['kind' => ['enum' => self::KINDS]],
            ],
            'place' => ['type' => 'number'],
        ],
    ];

    private const LARGEST_VIEW = 200_000;

    /** @param  array<string, mixed>  $view  with its `kind` */
    public function __construct(
        public string $id,
        public string $title,
        public string $words,
        public array $view,
        /** Where it stands among the others. */ public float $place = 0.0,
    ) {
    }

    /** @throws NotUnderstood */
    public static function read(mixed $record): self
    {
        $id = is_array($record) ? $record['id'] ?? null : null;
        if (! is_array($record) || ! is_string($id) || ! Element::isId($id)) {
            throw NotUnderstood::because('A finding needs an id of up to 40 small letters, digits and hyphens.');
        }
        [$title, $words, $view, $place] = [
            $record['title'] ?? '',
            $record['words'] ?? '',
            $record['view'] ?? null,
            $record['place'] ?? 0.0,
        ];
        if (! is_string($title) || trim($title) === '' || mb_strlen($title) > Name::LONGEST) {
            throw NotUnderstood::because('Give the finding a title of at most '.Name::LONGEST.' characters.');
        }
        if (! is_string($words) || mb_strlen($words) > self::LONGEST) {
            throw NotUnderstood::because('The words of a finding are at most '.number_format(self::LONGEST).' characters.');
        }
        if (! is_array($view) || ! in_array($view['kind'] ?? null, self::KINDS, true)) {
            throw NotUnderstood::because('A finding shows one of '.implode(', ', self::KINDS).'.');
        }
        $json = json_encode($view, JSON_PARTIAL_OUTPUT_ON_ERROR, 12);
        if ($json === false || strlen($json) > self::LARGEST_VIEW) {
            throw NotUnderstood::because('This view is too large to be kept as a finding. Show fewer variables or runs.');
        }
        if (! is_int($place) && ! is_float($place)) {
            throw NotUnderstood::because('The place of a finding among the others is a number.');
        }

        return new self(
            $id,
            trim($title),
            $words,
            array_combine(array_map(strval(...), array_keys($view)), array_values($view)),
            (float) $place,
        );
    }

    public function unfit(Model $model): ?string
    {
        return null;
    }

    public function toRecord(): array
    {
        return ['id' => $this->id, 'title' => $this->title, 'words' => $this->words, 'view' => $this->view, 'place' => $this->place];
    }
}
