<?php

declare(strict_types=1);

use App\Http\Controllers\Account\AccountController;
use App\Http\Controllers\Account\ForgottenController;
use App\Http\Controllers\Account\JoinController;
use App\Http\Controllers\Account\LettersController;
use App\Http\Controllers\Account\SecondFactorController;
use App\Http\Controllers\Account\SessionController;
use App\Http\Controllers\Account\SignInController;
use App\Http\Controllers\Account\TokenController;
use App\Http\Controllers\AreaController;
use App\Http\Controllers\BackController;
use App\Http\Controllers\BatchController;
use App\Http\Controllers\CandidateController;
use App\Http\Controllers\CatalogueController;
use App\Http\Controllers\CommentController;
use App\Http\Controllers\CompareController;
use App\Http\Controllers\CopyController;
use App\Http\Controllers\DataController;
use App\Http\Controllers\EditController;
use App\Http\Controllers\EnsembleController;
use App\Http\Controllers\ExpectationController;
use App\Http\Controllers\FitController;
use App\Http\Controllers\FormulaController;
use App\Http\Controllers\HistoryController;
use App\Http\Controllers\InsightController;
use App\Http\Controllers\KeptRunController;
use App\Http\Controllers\LedgerController;
use App\Http\Controllers\LinkController;
use App\Http\Controllers\MapController;
use App\Http\Controllers\MemberController;
use App\Http\Controllers\ModelController;
use App\Http\Controllers\NudgeController;
use App\Http\Controllers\ReportController;
use App\Http\Controllers\RoomController;
use App\Http\Controllers\RunController;
use App\Http\Controllers\SharingController;
use App\Http\Controllers\ShownController;
use App\Http\Controllers\StationController;
use App\Http\Controllers\StudyController;
use App\Http\Controllers\StudyFileController;
use App\Http\Controllers\VisitController;
use App\Http\Middleware\FairShare;
use App\Http\Middleware\SamePerson;
use App\Http\Middleware\TokenScope;
use App\Models\ModelDocument;
use App\Models\Study;
use Illuminate\Support\Facades\Route;

