<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Files that can be computed again at any time: texel packs, thumbnails, swatches. */
final readonly class Derived
{
    public function __construct(private string $folder)
    {
    }

    /**
     * The path of a derived file, made by the given function if it is missing.
     *
     * @param \Closure(): string $make its bytes
     */
    public function file(string $name, \Closure $make): string
    {
        $path = $this->folder . '/' . $name;
        if (is_file($path)) {
            return $path;
        }
        $folder = \dirname($path);
        if (!is_dir($folder) && !@mkdir($folder, 0o770, true) && !is_dir($folder)) {
            throw new \RuntimeException("The folder $folder cannot be made.");
        }
        // Who comes second waits for the first, rather than do the same beside it.
        $lock = fopen("$path.lock", 'c');
        if ($lock === false || !flock($lock, \LOCK_EX)) {
            throw new \RuntimeException("$path cannot be locked.");
        }
        try {
            clearstatcache(true, $path);
            if (!is_file($path)) {
                WholeFile::write($path, $make());
            }
        } finally {
            @unlink("$path.lock");
            flock($lock, \LOCK_UN);
            fclose($lock);
        }

        return $path;
    }
}
