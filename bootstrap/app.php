<?php

declare(strict_types=1);

use App\Http\Controllers\HealthController;
use App\Http\Middleware\CheckHost;
use App\Http\Middleware\FiniteNumbers;
use App\Http\Middleware\KnownSignIn;
use App\Http\Middleware\OwnPageOnly;
use App\Http\Middleware\SecurityHeaders;
use App\Http\Middleware\SignInDemoAnalyst;
use App\Problems\ProblemDocument;
use Illuminate\Cache\RateLimiting\Limit;
use Illuminate\Database\QueryException;
use Illuminate\Foundation\Application;
use Illuminate\Foundation\Configuration\Exceptions;
use Illuminate\Foundation\Configuration\Middleware;
use Illuminate\Http\Middleware\HandleCors;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Route;

// Arguments in traces are what people wrote.
ini_set('zend.exception_ignore_args', '1');

return Application::configure(basePath: dirname(__DIR__))
    ->withRouting(
        commands: __DIR__.'/../routes/console.php',
        using: static function (): void {
            // Needs no session: it tells how things are when nothing can be written.
            Route::get('api/health', HealthController::class)->name('health');
            Route::get('api/metrics', [HealthController::class, 'metrics'])->name('metrics');
            // The page and its API share sessions and the protection against forged requests.
            Route::middleware('web')
                ->prefix('api')
                ->group(__DIR__.'/../routes/api.php');
            Route::middleware('web')->group(__DIR__.'/../routes/web.php');
        },
    )
    ->withCommands([
        App\Console\AbleCommand::class,
        App\Console\BackupCommand::class,
        App\Console\CheckBackupCommand::class,
        App\Console\DemoCommand::class,
        App\Console\InviteCommand::class,
        App\Console\LettersCommand::class,
        App\Console\MoveCommand::class,
        App\Console\RestoreCommand::class,
        App\Console\SchoolCommand::class,
        App\Console\TidyCommand::class,
    ])
    ->withMiddleware(static function (Middleware $middleware): void {
        $middleware->remove(HandleCors::class);
        $middleware->prepend([CheckHost::class, SecurityHeaders::class]);
        $middleware->append(FiniteNumbers::class);
        $middleware->web(
            append: [KnownSignIn::class, SignInDemoAnalyst::class],
            replace: [Illuminate\Foundation\Http\Middleware\ValidateCsrfToken::class => OwnPageOnly::class],
        );
        $first = Illuminate\Contracts\Auth\Middleware\AuthenticatesRequests::class;
        $middleware->prependToPriorityList($first, KnownSignIn::class);
        $middleware->prependToPriorityList($first, SignInDemoAnalyst::class);
        // The scope of a token is asked before the thing is looked at.
        $middleware->appendToPriorityList($first, App\Http\Middleware\TokenScope::class);
        // Formulas and notes are kept as they were typed; an empty one is text, not null.
        $middleware->remove([
            Illuminate\Foundation\Http\Middleware\TrimStrings::class,
            Illuminate\Foundation\Http\Middleware\ConvertEmptyStringsToNull::class,
        ]);
        $middleware->redirectGuestsTo('/');
    })
    ->withExceptions(static function (Exceptions $exceptions): void {
        $exceptions->render(
            static fn (Throwable $e, Request $request) => str_starts_with($request->getPathInfo(), '/api/')
                ? ProblemDocument::of($e)
                : null,
        );
        // What comes again and again for one reason fills no disk.
        $exceptions->throttle(
            static fn (Throwable $e): ?Limit => $e instanceof PDOException
                ? Limit::perMinute(2)->by(substr($e->getMessage(), 0, 40))
                : null,
        );
        // What people wrote stands in the values of a statement; the log has its text without them.
        $exceptions->report(static function (QueryException $e): bool {
            Log::error(($e->getPrevious()?->getMessage() ?? 'A statement failed').' in '.$e->getSql(), [
                'trace' => $e->getTraceAsString(),
            ]);

            return false;
        });
        $exceptions->dontReport([
            MerryOrbit\Core\Edit\EditRefused::class,
            MerryOrbit\Core\Exchange\FileRefused::class,
            MerryOrbit\Core\Simulate\RunRefused::class,
            MerryOrbit\Core\Problem\NotUnderstood::class,
            MerryOrbit\Core\Data\TableRefused::class,
            App\Studies\EditClash::class,
        ]);
    })
    ->create();
