<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** How much of a surface comes again, as an eye sees it from one distance. */
final readonly class RepetitionAt
{
    /**
     * @param float $distance  metres
     * @param float $score     0…1: 1 for an exact repeat, under 0.1 for none that can be seen
     * @param float $length    metres after which it comes again
     * @param float $direction degrees from the right upwards, above -90 and up to 90
     * @param float $contrast  of what is seen, weighed by how well it is seen: root mean square over the mean luminance
     */
    public function __construct(public float $distance, public float $score, public float $length, public float $direction, public float $contrast)
    {
    }
}
