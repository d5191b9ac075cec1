<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;

/** Paints a channel of a whole object by what its surface is like: as far as each vertex meets that, it gets the value. */
final readonly class PaintFill
{
    /** By what: all of it; faces that look up or are steep; what lies high; patches of noise; a section. */
    public const KINDS = ['all', 'slope', 'height', 'noise', 'section'];

    /** @return list<array{value: string, label: string, span: array{float, float}|null}> what each is called, and where it usually begins and is whole */
    public static function kinds(): array
    {
        $spans = ['slope' => [60.0, 30.0], 'height' => [0.0, 1.0], 'noise' => [0.4, 0.6]];

        return array_map(static fn (string $kind): array => ['value' => $kind, 'label' => ucfirst($kind), 'span' => $spans[$kind] ?? null], self::KINDS);
    }

    /**
     * @param string $by      one of KINDS
     * @param float  $value   0…1
     * @param float  $from    where it begins: degrees from level, metres above the world's ground, or of noise 0…1
     * @param float  $to      where it is whole; below "from" it goes the other way
     * @param float  $size    metres of the patches of noise
     * @param int    $seed    another one, other patches
     * @param string $section that is filled
     */
    public function __construct(public string $by, public float $value, public float $from = 0.0, public float $to = 1.0, public float $size = 1.0, public int $seed = 1, public string $section = '')
    {
    }

    /**
     * @param string $paint   four bytes a vertex, or "" for nothing
     * @param int    $channel 0 for the first
     *
     * @return string the same after it
     */
    public function of(Placed $object, Mesh $mesh, string $paint, int $channel): string
    {
        $count = $mesh->positions->count();
        $paint = \strlen($paint) === 4 * $count ? $paint : str_repeat("\0", 4 * $count);
        $points = $mesh->positions->triples();
        $normals = ($mesh->attributes['NORMAL'] ?? $mesh->positions)->triples();
        $sections = $this->by === 'section' ? ($mesh->attributes['_SECTION'] ?? null)?->numbers() ?? [] : [];
        for ($v = 0; $v < $count; ++$v) {
            $share = match ($this->by) {
                'slope' => $this->along(rad2deg(acos(max(-1.0, min(1.0, $object->normal($normals[$v])[1]))))),
                'height' => $this->along($object->point($points[$v])[1]),
                'noise' => $this->along($this->noise(Vec::scale($object->point($points[$v]), 1 / $this->size))),
                'section' => ($mesh->primitives[(int) ($sections[$v] ?? 0)]->material ?? '') === $this->section ? 1.0 : 0.0,
                default => 1.0,
            };
            $at = 4 * $v + $channel;
            $before = \ord($paint[$at]);
            $paint[$at] = \chr((int) round($before + (255 * $this->value - $before) * $share));
        }

        return $paint;
    }

    /** How far a number has come from where it begins to where it is whole: smoothly, 0…1. */
    private function along(float $number): float
    {
        $span = $this->to - $this->from;
        $t = abs($span) < 1e-9 ? ($number >= $this->from ? 1.0 : 0.0) : max(0.0, min(1.0, ($number - $this->from) / $span));

        return $t * $t * (3 - 2 * $t);
    }

    /**
     * Value noise between the corners of cells of 1, in three octaves; 0…1.
     *
     * @param array{float, float, float} $p
     */
    private function noise(array $p): float
    {
        [$sum, $all, $part] = [0.0, 0.0, 1.0];
        for ($octave = 0; $octave < 3; ++$octave) {
            $cell = array_map(static fn (float $c): int => (int) floor($c), $p);
            $t = array_map(static fn (float $c, int $i): float => ($c - $i) ** 2 * (3 - 2 * ($c - $i)), $p, $cell);
            $value = 0.0;
            for ($corner = 0; $corner < 8; ++$corner) {
                $weight = 1.0;
                foreach ([0, 1, 2] as $axis) {
                    $weight *= ($corner >> $axis & 1) === 1 ? $t[$axis] : 1 - $t[$axis];
                }
                $value += $weight * $this->corner($cell[0] + ($corner & 1), $cell[1] + ($corner >> 1 & 1), $cell[2] + ($corner >> 2), $octave);
            }
            $sum += $part * $value;
            $all += $part;
            $part /= 2;
            $p = Vec::scale($p, 2.0);
        }

        return $sum / $all;
    }

    private function corner(int $x, int $y, int $z, int $octave): float
    {
        return hexdec(substr(hash('xxh32', pack('V5', $x & 0xFFFFFFFF, $y & 0xFFFFFFFF, $z & 0xFFFFFFFF, $octave, $this->seed)), 0, 8)) / 0xFFFFFFFF;
    }
}
