<?php

declare(strict_types=1);

namespace Rilta\Demo;

use Rilta\Core\Format\GlbFile;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\MeshBuilder;
use Rilta\Core\Mesh\Shapes;

/** Meshes of Ebbwater Station's own, as the files that people would bring. */
final class Meshes
{
    /** @return array<string, string> bytes by name */
    public static function files(): array
    {
        return ['Planter.glb' => GlbFile::of(self::planter(), 'Planter'), 'Quay block.glb' => GlbFile::of(Shapes::roundedBlock(0.125, 8), 'Quay block'), 'Pebble.glb' => GlbFile::of(self::pebble(), 'Pebble'), 'Tide hut.obj' => self::hut()];
    }

    /** A trough of 2.4 m by 0.8 m, 0.62 m high, with soil that swells towards the middle. */
    private static function planter(): \Rilta\Core\Mesh\Mesh
    {
        [$x, $z, $high, $thick, $soil] = [1.2, 0.4, 0.62, 0.09, 0.5];
        $builder = new MeshBuilder();
        $outer = ['+x' => 'Wall', '-x' => 'Wall', '+z' => 'Wall', '-z' => 'Wall'];
        $builder->box([-$x, 0.0, -$z], [$x, $high, $z], $outer);
        // The inner sides look at one another.
        foreach ([[1, 0], [-1, 0], [0, 1], [0, -1]] as [$dx, $dz]) {
            [$ix, $iz] = [$x - $thick, $z - $thick];
            $builder->flat(
                'Wall',
                $dx !== 0 ? [$dx * $ix, $high, $dx * -$iz] : [$dz * $ix, $high, $dz * $iz],
                $dx !== 0 ? [0.0, 0.0, $dx * 2 * $iz] : [$dz * -2 * $ix, 0.0, 0.0],
                [0.0, $soil - $high - 0.05, 0.0],
            );
        }
        foreach ([[-$x, -$z, 2 * $x, $thick], [-$x, $z - $thick, 2 * $x, $thick], [-$x, $thick - $z, $thick, 2 * ($z - $thick)], [$x - $thick, $thick - $z, $thick, 2 * ($z - $thick)]] as [$left, $back, $width, $deep]) {
            $builder->flat('Rim', [$left, $high, $back], [$width, 0.0, 0.0], [0.0, 0.0, $deep]);
        }
        $builder->chart('Soil', 32, 10, static fn (float $s, float $t): array => [
            (2 * $s - 1) * ($x - $thick),
            $soil + 0.08 * sin(\M_PI * $s) * sin(\M_PI * $t) + 0.012 * sin(21 * $s + 3 * $t) * sin(9 * $t + 2),
            (2 * $t - 1) * ($z - $thick),
        ]);

        return $builder->mesh();
    }

    /** A stone of a hand's breadth, of few triangles: a hundred and more of it lie about. */
    private static function pebble(): \Rilta\Core\Mesh\Mesh
    {
        return Shapes::inflated(3, static function (array $p): array {
            [$x, $y, $z] = Vec::unit($p);
            $r = 0.05 * (1 + 0.16 * sin(2.3 * $x + 0.7) * cos(1.9 * $z + 0.4) + 0.06 * sin(3.7 * $y - 2.2 * $x));

            return [1.2 * $r * $x, 0.62 * $r * $y + 0.03, 0.9 * $r * $z];
        }, array_fill_keys(['+x', '-x', '+y', '-y', '+z', '-z'], 'Stone'));
    }

    /** A hut of 2.4 m by 2 m with a gable roof, as a drawing program writes it: polygons, and UVs in metres. */
    private static function hut(): string
    {
        $places = $uvs = [];
        $faces = [];
        // Corners as x, y, z and the metres along and up that a wall has there.
        $face = static function (string $material, array ...$corners) use (&$places, &$uvs, &$faces): void {
            $numbers = [];
            /** @var list<float|int> $corner */
            foreach ($corners as $corner) {
                $places[] = vsprintf('v %.3f %.3f %.3f', \array_slice($corner, 0, 3));
                $uvs[] = vsprintf('vt %.3f %.3f', \array_slice($corner, 3));
                $numbers[] = \count($places) . '/' . \count($uvs);
            }
            $faces[$material][] = 'f ' . implode(' ', $numbers);
        };
        [$x, $z, $eaves, $ridge, $over] = [1.2, 1.0, 2.1, 2.9, 0.18];
        $slope = hypot($z, $ridge - $eaves);
        // The door stands in the front.
        [$door, $lintel] = [0.45, 1.9];
        $face('Walls', [-$x, 0, $z, 0, 0], [-$door, 0, $z, $x - $door, 0], [-$door, $lintel, $z, $x - $door, $lintel], [$door, $lintel, $z, $x + $door, $lintel], [$door, 0, $z, $x + $door, 0], [$x, 0, $z, 2 * $x, 0], [$x, $eaves, $z, 2 * $x, $eaves], [-$x, $eaves, $z, 0, $eaves]);
        $face('Door', [-$door, 0, $z - 0.08, 0, 0], [$door, 0, $z - 0.08, 2 * $door, 0], [$door, $lintel, $z - 0.08, 2 * $door, $lintel], [-$door, $lintel, $z - 0.08, 0, $lintel]);
        $face('Walls', [$x, 0, -$z, 0, 0], [-$x, 0, -$z, 2 * $x, 0], [-$x, $eaves, -$z, 2 * $x, $eaves], [$x, $eaves, -$z, 0, $eaves]);
        // Gables have five corners.
        $face('Walls', [$x, 0, $z, 0, 0], [$x, 0, -$z, 2 * $z, 0], [$x, $eaves, -$z, 2 * $z, $eaves], [$x, $ridge, 0, $z, $ridge], [$x, $eaves, $z, 0, $eaves]);
        $face('Walls', [-$x, 0, -$z, 0, 0], [-$x, 0, $z, 2 * $z, 0], [-$x, $eaves, $z, 2 * $z, $eaves], [-$x, $ridge, 0, $z, $ridge], [-$x, $eaves, -$z, 0, $eaves]);
        foreach ([1, -1] as $side) {
            [$low, $out] = [$eaves - $over * ($ridge - $eaves) / $z, $z + $over];
            [$wide, $long] = [$x + $over, $slope * (1 + $over / $z)];
            $face('Roof', [-$side * $wide, $low, $side * $out, 0, 0], [$side * $wide, $low, $side * $out, 2 * $wide, 0], [$side * $wide, $ridge, 0, 2 * $wide, $long], [-$side * $wide, $ridge, 0, 0, $long]);
            // And its underside.
            $face('Roof', [-$side * $wide, $ridge - 0.05, 0, 0, $long], [$side * $wide, $ridge - 0.05, 0, 2 * $wide, $long], [$side * $wide, $low - 0.05, $side * $out, 2 * $wide, 0], [-$side * $wide, $low - 0.05, $side * $out, 0, 0]);
            $face('Roof', [-$side * $wide, $low - 0.05, $side * $out, 0, 0], [$side * $wide, $low - 0.05, $side * $out, 2 * $wide, 0], [$side * $wide, $low, $side * $out, 2 * $wide, 0.05], [-$side * $wide, $low, $side * $out, 0, 0.05]);
        }
        $text = ['# Tide hut, metres', 'mtllib Tide hut.mtl', 'o Tide hut', ...$places, ...$uvs];
        foreach ($faces as $material => $some) {
            array_push($text, "usemtl $material", ...$some);
        }

        return implode("\n", $text) . "\n";
    }
}
