<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Raster\Image;

/** What would hide the repeat of a material. */
final readonly class HidingOffers
{
    /**
     * @param float             $metres that a picture is wide
     * @param list<HidingOffer> $offers the best first; none if nothing hides more of it
     * @param int               $tried  how many changes were tried
     */
    public function __construct(public RepetitionCurve $curve, public Cost $cost, public Image $picture, public float $metres, public array $offers, public int $tried)
    {
    }
}
