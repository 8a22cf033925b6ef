<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Ways for people without an account to a page of a study; see docs/people.md. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('links', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('study_id')->constrained()->cascadeOnDelete();
            $table->string('showcase', 40)->comment('the id of a page of the study');
            $table->string('name', 80)->comment('for whom or what it is, for its owner');
            $table->string('secret', 64)->unique()->comment('SHA-256 of the key');
            $table->string('may', 10)->comment('look or try');
            $table->string('password')->nullable();
            $table->timestamp('until')->nullable();
            $table->timestamp('ended_at')->nullable()->comment('taken back');
            $table->unsignedBigInteger('opened')->default(0);
            $table->timestamp('opened_at')->nullable();
            $table->foreignId('given_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestamps();
            $table->index('study_id');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('links');
    }
};
