<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Accounts, what opens one, where they are signed in, and what happened to them; see docs/people.md. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', static function (Blueprint $table): void {
            $table->text('totp_secret')->nullable()->comment('encrypted');
            $table->timestamp('totp_since')->nullable()->comment('null until a first code was right');
            $table->unsignedBigInteger('totp_step')->default(0)->comment('the last step a code was taken for: none is taken twice');
            $table->text('recovery_codes')->nullable()->comment('hashes');
            $table
                ->timestamp('left_at')
                ->nullable()
                ->comment('the account is gone; what was done in studies of others stays, without a name');
        });
        Schema::create('sign_ins', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('secret', 64)->unique()->comment('SHA-256 of what the session holds');
            $table->string('address', 45);
            $table->string('browser', 120);
            $table->timestamp('until');
            $table->timestamp('seen_at');
            $table->timestamps();
        });
        Schema::create('keys', static function (Blueprint $table): void {
            $table->id();
            $table->string('kind', 12)->comment('first, invitation or address');
            $table->string('hash', 64)->unique()->comment('SHA-256 of the key');
            $table->string('email')->nullable();
            $table->foreignId('user_id')->nullable()->comment('who asked for it')->constrained()->cascadeOnDelete();
            $table->timestamp('until');
            $table->timestamp('created_at');
        });
        Schema::create('password_reset_tokens', static function (Blueprint $table): void {
            $table->string('email')->primary();
            $table->string('token');
            $table->timestamp('created_at')->nullable();
        });
        Schema::create('personal_access_tokens', static function (Blueprint $table): void {
            $table->id();
            $table->morphs('tokenable');
            $table->string('name', 100);
            $table->string('token', 64)->unique();
            $table->text('abilities')->nullable();
            $table->timestamp('last_used_at')->nullable();
            $table->timestamp('expires_at')->nullable()->index();
            $table->timestamps();
        });
        Schema::create('happenings', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('user_id')->nullable()->comment('who did it')->constrained()->nullOnDelete();
            $table->foreignUlid('study_id')->nullable()->constrained()->cascadeOnDelete();
            $table->string('kind', 40);
            $table->string('words', 300);
            $table->string('address', 45);
            $table->timestamp('created_at');
            $table->index(['study_id', 'id']);
            $table->index(['user_id', 'id']);
        });
    }

    public function down(): void
    {
        foreach (['happenings', 'personal_access_tokens', 'password_reset_tokens', 'keys', 'sign_ins'] as $table) {
            Schema::dropIfExists($table);
        }
        Schema::table(
            'users',
            static fn (Blueprint $table) => $table->dropColumn(['totp_secret', 'totp_since', 'totp_step', 'recovery_codes', 'left_at']),
        );
    }
};
