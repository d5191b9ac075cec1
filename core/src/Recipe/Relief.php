<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Lowering\UniformBindings;
use Rilta\Core\Material\Role;

/**
 * What follows from the finished heights of a tile, as fields: normals by central differences, and the share of the sky that a point sees.
 * The heights are read where texels have their centres, so that every target finds the same.
 */
final readonly class Relief
{
    /** Directions in which the horizon is looked for, and how far, as shares of the reach. */
    private const DIRECTIONS = [[1, 0], [1, 1], [0, 1], [-1, 1], [-1, 0], [-1, -1], [0, -1], [1, -1]];
    private const DISTANCES = [0.06, 0.15, 0.3, 0.5, 0.75, 1.0];

    /** Uniform: texels a side. */
    public const SIDE = 'side';

    /** @param list<UniformBinding> $slots */
    private function __construct(public Node $field, public array $slots)
    {
    }

    /**
     * @param TextureBinding $heights where they are read: the nearest texel, repeated
     *
     * @return self vec3 0…1 for normals (+Y up), float for occlusion
     */
    public static function of(Graph $g, Recipe $recipe, Output $output, TextureBinding $heights): self
    {
        $flat = $g->vec(0.0, 0.0);
        $height = static fn (Node $at): Node => $g->x($g->sample($heights, $at, $flat, $flat));
        $slots = new UniformBindings();
        $number = static fn (string $path, string $name, float $value): Node => $g->uniform($slots->at($path, $name, $value)->uniform);
        $uv = LoweredRecipe::point($g);
        $side = $g->uniform(self::SIDE);
        // Texels that a height of 1 is high.
        $slope = $g->div($g->mul($number('/relief', 'relief', $recipe->relief), $side), $number('/extent', 'extent', $recipe->extent));
        $slope = $g->mul($slope, $g->mul($number("$output->path/values/strength", 'strength', $output->values->number('strength')), 0.01));
        $step = $g->div(1.0, $side);
        $field = $output->role === Role::Normal
            ? self::normal($g, $uv, $step, $slope, $height)
            : self::sky($g, $uv, $side, $slope, $g->mul($number("$output->path/values/reach", 'reach', $output->values->number('reach')), 0.01), $height);

        return new self($field, $slots->all());
    }

    /** @param \Closure(Node): Node $height */
    private static function normal(Graph $g, Node $uv, Node $step, Node $slope, \Closure $height): Node
    {
        $at = static fn (float $x, float $y): Node => $height($g->add($uv, $g->mul($g->vec($x, $y), $step)));
        $half = $g->mul($slope, 0.5);
        $right = $g->mul($g->sub($at(1, 0), $at(-1, 0)), $half);
        // v runs down and +Y is up: rising downwards tilts the normal up.
        $up = $g->mul($g->sub($at(0, 1), $at(0, -1)), $half);

        return $g->add($g->mul($g->normalize($g->vec($g->neg($right), $up, 1.0)), 0.5), 0.5);
    }

    /** @param \Closure(Node): Node $height */
    private static function sky(Graph $g, Node $uv, Node $side, Node $slope, Node $reach, \Closure $height): Node
    {
        $here = $height($uv);
        $open = $g->float(0);
        foreach (self::DIRECTIONS as [$x, $y]) {
            $steepest = $g->float(0);
            $unit = $x !== 0 && $y !== 0 ? \M_SQRT2 : 1.0;
            foreach (self::DISTANCES as $share) {
                // Whole texels, at least one.
                $texels = $g->max($g->floor($g->add($g->mul($g->mul($reach, $side), $share / $unit), 0.5)), 1.0);
                $there = $height($g->add($uv, $g->mul($g->vec((float) $x, (float) $y), $g->div($texels, $side))));
                $steepest = $g->max($steepest, $g->div($g->mul($g->sub($there, $here), $slope), $g->mul($texels, $unit)));
            }
            // The sine of the horizon's angle: the cosine-weighted sky hidden in this slice is its square.
            $squared = $g->mul($steepest, $steepest);
            $open = $g->add($open, $g->sub(1.0, $g->div($squared, $g->add(1.0, $squared))));
        }

        return $g->mul($open, 1 / \count(self::DIRECTIONS));
    }
}
