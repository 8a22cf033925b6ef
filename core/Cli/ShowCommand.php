<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Problem\Shown;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Tell\Showing;

/** What a page for readers shows at a step, for what its inputs are moved to: the same that readers see, and within the same bounds. */
final readonly class ShowCommand
{
    public const TAKES = ['page', 'at-step', 'move', 'format'];

    private Showcase $page;

    private string $step;

    /** @throws UsageError */
    public function __construct(private Model $model, private Arguments $arguments)
    {
        $pages = array_filter($model->part('showcases'), static fn (mixed $p): bool => $p instanceof Showcase);
        $wanted = $arguments->last('page');
        $page = $wanted === null ? reset($pages) : $pages[$wanted] ?? false;
        if ($page === false) {
            throw new UsageError(
                $pages === []
                    ? 'The study has no page for readers.'
                    : "There is no page `$wanted`; there are ".implode(', ', array_keys($pages)).'.',
            );
        }
        $this->page = $page;
        $this->step = $arguments->last('at-step') ?? '';
        if ($this->step !== '' && ! in_array($this->step, array_column($page->steps, 'id'), true)) {
            throw new UsageError("The page has no step `$this->step`; it has ".implode(', ', array_column($page->steps, 'id')).'.');
        }
    }

    /**
     * @return array<string, mixed> `step`, `inputs` as they were taken, `author`, `times`, and what each block shows
     *
     * @throws NotUnderstood|UsageError
     */
    public function document(Simulator $simulator): array
    {
        $moved = [];
        foreach ($this->arguments->all('move') as $move) {
            [$id, $value] = [...explode('=', $move, 2), ''];
            if (! is_numeric(trim($value))) {
                throw new UsageError("--move takes the id of an input and a number, as price=60, not `$move`.");
            }
            if (! in_array(trim($id), array_column($this->page->inputsOf($this->step), 'id'), true)) {
                $known = implode(', ', array_column($this->page->inputsOf($this->step), 'id'));
                throw new UsageError('The step has no input `'.trim($id)."`; it has $known.");
            }
            $moved[trim($id)] = (float) trim($value);
        }

        return [
            'page' => $this->page->id,
            'title' => $this->page->title,
            ...(new Showing($simulator, $this->model, $this->page))->of($this->step, $moved),
        ];
    }

    /**
     * The inputs as they were taken, and the texts with their numbers.
     *
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public function lines(array $document): \Generator
    {
        yield "{$this->page->title}\n";
        /** @var array<string, float> $inputs */
        $inputs = $document['inputs'];
        foreach ($this->page->inputsOf($this->step) as $input) {
            yield "  {$input['words']}: ".Shown::number($inputs[$input['id']])."\n";
        }
        /** @var array<string, array<string, mixed>> $blocks */
        $blocks = $document['blocks'];
        foreach ($this->page->blocksOf($this->step) as $block) {
            if ($block['kind'] === 'text') {
                $words = $block['words'];
                foreach ((array) ($blocks[$block['id']]['numbers'] ?? []) as $id => $told) {
                    $value = is_array($told) && is_float($told['value'] ?? null) ? Shown::brief($told['value']) : 'no number';
                    $words = strtr($words, ['{'.$id.'}' => $value]);
                }
                yield "$words\n";
            }
        }
    }
}
