<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** Zstandard (RFC 8878) by the program `zstd`: PHP has none of its own here. */
final class Zstandard
{
    private const LEVEL = 12;

    /**
     * A frame that has these bytes.
     *
     * @throws \RuntimeException if there is no such program, or it fails
     */
    public static function packed(string $bytes): string
    {
        return self::through(['zstd', '-q', '-' . self::LEVEL, '--single-thread', '--no-check', '--content-size', '--stream-size=' . \strlen($bytes), '-c'], $bytes);
    }

    /** @throws \RuntimeException if it is no frame */
    public static function unpacked(string $frame): string
    {
        return self::through(['zstd', '-q', '-d', '-c'], $frame);
    }

    /** @param list<string> $command */
    private static function through(array $command, string $bytes): string
    {
        // By files: what is written while nobody reads could wait for itself.
        $in = tmpfile();
        $out = tmpfile();
        $said = tmpfile();
        if ($in === false || $out === false || $said === false || fwrite($in, $bytes) !== \strlen($bytes)) {
            throw new \RuntimeException('There is no room for temporary files.');
        }
        rewind($in);
        $process = @proc_open($command, [$in, $out, $said], $pipes);
        $code = \is_resource($process) ? proc_close($process) : 127;
        rewind($out);
        rewind($said);
        if ($code !== 0) {
            throw new \RuntimeException('zstd did not run: ' . (trim((string) stream_get_contents($said)) ?: 'is the package "zstd" installed?'));
        }

        return (string) stream_get_contents($out);
    }
}
