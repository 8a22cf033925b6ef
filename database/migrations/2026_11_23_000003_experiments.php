<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('runs', static function (Blueprint $table): void {
            $table->boolean('starred')->default(false);
            $table->string('comment', 500)->default('');
            $table->string('scenario', 120)->default('')->comment('the name of the scenario it was a run of');
        });
        Schema::create('kept_runs', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->string('name', 120);
            $table->text('note');
            $table->unsignedTinyInteger('colour')->comment('its place in the fixed order of hues and dashes');
            $table->boolean('hidden')->default(false);
            $table->longText('setting');
            $table->timestamps();
            $table->softDeletes();
            $table->index(['model_id', 'deleted_at']);
        });
        Schema::create('kept_run_results', static function (Blueprint $table): void {
            $table->foreignUlid('kept_run_id')->primary()->constrained('kept_runs')->cascadeOnDelete();
            $table->longText('result')->comment('as TrajectoryFile writes it, compressed, in base 64');
        });
        Schema::create('batches', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->timestamp('cancelled_at')->nullable();
            $table->timestamps();
        });
        Schema::create('batch_runs', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('batch_id')->constrained('batches')->cascadeOnDelete();
            $table->unsignedInteger('position');
            $table->string('name', 120);
            $table->string('scenario', 40)->default('');
            $table->longText('setting');
            $table->string('state', 10)->default('waiting')->comment('waiting, running, done, stopped or refused');
            $table->float('share')->default(0);
            $table->float('seconds')->nullable();
            $table->text('words')->comment('why it was refused or where it met a fault');
            $table->unique(['batch_id', 'position']);
        });
    }

    public function down(): void
    {
        foreach (['batch_runs', 'batches', 'kept_run_results', 'kept_runs'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::table('runs', static function (Blueprint $table): void {
            $table->dropColumn(['starred', 'comment', 'scenario']);
        });
    }
};
