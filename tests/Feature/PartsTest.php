<?php

declare(strict_types=1);

namespace Tests\Feature;

use MerryOrbit\Core\Expand\Expanded;
use MerryOrbit\Core\Expand\Expansions;
use MerryOrbit\Core\Expand\Origin;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Parts;
use Tests\Core\Toy;

/** A part that is declared is stored, told, merged and taken back by what there is. */
final class PartsTest extends TestCase
{
    public function test_two_windows_write_a_declared_part_and_both_are_kept(): void
    {
        $this->describedRequests = false;
        Parts::with(Toy::part(), function (): void {
            $study = $this->study();
            $model = $study->model;
            $put = fn (array $fields, int $base, string $window) => $this->edit(
                $model,
                ['kind' => 'put', 'part' => 'toys', 'id' => 't1', 'fields' => $fields],
                $base,
                $window,
            );
            $put(['name' => 'ball', 'owner' => 'rainfall'], 0, 'one')
                ->assertOk()
                ->assertJsonPath('changed.toys.t1.owner', 'rainfall')
                ->assertJsonPath('undo', 'Added the toy “ball”');
            $put(['size' => 3], 1, 'one')->assertOk();
            $put(['name' => 'balloon'], 1, 'two')
                ->assertOk()
                ->assertJsonPath('changed.toys.t1', ['id' => 't1', 'name' => 'balloon', 'owner' => 'rainfall', 'size' => 3]);
            $put(['size' => 9], 1, 'two')
                ->assertStatus(409)
                ->assertJsonPath('revision', 3);
            $this->getJson("/api/models/$model->id")
                ->assertOk()
                ->assertJsonPath('model.toys.t1.name', 'balloon');
            $this->step($model, 'undo')->assertOk()->assertJsonPath('changed.toys.t1.name', 'ball');
            $this->step($model, 'undo')->assertOk()->assertJsonPath('changed.toys.t1.size', 1);
            $this->getJson("/api/models/$model->id/comparison?from=0")
                ->assertOk()
                ->assertJsonPath('changes.0.name', 'Toy “ball”');
            $file = (string) $this->get("/api/studies/$study->id/file")
                ->assertOk()
                ->getContent();
            $copy = $this->call('POST', '/api/studies/import', content: $file)
                ->assertCreated()
                ->assertJsonPath('log', [])
                ->json('data.model');
            $this->getJson("/api/models/$copy")
                ->assertOk()
                ->assertJsonPath('model.toys.t1.owner', 'rainfall');
            $this->step($model, 'undo')->assertOk()->assertJsonPath('changed.toys', []);
            $put(['owner' => 'nobody'], 6, 'one')
                ->assertUnprocessable()
                ->assertJsonPath('code', 'toy.unfit');
        });
    }

    public function test_what_is_made_of_a_part_has_values_and_leads_back_to_it(): void
    {
        $expand = static function (Expanded $expanded): Expanded {
            foreach ($expanded->model->part('toys') as $toy) {
                $expanded =
                    $toy instanceof Toy
                        ? $expanded->with(new Origin('toys', $toy->id, "the toy “{$toy->name}”"), [
                            new Auxiliary(
                                "toy-$toy->id",
                                "worth of $toy->name",
                                FormulaText::typed($toy->size > 5 ? '1 +' : (string) $toy->size, static fn (): null => null),
                                'crown',
                            ),
                        ])
                        : $expanded;
            }

            return $expanded;
        };
        Parts::with(
            Toy::part(),
            fn () => Expansions::with($expand, function (): void {
                $model = $this->study()->model;
                $put = fn (array $fields) => $this->edit($model, [
                    'kind' => 'put',
                    'part' => 'toys',
                    'id' => 't1',
                    'fields' => $fields,
                ])->assertOk();
                $origin = ['part' => 'toys', 'id' => 't1', 'words' => 'the toy “ball”'];
                $put(['name' => 'ball', 'size' => 3])->assertJsonPath('changed.generated.toy-t1', [
                    'name' => 'worth of ball',
                    'kind' => 'auxiliary',
                    'unit' => 'crown',
                    'origin' => $origin,
                ]);
                $this->edit($model, ['kind' => 'formula', 'id' => 'water-wanted', 'text' => 'worth of ball * 1000'])
                    ->assertOk()
                    ->assertJsonPath('changed.waiting', null);
                $run = (string) $this->postJson("/api/models/$model->id/runs", [])
                    ->assertOk()
                    ->getContent();
                self::assertStringContainsString('"toy-t1":3.0', str_replace('"toy-t1":3,', '"toy-t1":3.0,', $run));
                $problems = $put(['size' => 6])->json('changed.problems');
                self::assertSame(['toy-t1', $origin], [$problems[0]['element'], $problems[0]['origin']]);
                $this->getJson("/api/models/$model->id")
                    ->assertOk()
                    ->assertJsonMissingPath('model.elements.toy-t1');
            }),
        );
    }

    public function test_causal_links_are_part_of_every_study(): void
    {
        $model = $this->study()->model;
        $this->edit($model, [
            'kind' => 'put',
            'part' => 'causalLinks',
            'id' => 'l1',
            'fields' => ['from' => 'rainfall', 'to' => 'wells', 'sign' => '-'],
        ])
            ->assertOk()
            ->assertJsonPath('changed.causalLinks.l1.sign', '-');
        $this->edit($model, ['kind' => 'drop', 'part' => 'causalLinks', 'id' => 'l1'])
            ->assertOk()
            ->assertJsonPath('undo', 'Removed the causal link of `rainfall` and `wells`');
    }
}
