<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\UvMeasures;

/** Looks for what usually goes wrong with meshes. */
final class MeshCheck
{
    /** Metres between which things are that people make. */
    private const LIKELY = [0.05, 150.0];
    /** Share of the box around a mesh that faces enclose which look inwards. */
    private const INWARDS = -0.02;
    /** How many times a density may be another within a set of UVs. */
    private const UNEVEN = 4.0;
    /** Share of texels that may be covered twice. */
    private const OVERLAP = 0.01;

    /**
     * @param int $triangles all of them
     *
     * @return list<MeshFinding> the gravest first
     */
    public static function of(MeshMeasures $found, int $triangles, MeshOptions $options): array
    {
        $findings = array_values(array_filter([self::size($found, $options), self::side($found, $triangles, $options)]));
        if ($found->sets === []) {
            $findings[] = new MeshFinding('no-uvs', false, 'It has no UVs: materials that start from them have one colour all over. Projections do without.');
        }
        foreach ($found->sets as $set) {
            array_push($findings, ...self::set($set, $triangles));
        }
        if ($found->flat > 0) {
            $findings[] = new MeshFinding('flat', false, \sprintf('%d of %d triangles have no area.', $found->flat, $triangles));
        }
        usort($findings, static fn (MeshFinding $a, MeshFinding $b): int => $b->grave <=> $a->grave);

        return $findings;
    }

    private static function size(MeshMeasures $found, MeshOptions $options): ?MeshFinding
    {
        $longest = $found->longest();
        if ($longest >= self::LIKELY[0] && $longest <= self::LIKELY[1]) {
            return null;
        }
        foreach ($longest > self::LIKELY[1] ? ['centimetres' => 0.01, 'millimetres' => 0.001] : ['hundreds of metres' => 100.0] as $unit => $factor) {
            $scale = $options->scale * $factor;
            if ($longest * $factor >= self::LIKELY[0] && $longest * $factor <= self::LIKELY[1] && $scale >= MeshOptions::SCALES[0] && $scale <= MeshOptions::SCALES[1]) {
                return new MeshFinding(
                    'size',
                    true,
                    \sprintf('It is %s m long: that looks like %s. Scaled, it would be %s m.', self::figure($longest), $unit, self::figure($longest * $factor)),
                    \sprintf('Scale to %s m', self::figure($longest * $factor)),
                    new MeshOptions($scale, $options->up, $options->turned, $options->crease),
                );
            }
        }

        return new MeshFinding('size', true, \sprintf('It is %s m long.', self::figure($longest)));
    }

    private static function side(MeshMeasures $found, int $triangles, MeshOptions $options): ?MeshFinding
    {
        $turned = new MeshOptions($options->scale, $options->up, !$options->turned, $options->crease);
        if ($found->inside < self::INWARDS) {
            return new MeshFinding('inwards', true, 'Its faces look inwards: from outside one sees through them.', 'Turn the faces', $turned);
        }

        return $found->contrary === 0 ? null : new MeshFinding('contrary', $found->contrary > $triangles / 2, \sprintf('The normals of %d of %d triangles point to their back.', $found->contrary, $triangles));
    }

    /** @return list<MeshFinding> */
    private static function set(UvMeasures $set, int $triangles): array
    {
        $name = 'UV set ' . ($set->set + 1);
        $findings = [];
        if ($set->flat > 0) {
            $findings[] = new MeshFinding("flat-uvs-$set->set", $set->flat > $triangles / 2, \sprintf('%s: %d of %d triangles have no area in it, and show streaks.', $name, $set->flat, $triangles));
        }
        if ($set->mirrored > 0) {
            $findings[] = new MeshFinding("mirrored-$set->set", false, \sprintf('%s: %d of %d triangles are mirrored; writing would read backwards there.', $name, $set->mirrored, $triangles));
        }
        if ($set->overlap > self::OVERLAP) {
            $findings[] = new MeshFinding("overlap-$set->set", false, \sprintf('%s: %.0f %% of what is covered is covered twice. That does for tiles; what is to be baked or unique needs a set without.', $name, 100 * $set->overlap));
        }
        if ($set->median > 0 && $set->highest > self::UNEVEN * $set->lowest) {
            $findings[] = new MeshFinding("uneven-$set->set", false, \sprintf('%s: a metre is from %s to %s long in it, at the median %s: maps are %.1f times as fine in one place as in another.', $name, self::figure($set->lowest), self::figure($set->highest), self::figure($set->median), $set->highest / max(1e-12, $set->lowest)));
        }

        return $findings;
    }

    private static function figure(float $number): string
    {
        return $number === 0.0 ? '0' : (string) round($number, max(0, 2 - (int) floor(log10(abs($number)))));
    }
}
