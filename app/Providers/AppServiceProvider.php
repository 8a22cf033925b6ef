<?php

declare(strict_types=1);

namespace App\Providers;

use App\Database\WriteFirstConnection;
use App\Files\LastingSessions;
use App\Fit\Searches;
use App\Http\Validation\TypedValidator;
use App\Models\User;
use App\People\PostOffice;
use App\People\Tokens;
use App\Runs\Batches;
use App\Runs\Engine;
use App\Runs\Lost;
use App\Runs\Workers;
use App\Uncertain\Ensembles;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connection;
use Illuminate\Database\Eloquent\Model as Eloquent;
use Illuminate\Database\Events\ConnectionEstablished;
use Illuminate\Support\Facades\Event;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\Mail;
use Illuminate\Support\Facades\Session;
use Illuminate\Support\Facades\Validator;
use Illuminate\Support\ServiceProvider;
use Laravel\Sanctum\Sanctum;
use MerryOrbit\Core\Simulate\Simulator;

final class AppServiceProvider extends ServiceProvider
{
    public function register(): void
    {
        Connection::resolverFor(
            'sqlite',
            static fn (mixed ...$arguments): WriteFirstConnection => new WriteFirstConnection(...$arguments),
        );
        // Whoever waits longer for somebody else's lock is told to come again.
        Event::listen(ConnectionEstablished::class, static function (ConnectionEstablished $e): void {
            if ($e->connection->getDriverName() === 'pgsql') {
                $wait = $e->connection->getConfig('busy_timeout');
                $e->connection->statement('set lock_timeout = '.(is_int($wait) ? $wait : 2000));
            }
        });
        $this->app->bind(Simulator::class, Engine::inRequest(...));
    }

    public function boot(): void
    {
        Eloquent::shouldBeStrict();
        Workers::listen();
        Lost::sentBy(Batches::sendLost(...), Ensembles::sendLost(...), Searches::sendLost(...));
        Mail::extend('post-office', static fn (): PostOffice => new PostOffice());
        Sanctum::authenticateAccessTokensUsing(Tokens::isTaken(...));
        // One's own account is one's own; programs are kept out of it by TokenScope.
        Gate::define('account', static fn (User $user): bool => ! $user->isGuest());
        Gate::define('leave', static fn (User $user): bool => $user->exists);
        Gate::define('letters', static fn (User $user): bool => PostOffice::isOpenTo($user));
        Validator::resolver(static fn (mixed ...$arguments): TypedValidator => new TypedValidator(...$arguments));
        Session::extend(
            'lasting',
            static fn (Application $app): LastingSessions => new LastingSessions(
                $app->make('files'),
                config()->string('session.files'),
                config()->integer('session.lifetime'),
                LastingSessions::pageBegins(...),
            ),
        );
    }
}