Route::middleware(['auth:sanctum,web', TokenScope::class, FairShare::class])->group(static function (): void {
    Route::get('catalogue', CatalogueController::class)->can('viewAny', Study::class);

    Route::get('me', [SessionController::class, 'show'])->can('viewAny', Study::class);
    Route::put('me/person', [SessionController::class, 'be'])->can('account');
    Route::delete('session', [SessionController::class, 'destroy'])->can('leave');
    Route::patch('account', [AccountController::class, 'update'])->can('account');
    Route::put('account/email', [AccountController::class, 'email'])->can('account');
    Route::put('account/password', [AccountController::class, 'password'])->can('account');
    Route::get('account/export', [AccountController::class, 'export'])->can('account');
    Route::get('account/happenings', [AccountController::class, 'happenings'])->can('account');
    Route::delete('account', [AccountController::class, 'destroy'])->can('account');
    Route::post('account/second-factor', [SecondFactorController::class, 'store'])->can('account');
    Route::put('account/second-factor', [SecondFactorController::class, 'confirm'])->can('account');
    Route::delete('account/second-factor', [SecondFactorController::class, 'destroy'])->can('account');
    Route::get('account/sign-ins', [SignInController::class, 'index'])->can('account');
    Route::delete('account/sign-ins', [SignInController::class, 'clear'])->can('account');
    Route::delete('account/sign-ins/{signIn}', [SignInController::class, 'destroy'])
        ->where('signIn', '[0-9]{1,15}')
        ->can('account');
    Route::get('account/tokens', [TokenController::class, 'index'])->can('account');
    Route::post('account/tokens', [TokenController::class, 'store'])->can('account');
    Route::delete('account/tokens/{token}', [TokenController::class, 'destroy'])
        ->where('token', '[0-9]{1,15}')
        ->can('account');
    Route::post('invitations', [JoinController::class, 'invite'])->can('account');
    Route::get('letters', LettersController::class)->can('letters');

    Route::get('studies', [StudyController::class, 'index'])->can('viewAny', Study::class);
    Route::post('studies', [StudyController::class, 'store'])->can('create', Study::class);
    Route::post('studies/import', [StudyFileController::class, 'import'])->can('create', Study::class);
    Route::get('studies/{study}', [StudyController::class, 'show'])->can('view', 'study');
    Route::delete('studies/{study}', [StudyController::class, 'destroy'])->can('delete', 'study');
    Route::post('studies/{study}/restore', [StudyController::class, 'restore'])
        ->withTrashed()
        ->can('delete', 'study');
    Route::post('studies/{study}/duplicate', [StudyController::class, 'duplicate'])
        ->can('view', 'study')
        ->can('create', Study::class);
    Route::get('studies/{study}/file', [StudyFileController::class, 'export'])->can('view', 'study');
    Route::get('studies/{study}/losses', [StudyFileController::class, 'losses'])->can('view', 'study');
    Route::get('studies/{study}/import-log', [StudyFileController::class, 'log'])->can('view', 'study');
    Route::patch('studies/{study}/import-log', [StudyFileController::class, 'tick'])->can('update', 'study');
    Route::get('studies/{study}/thumbnail', [StudyController::class, 'thumbnail'])->can('view', 'study');

    Route::get('studies/{study}/sharing', [SharingController::class, 'index'])->can('view', 'study');
    Route::delete('studies/{study}/sharing', [SharingController::class, 'leave'])->can('view', 'study');
    Route::get('studies/{study}/sharing/record', [SharingController::class, 'record'])->can('share', 'study');
    Route::post('studies/{study}/sharing', [SharingController::class, 'store'])->can('share', 'study');
    Route::patch('studies/{study}/sharing/{grant}', [SharingController::class, 'update'])->can('share', 'study');
    Route::delete('studies/{study}/sharing/{grant}', [SharingController::class, 'destroy'])->can('share', 'study');
    Route::post('studies/{study}/sharing/{grant}/owner', [SharingController::class, 'handOver'])->can('share', 'study');

    Route::get('studies/{study}/links', [LinkController::class, 'index'])->can('share', 'study');
    Route::post('studies/{study}/links', [LinkController::class, 'store'])->can('share', 'study');
    Route::patch('studies/{study}/links/{link}', [LinkController::class, 'update'])->can('share', 'study');
    Route::delete('studies/{study}/links/{link}', [LinkController::class, 'destroy'])->can('share', 'study');
    Route::post('models/{model}/showcases/{showcase}', [ShownController::class, 'preview'])->can('view', 'model');

    Route::post('studies/{study}/back', [BackController::class, 'store'])->can('sendBack', 'study');
    Route::post('copies/keep', [CopyController::class, 'keep'])->can('create', Study::class);
    Route::post('back', [BackController::class, 'show'])->can('viewAny', Study::class);
    Route::post('back/take', [BackController::class, 'take'])->can('viewAny', Study::class);
    Route::post('models/{model}/visits', [VisitController::class, 'store'])->can('view', 'model');
    Route::get('models/{model}/comments', [CommentController::class, 'index'])->can('view', 'model');
    Route::post('models/{model}/comments', [CommentController::class, 'store'])->can('comment', 'model');
    Route::patch('models/{model}/comments/{comment}', [CommentController::class, 'update'])->can('comment', 'model');
    Route::delete('models/{model}/comments/{comment}', [CommentController::class, 'destroy'])->can('comment', 'model');
    Route::get('models/{model}', [ModelController::class, 'show'])->can('view', 'model');
    Route::get('models/{model}/news', [ModelController::class, 'news'])->can('view', 'model');
    Route::post('models/{model}/edits', [EditController::class, 'store'])
        ->middleware(SamePerson::class)
        ->can('update', 'model');
    Route::post('models/{model}/undo', [EditController::class, 'undo'])
        ->middleware(SamePerson::class)
        ->can('update', 'model');
    Route::post('models/{model}/redo', [EditController::class, 'redo'])
        ->middleware(SamePerson::class)
        ->can('update', 'model');
    Route::get('models/{model}/calendar', [ModelController::class, 'calendar'])->can('view', 'model');
    Route::post('models/{model}/formula', FormulaController::class)->can('view', 'model');
    Route::post('models/{model}/restore', [HistoryController::class, 'restore'])
        ->middleware(SamePerson::class)
        ->can('update', 'model');
    Route::get('models/{model}/history', [HistoryController::class, 'index'])->can('view', 'model');
    Route::get('models/{model}/versions/{revision}', [HistoryController::class, 'show'])
        ->where('revision', '[0-9]{1,15}')
        ->can('view', 'model');
    Route::get('models/{model}/comparison', [HistoryController::class, 'compare'])->can('view', 'model');
    Route::put('models/{model}/milestones/{revision}', [HistoryController::class, 'name'])
        ->where('revision', '[0-9]{1,15}')
        ->can('update', 'model');
    Route::delete('models/{model}/milestones/{revision}', [HistoryController::class, 'unname'])
        ->where('revision', '[0-9]{1,15}')
        ->can('update', 'model');
    Route::post('models/{model}/loops', [InsightController::class, 'loops'])->can('view', 'model');
    Route::post('models/{model}/map', [MapController::class, 'show'])->can('view', 'model');
    Route::get('models/{model}/map/structures', [MapController::class, 'structures'])->can('view', 'model');
    Route::get('models/{model}/map/record', [MapController::class, 'record'])->can('view', 'model');
    Route::post('models/{model}/map/story', [MapController::class, 'story'])->can('view', 'model');
    Route::post('models/{model}/map/foresee', [MapController::class, 'foresee'])->can('view', 'model');
    Route::post('models/{model}/tables', [DataController::class, 'store'])->can('update', 'model');
    Route::post('models/{model}/tables/{content}', [DataController::class, 'show'])
        ->where('content', '[0-9a-f]{64}')
        ->can('view', 'model');
    Route::post('models/{model}/tables/{content}/rows', [DataController::class, 'rows'])
        ->where('content', '[0-9a-f]{64}')
        ->can('view', 'model');
    Route::post('models/{model}/tables/{content}/file', [DataController::class, 'file'])
        ->where('content', '[0-9a-f]{64}')
        ->can('view', 'model');
    Route::post('models/{model}/tables/{content}/evidence', [DataController::class, 'evidence'])
        ->where('content', '[0-9a-f]{64}')
        ->can('update', 'model');
    Route::get('stations', [StationController::class, 'index'])->can('viewAny', Study::class);
    Route::post('models/{model}/stations/{station}', [StationController::class, 'listen'])->can('update', 'model');
    Route::post('models/{model}/areas', [AreaController::class, 'store'])->can('update', 'model');
    Route::post('models/{model}/areas/{content}', [AreaController::class, 'show'])
        ->where('content', '[0-9a-f]{64}')
        ->can('view', 'model');
    Route::post('models/{model}/members', [MemberController::class, 'show'])->can('view', 'model');
    Route::post('models/{model}/members/moving', [MemberController::class, 'moving'])->can('view', 'model');
    Route::post('models/{model}/members/levels', [MemberController::class, 'levels'])->can('view', 'model');
    Route::post('models/{model}/members/relation', [MemberController::class, 'relation'])->can('view', 'model');
    Route::post('models/{model}/members/read', [MemberController::class, 'read'])->can('view', 'model');
    Route::post('models/{model}/effects', [InsightController::class, 'effects'])->can('view', 'model');
    Route::get('models/{model}/elements/{element}/equation', [InsightController::class, 'equation'])->can('view', 'model');
    Route::post('models/{model}/elements/{element}/ranked', [InsightController::class, 'ranked'])->can('view', 'model');
    Route::post('models/{model}/elements/{element}/visits', [InsightController::class, 'visits'])->can('view', 'model');
    Route::post('models/{model}/preview', [InsightController::class, 'preview'])->can('view', 'model');
    Route::post('models/{model}/copy', [InsightController::class, 'copy'])->can('view', 'model');
    Route::post('models/{model}/runs', [RunController::class, 'store'])->can('view', 'model');
    Route::post('models/{model}/health', [RunController::class, 'health'])->can('view', 'model');
    Route::get('models/{model}/runs', [RunController::class, 'index'])->can('view', 'model');
    Route::patch('models/{model}/runs/{run}', [RunController::class, 'update'])
        ->where('run', '[0-9]{1,15}')
        ->can('update', 'model');
    Route::get('models/{model}/progress/{token}', [RunController::class, 'progress'])
        ->whereUuid('token')
        ->can('view', 'model');
    Route::delete('models/{model}/progress/{token}', [RunController::class, 'stop'])
        ->whereUuid('token')
        ->can('view', 'model');
    Route::get('models/{model}/kept', [KeptRunController::class, 'index'])->can('view', 'model');
    Route::post('models/{model}/kept', [KeptRunController::class, 'store'])->can('update', 'model');
    Route::patch('models/{model}/kept/{kept}', [KeptRunController::class, 'update'])->can('update', 'model');
    Route::delete('models/{model}/kept/{kept}', [KeptRunController::class, 'destroy'])->can('update', 'model');
    Route::post('models/{model}/kept/{kept}/restore', [KeptRunController::class, 'restore'])->can('update', 'model');
    Route::post('models/{model}/batches', [BatchController::class, 'store'])->can('view', 'model');
    Route::get('models/{model}/batches/{batch}', [BatchController::class, 'show'])->can('view', 'model');
    Route::delete('models/{model}/batches/{batch}', [BatchController::class, 'destroy'])->can('view', 'model');
    Route::get('models/{model}/expectations', [ExpectationController::class, 'index'])->can('view', 'model');
    Route::post('models/{model}/expectations', [ExpectationController::class, 'tried'])->can('view', 'model');
    Route::get('models/{model}/expectations/proposed', [ExpectationController::class, 'proposed'])->can('view', 'model');
    Route::post('models/{model}/candidates', [CandidateController::class, 'run'])->can('view', 'model');
    Route::post('models/{model}/nudge', [NudgeController::class, 'nudge'])->can('view', 'model');
    Route::post('models/{model}/distribution', [NudgeController::class, 'distribution'])->can('view', 'model');
    Route::get('models/{model}/ensembles', [EnsembleController::class, 'index'])->can('view', 'model');
    Route::post('models/{model}/ensembles', [EnsembleController::class, 'store'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}', [EnsembleController::class, 'show'])->can('view', 'model');
    Route::delete('models/{model}/ensembles/{ensemble}', [EnsembleController::class, 'destroy'])->can('view', 'model');
    Route::post('models/{model}/ensembles/{ensemble}/more', [EnsembleController::class, 'goOn'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/bands', [EnsembleController::class, 'bands'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/moment', [EnsembleController::class, 'moment'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/summary', [EnsembleController::class, 'summary'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/draws', [EnsembleController::class, 'draws'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/matters', [EnsembleController::class, 'matters'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/indices', [EnsembleController::class, 'indices'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/shares', [EnsembleController::class, 'shares'])->can('view', 'model');
    Route::get('models/{model}/ensembles/{ensemble}/against/{other}', [EnsembleController::class, 'against'])->can('view', 'model');
    Route::get('models/{model}/books', [LedgerController::class, 'show'])->can('view', 'model');
    Route::post('models/{model}/books/paste', [LedgerController::class, 'paste'])->can('view', 'model');
    Route::post('models/{model}/books/rewire', [LedgerController::class, 'rewire'])->can('view', 'model');
    Route::get('models/{model}/fits', [FitController::class, 'index'])->can('view', 'model');
    Route::get('models/{model}/fits/foreseen', [FitController::class, 'foreseen'])->can('view', 'model');
    Route::post('models/{model}/fits', [FitController::class, 'store'])->can('update', 'model');
    Route::get('models/{model}/fits/{fit}', [FitController::class, 'show'])->can('view', 'model');
    Route::delete('models/{model}/fits/{fit}', [FitController::class, 'destroy'])->can('update', 'model');
    Route::post('models/{model}/fits/{fit}/more', [FitController::class, 'goOn'])->can('update', 'model');
    Route::post('models/{model}/fits/{fit}/draws', [FitController::class, 'draw'])->can('update', 'model');
    Route::get('models/{model}/fits/{fit}/draws', [FitController::class, 'draws'])->can('view', 'model');
    Route::post('models/{model}/fits/{fit}/beside', [FitController::class, 'beside'])->can('view', 'model');
    Route::get('models/{model}/fits/{fit}/picture', [FitController::class, 'picture'])->can('view', 'model');
    Route::get('models/{model}/room', [RoomController::class, 'show'])->can('update', 'model');
    Route::post('models/{model}/room', [RoomController::class, 'open'])->can('update', 'model');
    Route::patch('models/{model}/room', [RoomController::class, 'move'])->can('update', 'model');
    Route::delete('models/{model}/room', [RoomController::class, 'close'])->can('update', 'model');
    Route::post('models/{model}/report', ReportController::class)->can('view', 'model');
    Route::post('models/{model}/trail', [CompareController::class, 'trail'])->can('view', 'model');
    Route::post('models/{model}/changes', [CompareController::class, 'changes'])->can('view', 'model');
    Route::post('models/{model}/table', [CompareController::class, 'table'])->can('view', 'model');
});

// For who is not signed in, and is about to be.
Route::middleware(FairShare::class)->group(static function (): void {
    Route::post('session', [SessionController::class, 'store']);
    Route::post('join/key', [JoinController::class, 'look']);
    Route::post('join', [JoinController::class, 'join']);
    Route::post('join/address', [JoinController::class, 'address']);
    Route::post('forgotten', [ForgottenController::class, 'store']);
    Route::put('forgotten', [ForgottenController::class, 'update']);

    // By a link; App\Tell\Reader looks whether it leads anywhere.
    Route::get('room', [RoomController::class, 'phone']);
    Route::post('room', [RoomController::class, 'say']);
    Route::post('shown/study', [CopyController::class, 'visit']);
    Route::post('shown/copies', [CopyController::class, 'store']);
    Route::post('copies/key', [CopyController::class, 'look']);
    Route::post('copies/open', [CopyController::class, 'open']);
});

// Readers by a link show it in a header: no session, no cookie, nobody signed in, and so nothing that could be forged.
Route::middleware(FairShare::class)
    ->withoutMiddleware('web')
    ->group(static function (): void {
        Route::get('shown', [ShownController::class, 'page']);
        Route::post('shown', [ShownController::class, 'results']);
        Route::post('shown/pass', [ShownController::class, 'unlock']);
    });

// The model of a deleted study is not there, until the study is brought back.
Route::bind('model', static fn (string $id): ModelDocument => ModelDocument::query()->whereHas('study')->findOrFail($id));
