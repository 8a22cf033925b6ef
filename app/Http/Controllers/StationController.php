<?php

declare(strict_types=1);

namespace App\Http\Controllers;

use App\Data\ReadTable;
use App\Data\TablePreview;
use App\Data\TableStore;
use App\Models\ModelDocument;
use App\Models\User;
use Illuminate\Container\Attributes\CurrentUser;
use Illuminate\Http\Client\ConnectionException;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Http;
use MerryOrbit\Core\Analysis\Analyser;
use MerryOrbit\Core\Data\TableRefused;
use MerryOrbit\Core\Data\Wishes;

/** Measuring stations: services that tell their readings as JSON over HTTP. Only those that the configuration names are asked. */
final class StationController
{
    private const SECONDS = 5;

    private const MOST_BYTES = 5_000_000;

    public function index(): JsonResponse
    {
        return new JsonResponse(['stations' => array_keys(self::known())]);
    }

    /** Its readings as a table, kept like a file that was dropped. */
    public function listen(Request $request, ModelDocument $model, #[CurrentUser] User $user, string $station): JsonResponse
    {
        $address = self::known()[$station] ?? throw TableRefused::because("There is no measuring station `$station` any more.");
        try {
            $answer = Http::timeout(self::SECONDS)->acceptJson()->withoutRedirecting()->get($address);
        } catch (ConnectionException) {
            throw TableRefused::because("The measuring station `$station` does not answer. What was kept of it stays; try again later.");
        }
        $bytes = $answer->body();
        if (! $answer->successful() || strlen($bytes) > self::MOST_BYTES) {
            throw TableRefused::because(
                "The measuring station `$station` tells nothing that can be read now (it answers with {$answer->status()}).",
            );
        }
        $name = "$station.json";
        $read = ReadTable::ofFile(TableStore::opened($bytes, $name), new Wishes());
        $preview = new TablePreview($read, Analyser::analyse($model->core()));

        // Who only looks whether there is something new leaves nothing behind.
        $content = $request->boolean('peek') ? hash('sha256', $bytes) : TableStore::keep($user, $name, $bytes);

        return new JsonResponse(['content' => $content, 'name' => $name, ...$preview->toRecord()], 201);
    }

    /** @return array<string, string> addresses by name */
    private static function known(): array
    {
        $known = [];
        foreach (config()->array('merry-orbit.stations') as $name => $address) {
            if (is_string($address) && $address !== '') {
                $known[(string) $name] = $address;
            }
        }

        return $known;
    }
}
