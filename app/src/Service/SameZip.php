<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** ZIP files of which the same files make the same bytes, whenever and wherever they are made. */
final readonly class SameZip
{
    /** When files are said to have been made: the first moment that a ZIP can tell. */
    private const EPOCH = 315532800;

    /**
     * @param string                            $path  of a file that is not there yet
     * @param array<string, \Closure(): string> $files bytes by path
     *
     * @throws StorageFailure if it cannot be written
     */
    public static function write(string $path, array $files): void
    {
        ksort($files, \SORT_STRING);
        $zip = new \ZipArchive();
        // A ZIP tells local time, which is another one elsewhere.
        $zone = getenv('TZ');
        putenv('TZ=UTC');
        try {
            $good = $zip->open($path, \ZipArchive::CREATE | \ZipArchive::EXCL) === true;
            foreach ($files as $name => $bytes) {
                // Neither when it was made nor by whom is part of it.
                $good = $good && $zip->addFromString($name, $bytes()) && $zip->setMtimeName($name, self::EPOCH) && $zip->setExternalAttributesName($name, \ZipArchive::OPSYS_UNIX, 0o100644 << 16);
            }
            if (!$zip->close() || !$good) {
                throw StorageFailure::full();
            }
        } finally {
            putenv($zone === false ? 'TZ' : "TZ=$zone");
        }
    }
}
