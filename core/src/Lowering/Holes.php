<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Surface\Source;
use Rilta\Core\Surface\Surface;

/**
 * Opacity for a threshold. Averaged over a pixel, what is cut thinly falls below any threshold a few metres away, and what has small
 * holes closes. So where texels become smaller than pixels, opacity is asked for at one point of the pixel instead, another in each
 * pixel: as many pixels are there as there is of the surface, whatever its opacity is made of. The points are hashed from the place on
 * the object, so that they stay where they are when the eye moves (after Wyman & McGuire 2017, "Hashed Alpha Testing").
 */
final class Holes
{
    /** Texels a pixel from which on points are asked for, and at which nothing else is. */
    private const FROM = 1.0;
    private const TO = 2.0;

    /** @param Node $opacity float 0…1, averaged as maps are */
    public static function of(Graph $g, Surface $surface, Node $opacity): Node
    {
        $texels = null;
        foreach (Reachable::from([$opacity]) as $node) {
            if ($node->op === Op::Sample && !$node->args[0]->isConstant()) {
                $size = $g->vec($node->map()->width, $node->map()->height);
                $here = $g->max($g->length($g->mul($node->args[1], $size)), $g->length($g->mul($node->args[2], $size)));
                $texels = $texels === null ? $here : $g->max($texels, $here);
            }
        }
        if ($texels === null) {
            // What is made of no map is asked for at points as it is.
            return $opacity;
        }
        $share = $g->clamp($g->div($g->sub($texels, self::FROM), self::TO - self::FROM));
        $at = $g->mul($g->sub(self::random($g, $surface), 0.5), $share);
        $inputs = [];
        foreach (Surface::inputs() as $name => $input) {
            $along = match ($input->source) {
                Source::Right => $g->x($at),
                Source::Down => $g->y($at),
                default => null,
            };
            if ($along !== null) {
                $inputs[$input->of] = $g->add($inputs[$input->of] ?? $surface->input($input->of), $g->mul($surface->input($name), $along));
                $inputs[$name] = $g->mul($surface->input($name), $g->sub(1.0, $share));
            }
        }

        return (new Rewriter($g, $g, $inputs))->rewrite($opacity);
    }

    /** Vec2, 0…1: another for every pixel, the same for the place that it shows. */
    private static function random(Graph $g, Surface $surface): Node
    {
        [$origin, $axes] = $surface->objectFrame();
        $from = $g->sub($surface->position(), $origin);
        $place = $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($from, $axis), $axes));
        $pixel = $g->max($g->max($g->length($surface->input('dpdx')), $g->length($surface->input('dpdy'))), 1e-6);
        // Cells of a power of two, at most as wide as a pixel: they change only when the distance has doubled.
        $cell = $g->exp2($g->floor($g->log2($pixel)));
        $hash = Hash::pcg3d($g, $g->toUint($g->floor($g->add($g->div($place, $cell), 0.5))));

        return $g->vec(Hash::unit($g, $g->x($hash)), Hash::unit($g, $g->y($hash)));
    }
}
