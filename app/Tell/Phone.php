<?php

declare(strict_types=1);

namespace App\Tell;

use App\Models\May;
use App\Models\ModelDocument;
use App\Models\Room;
use App\Models\RoomVoice;
use App\Sharing\Access;
use App\Studies\ModelEditor;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\RateLimiter;
use Illuminate\Support\Str;
use Illuminate\Validation\ValidationException;
use MerryOrbit\Core\Edit\Edit;
use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Edit\SayLink;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Map\CausalGraph;
use MerryOrbit\Core\Map\GraphLink;
use MerryOrbit\Core\Map\Sentences;
use MerryOrbit\Core\Model\CausalLink;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Pair;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Model\Question;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;
use Symfony\Component\HttpKernel\Exception\TooManyRequestsHttpException;

/** Somebody in a workshop by their phone: what they see, and what they add in the name of who opened the room. */
final readonly class Phone
{
    public const ROOM = 'X-Merry-Room';

    /** What a phone made up for itself, so that it has one voice. */
    public const HEADER = 'X-Merry-Phone';

    private const FACTORS = 40;

    /** Wrong addresses from one machine in ten minutes. A whole room may stand behind one. */
    private const GUESSES = 60;

    private const WINDOW = 'phones';

    private function __construct(private Room $room, private ModelDocument $document, private string $phone)
    {
    }

    /** @throws NotFoundHttpException where no room is open at this address */
    public static function of(Request $request): self
    {
        $key = 'guesses of rooms from '.$request->ip();
        if (RateLimiter::tooManyAttempts($key, self::GUESSES)) {
            throw new TooManyRequestsHttpException(RateLimiter::availableIn($key));
        }
        $room = Room::byCode(strtolower((string) $request->header(self::ROOM)));
        $phone = (string) $request->header(self::HEADER);
        // As long as who opened it may still change the study.
        if ($room?->model === null || ! Access::ofModel($room->user, $room->model)->includes(May::Edit)) {
            RateLimiter::hit($key, 600);

            throw new NotFoundHttpException();
        }
        if (preg_match('/^[0-9a-f]{32}$/', $phone) !== 1) {
            throw ValidationException::withMessages(['phone' => 'A phone says who it is by 32 hexadecimal digits.']);
        }

        return new self($room, $room->model, hash('sha256', "$room->id $phone"));
    }

    /** @return array<string, mixed> what the phone shows */
    public function shown(): array
    {
        $this->say(RoomVoice::HERE, '', 'yes');
        $model = $this->document->core();
        $mine = $this->room->voices()->where('phone', $this->phone)->get();
        $said = static fn (string $kind): array => $mine->where('kind', $kind)->pluck('says', 'subject')->all();
        $question = null;
        foreach ($model->part('questions') as $one) {
            $question = $one instanceof Question ? $one->text : $question;
        }
        $graph = CausalGraph::ofMap($model);
        $votes = $said(RoomVoice::PAIR);
        $pairs = [];
        foreach ($model->part('pairs') as $pair) {
            if ($pair instanceof Pair) {
                $pairs[] = [
                    'one' => $pair->one,
                    'other' => $pair->other,
                    'words' => $model->nameOf($pair->one).' – '.$model->nameOf($pair->other),
                    'mine' => ($votes[self::pairKey($pair->one, $pair->other)] ?? '') === 'yes',
                ];
            }
        }
        $link = $model->part('causalLinks')[$this->room->about] ?? null;

        return [
            'step' => $this->room->step,
            'question' => $question === null || $question === '' ? $model->name : $question,
            'factors' => array_map(
                static fn (string $name, int|string $id): array => ['id' => (string) $id, 'name' => $name],
                array_values($graph->names),
                array_keys($graph->names),
            ),
            'pairs' => $pairs,
            'link' => $link instanceof CausalLink
                    ? [
                        'id' => $link->id,
                        'sentences' => array_values(
                            array_filter(
                                (new Sentences($graph))->bothWays(
                                    new GraphLink($link->from, $link->to, $link->sign, $link->late, $link->strength),
                                ),
                            ),
                        ),
                        'mine' => $said(RoomVoice::LINK)[$link->id] ?? '',
                    ]
                    : null,
        ];
    }

    /** @return string what is said back, '' where there is nothing to say */
    public function addFactor(string $text): string
    {
        $name = Name::tidy($text);
        if ($name === '') {
            throw ValidationException::withMessages(['text' => 'Write what plays a part.']);
        }
        if ($this->room->voices()->where('phone', $this->phone)->where('kind', RoomVoice::FACTOR)->count() >= self::FACTORS) {
            throw ValidationException::withMessages(['text' => 'That is much from one phone. Tell the others in the room.']);
        }
        if ($this->document->core()->idOf(Name::key($name)) !== null) {
            return "“{$name}” is there already.";
        }
        $this->edit(static fn (): Edit => new SayLink(self::id(), $name, self::id(), '', self::id(), []), [
            'kind' => 'phone',
            'of' => 'factor',
        ]);
        $this->say(RoomVoice::FACTOR, mb_substr($name, 0, 100), 'yes');

        return '';
    }

    public function vote(string $one, string $other, bool $isFor): void
    {
        $model = $this->document->core();
        if ($one === $other || $model->element($one) === null || $model->element($other) === null) {
            throw ValidationException::withMessages(['one' => 'Choose two things that are there.']);
        }
        // One voice for each pair, however often it is pressed.
        if (! $this->say(RoomVoice::PAIR, self::pairKey($one, $other), $isFor ? 'yes' : '')) {
            return;
        }
        try {
            $this->edit(
                static function (ModelDocument $row) use ($one, $other, $isFor): Edit {
                    $known = self::pairOf($row->core(), $one, $other);

                    return new PutPart(Parts::all()['pairs'], $known->id ?? self::id(), [
                        'one' => $known->one ?? $one,
                        'other' => $known->other ?? $other,
                        'votes' => max(0, ($known->votes ?? 0) + ($isFor ? 1 : -1)),
                    ]);
                },
                ['kind' => 'phone', 'of' => 'pair'],
            );
        } catch (\Throwable $e) {
            // What was not done was not said.
            $this->say(RoomVoice::PAIR, self::pairKey($one, $other), $isFor ? '' : 'yes');

            throw $e;
        }
    }

    /** @param  'agree'|'disagree'|''  $says */
    public function judge(string $link, string $says): void
    {
        if (! isset($this->document->core()->part('causalLinks')[$link])) {
            throw ValidationException::withMessages(['link' => 'This link is not there any more.']);
        }
        $this->say(RoomVoice::LINK, $link, $says);
    }

    /** @return bool whether that is another thing than it said before */
    private function say(string $kind, string $subject, string $says): bool
    {
        $voice = $this->room->voices()->firstOrNew(['phone' => $this->phone, 'kind' => $kind, 'subject' => $subject]);
        $isNew = ($voice->exists ? $voice->says : '') !== $says;
        if ($isNew) {
            $voice->says = $says;
            $voice->save();
        } elseif ($kind === RoomVoice::HERE && $voice->exists && $voice->updated_at?->lt(now()->subSeconds(20)) === true) {
            $voice->touch();
        }

        return $isNew;
    }

    /**
     * @param  \Closure(ModelDocument): Edit  $edit
     * @param  array<string, mixed>  $body
     */
    private function edit(\Closure $edit, array $body): void
    {
        (new ModelEditor($this->document, $this->room->user, self::WINDOW))->make($edit, (string) Str::uuid(), $body);
    }

    private static function pairOf(Model $model, string $one, string $other): ?Pair
    {
        foreach ($model->part('pairs') as $pair) {
            if ($pair instanceof Pair && $pair->isOf($one, $other)) {
                return $pair;
            }
        }

        return null;
    }

    private static function pairKey(string $one, string $other): string
    {
        return implode(' ', [min($one, $other), max($one, $other)]);
    }

    private static function id(): string
    {
        // An id begins with a letter.
        return 'p'.bin2hex(random_bytes(6));
    }
}
