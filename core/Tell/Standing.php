<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Tell;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Experiment\Trial;
use MerryOrbit\Core\Law\Distribution;
use MerryOrbit\Core\Law\Portrait;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\Loop;
use MerryOrbit\Core\Map\Loops;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Model\Finding;
use MerryOrbit\Core\Model\LoopName;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Showcase;
use MerryOrbit\Core\Model\UncertainInput;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Report\MapSvg;
use MerryOrbit\Core\Report\Paper;
use MerryOrbit\Core\Report\Results;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * What of a page for readers stays as it is, whatever is moved: the causal map, its loops, findings, and how likely values are.
 *
 * @phpstan-type Picture array{svg: string, alt: string, caption: string}
 * @phpstan-type Told array{name: string, sign: string, sentences: list<string>}
 * @phpstan-type Stands array{title?: string, words?: string, pictures?: list<Picture>, loops?: list<Told>}
 *
 * @phpstan-import-type Block from Showcase
 * @phpstan-import-type Input from Showcase
 */
final readonly class Standing
{
    /** Loops of one block. */
    private const LOOPS = 6;

    public function __construct(private Simulator $simulator, private Model $model)
    {
    }

    /**
     * @param  Block  $block
     * @return Stands|null null of a block that follows what is moved
     */
    public function of(array $block): ?array
    {
        return match ($block['kind']) {
            'map' => $this->map(),
            'loops' => $this->loops($block['of']),
            'finding' => $this->finding($block['finding']),
            default => null,
        };
    }

    /**
     * @param  Input  $input
     * @return array{law: string, density: list<array{float, float}>, low: float, middle: float, high: float}|null how likely its values are
     */
    public function likely(array $input): ?array
    {
        foreach ($input['likely'] ? $this->model->part('uncertain') : [] as $one) {
            if ($one instanceof UncertainInput && $one->of === $input['of'] && $one->at === []) {
                try {
                    $law = Distribution::read($one->law);
                } catch (NotUnderstood) {
                    return null;
                }

                return [
                    'law' => $law->written,
                    'density' => Portrait::of($law)->density(),
                    'low' => $law->quantile(0.05),
                    'middle' => $law->quantile(0.5),
                    'high' => $law->quantile(0.95),
                ];
            }
        }

        return null;
    }

    /** @return Stands */
    private function map(): array
    {
        $svg = MapSvg::of($this->model);
        $count = count($this->model->part('causalLinks'));

        return [
            'pictures' => $svg === null ? [] : [['svg' => $svg, 'alt' => "A causal map with $count links.", 'caption' => self::KEY]],
        ];
    }

    private const KEY = '+ acts the same way, − the other way round; two strokes across a link say that it takes long.';

    /**
     * @param  list<string>  $through
     * @return Stands
     */
    private function loops(array $through): array
    {
        $graph =
            $this->model->part('causalLinks') === []
                ? CausalGraph::ofModel(Analyser::analyse($this->model))
                : CausalGraph::ofMap($this->model);
        $called = [];
        foreach ($this->model->part('loopNames') as $one) {
            $called += $one instanceof LoopName ? [LoopName::keyOf(...$one->path) => $one->name] : [];
        }
        $sentences = new Sentences($graph);
        $loops = array_filter(Loops::of($graph)->loops, static fn (Loop $l): bool => array_diff($through, $l->path) === []);

        return [
            'loops' => array_map(
                static fn (Loop $l): array => [
                    'name' => $called[LoopName::keyOf(...$l->path)] ?? '',
                    'sign' => $l->sign,
                    'sentences' => $sentences->ofLoop($l),
                ],
                array_slice(array_values($loops), 0, self::LOOPS),
            ),
        ];
    }

    /** @return Stands */
    private function finding(string $id): array
    {
        $finding = $this->model->findings[$id] ?? null;
        if (! ($finding instanceof Finding)) {
            return [];
        }
        $paper = new Paper('', '');
        try {
            $trial = Trial::of($this->model);
            (new Results($this->simulator, $trial->analysis, $trial, null, ''))->picture($paper, $finding);
        } catch (RunRefused) {
            // The words stay.
        }
        $pictures = [];
        foreach ($paper->pieces as $piece) {
            if ($piece['kind'] === 'picture') {
                $caption = (string) preg_replace('/^Picture \d+\. /', '', $piece['caption']);
                $pictures[] = ['svg' => $piece['svg'], 'alt' => $piece['alt'], 'caption' => $caption];
            }
        }

        return ['title' => $finding->title, 'words' => $finding->words, 'pictures' => $pictures];
    }
}
