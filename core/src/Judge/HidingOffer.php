<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Raster\Image;

/** What hides the repeat of a material, and its price. */
final readonly class HidingOffer
{
    /** @param array<string, float> $kept how much of the detail stays, 0…1, of "colour", "relief" and "roughness" */
    public function __construct(public Hiding $hiding, public RepetitionCurve $curve, public Cost $cost, public array $kept, public Image $picture)
    {
    }
}
