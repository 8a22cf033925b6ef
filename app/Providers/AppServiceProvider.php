<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\WriteFirstConnection;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model as Eloquent;
use Illuminate\Support\ServiceProvider;
use MerryOrbit\Core\Compile\ProgramStore;
use MerryOrbit\Core\Simulate\RunLimits;
use MerryOrbit\Core\Simulate\Simulator;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor('sqlite', static fn (mixed ...$arguments): WriteFirstConnection => new WriteFirstConnection(...$arguments));
        $this->app->bind(Simulator::class, static fn (): Simulator => new Simulator(
            new ProgramStore(config()->string('merry-orbit.programs')),
            new RunLimits(config()->float('merry-orbit.run.most_evaluations'), config()->float('merry-orbit.run.most_values'), config()->float('merry-orbit.run.most_adaptive_seconds')),
        ));
    }

    public function boot(): void
    {
        Eloquent::shouldBeStrict();
    }
}
