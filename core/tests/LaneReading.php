<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Probe\SurfaceSample;

/** What a lane's taps come to at one point, by the PHP kernel. */
final class LaneReading
{
    /**
     * @param list<array<string, mixed>> $steps
     *
     * @return array<string, array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>}> by tap
     */
    public static function of(array $steps, SurfaceSample $point): array
    {
        return self::taps(Documents::lower($steps), $point);
    }

    /**
     * @param array<string, list<int>> $texels by map name, if the lane reads maps on its way
     *
     * @return array<string, array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>}>
     */
    public static function taps(Lowered $lowered, SurfaceSample $point, array $texels = []): array
    {
        $fields = [];
        foreach ($lowered->taps() as $tap) {
            foreach (['uv', 'dx', 'dy', 'metres'] as $part) {
                $fields["$tap->name $part"] = $tap->at->$part;
            }
            $fields["$tap->name weight"] = $tap->weight;
            [$fields["$tap->name t"], $fields["$tap->name b"]] = $tap->at->directions($lowered->graph);
        }
        $taps = [];
        foreach (Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms(), $texels) as $name => $value) {
            [$tap, $part] = explode(' ', $name);
            $taps[$tap][$part] = array_map(floatval(...), $value);
        }

        /** @var array<string, array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>}> $taps */
        return $taps;
    }

    /**
     * The tap that counts most.
     *
     * @param list<array<string, mixed>> $steps
     *
     * @return array{uv: list<float>, dx: list<float>, dy: list<float>, t: list<float>, b: list<float>, metres: list<float>, weight: list<float>}
     */
    public static function heaviest(array $steps, SurfaceSample $point): array
    {
        $taps = self::of($steps, $point);
        uasort($taps, static fn (array $a, array $b): int => $b['weight'][0] <=> $a['weight'][0]);

        return array_values($taps)[0] ?? throw new \LogicException('A lane without taps.');
    }
}
