<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Exchange;

use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\SetNote;
use MerryOrbit\Core\Edit\SetUnit;
use MerryOrbit\Core\Formula\FormulaText;
use MerryOrbit\Core\Formula\Name;
use MerryOrbit\Core\Model\Auxiliary;
use MerryOrbit\Core\Model\Between;
use MerryOrbit\Core\Model\Beyond;
use MerryOrbit\Core\Model\Curve;
use MerryOrbit\Core\Model\Element;
use MerryOrbit\Core\Model\Factor;
use MerryOrbit\Core\Model\Flow;
use MerryOrbit\Core\Model\Kind;
use MerryOrbit\Core\Model\Parameter;
use MerryOrbit\Core\Model\Relation;
use MerryOrbit\Core\Model\Series;
use MerryOrbit\Core\Model\Stock;

/** One element of a native file, before its formula and its ends are read. */
final class NativeElement
{
    /**
     * @param  array<string, mixed>  $record
     * @param  string  $where  where it stands in the file, for sentences
     *
     * @throws FileRefused
     */
    public static function read(string $id, string $name, array $record, string $where): Element
    {
        $kind = Kind::tryFrom(NativeFields::text($record, 'kind', $where));
        try {
            $fields = [
                $id,
                $name,
                FormulaText::none(),
                SetUnit::fit(NativeFields::text($record, 'unit', $where)),
                SetNote::fit(NativeFields::text($record, 'note', $where)),
            ];
        } catch (EditRefused $e) {
            throw FileRefused::asModel("In $where: {$e->getMessage()}");
        }

        return match ($kind) {
            Kind::Stock => new Stock(...[...$fields, ($record['neverNegative'] ?? false) === true]),
            Kind::Flow => (new Flow(...$fields))->with([
                'oneWay' => ($record['oneWay'] ?? false) === true,
                'priority' => NativeFields::number($record, 'priority', $where),
            ]),
            Kind::Curve => new Curve(...self::points($fields, $record, $where)),
            Kind::Series => new Series(...self::points($fields, $record, $where)),
            Kind::Auxiliary => new Auxiliary(...$fields),
            Kind::Factor => new Factor(...$fields),
            Kind::Parameter => new Parameter(
                ...[
                    ...$fields,
                    NativeFields::number($record, 'low', $where),
                    NativeFields::number($record, 'high', $where),
                    NativeFields::number($record, 'step', $where),
                    self::choices($record, $where),
                ],
            ),
            null => throw FileRefused::asModel(
                "The kind of $where must be one of ".implode(', ', array_column(Kind::cases(), 'value')).'.',
            ),
        };
    }

    /**
     * @param  array<string, mixed>  $record
     * @return list<array{name: string, value: float}>
     */
    private static function choices(array $record, string $where): array
    {
        $choices = [];
        foreach (is_array($record['choices'] ?? null) ? $record['choices'] : [] as $one) {
            [$name, $value] = is_array($one) ? [$one['name'] ?? null, $one['value'] ?? null] : [null, null];
            if (! is_string($name) || trim($name) === '' || (! is_int($value) && ! is_float($value))) {
                throw FileRefused::asModel("Each of the choices of $where has a \"name\" and, as a number, a \"value\".");
            }
            $choices[] = ['name' => mb_substr(trim($name), 0, Name::LONGEST), 'value' => (float) $value];
        }

        return $choices;
    }

    /**
     * @param  array{string, string, FormulaText, string, string}  $fields
     * @param  array<string, mixed>  $record
     * @return array{string, string, FormulaText, string, string, list<array{float, float}>, Between, Beyond, string}
     */
    private static function points(array $fields, array $record, string $where): array
    {
        $points = [];
        foreach (is_array($record['points'] ?? null) ? $record['points'] : [] as $pair) {
            if (! is_array($pair) || ! is_numeric($pair[0] ?? null) || ! is_numeric($pair[1] ?? null)) {
                throw FileRefused::asModel("Each point of $where must be a pair of numbers, such as [0, 1.5].");
            }
            $points[] = [(float) $pair[0], (float) $pair[1]];
        }
        $refusal = Relation::refusal($points);
        if ($refusal !== null) {
            throw FileRefused::asModel("The points of $where cannot be joined: $refusal");
        }
        $between =
            Between::tryFrom(NativeFields::text($record, 'between', $where, 'straight')) ??
            throw FileRefused::asModel("\"between\" of $where must be straight, smooth or stepped.");
        $beyond =
            Beyond::tryFrom(NativeFields::text($record, 'beyond', $where, 'held')) ??
            throw FileRefused::asModel("\"beyond\" of $where must be held or extended.");

        return [...$fields, $points, $between, $beyond, NativeFields::text($record, 'inputUnit', $where)];
    }
}
