<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What many runs are made for: those of Sobol indices are not looked at as a spread. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('ensembles', static function (Blueprint $table): void {
            $table->string('purpose', 20)->default('spread');
        });
    }

    public function down(): void
    {
        Schema::table('ensembles', static function (Blueprint $table): void {
            $table->dropColumn('purpose');
        });
    }
};
