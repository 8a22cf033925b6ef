<?php

declare(strict_types=1);

namespace App\People;

use App\Models\User;
use Illuminate\Support\Facades\File;
use Symfony\Component\Mailer\SentMessage;
use Symfony\Component\Mailer\Transport\AbstractTransport;
use Symfony\Component\Mime\Email;

/** The simulated post office: letters are not sent but laid into a folder, where whoever runs Merry Orbit can read them. */
final class PostOffice extends AbstractTransport
{
    private const MOST = 200;

    protected function doSend(SentMessage $message): void
    {
        $email = $message->getOriginalMessage();
        if (! ($email instanceof Email)) {
            return;
        }
        $folder = self::folder();
        File::ensureDirectoryExists($folder, 0700);
        $letter = [
            'to' => implode(', ', array_map(static fn ($a): string => $a->getAddress(), $email->getTo())),
            'subject' => (string) $email->getSubject(),
            'text' => (string) $email->getTextBody(),
            'sent' => now()->toIso8601String(),
        ];
        $name = sprintf('%s/%016.0f-%s.json', $folder, microtime(true) * 1e6, bin2hex(random_bytes(4)));
        File::put($name, json_encode($letter, JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE));
        chmod($name, 0600);
        foreach (array_slice(self::files(), self::MOST) as $old) {
            @unlink($old);
        }
    }

    /** @return list<array{to: string, subject: string, text: string, sent: string}> the newest first */
    public static function letters(): array
    {
        /** @var list<array{to: string, subject: string, text: string, sent: string}> $letters */
        $letters = array_map(static fn (string $f): mixed => json_decode((string) file_get_contents($f), true), self::files());

        return $letters;
    }

    /** @return list<string> */
    private static function files(): array
    {
        return array_reverse(glob(self::folder().'/*.json') ?: []);
    }

    /** On one's own machine, everybody's letters are one's own; on a server they are read by `bin/orbit-admin letters` alone. */
    public static function isOpenTo(User $user): bool
    {
        return $user->email === User::DEMO && config()->boolean('merry-orbit.demo') && config('mail.default') === 'post-office';
    }

    private static function folder(): string
    {
        return config()->string('merry-orbit.post_office');
    }

    public function __toString(): string
    {
        return 'post-office';
    }
}
