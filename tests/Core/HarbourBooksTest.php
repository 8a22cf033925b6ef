<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Edit\PutPart;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Ledger\Books;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Model\Parts;
use MerryOrbit\Core\Simulate\RunOptions;
use PHPUnit\Framework\TestCase;

/** The two worlds of the harbour books do what its note says. */
final class HarbourBooksTest extends TestCase
{
    private static function today(): Model
    {
        return NativeFile::import((string) file_get_contents(dirname(__DIR__, 2).'/demo/harbour-books.json'))->model;
    }

    /** Lending by the islanders, of what they have. */
    private static function other(): Model
    {
        $file = (string) file_get_contents(dirname(__DIR__, 2).'/demo/worlds/harbour-books.json');
        /** @var list<array{edit: array{edits: list<array{part: string, id: string, fields: array<string, mixed>}>}}> $worlds */
        $worlds = json_decode($file, true, flags: JSON_THROW_ON_ERROR);
        $model = self::today();
        foreach ($worlds[0]['edit']['edits'] ?? [] as $e) {
            $model = (new PutPart(Parts::all()[$e['part']], $e['id'], $e['fields']))->apply($model);
        }

        return $model;
    }

    /**
     * What is spent on the island in the first ten years, in the mean.
     *
     * @param  array<string, float>  $dials
     */
    private static function spent(Model $model, array $dials = []): float
    {
        $column = Build::simulator()->run(Analyser::analyse($model), new RunOptions($dials))->column('spent');
        $first = array_slice($column, 0, intdiv(count($column), 4));

        return array_sum($first) / count($first);
    }

    public function test_income_follows_lending_that_makes_money_and_hardly_lending_of_what_there_is(): void
    {
        foreach ([[self::today(), 1.2, 1.35, 0.8, 0.92], [self::other(), 1.0, 1.06, 0.96, 1.0]] as [$world, $least, $most, $low, $high]) {
            self::assertTrue(Books::of($world)->isBalanced());
            $usual = self::spent($world);
            $lent = self::spent($world, ['lend-time' => 6.0]) / $usual;
            self::assertTrue($lent > $least && $lent < $most, "twice the lending: $lent");
            $repaid = self::spent($world, ['repay-time' => 12.0]) / $usual;
            self::assertTrue($repaid > $low && $repaid < $high, "twice the repayment: $repaid");
        }
    }

    public function test_debt_comes_into_the_swing_of_the_boats(): void
    {
        $swing = static function (Model $model): float {
            $column = Build::simulator()->run(Analyser::analyse($model), new RunOptions())->column('spent');
            $late = array_slice($column, intdiv(count($column), 2));

            return max([0.0, ...$late]) / min([INF, ...$late]) - 1.0;
        };
        // The same boats: lending that makes money swings along with them, and so does what is spent.
        self::assertGreaterThan(1.5 * $swing(self::other()), $swing(self::today()));
    }
}
