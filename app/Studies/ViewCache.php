<?php

declare(strict_types=1);

namespace App\Studies;

use App\Files\Spare;
use Illuminate\Support\Facades\Cache;
use MerryOrbit\Core\Model\Model;

/** Keeps the views of the last few revisions of a model, for those who follow it: making one of a large model takes a while. */
final readonly class ViewCache
{
    /** Revisions kept of each model. */
    private const PLACES = 4;

    private const SECONDS = 1800;

    public function __construct(private string $model)
    {
    }

    /** @param  callable(): Model  $made  gives the model at that revision, when its view is not kept */
    public function view(int $revision, callable $made): ModelView
    {
        $kept = Cache::get($this->place($revision));
        if (is_array($kept) && ($kept['revision'] ?? null) === $revision && is_array($kept['parts'] ?? null)) {
            /** @var array<string, mixed> $parts */
            $parts = $kept['parts'];

            return new ModelView($parts);
        }
        $view = ModelView::of($made());
        $this->keep($revision, $view);

        return $view;
    }

    public function keep(int $revision, ModelView $view): void
    {
        Spare::keep($this->place($revision), ['revision' => $revision, 'parts' => $view->parts], self::SECONDS);
    }

    /** The number before the model counts what a view consists of: one of older code is made anew. */
    private function place(int $revision): string
    {
        return "view-5 $this->model ".$revision % self::PLACES;
    }
}
