<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

/** What a set of UVs is like. */
final readonly class UvMeasures
{
    /**
     * @param int   $set      its number in the file
     * @param int   $flat     triangles without area in it that have one in space
     * @param int   $mirrored triangles that lie in it the other way round
     * @param float $overlap  share of the covered texels that more than one triangle covers, 0…1
     * @param float $lowest   UV units a metre: below it lie 5 % of the area
     * @param float $median   UV units a metre
     * @param float $highest  UV units a metre: above it lie 5 % of the area
     */
    public function __construct(public int $set, public int $flat, public int $mirrored, public float $overlap, public float $lowest, public float $median, public float $highest)
    {
    }
}
