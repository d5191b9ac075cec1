<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\Core\Bake\Channel;

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

    public function putImage(Bake $bake, Channel $channel, string $png): void
    {
        $this->write($this->path($bake, $channel), $png);
    }

    /** Takes away what is of no use once a bake has ended: its bands, and what was left of writing them. */
    public function tidy(Bake $bake): void
    {
        array_map(unlink(...), [...(glob($this->of($bake) . '/*.rows') ?: []), ...(glob($this->of($bake) . '/*.part') ?: [])]);
    }

    /** Takes away all that a bake has left. */
    public function forget(Bake $bake): void
    {
        array_map(unlink(...), glob($this->of($bake) . '/*') ?: []);
        if (is_dir($this->of($bake))) {
            rmdir($this->of($bake));
        }
    }

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
