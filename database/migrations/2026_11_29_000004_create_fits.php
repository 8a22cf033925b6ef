<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Searches over the numbers of a model, which go on for a while: what each is told lies in files, how far it is in its row. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('fits', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->string('plan', 40)->index();
            $table->string('meaning', 64);
            $table->string('document');
            $table->string('folder', 100);
            $table->mediumText('spec');
            $table->string('stage', 20);
            $table->mediumText('result')->nullable();
            $table->unsignedInteger('draws')->default(0);
            $table->unsignedInteger('chains')->default(0);
            $table->text('trouble')->nullable();
            $table->string('bus_id')->nullable();
            $table->timestamps();
        });
        Schema::create('fit_walks', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('fit_id')->constrained('fits')->cascadeOnDelete();
            $table->string('name', 40);
            $table->unsignedInteger('pieces')->default(0);
            $table->unsignedInteger('runs')->default(0);
            $table->double('best')->nullable();
            $table->mediumText('path');
            $table->mediumText('ends')->nullable();
            $table->string('claimed_by', 60)->default('');
            $table->unsignedBigInteger('claimed_at')->default(0);
            $table->boolean('made')->default(false);
            $table->unique(['fit_id', 'name']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('fit_walks');
        Schema::dropIfExists('fits');
    }
};
