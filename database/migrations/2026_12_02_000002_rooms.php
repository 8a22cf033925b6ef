<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Workshops that people in the room take part in by their phones; see docs/people.md. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('rooms', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('model_id')->constrained()->cascadeOnDelete();
            $table
                ->foreignId('user_id')
                ->comment('who opened it, and in whose name what comes in is done')
                ->constrained()
                ->cascadeOnDelete();
            $table->string('code', 12)->unique()->comment('short enough to be typed');
            $table->string('step', 20)->comment('of the workshop');
            $table->string('about', 40)->default('')->comment('the link that is talked about, by id');
            $table->timestamp('until')->comment('closed from then on');
            $table->timestamps();
        });
        Schema::create('room_voices', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('room_id')->constrained()->cascadeOnDelete();
            $table->string('phone', 64)->comment('SHA-256 of what a phone made up for itself');
            $table->string('kind', 8)->comment('here, factor, pair or link');
            $table->string('subject', 100);
            $table->string('says', 10)->default('');
            $table->timestamps();
            $table->unique(['room_id', 'phone', 'kind', 'subject']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('room_voices');
        Schema::dropIfExists('rooms');
    }
};
