<?php

declare(strict_types=1);

namespace Rilta\Core\Mesh;

use Rilta\Core\Math\Vec;

/**
 * Makes one mesh of the parts of a file: in metres, y up, with normals everywhere, with the directions in which each set of UVs grows, and
 * with a section for each material.
 */
final class Assembly
{
    public const MOST_TRIANGLES = 1_000_000;
    public const MOST_SECTIONS = 256;
    public const MOST_SETS = 4;
    /** What faces are called of which the file does not say what they are made of. */
    public const UNNAMED = 'Surface';
    /** Where more faces meet, it is smooth whatever they are turned by. */
    private const MANY = 64;

    /** @var array<string, list<string>> bytes of attributes, by name */
    private array $bytes = [];

    /** @var list<string> */
    private array $indices = [];
    private int $vertices = 0;

    /**
     * @param list<int> $sets    those that any part has
     * @param bool      $colours whether any part has some
     */
    private function __construct(private readonly MeshOptions $options, private readonly array $sets, private readonly bool $colours)
    {
    }

    /**
     * @param non-empty-list<Piece> $pieces
     *
     * @throws \LengthException if there is more than a mesh may have
     */
    public static function of(array $pieces, MeshOptions $options): Mesh
    {
        $triangles = array_sum(array_map(static fn (Piece $piece): int => intdiv(\strlen($piece->indices), 12), $pieces));
        if ($triangles > self::MOST_TRIANGLES) {
            throw new \LengthException(\sprintf('it has %d triangles, and a mesh may have %d', $triangles, self::MOST_TRIANGLES));
        }
        $sections = [];
        foreach ($pieces as $piece) {
            $sections[$piece->material === '' ? self::UNNAMED : mb_substr($piece->material, 0, 80)][] = $piece;
        }
        if (\count($sections) > self::MOST_SECTIONS) {
            throw new \LengthException(\sprintf('it has %d materials, and a mesh may have %d', \count($sections), self::MOST_SECTIONS));
        }
        $sets = array_values(array_unique(array_merge(...array_map(static fn (Piece $piece): array => array_keys($piece->uvs), $pieces))));
        sort($sets);
        $assembly = new self($options, $sets, array_filter($pieces, static fn (Piece $piece): bool => $piece->colours !== null) !== []);
        $primitives = [];
        $first = 0;
        foreach ($sections as $name => $some) {
            $count = 0;
            foreach ($some as $piece) {
                $count += $assembly->add($piece, \count($primitives));
            }
            $primitives[] = new Primitive((string) $name, $first, $count);
            $first += $count;
        }

        return $assembly->mesh($primitives);
    }

    /** @param list<Primitive> $primitives */
    private function mesh(array $primitives): Mesh
    {
        $attributes = [];
        foreach ($this->bytes as $name => $parts) {
            $attributes[$name] = new Attribute(match (true) {
                $name === '_SECTION' => 1,
                str_starts_with($name, 'TEXCOORD') => 2,
                $name === 'COLOR_0' => 4,
                default => 3,
            }, implode('', $parts));
        }

        return new Mesh($attributes, implode('', $this->indices), $primitives);
    }

