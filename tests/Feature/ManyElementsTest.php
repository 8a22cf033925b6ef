<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\ModelDocument;
use App\Models\User;
use App\Studies\StudyMaker;
use MerryOrbit\Core\Exchange\NativeFile;

/** A study whose things have two thousand elements: what is asked for is sent, and not all of them because one is shown. */
final class ManyElementsTest extends TestCase
{
    private const BOATS = 2_000;

    private function fleet(): ModelDocument
    {
        $line = static fn (string $kind, string $name, string $formula, array $more = []): array => [
            'kind' => $kind,
            'name' => $name,
            'formula' => $formula,
            ...$more,
        ];
        $file = [
            'format' => NativeFile::FORMAT,
            'version' => NativeFile::VERSION,
            'name' => 'Fleet',
            'dimensions' => [['name' => 'boat', 'elements' => array_map(static fn (int $i): string => "b$i", range(1, self::BOATS))]],
            'elements' => [
                $line('parameter', 'care', '0.1', ['dimensions' => ['boat']]),
                $line('stock', 'rust', 'position(boat)', ['dimensions' => ['boat']]),
                $line('flow', 'mending', 'rust * care', ['from' => 'rust']),
                $line('auxiliary', 'worst', 'greatest(rust)'),
            ],
            'tables' => [['id' => 't', 'of' => 'care', 'values' => [[['b7'], 0.5]]]],
            'time' => ['start' => 0, 'end' => 10, 'step' => 1, 'unit' => 'year', 'method' => 'euler'],
        ];

        return StudyMaker::make(
            User::demoAnalyst(),
            NativeFile::import(json_encode($file, JSON_THROW_ON_ERROR | JSON_PRESERVE_ZERO_FRACTION))->model,
        )->load('model')->model;
    }

    /**
     * @param  array<string, mixed>  $question
     * @return array{array<string, mixed>, array<string, list<float>>} header, and columns by key
     */
    private function answered(ModelDocument $model, array $question): array
    {
        $message = (string) $this->postJson("/api/models/$model->id/runs", $question)
            ->assertOk()
            ->getContent();
        /** @var array{1: int} $size */
        $size = unpack('V', $message);
        /** @var array{length: int<0, max>, columns: list<string>} $header */
        $header = json_decode(substr($message, 4, $size[1]), true, flags: JSON_THROW_ON_ERROR);
        $columns = [];
        foreach ($header['length'] < 1 ? [] : str_split(substr($message, 4 + $size[1]), 8 * $header['length']) as $i => $bytes) {
            $columns[$i === 0 ? 'time' : $header['columns'][$i - 1]] = array_map(floatval(...), array_values(unpack('e*', $bytes) ?: []));
        }

        return [$header, $columns];
    }

    public function test_what_is_asked_for_is_sent(): void
    {
        $model = $this->fleet();
        $id = static fn (string $name): string => (string) $model->core()->idOf($name);
        [$rust, $care] = [$id('rust'), $id('care')];
        $along = ["{$rust}[b1999]", "{$rust}[*sum]", "{$care}[b7]", "{$rust}[nobody]"];
        [$header, $columns] = $this->answered($model, ['only' => [$rust, $id('worst')], 'along' => $along]);
        self::assertCount(1 + 12 + 1 + 2, $columns, 'the time, the first twelve, the worst and what is asked for besides');
        self::assertEqualsWithDelta(1999 * 0.9 ** 10, $columns["{$rust}[b1999]"][10], 1e-9);
        self::assertEqualsWithDelta((self::BOATS * (self::BOATS + 1)) / 2, $columns["{$rust}[*sum]"][0], 1e-6);
        self::assertSame(2000.0, $columns[$id('worst')][0]);
        /** @var array<string, float> $steady */
        $steady = $header['steady'];
        self::assertSame(0.5, $steady["{$care}[b7]"]);
        self::assertLessThan(30, count($steady));
        self::assertSame(["{$rust}[nobody]"], array_keys((array) $header['untold']));
    }

    public function test_the_greatest_and_least_are_told_and_effects_of_the_element_that_is_looked_at(): void
    {
        $model = $this->fleet();
        $id = static fn (string $name): string => (string) $model->core()->idOf($name);
        $rust = $id('rust');
        $ranked = fn (array $question) => $this->postJson("/api/models/$model->id/elements/$rust/ranked", $question);
        $ranked(['pick' => 'greatest', 'most' => 2])
            ->assertOk()
            ->assertExactJson(['keys' => ["{$rust}[b2000]", "{$rust}[b1999]"]]);
        $ranked(['pick' => 'least', 'most' => 2])
            ->assertOk()
            ->assertExactJson(['keys' => ["{$rust}[b7]", "{$rust}[b1]"]]);
        $ranked(['pick' => 'middle'])->assertUnprocessable();
        $boat = $model->core()->dimensions()->find('boat')->id ?? '';
        $effects = $this->postJson("/api/models/$model->id/effects", ['at' => 0, 'look' => [$boat => 'b7']])->assertOk();
        self::assertEqualsWithDelta(0.5, $effects->json('at.'.$rust.'>'.$id('mending').'.effect'), 1e-6);
        self::assertNull($this->postJson("/api/models/$model->id/effects", ['at' => 0])->json('at.'.$rust.'>'.$id('mending')));
    }

    public function test_a_hand_holds_one_element(): void
    {
        $model = $this->fleet();
        $rust = (string) $model->core()->idOf('rust');
        $care = (string) $model->core()->idOf('care');
        $setting = [
            'grips' => ["{$care}[b3]" => ['signal' => 'constant', 'values' => ['value' => 1]]],
            'parameters' => ["{$care}[b4]" => 0],
        ];
        [, $columns] = $this->answered($model, ['run' => ['setting' => $setting], 'only' => [$rust]]);
        self::assertSame([0.0, 4.0], [$columns["{$rust}[b3]"][1], $columns["{$rust}[b4]"][10]]);
        self::assertEqualsWithDelta(5 * 0.9 ** 10, $columns["{$rust}[b5]"][10], 1e-12);
    }

    /** A fault of one boat is told with its name and its inputs. */
    public function test_a_fault_is_told_of_its_element(): void
    {
        $model = $this->fleet();
        $this->edit($model, [
            'kind' => 'formula',
            'id' => $model->core()->idOf('mending'),
            'text' => 'care / (position(boat) - 1234)',
        ])->assertOk();
        [$header] = $this->answered($model, []);
        /** @var array{sentence: string} $fault */
        $fault = $header['fault'];
        self::assertStringContainsString('`mending[b1234]` meets a division by zero', $fault['sentence']);
    }
}
