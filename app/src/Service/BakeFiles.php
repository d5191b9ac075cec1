<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use League\Flysystem\FilesystemException;
use League\Flysystem\FilesystemOperator;
use League\Flysystem\StorageAttributes;
use Rilta\App\Entity\Bake;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Png;

/** The files of bakes: bands of rows while it runs, images when it is done. */
final readonly class BakeFiles
{
    private const FOLDER = 'bakes';

    public function __construct(private FilesystemOperator $store)
    {
    }

    /**
     * @param array<string, string> $bytes by image
     *
     * @throws StorageFailure
     */
    public function putRegion(Bake $bake, int $fromRow, array $bytes): void
    {
        foreach ($bytes as $name => $band) {
            $this->write(\sprintf('%s/%s.%06d.rows', self::of($bake), $name, $fromRow), $band);
        }
    }

    /**
     * All rows of an image whose bands are there, from the top.
     *
     * @throws StorageFailure
     */
    public function rows(Bake $bake, string $name): string
    {
        $bands = array_filter($this->all($bake), static fn (string $file): bool => preg_match('~/' . preg_quote($name, '~') . '\.\d{6}\.rows$~D', $file) === 1);
        sort($bands);

        return implode('', array_map($this->read(...), $bands));
    }

    /**
     * A picture of a channel: as PNG to look at, and as it was asked for, if that is another file.
     *
     * @param string $rows normals with green upwards
     *
     * @throws StorageFailure
     */
    public function putImage(Bake $bake, Channel $channel, string $rows): void
    {
        $down = $channel === Channel::Normal && !$bake->greenUp;
        $png = Png::bytes($bake->size, $bake->size, $channel->samples(), $rows, $channel->isDeep());
        $this->write(self::picture($bake, $channel), $png);
        if ($down || $bake->files !== PictureFormat::Png) {
            $this->write(self::wanted($bake, $channel), $bake->files->bytes($bake->size, $bake->size, $channel->samples(), $down ? Channel::greenDown($rows) : $rows, $channel->isDeep(), $channel->filter()));
        }
    }

    /** Of the picture of a channel as it was asked for. */
    public static function wanted(Bake $bake, Channel $channel): string
    {
        return match (true) {
            $bake->files !== PictureFormat::Png => \sprintf('%s/%s-%s.%s', self::of($bake), $bake->name, $channel->value, $bake->files->extension()),
            $channel === Channel::Normal && !$bake->greenUp => \sprintf('%s/%s-%s-green-down.png', self::of($bake), $bake->name, $channel->value),
            default => self::picture($bake, $channel),
        };
    }

    /** Of the picture of a channel to look at. */
    public static function picture(Bake $bake, Channel $channel): string
    {
        return \sprintf('%s/%s-%s.png', self::of($bake), $bake->name, $channel->value);
    }

    /** Of the object with what was baked into its UVs. */
    public static function object(Bake $bake): string
    {
        return \sprintf('%s/%s.glb', self::of($bake), $bake->name);
    }

    /** @throws StorageFailure */
    public function putObject(Bake $bake, string $glb): void
    {
        $this->write(self::object($bake), $glb);
    }

    /** @throws StorageFailure */
    public function has(string $file): bool
    {
        try {
            return $this->store->fileExists($file);
        } catch (FilesystemException $e) {
            throw StorageFailure::away($e);
        }
    }

    /** @throws StorageFailure */
    public function read(string $file): string
    {
        try {
            return $this->store->read($file);
        } catch (FilesystemException $e) {
            throw StorageFailure::away($e);
        }
    }

    /**
     * A file as it is read.
     *
     * @return array{resource, int} and how many bytes it has
     *
     * @throws StorageFailure
     */
    public function stream(string $file): array
    {
        try {
            return [$this->store->readStream($file), $this->store->fileSize($file)];
        } catch (FilesystemException $e) {
            throw StorageFailure::away($e);
        }
    }

    /** Takes away what is of no use once a bake has ended: its bands, and what was left of writing them. */
    public function tidy(Bake $bake): void
    {
        $this->away($bake, static fn (string $file): bool => preg_match('~\.(rows|part)$~D', $file) === 1);
    }

    /** Takes away all that a bake has left. Whoever is still at it may write something more, and takes that away itself. */
    public function forget(Bake $bake): void
    {
        $this->away($bake, static fn (): bool => true);
        try {
            $this->store->deleteDirectory(self::of($bake));
        } catch (\RuntimeException) {
            // A file went, or came, while it was listed (Flysystem lets PHP's own errors through); the collection takes what is left.
        }
    }

    /**
     * What lies there may be taken away by the collection as well, or by another worker, at the same time.
     *
     * @param \Closure(string): bool $which
     */
    private function away(Bake $bake, \Closure $which): void
    {
        try {
            $files = $this->all($bake);
        } catch (StorageFailure) {
            return;
        }
        foreach (array_filter($files, $which) as $file) {
            try {
                $this->store->delete($file);
            } catch (FilesystemException) {
                // The collection takes what is left.
            }
        }
    }

    /**
     * @return list<string>
     *
     * @throws StorageFailure
     */
    private function all(Bake $bake): array
    {
        try {
            return array_values($this->store->listContents(self::of($bake))->filter(static fn (StorageAttributes $one): bool => $one->isFile())->map(static fn (StorageAttributes $one): string => $one->path())->toArray());
        } catch (FilesystemException $e) {
            throw StorageFailure::away($e);
        }
    }

    private static function of(Bake $bake): string
    {
        return \sprintf('%s/%d', self::FOLDER, $bake->id());
    }

    private function write(string $file, string $bytes): void
    {
        try {
            $this->store->write($file, $bytes);
        } catch (FilesystemException $e) {
            throw StorageFailure::full($e);
        }
    }
}