    /** @return int its triangles */
    private function add(Piece $piece, int $section): int
    {
        /** @var list<int> $corners */
        $corners = array_values(unpack('V*', $piece->indices) ?: []);
        $points = $this->upright($piece->positions->numbers(), $this->options->scale);
        $normals = $piece->normals === null ? null : $this->upright($piece->normals->numbers(), $this->options->turned ? -1.0 : 1.0);
        if ($this->options->turned) {
            for ($i = 0, $n = \count($corners); $i < $n; $i += 3) {
                [$corners[$i + 1], $corners[$i + 2]] = [$corners[$i + 2], $corners[$i + 1]];
            }
        }
        // Which vertex of the file each vertex is; those of other parts stay out.
        /** @var list<int> $corners */
        $from = array_keys(array_flip($corners));
        sort($from);
        $places = array_flip($from);
        $corners = array_map(static fn (int $corner): int => $places[$corner], $corners);
        $points = self::picked($points, $from, 3);
        if ($normals === null) {
            [$more, $corners, $normals] = self::smoothed($points, $corners, $this->options->crease);
            $points = self::picked($points, $more, 3);
            $from = array_map(static fn (int $vertex): int => $from[$vertex], $more);
        } else {
            $normals = self::units(self::picked($normals, $from, 3));
        }
        $uvs = array_map(static fn (int $set): array => isset($piece->uvs[$set]) ? $piece->uvs[$set]->numbers() : array_fill(0, 2 * $piece->positions->count(), 0.0), $this->sets);
        /** @var list<int> $corners */
        [$more, $corners] = self::parted($corners, $from, $uvs);
        $from = array_map(static fn (int $vertex): int => $from[$vertex], $more);
        $normals = self::picked($normals, $more, 3);
        $points = self::picked($points, $more, 3);
        $this->put('POSITION', $points);
        $this->put('NORMAL', $normals);
        foreach ($this->sets as $at => $set) {
            $uv = self::picked($uvs[$at], $from, 2);
            [$right, $down] = UvDirections::of($points, $normals, $uv, $corners);
            $this->put("TEXCOORD_$set", $uv);
            $this->put("_TEXCOORD_{$set}_U", $right);
            $this->put("_TEXCOORD_{$set}_V", $down);
        }
        if ($this->colours) {
            $this->put('COLOR_0', $piece->colours === null ? array_fill(0, 4 * \count($from), 1.0) : self::picked($piece->colours->numbers(), $from, 4));
        }
        $this->bytes['_SECTION'][] = str_repeat(pack('g', (float) $section), \count($from));
        foreach (array_chunk($corners, 60000) as $some) {
            $this->indices[] = pack('V*', ...array_map(fn (int $corner): int => $corner + $this->vertices, $some));
        }
        $this->vertices += \count($from);

        return intdiv(\count($corners), 3);
    }

    /** @param list<float> $numbers */
    private function put(string $name, array $numbers): void
    {
        foreach (array_chunk($numbers, 60000) as $some) {
            $this->bytes[$name][] = pack('g*', ...$some);
        }
    }

    /**
     * Places or directions with y up.
     *
     * @param list<float> $numbers
     *
     * @return list<float>
     */
    private function upright(array $numbers, float $scale): array
    {
        $lying = $this->options->up === 'z';
        for ($i = 0, $n = \count($numbers); $i < $n; $i += 3) {
            [$x, $y, $z] = [$numbers[$i], $numbers[$i + 1], $numbers[$i + 2]];
            // Adding nothing takes the sign off zeros, so that equal places are equal bytes.
            $numbers[$i] = $scale * $x + 0.0;
            $numbers[$i + 1] = $scale * ($lying ? $z : $y) + 0.0;
            $numbers[$i + 2] = $scale * ($lying ? -$y : $z) + 0.0;
        }

        /** @var list<float> $numbers */
        return $numbers;
    }

    /**
     * @param list<float> $normals of any length
     *
     * @return list<float> of length 1
     */
    private static function units(array $normals): array
    {
        for ($i = 0, $n = \count($normals); $i < $n; $i += 3) {
            $length = sqrt($normals[$i] ** 2 + $normals[$i + 1] ** 2 + $normals[$i + 2] ** 2);
            if ($length < 1e-12) {
                [$normals[$i], $normals[$i + 1], $normals[$i + 2]] = [0.0, 1.0, 0.0];
            } else {
                $normals[$i] /= $length;
                $normals[$i + 1] /= $length;
                $normals[$i + 2] /= $length;
            }
        }

        /** @var list<float> $normals */
        return $normals;
    }

