<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Edit;

use MerryOrbit\Core\Model\Model;

/** Units of the study that mean the same, each line such as `person = people = islander`. */
final readonly class SetSameUnits extends Edit
{
    private const MOST = 200;

    /** @param  list<string>  $lines */
    public function __construct(public array $lines)
    {
    }

    public function apply(Model $model): Model
    {
        return $model->with(['sameUnits' => self::fit($this->lines)]);
    }

    public function words(Model $before): string
    {
        return 'Units that mean the same: '.($this->lines === [] ? 'none' : implode('; ', $this->lines));
    }

    /**
     * @param  list<string>  $lines
     * @return list<string>
     *
     * @throws EditRefused
     */
    public static function fit(array $lines): array
    {
        $lines = array_values(array_filter(array_map(trim(...), $lines), static fn (string $l): bool => $l !== ''));
        if (count($lines) > self::MOST) {
            throw EditRefused::because('units.many', 'At most '.self::MOST.' lines of equal units fit.', 'sameUnits');
        }
        foreach ($lines as $line) {
            $names = array_map(trim(...), explode('=', $line));
            if (count($names) < 2 || in_array('', $names, true) || mb_strlen($line) > 400) {
                throw EditRefused::because(
                    'units.line',
                    "Write units that mean the same with `=` between them, such as `person = people`; here stands `$line`.",
                    'sameUnits',
                );
            }
        }

        return $lines;
    }
}
