<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Pages in pages of others, pages with a readable address, and copies that need no account; see docs/people.md. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('links', static function (Blueprint $table): void {
            $table->text('hosts')->nullable()->comment('origins of pages that may show it in a frame');
            $table->unsignedBigInteger('revision')->nullable()->comment('the version that it shows; null for the newest');
            $table->string('address', 60)->nullable()->unique()->comment('by which it is found without a key');
        });
        Schema::table('grants', static function (Blueprint $table): void {
            $table->foreignUlid('link_id')->nullable()->comment('by which somebody came')->constrained('links')->cascadeOnDelete();
        });
        Schema::table('studies', static function (Blueprint $table): void {
            $table->text('origin')->nullable()->comment('what it is a copy of: study, revision, name');
        });
        Schema::table('users', static function (Blueprint $table): void {
            $table
                ->string('guest_key', 64)
                ->nullable()
                ->unique()
                ->comment('SHA-256 of the key of a guest, who has one copy and no account');
            $table->timestamp('guest_until')->nullable();
        });
    }

    public function down(): void
    {
        Schema::table('users', static function (Blueprint $table): void {
            $table->dropUnique(['guest_key']);
            $table->dropColumn(['guest_key', 'guest_until']);
        });
        Schema::table('studies', static fn (Blueprint $table) => $table->dropColumn('origin'));
        Schema::table('grants', static fn (Blueprint $table) => $table->dropConstrainedForeignId('link_id'));
        Schema::table('links', static function (Blueprint $table): void {
            $table->dropUnique(['address']);
            $table->dropColumn(['hosts', 'address', 'revision']);
        });
    }
};
