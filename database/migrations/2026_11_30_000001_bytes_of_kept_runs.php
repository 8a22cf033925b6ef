<?php

declare(strict_types=1);

use App\Runs\Results;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('kept_runs', static function (Blueprint $table): void {
            $table->unsignedBigInteger('bytes')->default(0);
            $table->index('user_id');
        });
        foreach (
            DB::table('kept_runs')
                ->whereNotNull('result')
                ->select(['id', 'result'])
                ->get() as $row
        ) {
            $bytes = is_string($row->result) && Results::disk()->exists($row->result) ? Results::disk()->size($row->result) : 0;
            DB::table('kept_runs')
                ->where('id', $row->id)
                ->update(['bytes' => $bytes]);
        }
    }

    public function down(): void
    {
        Schema::table('kept_runs', static function (Blueprint $table): void {
            $table->dropIndex(['user_id']);
            $table->dropColumn('bytes');
        });
    }
};
