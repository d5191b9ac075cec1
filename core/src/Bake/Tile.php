<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Tap;

/** The rectangle of the world that a tile shows, and whether copies of it line up. */
final readonly class Tile
{
    /** How many repeats of the ground a tile may span where nobody says it in metres. */
    private const MOST_REPEATS = 16;
    private const DIRECTIONS = ['to the right', 'downwards'];

    /**
     * @param float   $width    metres
     * @param float   $height   metres
     * @param ?string $obstacle why copies of the tile do not line up; null if they do
     */
    private function __construct(public Plane $plane, public float $width, public float $height, public ?string $obstacle)
    {
    }

    public function isSeamless(): bool
    {
        return $this->obstacle === null;
    }

    /**
     * What all that the material is made of repeats after, on a flat face of the lowest layer's lane; one repeat of that lane, where
     * there is no such length.
     *
     * @param ?float $most metres that a side may have; by default 16 repeats of the lowest layer's lane
     */
    public static function of(Lowered $lowered, ?float $most = null): self
    {
        $taps = $lowered->layers[0]->taps ?? [];
        $plane = Plane::of($lowered);
        $asked = [...array_values($lowered->channels), ...array_merge(...array_map(static fn (Tap $tap): array => [$tap->at->uv, $tap->weight], $taps))];
        foreach ($lowered->stations as $station) {
            foreach ($station->taps as $tap) {
                array_push($asked, ...self::parts($tap));
            }
        }
        foreach ($lowered->terms as $terms) {
            array_push($asked, ...array_values($terms));
        }
        $repeats = new Repeats($lowered->graph, $asked, $plane, $lowered->uniforms());
        $ground = self::ground($repeats, $taps, $lowered->layers === [] ? 1.0 : $lowered->layers[0]->sets['']->extent);
        $all = Repeat::constant();
        foreach ($lowered->channels as $channel) {
            $all = $all->beside($repeats->of($channel)->bent());
        }
        $sides = $ground;
        $obstacles = [];
        foreach ([0, 1] as $axis) {
            $bound = $most ?? self::MOST_REPEATS * $ground[$axis];
            if ($all->lost[$axis]) {
                $obstacles[$axis] = self::culprit($repeats, $lowered, $axis) . ' does not repeat';
                continue;
            }
            $length = Repeats::common($all->frequencies($axis), $bound);
            if ($length === null) {
                $obstacles[$axis] = self::uneven($all->frequencies($axis), $bound);
            } elseif ($length > 0.0) {
                $sides[$axis] = $length;
            }
        }
        if ($obstacles !== []) {
            // A side that fits is of no use beside one that does not, but a whole repeat is the better picture.
            return new self($plane, ...$ground, obstacle: self::told($obstacles));
        }

        return new self($plane, ...$sides, obstacle: null);
    }

    /**
     * One repeat of the tap that is there, metres.
     *
     * @param list<Tap> $taps
     *
     * @return array{float, float}
     */
    private static function ground(Repeats $repeats, array $taps, float $extent): array
    {
        foreach ($taps as $tap) {
            if ($repeats->is($tap->weight, 0.0)) {
                continue;
            }
            $parts = $repeats->components($tap->at->uv);
            $lengths = [];
            foreach ([0, 1] as $axis) {
                $steepest = max(0.0, ...array_map(static fn (Repeat $part): float => abs($part->slope[$axis]), $parts));
                $lengths[$axis] = Repeats::isFlat($steepest) ? $extent : 1 / $steepest;
            }

            return [$lengths[0], $lengths[1]];
        }

        return [$extent, $extent];
    }

    /** What it is that first stops to repeat, in words: a step of a lane, or a term of a mask. */
    private static function culprit(Repeats $repeats, Lowered $lowered, int $axis): string
    {
        foreach ($lowered->stations as $station) {
            foreach ($station->taps as $tap) {
                if ($repeats->is($tap->weight, 0.0)) {
                    continue;
                }
                foreach (self::parts($tap) as $part) {
                    if (($part === $tap->at->uv ? $repeats->of($part) : $repeats->of($part)->bent())->lost[$axis]) {
                        return \sprintf('%s (%s)', $station->label, $station->path);
                    }
                }
            }
        }
        foreach ($lowered->terms as $path => $terms) {
            foreach ($terms as $i => $term) {
                if ($repeats->of($term)->bent()->lost[$axis]) {
                    return \sprintf('the mask (%s/mask/%d)', $path, $i);
                }
            }
        }

        return 'the material';
    }

    /** @return list<Node> what a step may have made of a tap */
    private static function parts(Tap $tap): array
    {
        return array_values(array_filter([$tap->at->uv, $tap->weight, $tap->gain, $tap->cover->inside, $tap->cover->within, $tap->at->slope, $tap->joint, $tap->drift]));
    }

    /** @param list<float> $frequencies */
    private static function uneven(array $frequencies, float $bound): string
    {
        $lengths = array_values(array_unique(array_map(static fn (float $f): string => \sprintf('%.4g m', 1 / $f), $frequencies)));
        $some = \array_slice($lengths, 0, 4);

        return \count($lengths) === 1 && 1 / $frequencies[0] > $bound
            ? \sprintf('one repeat is %s, and a side may have %.4g m', $lengths[0], $bound)
            : \sprintf('repeats of %s have no common multiple up to %.4g m', implode(', ', $some) . (\count($lengths) > 4 ? ' …' : ''), $bound);
    }

    /** @param non-empty-array<int, string> $obstacles by direction */
    private static function told(array $obstacles): string
    {
        if (\count($obstacles) === 2 && $obstacles[0] === $obstacles[1]) {
            return $obstacles[0];
        }

        return implode('; ', array_map(static fn (int $axis, string $why): string => self::DIRECTIONS[$axis] . ', ' . $why, array_keys($obstacles), $obstacles));
    }
}
