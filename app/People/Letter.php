<?php

declare(strict_types=1);

namespace App\People;

use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldBeEncrypted;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Mail\Message;
use Illuminate\Support\Facades\Mail;

/**
 * A letter, sent by a worker: whoever asks for one does not wait, and cannot tell by the time it takes whether there was anybody to
 * send it to. It may hold a key, so it waits encrypted.
 */
final class Letter implements ShouldBeEncrypted, ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public int $tries = 5;

    public int $backoff = 60;

    /** @param  list<string>  $lines  paragraphs */
    public function __construct(private readonly string $to, private readonly string $subject, private readonly array $lines)
    {
        $this->onConnection(Letters::queue());
    }

    public function handle(): void
    {
        $text = implode("\n\n", [...$this->lines, "Merry Orbit\n".config()->string('app.url')])."\n";
        Mail::raw($text, function (Message $message): void {
            $message->to($this->to)->subject($this->subject);
        });
    }
}
