<?php

declare(strict_types=1);

namespace App\Console;

use App\People\PostOffice;
use Illuminate\Console\Command;

/** Prints what the simulated post office would have sent, the newest last. */
final class LettersCommand extends Command
{
    protected $signature = 'orbit:letters {--most=10 : so many of the newest}';

    protected $description = 'Print what the simulated post office would have sent';

    public function handle(): int
    {
        $letters = array_reverse(array_slice(PostOffice::letters(), 0, max(1, (int) $this->option('most'))));
        foreach ($letters as $letter) {
            $this->line("To: $letter[to]\nSubject: $letter[subject]\nDate: $letter[sent]\n\n$letter[text]");
            $this->line(str_repeat('-', 72));
        }
        if ($letters === []) {
            $this->line('There are no letters.');
        }

        return self::SUCCESS;
    }
}
