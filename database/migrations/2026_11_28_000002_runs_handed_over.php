<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** A run that takes long is handed over to a worker, as a batch of one. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('batches', static function (Blueprint $table): void {
            $table->string('token', 40)->nullable()->comment('of a single run that was handed over: under which the page follows it');
        });
    }

    public function down(): void
    {
        Schema::table('batches', static function (Blueprint $table): void {
            $table->dropColumn('token');
        });
    }
};
