<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Cli;

use MerryOrbit\Core\Analysis\Analysis;
use MerryOrbit\Core\Fit\Freed;
use MerryOrbit\Core\Fit\Over;
use MerryOrbit\Core\Fit\Policy;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Setting;
use MerryOrbit\Core\Problem\NotUnderstood;
use MerryOrbit\Core\Reduce\Outcome;
use MerryOrbit\Core\Reduce\Processes;
use MerryOrbit\Core\Simulate\Simulator;
use MerryOrbit\Core\Uncertain\Design;
use MerryOrbit\Core\Uncertain\EnsemblePlan;

/** The best policy, as the command line asks for it. */
final class OptimiseCommand implements Reporting
{
    public const TAKES = ['maximise', 'minimise', 'choose', 'within', 'uncertain', 'over', 'runs', 'jobs', 'policy'];

    private const MOST_RUNS = 100_000;

    private readonly Outcome $outcome;

    private readonly bool $isMost;

    /** @var non-empty-list<Freed> */
    private readonly array $chosen;

    /** @var list<array{Outcome, bool, float}> */
    private readonly array $limits;

    private readonly ?EnsemblePlan $plan;

    private readonly Over $over;

    private bool $isFailed = false;

    /** @throws UsageError|NotUnderstood */
    public function __construct(private readonly Arguments $arguments, Analysis $analysis, private readonly Setting $setting)
    {
        [$most, $least] = [$arguments->all('maximise'), $arguments->all('minimise')];
        if (count($most) + count($least) !== 1) {
            throw new UsageError('Say what is to be large or small, one of them: --maximise=OUTCOME or --minimise=OUTCOME.');
        }
        $this->isMost = $most !== [];
        $this->outcome = Outcome::read([...$most, ...$least][0], $analysis);
        $chosen = FitQuestion::freedOf($arguments, 'choose', $analysis, $setting);
        $this->chosen = $chosen === [] ? throw new UsageError('Say what can be chosen: --choose "NAME=low..high".') : $chosen;
        $this->limits = array_map(
            static fn (string $said): array => preg_match('/^(.+?)\s*(<=|>=)\s*(\S+)\s*$/Ds', $said, $m) === 1 && is_numeric($m[3])
                ? [Outcome::read(trim($m[1]), $analysis), $m[2] === '<=', (float) $m[3]]
                : throw new UsageError("--within takes an outcome and its limit, as in --within \"kelp:min>=10\", not `$said`."),
            $arguments->all('within'),
        );
        $over = $arguments->last('over');
        $isUncertain = $arguments->all('uncertain') !== [];
        if ($over !== null && ! $isUncertain) {
            throw new UsageError('--over is about runs that differ: say what is uncertain, --uncertain "NAME=normal(3.5, 1.3)".');
        }
        $this->over = Over::from(Requested::oneOf($over ?? 'mean', array_column(Over::cases(), 'value'), '--over'));
        $runs = (int) ($arguments->number('runs') ?? 200);
        if ($runs < 1 || $runs > self::MOST_RUNS) {
            throw new UsageError('--runs is a whole number from 1 to '.number_format(self::MOST_RUNS).'.');
        }
        $this->plan = $isUncertain
            ? new EnsemblePlan(
                UncertainInputs::said($arguments, $analysis)->laws,
                [],
                'latin',
                Design::blocks($runs),
                (int) ($arguments->number('seed') ?? 1),
            )
            : null;
    }

    public function document(Simulator $simulator, Model $model): array
    {
        $policy = Policy::of(
            $simulator,
            $model,
            $this->setting,
            [[$this->outcome, 1.0]],
            $this->isMost,
            $this->chosen,
            $this->limits,
            $this->plan,
            $this->over,
            max(1, (int) ($this->arguments->number('jobs') ?? Processes::cores())),
        );
        $best = $policy->best((int) ($this->arguments->number('seed') ?? 1));
        $this->isFailed = is_nan($best['value']);
        $names = array_column($this->chosen, 'name');

        return [
            'value' => $this->isFailed ? null : $best['value'],
            'choice' => (object) array_combine($names, $best['choice']),
            'evaluations' => $policy->evaluations(),
            'base' => $best['base'],
            'near' => (object) array_combine($names, $best['near']),
            'holds' => $best['isFeasible'],
            'remarks' => $this->remarks($best['choice'], $best['isFeasible']),
        ];
    }

    /**
     * @param  list<float>  $choice
     * @return list<string>
     */
    private function remarks(array $choice, bool $isFeasible): array
    {
        $told = $isFeasible || $this->isFailed ? [] : ['No choice between these bounds keeps all limits; this one breaks them least.'];
        foreach ($this->chosen as $j => $f) {
            if ($f->isAtBound($choice[$j])) {
                $told[] = "`$f->name` is at its bound.";
            }
        }

        return $told;
    }

    public function isFailed(): bool
    {
        return $this->isFailed;
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public function lines(array $document): \Generator
    {
        $over = $this->plan === null ? '' : " ({$this->over->value} of {$this->plan->runs()} runs)";

        return self::shown($this->outcome->written.$over, $document);
    }

    /**
     * @param  array<string, mixed>  $document
     * @return \Generator<int, string>
     */
    public static function shown(string $what, array $document): \Generator
    {
        $n = static fn (mixed $v): string => is_float($v) || is_int($v) ? sprintf('%.7g', $v) : '–';
        yield "$what: {$n($document['value'])}, before {$n($document['base'])}; {$n($document['evaluations'])} runs\n";
        $near = (array) $document['near'];
        foreach ((array) $document['choice'] as $name => $value) {
            $span = is_array($near[$name] ?? null) ? $near[$name] : [];
            yield "  $name: {$n($value)}, nearly as good from {$n($span[0] ?? null)} to {$n($span[1] ?? null)}\n";
        }
        /** @var list<string> $remarks */
        $remarks = $document['remarks'];
        foreach ($remarks as $remark) {
            yield "$remark\n";
        }
    }
}
