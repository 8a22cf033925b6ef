<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Models\ModelDocument;
use App\Runs\Engine;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Model\Expectation;
use MerryOrbit\Core\Uncertain\Expectations;
use MerryOrbit\Core\Uncertain\ExpectationWords;
use MerryOrbit\Core\Uncertain\Extremes;

/** What a model is expected to satisfy, and whether it does. */
final class ExpectationController
{
    /** So many are tried at once that are not part of the study. */
    private const MOST = 200;

    /** Seconds for what is expected of many runs: it is checked again after every change. */
    private const SECONDS = 20.0;

    /** All of the study. */
    public function index(ModelDocument $model): JsonResponse
    {
        $all = array_filter($model->core()->part('expectations'), static fn (mixed $e): bool => $e instanceof Expectation && ! $e->off);

        return new JsonResponse(['revision' => $model->revision, 'expectations' => $this->told($model, array_values($all))]);
    }

    /** Some that are still being written, or are proposed. */
    public function tried(Request $request, ModelDocument $model): JsonResponse
    {
        $request->validate(
            ['expectations' => ['required', 'list', 'max:'.self::MOST]],
            ['expectations*' => 'Say which to try: `expectations`, a list of at most '.self::MOST.'.'],
        );
        $core = $model->core();
        $all = [];
        foreach ($request->array('expectations') as $i => $record) {
            $all[] = Expectation::read(is_array($record) ? [...$record, 'id' => "tried-$i"] : $record)->settled($core);
        }

        return new JsonResponse(['revision' => $model->revision, 'expectations' => $this->told($model, $all)]);
    }

    /** Extreme conditions under which every model should make sense. */
    public function proposed(ModelDocument $model): JsonResponse
    {
        $analysis = Analyser::analyse($model->core());

        return new JsonResponse([
            'proposed' => array_map(
                static fn (array $record): array => [
                    'fields' => $record,
                    'sentence' => ExpectationWords::of($analysis, Expectation::read([...$record, 'id' => 'x'])),
                ],
                Extremes::of($analysis),
            ),
        ]);
    }

    /**
     * @param  list<Expectation>  $all
     * @return list<array<string, mixed>>
     */
    private function told(ModelDocument $model, array $all): array
    {
        set_time_limit(config()->integer('merry-orbit.run.seconds'));
        $core = $model->core();
        $analysis = Analyser::analyse($core);
        $by = array_column(array_map(static fn (Expectation $e): array => ['id' => $e->id, 'e' => $e], $all), 'e', 'id');

        $told = Expectations::check(Engine::inRequest(), $core, $all, until: (int) (hrtime(true) + self::SECONDS * 1e9));

        return array_map(static function (array $one) use ($analysis, $by): array {
            $e = $by[$one['id']];
            $setting = Expectations::setting($analysis, $e, $one['worst']);
            unset($one['worst']);

            return [
                ...$one,
                'expected' => ExpectationWords::of($analysis, $e),
                'setting' => $setting === null ? null : (object) $setting->toRecord(),
            ];
        }, $told);
    }
}
