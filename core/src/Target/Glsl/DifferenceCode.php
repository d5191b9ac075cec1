<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\ColourDifference;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Shading\Printer;

/** How different two colours look, as a function for hosts: `colourDifference` of two colours as screens show them, vec3, 0…1. */
final class DifferenceCode
{
    public static function printed(): string
    {
        $g = new Graph();
        $difference = new FieldFunction(
            'colourDifference',
            'How different two sRGB-encoded colours look: CIEDE2000. About 1 is what is just seen side by side.',
            ['one' => Type::Vec3, 'other' => Type::Vec3],
            static fn (Graph $g, array $a): Node => ColourDifference::ofLight($g, Colour::decode($g, $a[0]), Colour::decode($g, $a[1])),
        );
        $printer = new Printer(new GlslDialect());
        $printer->body($g, ['difference' => $g->call($difference, $g->input('one', Type::Vec3), $g->input('other', Type::Vec3))]);

        return implode("\n", $printer->functions());
    }
}
