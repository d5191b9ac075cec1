<?php

declare(strict_types=1);

namespace Rilta\Core\Raster;

/** How the levels of a map lie one after the other in a flat list: the largest first, rows from the top. */
final readonly class MipLayout
{
    /** @var list<int> */
    public array $widths;

    /** @var list<int> */
    public array $heights;

    /** @var list<int> where each level begins, in texels */
    public array $offsets;

    /** All levels together, in texels. */
    public int $texels;

    public function __construct(int $width, int $height)
    {
        $widths = [];
        $heights = [];
        $offsets = [];
        $texels = 0;
        while (true) {
            $widths[] = $width;
            $heights[] = $height;
            $offsets[] = $texels;
            $texels += $width * $height;
            if ($width === 1 && $height === 1) {
                break;
            }
            $width = max(1, intdiv($width, 2));
            $height = max(1, intdiv($height, 2));
        }
        $this->widths = $widths;
        $this->heights = $heights;
        $this->offsets = $offsets;
        $this->texels = $texels;
    }

    public function levels(): int
    {
        return \count($this->widths);
    }
}
