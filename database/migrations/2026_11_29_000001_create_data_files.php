<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('data_files', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('content', 64);
            $table->string('name', 200);
            $table->unsignedBigInteger('bytes');
            $table->timestamps();
            $table->unique(['user_id', 'content']);
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('data_files');
    }
};
