<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('ensembles', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->string('scenario', 40);
            $table->string('name', 120);
            $table->string('meaning', 64);
            $table->string('document');
            $table->string('folder', 100)->index();
            $table->mediumText('spec');
            $table->string('bus_id')->nullable();
            $table->timestamps();
        });
        Schema::create('ensemble_parts', static function (Blueprint $table): void {
            $table->id();
            $table->string('folder', 100);
            $table->string('name', 60);
            $table->unsignedInteger('first');
            $table->unsignedInteger('runs');
            $table->unsignedInteger('failed')->default(0);
            $table->float('seconds')->default(0);
            $table->string('claimed_by', 60)->default('');
            $table->unsignedBigInteger('claimed_at')->default(0);
            $table->boolean('made')->default(false);
            $table->unique(['folder', 'name']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('ensemble_parts');
        Schema::dropIfExists('ensembles');
    }
};
