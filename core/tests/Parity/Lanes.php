<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Tests\Documents;

/** Lanes that the parity suite compares by name: every step in every mode. */
final class Lanes
{
    /** @return array<string, list<array<string, mixed>>> */
    public static function all(): array
    {
        $lanes = [];
        foreach (['xyz', 'xz', 'x', 'y', 'z'] as $faces) {
            foreach (['world', 'object'] as $space) {
                foreach ([0.0, 24.0, 90.0] as $seam) {
                    $lanes["origin, $space, $faces, seam $seam"] = [Documents::step('origin', ['space' => $space, 'faces' => $faces, 'seam' => $seam])];
                }
            }
        }
        $lanes['origin, mesh'] = [Documents::step('origin', ['space' => 'mesh'])];
        $lanes['size, linked'] = [Documents::step('origin', ['seam' => 40.0]), Documents::step('size', ['u' => 0.75])];
        $lanes['size, separate'] = [Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['linked' => false, 'u' => 0.3, 'v' => 7.0])];

        return $lanes;
    }
}
