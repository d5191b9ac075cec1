<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;

/**
 * Files that can be computed again at any time: texel packs, thumbnails, swatches. Where several machines share a store, what one has
 * computed is there for all.
 */
final readonly class Derived
{
    private const FOLDER = 'derived';

    /** @param string $address of a store that is shared; "" if there is none */
    public function __construct(private string $folder, private string $address, private FilesystemOperator $store)
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
                WholeFile::write($path, $this->address === '' ? $make() : $this->shared($name, $make));
            }
        } finally {
            @unlink("$path.lock");
            flock($lock, \LOCK_UN);
            fclose($lock);
        }

        return $path;
    }

    /** @param \Closure(): string $make */
    private function shared(string $name, \Closure $make): string
    {
        $file = self::FOLDER . "/$name";
        try {
            if ($this->store->fileExists($file)) {
                return $this->store->read($file);
            }
        } catch (FilesystemException) {
            // What cannot be fetched is made here.
        }
        $bytes = $make();
        try {
            $this->store->write($file, $bytes);
        } catch (FilesystemException) {
            // Another machine makes it as well.
        }

        return $bytes;
    }
}
