<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Attribute;
use Rilta\Core\Mesh\Piece;

/**
 * The polygons of a Wavefront OBJ file: places (with colours, where they have some), UVs, normals, and the names of materials. Curves,
 * lines and points are passed over. Polygons of any shape become triangles by clipping ears (Meisters 1975).
 */
final class ObjFile
{
    /** More of that than any drawing needs takes minutes. */
    private const MOST_LOOKS = 100_000_000;

    /** @var list<float> */
    private array $points = [];

    /** @var list<float> red, green and blue of each place, as long as there are some */
    private array $colours = [];

    /** @var list<float> */
    private array $uvs = [];

    /** @var list<float> */
    private array $normals = [];

    /** @var array<string, list<string>> corners of triangles by material: numbers of place, UV and normal, with "/" between them */
    private array $corners = [];
    private int $triangles = 0;

    /** corners that were held against triangles, while ears were looked for */
    private int $looks = 0;

    private function __construct(private readonly string $file)
    {
    }

    /**
     * @return list<Piece>
     *
     * @throws UnreadableMesh
     */
    public static function read(string $bytes, string $file): array
    {
        $one = new self($file);
        $one->lines($bytes);
        if ($one->corners === []) {
            throw UnreadableMesh::of($file, 'there are no faces in it; expected lines that begin with "f"');
        }

        return $one->pieces();
    }

    private function lines(string $bytes): void
    {
        $material = '';
        $number = 0;
        $joined = '';
        foreach (self::split($bytes) as $line) {
            ++$number;
            if (str_ends_with(rtrim($line), '\\')) {
                $joined .= substr(rtrim($line), 0, -1) . ' ';
                continue;
            }
            $words = preg_split('/\s+/', trim($joined . $line), -1, \PREG_SPLIT_NO_EMPTY) ?: [];
            $joined = '';
            $kind = array_shift($words);
            if ($kind === 'v') {
                array_push($this->points, ...$this->numbers($words, 3, $number));
                if (\count($words) >= 6) {
                    array_push($this->colours, ...$this->numbers(\array_slice($words, 3), 3, $number));
                }
            } elseif ($kind === 'vt') {
                [$u, $v] = $this->numbers(\count($words) === 1 ? [...$words, '0'] : $words, 2, $number);
                // Its origin is at the lower left.
                array_push($this->uvs, $u, 1.0 - $v);
            } elseif ($kind === 'vn') {
                array_push($this->normals, ...$this->numbers($words, 3, $number));
            } elseif ($kind === 'usemtl') {
                $material = mb_scrub(implode(' ', $words));
            } elseif ($kind === 'f') {
                $this->face($words, $material, $number);
            }
        }
    }

    /** @return \Generator<int, string> */
    private static function split(string $bytes): \Generator
    {
        $length = \strlen($bytes);
        for ($at = 0; $at < $length; $at = $end + 1) {
            $end = strcspn($bytes, "\n", $at) + $at;
            yield substr($bytes, $at, $end - $at);
        }
    }

    /**
     * @param list<string> $words
     *
     * @return list<float>
     */
    private function numbers(array $words, int $count, int $line): array
    {
        $numbers = [];
        for ($i = 0; $i < $count; ++$i) {
            $word = $words[$i] ?? '';
            if (!is_numeric($word) || !is_finite((float) $word) || abs((float) $word) > 3e38) {
                throw UnreadableMesh::at($this->file, "line $line", \sprintf('expected %d numbers, found "%s"', $count, mb_scrub(substr($word, 0, 40))));
            }
            $numbers[] = (float) $word;
        }

        return $numbers;
    }

    /** @param list<string> $words */
    private function face(array $words, string $material, int $line): void
    {
        if (\count($words) < 3) {
            throw UnreadableMesh::at($this->file, "line $line", 'a face needs three corners or more');
        }
        $corners = array_map(fn (string $word): string => $this->corner($word, $line), $words);
        $this->triangles += \count($corners) - 2;
        if ($this->triangles > Assembly::MOST_TRIANGLES) {
            throw UnreadableMesh::at($this->file, "line $line", \sprintf('a mesh may have %d triangles', Assembly::MOST_TRIANGLES));
        }
        foreach (\count($corners) === 3 ? [[0, 1, 2]] : $this->ears(array_map(intval(...), $corners), $line) as $ear) {
            foreach ($ear as $i) {
                $this->corners[$material][] = $corners[$i];
            }
        }
    }

    /** A corner with numbers from 0; what it leaves out is -1. */
    private function corner(string $word, int $line): string
    {
        if (preg_match('#^(-?\d{1,9})(?:/(-?\d{1,9})?)?(?:/(-?\d{1,9})?)?$#D', $word, $found) !== 1) {
            throw UnreadableMesh::at($this->file, "line $line", \sprintf('expected a corner like 3/2/1, found "%s"', mb_scrub(substr($word, 0, 40))));
        }
        $counts = [intdiv(\count($this->points), 3), intdiv(\count($this->uvs), 2), intdiv(\count($this->normals), 3)];
        $numbers = [];
        foreach (['place', 'UV', 'normal'] as $i => $what) {
            $said = $found[$i + 1] ?? '';
            $number = $said === '' ? -1 : ((int) $said > 0 ? (int) $said - 1 : $counts[$i] + (int) $said);
            if ($said !== '' && ($number < 0 || $number >= $counts[$i] || (int) $said === 0)) {
                throw UnreadableMesh::at($this->file, "line $line", \sprintf('there is no %s %s; there are %d so far', $what, $said, $counts[$i]));
            }
            $numbers[] = $number;
        }

        return implode('/', $numbers);
    }

