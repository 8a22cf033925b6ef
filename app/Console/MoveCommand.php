<?php

declare(strict_types=1);

namespace App\Console;

use App\Database\Transfer;
use App\Database\TransferRefused;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

final class MoveCommand extends Command
{
    protected $signature = 'orbit:move {to : sqlite or pgsql, as in config/database.php} {--from= : the same; else the one that is used}';

    protected $description = 'Copy everything into an empty database of another kind, and compare every row';

    public function handle(): int
    {
        [$to, $from] = [$this->argument('to'), $this->option('from')];
        $to = is_string($to) ? $to : '';
        $from = is_string($from) ? $from : DB::getDefaultConnection();
        foreach ([$from, $to] as $name) {
            if (config("database.connections.$name") === null) {
                $this->error('Name a database of config/database.php: sqlite or pgsql.');

                return self::INVALID;
            }
        }
        if ($from === $to) {
            $this->error("`$to` is the database that is used already.");

            return self::INVALID;
        }
        $file = config("database.connections.$to.database");
        if (config("database.connections.$to.driver") === 'sqlite' && is_string($file) && ! is_file($file)) {
            touch($file);
            chmod($file, 0600);
        }
        try {
            $counts = Transfer::make(DB::connection($from), DB::connection($to));
        } catch (TransferRefused|\PDOException $e) {
            $this->error($e->getMessage());

            return self::FAILURE;
        }
        foreach (array_filter($counts) as $table => $rows) {
            $this->line(str_pad($table, 28).number_format($rows));
        }
        $this->line(number_format(array_sum($counts))." rows are the same in both. Set DB_CONNECTION=$to, and start Merry Orbit anew.");

        return self::SUCCESS;
    }
}
