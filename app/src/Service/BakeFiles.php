<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Png;

/** The files of bakes: bands of rows while it runs, images when it is done. */
final readonly class BakeFiles
{
    public function __construct(private string $folder)
    {
    }

    /** @param array<string, string> $bytes by image */
    public function putRegion(Bake $bake, int $fromRow, array $bytes): void
    {
        foreach ($bytes as $name => $band) {
            $this->write(\sprintf('%s/%s.%06d.rows', $this->of($bake), $name, $fromRow), $band);
        }
    }

    /** All rows of an image whose bands are there, from the top. */
    public function rows(Bake $bake, string $name): string
    {
        return implode('', array_map(static fn (string $band): string => (string) file_get_contents($band), $this->bands($bake, $name)));
    }

    /**
     * A picture of a channel: as PNG to look at, and as it was asked for, if that is another file.
     *
     * @param string $rows normals with green upwards
     */
    public function putImage(Bake $bake, Channel $channel, string $rows): void
    {
        $down = $channel === Channel::Normal && !$bake->greenUp;
        $png = Png::bytes($bake->size, $bake->size, $channel->samples(), $rows, $channel->isDeep());
        $this->write($this->path($bake, $channel), $png);
        if ($down || $bake->files !== PictureFormat::Png) {
            $this->write($this->wanted($bake, $channel), $bake->files->bytes($bake->size, $bake->size, $channel->samples(), $down ? Channel::greenDown($rows) : $rows, $channel->isDeep(), $channel->filter()));
        }
    }

    /** The picture of a channel as it was asked for. */
    public function wanted(Bake $bake, Channel $channel): string
    {
        return match (true) {
            $bake->files !== PictureFormat::Png => \sprintf('%s/%s-%s.%s', $this->of($bake), $bake->name, $channel->value, $bake->files->extension()),
            $channel === Channel::Normal && !$bake->greenUp => \sprintf('%s/%s-%s-green-down.png', $this->of($bake), $bake->name, $channel->value),
            default => $this->path($bake, $channel),
        };
    }

    /** Takes away what is of no use once a bake has ended: its bands, and what was left of writing them. */
    public function tidy(Bake $bake): void
    {
        self::away([...(glob($this->of($bake) . '/*.rows') ?: []), ...(glob($this->of($bake) . '/*.part') ?: [])]);
    }

    /** Takes away all that a bake has left. Whoever is still at it may write something more, and takes that away itself. */
    public function forget(Bake $bake): void
    {
        self::away(glob($this->of($bake) . '/*') ?: []);
        @rmdir($this->of($bake));
    }

    /** @param list<string> $files of which others may have taken some away already */
    private static function away(array $files): void
    {
        foreach ($files as $file) {
            @unlink($file);
        }
    }

    /** The picture of a channel to look at. */
    public function path(Bake $bake, Channel $channel): string
    {
        return \sprintf('%s/%s-%s.png', $this->of($bake), $bake->name, $channel->value);
    }

    /** Of the object with what was baked into its UVs. */
    public function object(Bake $bake): string
    {
        return \sprintf('%s/%s.glb', $this->of($bake), $bake->name);
    }

    public function putObject(Bake $bake, string $glb): void
    {
        $this->write($this->object($bake), $glb);
    }

    /** @return list<string> paths, from the top */
    private function bands(Bake $bake, string $name): array
    {
        $bands = glob(\sprintf('%s/%s.*.rows', $this->of($bake), $name)) ?: [];
        sort($bands);

        return $bands;
    }

    private function of(Bake $bake): string
    {
        return \sprintf('%s/%d', $this->folder, $bake->id());
    }

    private function write(string $path, string $bytes): void
    {
        WholeFile::write($path, $bytes);
    }
}
