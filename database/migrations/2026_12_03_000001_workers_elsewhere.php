<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Workers on other machines are known by what they write here; those of this machine by files that they hold. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('workers', static function (Blueprint $table): void {
            $table->string('id', 120)->primary()->comment('machine and process');
            $table->unsignedInteger('seen_at')->comment('Unix time');
            $table->boolean('busy')->default(false)->comment('at a job since then');
            $table->unsignedSmallInteger('edition')->comment('of the engine: others give other numbers');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('workers');
    }
};
