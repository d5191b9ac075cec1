<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Format\MeshFile;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Format\ZipFile;

/** Files that came together, some of them in a ZIP. */
final class SentFiles
{
    /** Bytes that are read at once. */
    private const MOST_UNPACKED = 2 * MeshFile::MOST_BYTES;

    /**
     * @param array<string, string> $files
     *
     * @return array{array<string, string>, list<array{file: string, reason: string}>}
     */
    public static function unpacked(array $files): array
    {
        $all = $refused = [];
        foreach ($files as $name => $bytes) {
            if (!str_starts_with($bytes, "PK\x03\x04") && !str_starts_with($bytes, "PK\x05\x06")) {
                $all[$name] = $bytes;
                continue;
            }
            $path = (string) tempnam(sys_get_temp_dir(), 'rilta-meshes');
            try {
                WholeFile::write($path, $bytes);
                foreach (ZipFile::members($path, (string) $name) as [$file, $found]) {
                    if (\is_string($found) && array_sum(array_map(strlen(...), $all)) + \strlen($found) > self::MOST_UNPACKED) {
                        $refused[] = ['file' => $file, 'reason' => \sprintf('%s: all files together may have %d MiB; bring it by itself.', $file, self::MOST_UNPACKED / 1048576)];
                    } elseif (\is_string($found)) {
                        $all[$file] = $found;
                    } else {
                        $refused[] = ['file' => $file, 'reason' => $found->getMessage()];
                    }
                }
            } catch (UnreadableMap $e) {
                $refused[] = ['file' => (string) $name, 'reason' => $e->getMessage()];
            } finally {
                @unlink($path);
            }
        }

        return [$all, $refused];
    }
}
