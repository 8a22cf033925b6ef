<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Results are blobs on a disk, named by what they are of; the database knows which there are. Batches are Laravel's. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('job_batches', static function (Blueprint $table): void {
            $table->string('id')->primary();
            $table->string('name');
            $table->integer('total_jobs');
            $table->integer('pending_jobs');
            $table->integer('failed_jobs');
            $table->longText('failed_job_ids');
            $table->mediumText('options')->nullable();
            $table->integer('cancelled_at')->nullable();
            $table->integer('created_at');
            $table->integer('finished_at')->nullable();
        });
        Schema::table('batches', static function (Blueprint $table): void {
            $table->string('bus_id')->nullable()->comment('the batch of jobs');
            $table->dropColumn('cancelled_at');
        });
        Schema::table('batch_runs', static function (Blueprint $table): void {
            $table->string('document', 120)->nullable()->index()->comment('the blob of the model it is of');
            $table->string('result', 120)->nullable()->index()->comment('the blob of the run');
        });
        Schema::table('kept_runs', static function (Blueprint $table): void {
            $table->string('result', 120)->nullable()->index()->comment('the blob of the run; older ones are in kept_run_results');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('job_batches');
        Schema::table('batches', static function (Blueprint $table): void {
            $table->dropColumn('bus_id');
            $table->timestamp('cancelled_at')->nullable();
        });
        foreach (['batch_runs' => ['document', 'result'], 'kept_runs' => ['result']] as $name => $columns) {
            foreach ($columns as $column) {
                Schema::table($name, static function (Blueprint $table) use ($column): void {
                    $table->dropIndex([$column]);
                    $table->dropColumn($column);
                });
            }
        }
    }
};
