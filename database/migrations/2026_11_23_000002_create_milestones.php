<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('milestones', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('model_id')->constrained('models')->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('revision');
            $table->string('name', 120);
            $table->timestamp('created_at');
            $table->unique(['model_id', 'revision']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('milestones');
    }
};
