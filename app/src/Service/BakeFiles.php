<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Format\Png;

/** The files of bakes: bands of rows while it runs, images when it is done. */
final readonly class BakeFiles
{
    public function __construct(private string $folder)
    {
    }

    /** @param array<string, string> $bytes by channel */
    public function putRegion(Bake $bake, int $fromRow, array $bytes): void
    {
        foreach ($bytes as $channel => $band) {
            $this->write(\sprintf('%s/%s.%06d.rows', $this->of($bake), $channel, $fromRow), $band);
        }
    }

    /** Lays the bands end to end; the bands are deleted. */
    public function assemble(Bake $bake): void
    {
        foreach (Channel::cases() as $channel) {
            $bands = glob(\sprintf('%s/%s.*.rows', $this->of($bake), $channel->value)) ?: [];
            sort($bands);
            $bytes = implode('', array_map(static fn (string $band): string => (string) file_get_contents($band), $bands));
            $this->write($this->path($bake, $channel), Png::bytes($bake->size, $bake->size, $channel->samples(), $bytes));
            array_map(unlink(...), $bands);
        }
    }

    public function path(Bake $bake, Channel $channel): string
    {
        return \sprintf('%s/%s-%s.png', $this->of($bake), $bake->name, $channel->value);
    }

    private function of(Bake $bake): string
    {
        return \sprintf('%s/%d', $this->folder, $bake->id());
    }

    private function write(string $path, string $bytes): void
    {
        if (!is_dir(\dirname($path)) && !@mkdir(\dirname($path), 0o775, true) && !is_dir(\dirname($path))) {
            throw new \RuntimeException("The folder of $path cannot be made.");
        }
        file_put_contents("$path.part", $bytes);
        rename("$path.part", $path);
    }
}
