<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('users', static function (Blueprint $table): void {
            $table->id();
            $table->string('name');
            $table->string('email')->unique();
            $table->string('password')->nullable();
            $table->rememberToken();
            $table->timestamps();
        });
        Schema::create('studies', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('name', 200);
            $table->string('demo', 100)->nullable()->comment('the demo file it was made from');
            $table->timestamps();
            $table->softDeletes();
            $table->index(['user_id', 'deleted_at']);
        });
        Schema::create('models', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('study_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision')->default(0);
            $table->longText('document')->comment('the model at this revision, as ModelRecord gives it');
            $table->timestamps();
        });
        Schema::create('edits', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision')->comment('of the model after it');
            $table->uuid('client_id')->comment('made by the client: sending twice does no harm');
            $table->string('window', 40)->comment('which browser window it came from');
            $table->string('kind', 10)->comment('edit, undo or redo');
            $table->text('words');
            $table->longText('body')->comment('the edit as it was sent');
            $table->longText('forward')->comment('what it changed');
            $table->longText('inverse')->comment('what takes it back');
            $table->unsignedBigInteger('undone_at_revision')->nullable();
            $table->timestamp('created_at');
            $table->unique(['model_id', 'revision']);
            $table->unique(['model_id', 'client_id']);
            $table->index(['model_id', 'user_id', 'kind', 'undone_at_revision']);
        });
        Schema::create('runs', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->text('settings');
            $table->timestamp('created_at');
            $table->index(['model_id', 'user_id']);
        });
        Schema::create('jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('queue')->index();
            $table->longText('payload');
            $table->unsignedTinyInteger('attempts');
            $table->unsignedInteger('reserved_at')->nullable();
            $table->unsignedInteger('available_at');
            $table->unsignedInteger('created_at');
        });
        Schema::create('failed_jobs', static function (Blueprint $table): void {
            $table->id();
            $table->string('uuid')->unique();
            $table->text('connection');
            $table->text('queue');
            $table->longText('payload');
            $table->longText('exception');
            $table->timestamp('failed_at')->useCurrent();
        });
    }

    public function down(): void
    {
        foreach (['failed_jobs', 'jobs', 'runs', 'edits', 'models', 'studies', 'users'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
