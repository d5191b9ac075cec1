<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Deliver\Deliverable;
use Rilta\Core\Deliver\PictureFacts;

/**
 * A folder of deliveries: each a folder of its own with a manifest, which is there whole or not at all. Another one of the same name gets a
 * number; what is unchanged is not made again.
 */
final readonly class DeliveryFolder
{
    private const MANIFEST = 'manifest.json';
    /** Seconds after which nobody is at a ZIP any more. */
    private const LONG = 3600;
    /** What is being written, until it has its name. */
    private const UNFINISHED = '.unfinished-';

    public function __construct(private string $folder)
    {
    }

    /**
     * The newest delivery of the same name that follows from the same; null if there is none, or it is not whole any more.
     *
     * @throws \InvalidArgumentException if the name is that of a delivery of something else
     */
    public function unchanged(Deliverable $delivery, string $source): ?string
    {
        $newest = $this->newest($delivery->name());
        $manifest = $newest === null ? null : json_decode((string) @file_get_contents("$newest/" . self::MANIFEST), true);
        if ($newest === null || !\is_array($manifest)) {
            return null;
        }
        ['material' => $material, 'variant' => $variant] = $delivery->of();
        if (($manifest['material'] ?? $material) !== $material || ($manifest['variant'] ?? $variant) !== $variant) {
            throw new \InvalidArgumentException(\sprintf('%s is a delivery of something else that has the same name there: rename one of them, or choose another folder.', $newest));
        }
        if (($manifest['source'] ?? null) !== $source || !\is_array($manifest['files'] ?? null)) {
            return null;
        }
        foreach ($manifest['files'] as $file) {
            if (!\is_array($file) || !\is_string($file['path'] ?? null) || @hash_file('sha256', "$newest/{$file['path']}") !== ($file['sha256'] ?? null)) {
                return null;
            }
        }

        return $newest;
    }

    /**
     * Writes a delivery beside those that are there.
     *
     * @param \Closure(int, int): void $progress
     *
     * @return array{string, list<array{path: string, sha256: string, bytes: int, meaning: string, picture?: PictureFacts}>} its folder and files
     *
     * @throws StorageFailure            if it cannot be written; nothing of it is left then
     * @throws \InvalidArgumentException if names clash
     */
    public function write(Deliverable $delivery, string $source, \Closure $progress): array
    {
        $this->tidy();
        $aside = "$this->folder/" . self::UNFINISHED . bin2hex(random_bytes(6));
        if (!@mkdir($aside, 0o775, true)) {
            throw new \InvalidArgumentException("The folder $this->folder cannot be written to.");
        }
        // Whoever comes by sees that somebody is at it.
        $mine = fopen("$aside/.lock", 'c');
        if ($mine !== false) {
            flock($mine, \LOCK_EX);
        }
        try {
            $files = [];
            $all = $delivery->files($progress);
            foreach ($all as $path => $made) {
                [$meaning, $bytes] = $made;
                // For others to read as well.
                is_dir(\dirname("$aside/$path")) || @mkdir(\dirname("$aside/$path"), 0o775, true);
                WholeFile::write("$aside/$path", $bytes);
                $files[] = ['path' => $path, 'sha256' => hash('sha256', $bytes), 'bytes' => \strlen($bytes), 'meaning' => $meaning] + (isset($made[2]) ? ['picture' => $made[2]] : []);
            }
            WholeFile::write("$aside/" . self::MANIFEST, $delivery->manifest($files, $all->getReturn(), $source));
            @unlink("$aside/.lock");
            $folder = $this->free($delivery->name(), $aside);
        } catch (\Throwable $e) {
            self::remove($aside);
            throw $e;
        } finally {
            $mine === false || fclose($mine);
        }

        return [$folder, $files];
    }

    /**
     * The same as one file beside it, with the folder's name in front of each path. The same delivery makes the same bytes.
     *
     * @return string its path
     *
     * @throws StorageFailure            if it cannot be written
     * @throws \InvalidArgumentException if another file has that name
     */
    public function zip(string $folder): string
    {
        $path = "$folder.zip";
        $aside = "$this->folder/" . self::UNFINISHED . bin2hex(random_bytes(6)) . '.zip';
        $files = [];
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS)) as $one) {
            if ($one instanceof \SplFileInfo && $one->isFile()) {
                $files[basename($folder) . '/' . substr($one->getPathname(), \strlen($folder) + 1)] = static fn (): string => (string) file_get_contents($one->getPathname());
            }
        }
        try {
            SameZip::write($aside, $files);
            if (is_file($path) && hash_file('sha256', $path) !== hash_file('sha256', $aside)) {
                throw new \InvalidArgumentException("$path is another file; move it away, and deliver again.");
            }
            if (!@rename($aside, $path)) {
                throw StorageFailure::full();
            }
        } finally {
            @unlink($aside);
        }

        return $path;
    }

    /** Takes a name that nobody has, and gives it to what is finished. */
    private function free(string $name, string $aside): string
    {
        for ($n = 1;; ++$n) {
            $folder = "$this->folder/$name" . ($n === 1 ? '' : "-$n");
            if (!file_exists($folder) && @rename($aside, $folder)) {
                return $folder;
            }
            if (!file_exists($folder)) {
                throw StorageFailure::full();
            }
        }
    }

    private function newest(string $name): ?string
    {
        $newest = null;
        for ($n = 1; is_dir($folder = "$this->folder/$name" . ($n === 1 ? '' : "-$n")); ++$n) {
            $newest = $folder;
        }

        return $newest;
    }

    /** Takes away what was left by those that were killed. */
    private function tidy(): void
    {
        foreach (glob("$this->folder/" . self::UNFINISHED . '*', \GLOB_ONLYDIR) ?: [] as $left) {
            $lock = @fopen("$left/.lock", 'c');
            if ($lock !== false && flock($lock, \LOCK_EX | \LOCK_NB)) {
                self::remove($left);
            }
            $lock === false || fclose($lock);
        }
        foreach (glob("$this->folder/" . self::UNFINISHED . '*.zip*') ?: [] as $left) {
            if ((int) @filemtime($left) < time() - self::LONG) {
                @unlink($left);
            }
        }
    }

    private static function remove(string $folder): void
    {
        foreach (new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS), \RecursiveIteratorIterator::CHILD_FIRST) as $one) {
            if ($one instanceof \SplFileInfo) {
                $one->isDir() && !$one->isLink() ? @rmdir($one->getPathname()) : @unlink($one->getPathname());
            }
        }
        @rmdir($folder);
    }
}
