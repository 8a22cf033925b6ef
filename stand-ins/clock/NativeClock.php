<?php

declare(strict_types=1);

namespace Symfony\Component\Clock;

/** The system's clock, in one time zone. */
final readonly class NativeClock implements ClockInterface
{
    private \DateTimeZone $zone;

    public function __construct(\DateTimeZone|string|null $timezone = null)
    {
        $this->zone = $timezone instanceof \DateTimeZone ? $timezone : new \DateTimeZone($timezone ?? date_default_timezone_get());
    }

    public function now(): \DateTimeImmutable
    {
        return new \DateTimeImmutable('now', $this->zone);
    }

    public function sleep(float|int $seconds): void
    {
        usleep((int) round(max(0, $seconds) * 1_000_000));
    }

    public function withTimeZone(\DateTimeZone|string $timezone): static
    {
        return new self($timezone);
    }
}
