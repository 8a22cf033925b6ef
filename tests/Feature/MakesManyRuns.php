<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\EnsemblePart;
use App\Models\ModelDocument;
use App\Models\User;
use App\Runs\Results;
use App\Studies\StudyMaker;
use Illuminate\Database\Eloquent\Builder;
use MerryOrbit\Core\Model\Method;
use MerryOrbit\Core\Model\TimeSettings;
use Tests\Core\Build;

/** Asks for many runs through the API, of a model whose laws are known. */
trait MakesManyRuns
{
    /** A tank that drains at a rate of mean 1: at time 4 it holds 10 − 4 · rate. */
    private function tank(): ModelDocument
    {
        $model = Build::model(
            ['rate' => '1', 'other' => '2'],
            ['tank' => '10'],
            ['drain' => ['rate', 'from' => 'tank']],
            ['both' => 'rate * other'],
            new TimeSettings(0, 4, 0.5, 'year', Method::Euler),
        );
        $document = StudyMaker::make(User::demoAnalyst(), $model)->load('model')->model;
        $this->say($document, 'uncertain', 'u1', ['of' => 'rate', 'law' => 'normal(1, 0.2)']);

        return $document;
    }

    /** @param  array<string, mixed>  $fields */
    private function say(ModelDocument $model, string $part, string $id, array $fields): void
    {
        $this->edit($model, ['kind' => 'put', 'part' => $part, 'id' => $id, 'fields' => $fields])->assertOk();
    }

    /**
     * @param  array<string, mixed>  $asked
     * @return array<string, mixed> the first ensemble
     */
    private function run0(ModelDocument $model, array $asked = []): array
    {
        /** @var list<array<string, mixed>> $made */
        $made = $this->postJson("/api/models/$model->id/ensembles", $asked)
            ->assertCreated()
            ->json('ensembles');

        return $made[0];
    }

    /** @return array<string, mixed> */
    private function told(ModelDocument $model, mixed $id, string $what): array
    {
        self::assertIsString($id);

        /** @var array<string, mixed> $told */
        $told = $this->getJson("/api/models/$model->id/ensembles/$id$what")
            ->assertOk()
            ->json();

        return $told;
    }

    /** A tank whose runs take long enough to be killed in. */
    private function slow(): ModelDocument
    {
        $model = $this->tank();
        $this->edit($model, [
            'kind' => 'time',
            'start' => 0,
            'end' => 4,
            'step' => 0.0005,
            'unit' => 'year',
            'method' => 'euler',
            'saveEvery' => 0.5,
        ])->assertOk();

        return $model;
    }

    /** @return array<string, string> of each file of results, what is in it */
    private function files(): array
    {
        $files = [];
        foreach (Results::disk()->allFiles('ensembles') as $file) {
            $files[$file] = hash('xxh3', (string) Results::disk()->get($file));
        }
        ksort($files);

        return $files;
    }

    private function made(): int
    {
        return EnsemblePart::query()->where('made', true)->count();
    }

    /** @return Builder<EnsemblePart> */
    private function begun(): Builder
    {
        return EnsemblePart::query()->where('made', false)->where('claimed_by', '<>', '');
    }
}
