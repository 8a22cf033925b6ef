<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who may do what with a study of somebody else, what is said about it, and when people were last there; see docs/people.md. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('grants', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('study_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 10)->comment('person or everyone');
            $table->foreignId('user_id')->nullable()->constrained()->cascadeOnDelete();
            $table->string('email')->nullable()->comment('by which a person was named');
            $table->string('may', 10)->comment('read, comment or edit');
            $table->timestamp('until')->nullable();
            $table->timestamp('opened_at')->nullable()->comment('when the study was first opened by it');
            $table->foreignId('given_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestamps();
            $table->unique(['study_id', 'user_id']);
            $table->index(['user_id', 'study_id']);
            $table->index('email');
        });
        Schema::create('comments', static function (Blueprint $table): void {
            $table->ulid('id')->primary();
            $table->foreignUlid('study_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->ulid('answers')->nullable()->index()->comment('the comment that this one answers');
            $table->string('about', 12)->comment('study, thing, link, plot or moment');
            $table->string('subject', 100)->default('')->comment('the id of the thing or plot, FROM>TO of a link');
            $table->double('time')->nullable()->comment('the moment');
            $table->unsignedBigInteger('revision')->comment('of the model when it was said');
            $table->text('text');
            $table->timestamp('settled_at')->nullable();
            $table->foreignId('settled_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestamps();
            $table->index(['study_id', 'updated_at']);
        });
        Schema::create('visits', static function (Blueprint $table): void {
            $table->id();
            $table->foreignUlid('study_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->timestamp('seen_at')->comment('when somebody was last there');
            $table->unsignedBigInteger('seen_revision');
            $table->timestamp('before_at')->nullable()->comment('when the visit before this one ended');
            $table->unsignedBigInteger('before_revision')->nullable();
            $table->unique(['study_id', 'user_id']);
        });
    }

    public function down(): void
    {
        foreach (['visits', 'comments', 'grants'] as $table) {
            Schema::dropIfExists($table);
        }
    }
};
