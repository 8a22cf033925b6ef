<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** An edit that is undone and made again together with the one before it, such as the name of what was just added. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('edits', static function (Blueprint $table): void {
            $table->boolean('joined')->default(false);
        });
    }

    public function down(): void
    {
        Schema::table('edits', static function (Blueprint $table): void {
            $table->dropColumn('joined');
        });
    }
};
