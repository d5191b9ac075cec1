<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\StorageAttributes;

/** Image bytes, addressed by their SHA-256. Equal files are kept once. */
final readonly class Blobs
{
    private const FOLDER = 'files/blobs';
    /** Seconds after which a file is written anew by whoever brings it: until it is named, nothing but its age keeps it from the collection. */
    private const FRESH = 3600;

    public function __construct(private FilesystemOperator $files)
    {
    }

    /**
     * Whoever brings the same bytes once more heals what has been damaged.
     *
     * @return string the SHA-256
     *
     * @throws StorageFailure if they could not be stored whole
     */
    public function put(string $bytes): string
    {
        $sha = self::sha($bytes);
        try {
            if (!$this->files->fileExists(self::path($sha)) || $this->files->lastModified(self::path($sha)) < time() - self::FRESH || self::sha($this->files->read(self::path($sha))) !== $sha) {
                $this->files->write(self::path($sha), $bytes);
            }
        } catch (FilesystemException $e) {
            throw StorageFailure::full($e);
        }

        return $sha;
    }

    /** @throws StorageFailure */
    public function has(string $sha): bool
    {
        try {
            return preg_match('/^[0-9a-f]{64}$/D', $sha) === 1 && $this->files->fileExists(self::path($sha));
        } catch (FilesystemException $e) {
            throw StorageFailure::away($e);
        }
    }

    /**
     * @param string $name what people call it
     *
     * @throws StorageFailure if it is gone, damaged, or cannot be read just now
     */
    public function get(string $sha, string $name): string
    {
        try {
            $bytes = $this->files->read(self::path($sha));
        } catch (FilesystemException $e) {
            throw $this->has($sha) ? StorageFailure::away($e) : StorageFailure::gone($name, $e);
        }

        return self::sha($bytes) === $sha ? $bytes : throw StorageFailure::damaged($name);
    }

    /**
     * Takes away what nobody names any more.
     *
     * @param array<string, mixed> $wanted  by SHA-256
     * @param int                  $before  Unix time: what was written later may be waiting to be named
     * @param bool                 $pretend whether to count alone
     *
     * @return array{files: int, bytes: int} that went
     */
    public function collect(array $wanted, int $before, bool $pretend = false): array
    {
        $gone = ['files' => 0, 'bytes' => 0];
        if (!$this->files->directoryExists(self::FOLDER)) {
            return $gone;
        }
        /** @var StorageAttributes $one */
        foreach ($this->files->listContents(self::FOLDER, true) as $one) {
            $name = basename($one->path());
            if (!$one->isFile() || isset($wanted[$name]) || ($one->lastModified() ?? \PHP_INT_MAX) > $before) {
                continue;
            }
            ++$gone['files'];
            $gone['bytes'] += $this->files->fileSize($one->path());
            $pretend || $this->files->delete($one->path());
        }

        return $gone;
    }

    private static function sha(string $bytes): string
    {
        // A third of the time that hash() takes.
        return (string) openssl_digest($bytes, 'sha256');
    }

    private static function path(string $sha): string
    {
        return self::FOLDER . '/' . substr($sha, 0, 2) . '/' . $sha;
    }
}
