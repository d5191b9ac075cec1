<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Files that are there whole or not at all, whatever happens while they are written: aside, synced, then renamed. */
final class WholeFile
{
    /** What names of unfinished files end in. */
    public const UNFINISHED = '.part';

    /** @throws StorageFailure */
    public static function write(string $path, string $bytes): void
    {
        $folder = \dirname($path);
        if (!is_dir($folder) && !@mkdir($folder, 0o770, true) && !is_dir($folder)) {
            throw StorageFailure::full();
        }
        // A name of its own: somebody else may be writing the same.
        $aside = $path . '.' . bin2hex(random_bytes(6)) . self::UNFINISHED;
        $file = @fopen($aside, 'x');
        try {
            // What does not fit on a full disk is cut off without an error.
            if ($file === false || @fwrite($file, $bytes) !== \strlen($bytes) || !@fsync($file) || !@rename($aside, $path)) {
                throw StorageFailure::full();
            }
        } catch (\Throwable $e) {
            @unlink($aside);
            throw $e;
        } finally {
            $file === false || fclose($file);
        }
        // The name as well is to survive a loss of power.
        $names = @fopen($folder, 'r');
        if ($names !== false) {
            @fsync($names);
            fclose($names);
        }
    }
}
