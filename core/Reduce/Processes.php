<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Reduce;

/** Work that is split over processes of this machine; what comes out is the same as if one did it all. */
final class Processes
{
    /** How many of them this machine can carry out at once. */
    public static function cores(): int
    {
        return is_readable('/proc/cpuinfo') ? max(1, substr_count((string) file_get_contents('/proc/cpuinfo'), "processor\t:")) : 1;
    }

    /**
     * Each part in a process of its own, the first in this one; where no more can be had, or one was killed, this one does their part.
     *
     * @template T
     *
     * @param  list<\Closure(): T>  $parts
     * @return list<T>
     */
    public static function each(array $parts): array
    {
        $pipes = $children = [];
        foreach (array_slice($parts, 1, preserve_keys: true) as $i => $part) {
            $pipe = function_exists('pcntl_fork') ? stream_socket_pair(STREAM_PF_UNIX, STREAM_SOCK_STREAM, STREAM_IPPROTO_IP) : false;
            $child = $pipe === false ? -1 : pcntl_fork();
            if ($pipe === false || $child < 0) {
                $pipes[$i] = null;
            } elseif ($child === 0) {
                fclose($pipe[0]);
                try {
                    fwrite($pipe[1], serialize([$part()]));
                    fclose($pipe[1]);
                } catch (\Throwable) {
                    // It is thrown again where the parent does this part itself: a child never leaves this place, or there would be two
                    // of whoever called.
                } finally {
                    // Nothing of the parent's is to be tidied up by the child.
                    posix_kill(posix_getpid(), SIGKILL);
                }
            } else {
                fclose($pipe[1]);
                [$pipes[$i], $children[$i]] = [$pipe[0], $child];
            }
        }
        $made = [];
        try {
            foreach ($parts as $i => $part) {
                $pipe = $pipes[$i] ?? null;
                $sent = $pipe === null ? false : @unserialize((string) stream_get_contents($pipe), ['allowed_classes' => false]);
                if (is_array($sent) && array_key_exists(0, $sent)) {
                    /** @var T $one */
                    $one = $sent[0];
                    $made[] = $one;
                } else {
                    $made[] = $part();
                }
            }
        } finally {
            // Also where this one's own part ended early: nobody works for nothing.
            foreach ($children as $child) {
                posix_kill($child, SIGKILL);
                pcntl_waitpid($child, $status);
            }
        }

        return $made;
    }
}
