<?php

declare(strict_types=1);

namespace Tests\Core;

use MerryOrbit\Core\Edit\DeleteElements;
use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Edit\RenameElement;
use MerryOrbit\Core\Edit\TakeOver;
use MerryOrbit\Core\Exchange\NativeFile;
use MerryOrbit\Core\Model\Model;
use MerryOrbit\Core\Structure\Comparison;
use PHPUnit\Framework\TestCase;

/** Changes of a copy, made one by one in what was copied. */
final class TakeOverTest extends TestCase
{
    private static function water(): Model
    {
        return NativeFile::import((string) file_get_contents(__DIR__.'/../../demo/fresh-water.json'))->model;
    }

    private static function id(Model $model, string $name): string
    {
        return $model->idOf($name) ?? self::fail("There is no $name.");
    }

    /** @param  array<string, mixed>  ...$edits */
    private static function edited(Model $model, array ...$edits): Model
    {
        foreach ($edits as $edit) {
            $model = EditReader::read($edit, static fn (): Model => new Model(''))->apply($model);
        }

        return $model;
    }

    /** @return list<string> */
    private static function keys(Model $from, Model $to): array
    {
        return array_column(array_filter(Comparison::between($from, $to), static fn (array $c): bool => $c['what'] !== 'moved'), 'key');
    }

    public function test_all_changes_taken_one_by_one_make_the_copy(): void
    {
        $water = self::water();
        $sheet = $water->sheets[0]->id;
        $first = array_key_first($water->elements);
        $copy = self::edited(
            $water,
            [
                'kind' => 'add',
                'element' => 'parameter',
                'id' => 'new',
                'name' => 'leak',
                'placement' => ['sheet' => $sheet, 'at' => ['x' => 40, 'y' => 40]],
            ],
            ['kind' => 'formula', 'id' => 'new', 'text' => '0.3'],
            ['kind' => 'note', 'id' => $first, 'text' => 'Looked at again.'],
            ['kind' => 'time', 'start' => 0, 'end' => 60, 'step' => 0.25, 'unit' => 'week'],
            [
                'kind' => 'scenario',
                'id' => 's-new',
                'name' => 'A dry spring',
                'setting' => ['parameters' => [self::id($water, 'islanders') => 3000]],
            ],
        );
        $keys = self::keys($water, $copy);
        self::assertEqualsCanonicalizing(['model', 'elements/new', "elements/$first", 'scenarios/s-new'], $keys);
        foreach ([$keys, array_reverse($keys)] as $order) {
            $taken = $water;
            foreach ($order as $key) {
                $taken = (new TakeOver($water, $copy, $key, 'Fresh water'))->apply($taken);
            }
            self::assertSame([], self::keys($copy, $taken));
        }
    }

    public function test_what_else_changed_here_stays_as_it_is(): void
    {
        $water = self::water();
        $id = self::id($water, 'wells');
        $copy = self::edited(
            $water,
            ['kind' => 'formula', 'id' => $id, 'text' => '7'],
            ['kind' => 'note', 'id' => $id, 'text' => 'Theirs.'],
        );
        $now = self::edited((new RenameElement($id, 'deep wells'))->apply($water), [
            'kind' => 'unit',
            'id' => $id,
            'text' => 'm^3/month',
        ]);
        $taken = (new TakeOver($water, $copy, "elements/$id", 'Fresh water'))->apply($now);
        $element = $taken->elements[$id];
        self::assertSame(['deep wells', 'm^3/month', 'Theirs.'], [$element->name, $element->unit, $element->note]);
        self::assertSame('7', $element->formulas()['formula']->text($taken->nameOf(...)));
        self::assertSame('Took over `wells` from a copy', (new TakeOver($water, $copy, "elements/$id", 'Fresh water'))->words($now));
    }

    public function test_what_was_removed_in_the_copy_goes_and_what_is_gone_here_comes_back(): void
    {
        $water = self::water();
        $id = self::id($water, 'wells');
        $without = (new DeleteElements([$id]))->apply($water);
        self::assertNull((new TakeOver($water, $without, "elements/$id", ''))->apply($water)->element($id));
        $copy = self::edited($water, ['kind' => 'formula', 'id' => $id, 'text' => '7']);
        $back = (new TakeOver($water, $copy, "elements/$id", ''))->apply($without);
        self::assertSame('7', $back->elements[$id]->formulas()['formula']->text($back->nameOf(...)));
    }

    public function test_what_the_copy_did_not_change_cannot_be_taken(): void
    {
        $water = self::water();
        foreach (['model', 'elements/'.self::id($water, 'wells'), 'scenarios/none', 'nonsense/x', ''] as $key) {
            try {
                (new TakeOver($water, $water, $key, ''))->apply($water);
                self::fail("$key was taken.");
            } catch (EditRefused $e) {
                self::assertStringContainsString('no such change', $e->getMessage());
            }
        }
    }
}
