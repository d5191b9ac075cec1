<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use League\Flysystem\Config;
use League\Flysystem\Local\LocalFilesystemAdapter;
use League\Flysystem\UnableToWriteFile;

/** The local filesystem, with files that are there whole or not at all. */
final class SyncedAdapter extends LocalFilesystemAdapter
{
    public function __construct(private readonly string $folder)
    {
        parent::__construct($folder);
    }

    public function write(string $path, string $contents, Config $config): void
    {
        try {
            WholeFile::write("$this->folder/$path", $contents);
        } catch (StorageFailure $e) {
            throw UnableToWriteFile::atLocation($path, $e->getMessage(), $e);
        }
    }
}
