<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Simulate;

use MerryOrbit\Core\Formula\Node\Binary;
use MerryOrbit\Core\Formula\Node\Call;
use MerryOrbit\Core\Formula\Node\CurveCall;
use MerryOrbit\Core\Formula\Node\Node;
use MerryOrbit\Core\Formula\Node\NumberLiteral;
use MerryOrbit\Core\Formula\Node\QuantityUse;
use MerryOrbit\Core\Formula\Operator;
use MerryOrbit\Core\Formula\Quantity;
use MerryOrbit\Core\Library\EvaluationError;
use MerryOrbit\Core\Library\Evaluator;
use MerryOrbit\Core\Library\Moment;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\TimeSettings;
use MerryOrbit\Core\Plan\Equation;
use MerryOrbit\Core\Plan\Plan;
use MerryOrbit\Core\Plan\State;
use MerryOrbit\Core\Problem\Shown;

/** Puts into words what happened in a run, and finds the events and delays that its steps are too long for. */
final readonly class Notices
{
    /** So many corners of courses are stopped at; with more, every step of the grid is. */
    private const MOST_CORNERS = 20_000;

    /** @param  array<string, float>  $steady  values that stay the same, by key */
    public function __construct(private Model $model, private Plan $plan, private TimeSettings $time, private array $steady)
    {
    }

    /**
     * @param  list<array{string, string}>  $watched  kind and subject
     * @param  array<int, float>  $first  times
     * @param  array<string, float>  $counts  steps in which a flow was cut
     * @return list<Notice>
     */
    public function all(array $watched, array $first, array $counts, int $steps): array
    {
        $notices = [];
        foreach ($watched as $w => [$kind, $subject]) {
            $when = $first[$w] ?? INF;
            // What is drawn by hand is held beyond its ends, as meant.
            if ($when < INF && ! $this->plan->keys->isHidden($subject)) {
                $notices[] = $this->watched($kind, $subject, $when, $counts[$subject] ?? 0.0, $steps);
            }
        }

        return [...$notices, ...$this->betweenSteps(), ...$this->shortDelays()];
    }

    private function watched(string $kind, string $subject, float $when, float $count, int $steps): Notice
    {
        $name = $this->plan->keys->nameOf($subject, $this->model);
        $owner = $this->plan->keys->owner($subject);
        $at = "at {$this->time->unit} ".Shown::number($when);
        $curve = $this->plan->curves[$subject] ?? $this->model->element($owner);
        if ($curve instanceof Relation) {
            $range = 'from '.Shown::number($curve->points[0][0]).' to '.Shown::number($curve->points[count($curve->points) - 1][0]);

            return new Notice(
                'curve.left',
                $owner,
                $when,
                $curve instanceof Series
                    ? "The run goes beyond the data of the series `$name`, which reach $range, first $at; it is {$curve->beyond->value} there."
                    : "The input of the curve `$name` left its range $range, first $at; the curve is {$curve->beyond->value} there. Give it more points if that matters.",
            );
        }
        if ($kind === 'one-way') {
            return new Notice(
                'flow.one-way',
                $owner,
                $when,
                "`$name` would have flowed backward, first $at; as it is one-way, nothing flowed.",
            );
        }
        $often = $count > 0.0 ? ', in '.number_format($count).' of '.number_format($steps).' steps' : '';
        $advice =
            $count > 0.1 * $steps
                ? ' A limit that acts often is a missing feedback: let the flow itself depend on how much there is.'
                : '';

        return new Notice('flow.limited', $owner, $when, "`$name` was cut to what was there, first $at$often.$advice");
    }

    /** @return list<Notice> */
    private function betweenSteps(): array
    {
        $notices = [];
        foreach ($this->plan->equations as $equation) {
            foreach ($this->eventTimes($equation->node) ?? [] as $when) {
                $steps = ($when - $this->time->start) / $this->time->step;
                if (
                    $when > $this->time->start &&
                    $when < $this->time->end &&
                    abs($steps - round($steps)) > max(Moment::TOLERANCE, 1e-12 * abs($steps))
                ) {
                    $name = $this->model->nameOf($equation->owner);
                    $acts = $this->time->timeAt((int) ceil($steps));
                    $notices[$equation->owner] = new Notice(
                        'event.between',
                        $equation->owner,
                        $acts,
                        "An event of `$name` at {$this->time->unit} ".
                            Shown::number($when).
                            ' lies between two steps and acts at the next one, '.
                            Shown::number($acts).
                            '. A time step that divides the times of events evenly avoids this.',
                    );
                    break;
                }
            }
        }

        return array_values($notices);
    }

    /** @return list<Notice> */
    private function shortDelays(): array
    {
        $notices = [];
        foreach ($this->plan->delays as [$owner, $over, $order]) {
            $time = $this->value($over);
            $needed = $order * $this->time->step;
            if ($time !== null && $time < $needed * (1 - 1e-9)) {
                $name = $this->model->nameOf($owner);
                $notices[$owner] = new Notice(
                    'delay.short',
                    $owner,
                    $this->time->start,
                    "A delay in `$name` takes ".
                        Shown::number($time).
                        " {$this->time->unit}, less than its order times the time step (".
                        Shown::number($needed).
                        '). Choose a step of at most '.
                        Shown::number($time / $order).
                        '.',
                );
            }
        }

        return array_values($notices);
    }

    /**
     * The steps of the time grid at which something happens; null if that is not known before.
     *
     * @return list<int>|null
     */
    public function eventSteps(): ?array
    {
        foreach ($this->plan->cells as $cell) {
            if (in_array($cell->kind, ['latch', 'times', 'shift'], true)) {
                return null;
            }
        }
        $steps = [];
        $forced = array_filter(array_map(static fn (State $s): ?Node => $s->forced, array_values($this->plan->states)));
        foreach ([...array_map(static fn (Equation $e): Node => $e->node, array_values($this->plan->equations)), ...$forced] as $node) {
            $times = $this->eventTimes($node);
            if ($times === null) {
                return null;
            }
            foreach ($times as $when) {
                $step = $this->stepOf($when);
                $steps[$step] = true;
                // A pulse lasts one step.
                $steps[$step + 1] = true;
            }
            $corners = $this->corners($node);
            if (count($corners) > self::MOST_CORNERS) {
                return null;
            }
            foreach ($corners as $when) {
                $steps[$this->stepOf($when)] = true;
            }
        }
        $steps = array_keys($steps);
        sort($steps);

        return $steps;
    }

    /** The step of the grid that begins at a time, or after it. */
    private function stepOf(float $when): int
    {
        return (int) ceil(($when - $this->time->start) / $this->time->step - Moment::TOLERANCE);
    }

    /** @return list<float> times at which what is followed over time has a corner: a method with long steps must not pass over it */
    private function corners(Node $node): array
    {
        $own =
            $node instanceof CurveCall && self::isNow($node->argument)
                ? array_column($this->plan->curves[$node->key]->points ?? [], 0)
                : [];
        $within = array_filter($own, fn (float $t): bool => $t > $this->time->start && $t < $this->time->end);

        return array_merge(array_values($within), ...array_map($this->corners(...), $node->parts()));
    }

    /** Whether it is the time of the run, or a hair after it; see Analysis\Assembly. */
    private static function isNow(Node $node): bool
    {
        return match (true) {
            $node instanceof QuantityUse => $node->quantity === Quantity::Time,
            $node instanceof Binary => $node->operator === Operator::Add &&
                self::isNow($node->left) &&
                $node->right instanceof NumberLiteral,
            default => false,
        };
    }

    /** @return list<float>|null times of events; null if they cannot be told in advance */
    private function eventTimes(Node $node): ?array
    {
        $all = [];
        foreach ($node->parts() as $part) {
            $times = $this->eventTimes($part);
            if ($times === null) {
                return null;
            }
            array_push($all, ...$times);
        }
        if ($node instanceof CurveCall && self::isNow($node->argument) && $this->plan->curves[$node->key]->between === Between::Stepped) {
            array_push($all, ...array_slice(array_column($this->plan->curves[$node->key]->points, 0), 1));
        }
        $own =
            $node instanceof Call && in_array($node->function->name, ['step', 'window', 'pulse'], true)
                ? $this->signalTimes($node, $node->function->name)
                : [];

        return $own === null ? null : [...$all, ...$own];
    }

    /** @return list<float>|null */
    private function signalTimes(Call $node, string $name): ?array
    {
        $times = array_map($this->value(...), array_slice($node->arguments, 1, $name === 'pulse' ? 1 : 2));
        if (in_array(null, $times, true)) {
            return null;
        }
        $times = array_values(array_filter($times, is_float(...)));
        $repeated = $node->arguments[$name === 'pulse' ? 2 : 3] ?? null;
        if ($repeated !== null && $name !== 'step') {
            $every = $this->value($repeated);
            $until = $name === 'pulse' && isset($node->arguments[3]) ? $this->value($node->arguments[3]) : $this->time->end;
            if ($every === null || $until === null || $every <= 0.0 || ($until - $times[0]) / $every > 10_000) {
                return null;
            }
            foreach ($times as $first) {
                for ($k = 1; min($until, $this->time->end) > $first + $k * $every; $k++) {
                    $times[] = $first + $k * $every;
                }
            }
        }

        return $times;
    }

    /** The value of what stays the same during a run; null for what does not. */
    private function value(Node $node): ?float
    {
        foreach (Plan::keys($node) as $key) {
            if (! isset($this->steady[$key])) {
                return null;
            }
        }
        if (! \MerryOrbit\Core\Plan\Planner::isTimeless($node)) {
            return null;
        }
        try {
            return (new Evaluator($this->steady, new Moment($this->time), $this->plan->curves))->value($node);
        } catch (EvaluationError) {
            return null;
        }
    }
}
