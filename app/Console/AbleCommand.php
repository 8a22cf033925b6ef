<?php

declare(strict_types=1);

namespace App\Console;

use App\Runs\Elsewhere;
use App\Runs\JitBuffer;
use App\Runs\Results;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\Cache;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;

/** What a worker on this machine can do, said before it begins; where it could do nothing, why. */
final class AbleCommand extends Command
{
    protected $signature = 'orbit:able';

    protected $description = 'Say what a worker on this machine can do, and whether it reaches what it needs';

    public function handle(): int
    {
        $memory = (string) ini_get('memory_limit');
        $this->line(
            gethostname().
                ': PHP '.
                PHP_VERSION.
                ", at most $memory for a piece of work, ".
                (JitBuffer::state()['free_share'] === null ? 'no machine code: runs take four times as long' : 'machine code').
                ', edition '.
                Results::EDITION.
                ' of the engine.',
        );
        $needs = [
            'the database ('.DB::getDefaultConnection().')' => static fn (): mixed => DB::table('users')->exists(),
            'the queue ('.config()->string('queue.default').')' => static fn (): int => Queue::connection()->size('default'),
            'the cache ('.config()->string('cache.default').')' => static fn (): bool => Cache::put('able', ['yes'], 10),
            'the disk of results ('.Results::name().')' => static function (): void {
                $name = 'answers/able-'.bin2hex(random_bytes(4));
                Results::write($name, 'x');
                Results::disk()->delete($name);
            },
        ];
        $isAble = true;
        foreach ($needs as $what => $reach) {
            try {
                $reach();
            } catch (\Throwable $e) {
                $isAble = false;
                $this->error(ucfirst($what).' cannot be reached: '.strtok($e->getMessage(), "\n"));
            }
        }
        if ($isAble && Elsewhere::isMixed()) {
            $isAble = false;
            $this->error(
                'Workers of another edition of the engine are at work, and would give other numbers. Stop them, or upgrade this machine.',
            );
        }

        return $isAble ? self::SUCCESS : self::FAILURE;
    }
}
