<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Runs know what of the model they depend on; a study keeps what was said when its file was read. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('runs', static function (Blueprint $table): void {
            $table->string('meaning', 40)->default('')->comment('of the model, see core/Model/Meaning.php; empty where it was not noted');
        });
        Schema::table('kept_runs', static function (Blueprint $table): void {
            $table->string('meaning', 40)->default('');
        });
        Schema::table('studies', static function (Blueprint $table): void {
            $table
                ->longText('import_log')
                ->nullable()
                ->comment('what was not carried over from the file, as JSON, each line ticked off or not');
        });
    }

    public function down(): void
    {
        Schema::table('runs', static function (Blueprint $table): void {
            $table->dropColumn('meaning');
        });
        Schema::table('kept_runs', static function (Blueprint $table): void {
            $table->dropColumn('meaning');
        });
        Schema::table('studies', static function (Blueprint $table): void {
            $table->dropColumn('import_log');
        });
    }
};