    /**
     * @param list<int> $places of a polygon
     *
     * @return list<array{int, int, int}> which of them each triangle has
     */
    private function ears(array $places, int $line): array
    {
        $n = \count($places);
        // Seen along the axis that is nearest to the normal of the polygon (Newell's method).
        $normal = [0.0, 0.0, 0.0];
        $at = fn (int $i, int $axis): float => $this->points[3 * $places[$i] + $axis];
        for ($i = 0; $i < $n; ++$i) {
            $j = ($i + 1) % $n;
            for ($axis = 0; $axis < 3; ++$axis) {
                [$a, $b] = [($axis + 1) % 3, ($axis + 2) % 3];
                $normal[$axis] += ($at($i, $a) - $at($j, $a)) * ($at($i, $b) + $at($j, $b));
            }
        }
        $sizes = array_map(abs(...), $normal);
        $axis = (int) array_search(max($sizes), $sizes, true);
        // Newell's sums point to the side from which the corners go round counter-clockwise.
        $way = $normal[$axis] < 0 ? -1.0 : 1.0;
        [$a, $b] = [($axis + 1) % 3, ($axis + 2) % 3];
        $flat = array_map(static fn (int $i): array => [$at($i, $a), $way * $at($i, $b)], range(0, $n - 1));
        $turn = static fn (int $i, int $j, int $k): float => ($flat[$j][0] - $flat[$i][0]) * ($flat[$k][1] - $flat[$i][1]) - ($flat[$k][0] - $flat[$i][0]) * ($flat[$j][1] - $flat[$i][1]);
        $left = range(0, $n - 1);
        $ears = [];
        while (\count($left) > 3) {
            $count = \count($left);
            $ear = 0;
            for ($k = 0; $k < $count; ++$k) {
                [$i, $j, $l] = [$left[($k + $count - 1) % $count], $left[$k], $left[($k + 1) % $count]];
                if ($turn($i, $j, $l) <= 0) {
                    continue;
                }
                $this->looks += $count;
                if ($this->looks > self::MOST_LOOKS) {
                    throw UnreadableMesh::at($this->file, "line $line", 'its polygons have too many corners; export triangles');
                }
                foreach ($left as $other) {
                    if ($other !== $i && $other !== $j && $other !== $l && $flat[$other] !== $flat[$i] && $flat[$other] !== $flat[$j] && $flat[$other] !== $flat[$l]
                        && $turn($i, $j, $other) >= 0 && $turn($j, $l, $other) >= 0 && $turn($l, $i, $other) >= 0) {
                        continue 2;
                    }
                }
                $ear = $k;
                break;
            }
            // What crosses itself has no ear: any corner will do.
            $ears[] = [$left[($ear + $count - 1) % $count], $left[$ear], $left[($ear + 1) % $count]];
            array_splice($left, $ear, 1);
        }
        $ears[] = [$left[0], $left[1], $left[2]];

        return $ears;
    }

    /** @return list<Piece> */
    private function pieces(): array
    {
        $coloured = \count($this->colours) === \count($this->points);
        $pieces = [];
        foreach ($this->corners as $material => $corners) {
            $known = $indices = $points = $uvs = $normals = $colours = [];
            [$hasUvs, $hasNormals] = [false, true];
            foreach ($corners as $corner) {
                if (!isset($known[$corner])) {
                    $known[$corner] = \count($known);
                    [$p, $t, $n] = array_map(intval(...), explode('/', $corner));
                    array_push($points, $this->points[3 * $p], $this->points[3 * $p + 1], $this->points[3 * $p + 2]);
                    $hasUvs = $hasUvs || $t >= 0;
                    array_push($uvs, $t < 0 ? 0.0 : $this->uvs[2 * $t], $t < 0 ? 0.0 : $this->uvs[2 * $t + 1]);
                    $hasNormals = $hasNormals && $n >= 0;
                    array_push($normals, ...($n < 0 ? [0.0, 0.0, 0.0] : \array_slice($this->normals, 3 * $n, 3)));
                    if ($coloured) {
                        array_push($colours, $this->colours[3 * $p], $this->colours[3 * $p + 1], $this->colours[3 * $p + 2], 1.0);
                    }
                }
                $indices[] = $known[$corner];
            }
            $pieces[] = new Piece(
                (string) $material,
                Attribute::of(3, $points),
                pack('V*', ...$indices),
                $hasNormals ? Attribute::of(3, $normals) : null,
                $hasUvs ? [Attribute::of(2, $uvs)] : [],
                $coloured ? Attribute::of(4, $colours) : null,
            );
        }

        return $pieces;
    }
}
