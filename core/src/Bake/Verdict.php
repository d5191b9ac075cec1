<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Raster\EdgeSeam;

/** Whether a finished tile is seamless: what follows from the document, and what was measured of its images. */
final readonly class Verdict
{
    /**
     * @param array<string, float> $wrap by channel, as Raster\EdgeSeam measures it
     * @param bool                 $cut  whether the tile was cut to fit
     * @param float                $glow what the image of emission is to be multiplied by, in linear light: 1 or more
     */
    public function __construct(public Tile $tile, public array $wrap, public bool $cut, public float $glow)
    {
    }

    public function isSeamless(): bool
    {
        return ($this->tile->isSeamless() || $this->cut) && $this->jumping() === [];
    }

    /** In words, to follow its size. */
    public function text(): string
    {
        $jumps = implode(', ', array_map(static fn (string $channel, float $by): string => \sprintf('%s %.1f times', $channel, $by), array_keys($this->jumping()), $this->jumping()));
        $shown = $jumps === '' ? '' : "; across its edges values jump further than anywhere inside: $jumps";

        return match (true) {
            $this->tile->isSeamless() && $jumps === '' => 'a seamless tile',
            $this->tile->isSeamless() => "its copies line up, but a map that it reads has an edge of its own$shown",
            $this->cut => 'made seamless by a cut' . ($jumps === '' ? '' : ", not everywhere$shown") . ", since {$this->tile->obstacle}",
            default => "it cannot tile, because {$this->tile->obstacle}$shown",
        };
    }

    /** @return array<string, float> the channels whose edges are seen */
    private function jumping(): array
    {
        return array_filter($this->wrap, static fn (float $by): bool => $by > EdgeSeam::SEEN);
    }
}
