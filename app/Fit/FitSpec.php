<?php

declare(strict_types=1);

namespace App\Fit;

use App\Runs\Results;
use MerryOrbit\Core\Fit\PlannedFit;
use MerryOrbit\Core\Fit\PlannedPolicy;
use MerryOrbit\Core\Model\FitPlan;
use MerryOrbit\Core\Model\PolicyPlan;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Simulate\RunRefused;
use MerryOrbit\Core\Simulate\Simulator;

/**
 * All that decides what a fit comes to, and what can be told of it without its model.
 *
 * @phpstan-type Moving array{key: string, of: string, name: string, unit: string, value: float, low: float, high: float, log: bool}
 * @phpstan-type Told array{numbers: list<Moving>, points: int, series: int, held: int, before: ?float, known: bool, unit: string,
 *     meaning: string}
 */
final readonly class FitSpec
{
    /**
     * @param  string  $document  blob of the model
     * @param  array<string, mixed>  $setting  as Setting::toRecord() gives it
     * @param  array<string, mixed>  $plan  as FitPlan::toRecord() gives it
     * @param  Told  $told  the numbers that move; how many measured values count, in how many series, and how many are held back; how far
     *   off the model was before; whether the sizes of all errors are known; of a policy the unit of what is sought; and what all of that follows from: where it is
     *   another, another thing comes out
     */
    public function __construct(public string $document, public array $setting, public array $plan, public array $told)
    {
    }

    public static function read(string $text): self
    {
        /** @var array{document: string, setting: array<string, mixed>, plan: array<string, mixed>, told: Told} $record */
        $record = json_decode($text, true, flags: JSON_THROW_ON_ERROR);

        return new self($record['document'], $record['setting'], $record['plan'], $record['told']);
    }

    public function written(): string
    {
        return json_encode((array) $this, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_PRESERVE_ZERO_FRACTION);
    }

    public function isPolicy(): bool
    {
        return array_key_exists('choose', $this->plan);
    }

    /**
     * @param  int  $jobs  processes
     *
     * @throws NotUnderstood|RunRefused
     */
    public function policy(Simulator $simulator, int $jobs = 1): PlannedPolicy
    {
        return PlannedPolicy::of(
            $simulator,
            Results::model($this->document),
            Setting::read($this->setting),
            PolicyPlan::read($this->plan),
            $jobs,
        );
    }

    /** @throws NotUnderstood|RunRefused */
    public function planned(Simulator $simulator): PlannedFit
    {
        return PlannedFit::of($simulator, Results::model($this->document), Setting::read($this->setting), FitPlan::read($this->plan));
    }
}
