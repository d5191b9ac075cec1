<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\EdgeSeam;

/** Looks for what goes wrong with maps: read the wrong way, upside down, empty, cut. */
final class MapCheck
{
    /** Normals so far from length 1, in the mean, are no unit vectors. */
    private const LENGTH = 0.12;
    private const BEHIND = 0.005;
    /** The curl of the right way has to be so much smaller before the other is called wrong. */
    private const CLEAR = 0.75;

    /** A share of texels in colour from here on is no rounding. */
    private const COLOURED = 0.05;

    /** A colour whose darkest texel is lighter than this, and whose mean is, was encoded twice, or photographed through fog. */
    private const PALE = [0.5, 0.82];

    /**
     * @param ?Measures $measures null if none were taken
     * @param float     $edgeSeam as Raster\EdgeSeam measures it
     * @param bool      $deep     whether a value has 16 bits
     *
     * @return list<Finding>
     */
    public static function of(Role $role, Encoding $encoding, float $edgeSeam, ?Measures $measures, bool $deep = false): array
    {
        $findings = [];
        if ($encoding !== $role->encoding()) {
            $findings[] = $encoding === Encoding::Colour
                ? new Finding('encoding', true, \sprintf('A %s map is read as colour: its numbers are bent by the sRGB curve.', $role->value), encoding: Encoding::Data)
                : new Finding('encoding', true, \sprintf('A %s map is read as data: it will look too light.', $role->value), encoding: Encoding::Colour);
        }
        if ($measures === null) {
            return $findings;
        }
        if ($measures->isConstant()) {
            $findings[] = new Finding('constant', false, \sprintf('Every texel is the same: %s.', implode(', ', array_unique(array_map(static fn (float $v): string => (string) round($v, 3), $measures->mean)))));

            return $findings;
        }
        if ($role === Role::Normal) {
            array_push($findings, ...self::normals($measures));
        } elseif ($measures->looksLikeNormals()) {
            $findings[] = new Finding('role', true, 'It looks like a normal map.', Role::Normal, Encoding::Data);
        }
        if ($role->isScalar() && $role !== Role::Mask && $measures->coloured > self::COLOURED) {
            $findings[] = new Finding('coloured', true, \sprintf('It is a picture in colours: in %.0f %% of it the channels differ, and of a %s map only red is read. It may be a base colour.', 100 * $measures->coloured, lcfirst($role->label())), Role::BaseColour, Encoding::Colour);
        }
        [$darkest, $mean] = [min(1.0, ...$measures->low), array_sum($measures->mean) / max(1, \count($measures->mean))];
        if ($role === Role::BaseColour && $darkest > self::PALE[0] && $mean > self::PALE[1]) {
            $findings[] = new Finding('gamma', false, \sprintf('It is pale: nothing is darker than %.2f, the mean is %.2f. It may have been encoded twice.', $darkest, $mean), fixes: [Fix::Decode]);
        }
        if ($measures->looksMultiplied()) {
            $findings[] = new Finding('multiplied', true, \sprintf('Its colour seems to be multiplied by alpha: in %.0f %% of the map that is not opaque, no colour exceeds it. Edges will be dark.', 100 * $measures->clear), fixes: [Fix::Unmultiply]);
        }
        if ($role === Role::Height && !$deep) {
            $findings[] = new Finding('depth', false, \sprintf('It has 8 bits, %d steps of height: slopes made from it show terraces. A file with 16 bits has 65536.', 1 + (int) round(255 * ($measures->high[0] - $measures->low[0]))));
        }
        if ($edgeSeam > EdgeSeam::SEEN) {
            $findings[] = new Finding('seam', false, \sprintf('Across its border it jumps %.1f times as much as anywhere inside: repeats will show an edge.', $edgeSeam), fixes: [Fix::CrossFade, Fix::MinCut]);
        }

        return $findings;
    }

    /** @return list<Finding> */
    private static function normals(Measures $measures): array
    {
        if (\count($measures->mean) !== 3) {
            return [new Finding('normals', true, 'It has one channel; normals need two or three.')];
        }
        $findings = [];
        if ($measures->length > self::LENGTH || $measures->behind > self::BEHIND) {
            $findings[] = new Finding('normals', true, \sprintf('These are no unit normals: %.0f %% off in length, %.1f %% look into the surface.', 100 * $measures->length, 100 * $measures->behind));
        } elseif ($measures->curlDown < self::CLEAR * $measures->curlUp) {
            $findings[] = new Finding('green', true, \sprintf('Its green channel points down: light will come from the wrong side (curl %.3f as it is, %.3f flipped).', $measures->curlUp, $measures->curlDown), fixes: [Fix::FlipGreen]);
        }

        return $findings;
    }
}