    /**
     * Normals where there are none: at each corner the mean of the faces that meet there and are not turned further than the crease angle,
     * each by its angle at the corner (Thürmer and Wüthrich 1998).
     *
     * @param list<float> $points
     * @param list<int>   $corners
     *
     * @return array{list<int>, list<int>, list<float>} which vertex each is, corners, normals
     */
    private static function smoothed(array $points, array $corners, float $crease): array
    {
        $least = cos(deg2rad($crease)) - 1e-9;
        /** @var list<array{float, float, float}> $faces */
        $faces = [];
        $angles = [];
        $around = [];
        $places = [];
        $at = static fn (int $vertex): array => [$points[3 * $vertex], $points[3 * $vertex + 1], $points[3 * $vertex + 2]];
        foreach (array_chunk($corners, 3) as $face => [$a, $b, $c]) {
            [$pa, $pb, $pc] = [$at($a), $at($b), $at($c)];
            [$ab, $bc, $ca] = [Vec::sub($pb, $pa), Vec::sub($pc, $pb), Vec::sub($pa, $pc)];
            $normal = Vec::cross($ab, Vec::scale($ca, -1.0));
            $length = Vec::length($normal);
            $faces[] = $length < 1e-30 ? [0.0, 0.0, 0.0] : Vec::scale($normal, 1 / $length);
            array_push($angles, atan2($length, -Vec::dot($ca, $ab)), atan2($length, -Vec::dot($ab, $bc)), atan2($length, -Vec::dot($bc, $ca)));
            foreach ([[$a, $pa], [$b, $pb], [$c, $pc]] as [$vertex, $p]) {
                $places[$vertex] ??= pack('g3', ...$p);
                $around[$places[$vertex]][] = $face;
            }
        }
        $share = static function (int $face, string $place) use ($faces, $angles, $corners, $places): array {
            $k = 3 * $face;

            return Vec::scale($faces[$face], $angles[$k + ($places[$corners[$k]] === $place ? 0 : ($places[$corners[$k + 1]] === $place ? 1 : 2))]);
        };
        $whole = [];
        $made = $from = $normals = $new = [];
        foreach ($corners as $i => $vertex) {
            $own = $faces[intdiv($i, 3)];
            $place = $places[$vertex];
            if (\count($around[$place]) > self::MANY) {
                $sum = $whole[$place] ??= array_reduce($around[$place], static fn (array $sum, int $face): array => Vec::add($sum, $share($face, $place)), [0.0, 0.0, 0.0]);
            } else {
                $sum = [0.0, 0.0, 0.0];
                foreach ($around[$place] as $face) {
                    if (Vec::dot($faces[$face], $own) >= $least) {
                        $sum = Vec::add($sum, $share($face, $place));
                    }
                }
            }
            $length = Vec::length($sum);
            $n = $length < 1e-12 ? (Vec::length($own) > 0.5 ? $own : [0.0, 1.0, 0.0]) : Vec::scale($sum, 1 / $length);
            // What differs in the last digit alone is one.
            $key = $vertex . pack('g3', round($n[0], 5), round($n[1], 5), round($n[2], 5));
            if (!isset($made[$key])) {
                $made[$key] = \count($from);
                $from[] = $vertex;
                array_push($normals, ...$n);
            }
            $new[] = $made[$key];
        }

        return [$from, $new, $normals];
    }

    /**
     * A vertex between faces of which one is mirrored in UV space is there once for each: the directions of the two are not to be mixed.
     *
     * @param list<int>         $corners
     * @param list<int>         $from    which of the file's each vertex is
     * @param list<list<float>> $uvs     of the file's vertices, by set
     *
     * @return array{list<int>, list<int>} which vertex each is, and corners
     */
    private static function parted(array $corners, array $from, array $uvs): array
    {
        $more = array_keys($from);
        $masks = $twins = [];
        foreach (array_chunk($corners, 3) as $face => $three) {
            $mask = 0;
            foreach ($uvs as $set => $uv) {
                if (UvDirections::turn($uv, $from[$three[0]], $from[$three[1]], $from[$three[2]]) > 0) {
                    $mask |= 1 << $set;
                }
            }
            foreach ($three as $k => $vertex) {
                $masks[$vertex] ??= $mask;
                if ($masks[$vertex] !== $mask) {
                    if (!isset($twins["$vertex $mask"])) {
                        $twins["$vertex $mask"] = \count($more);
                        $more[] = $vertex;
                    }
                    $corners[3 * $face + $k] = $twins["$vertex $mask"];
                }
            }
        }

        /** @var list<int> $corners */
        return [$more, $corners];
    }

    /**
     * @param list<float> $numbers
     * @param list<int>   $which
     *
     * @return list<float>
     */
    private static function picked(array $numbers, array $which, int $width): array
    {
        $picked = [];
        foreach ($which as $vertex) {
            for ($i = 0; $i < $width; ++$i) {
                $picked[] = $numbers[$width * $vertex + $i];
            }
        }

        return $picked;
    }
}
