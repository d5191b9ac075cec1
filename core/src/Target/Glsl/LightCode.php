<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Type;

/** The light as two functions: `litSurface` and `tonedLight`, for hosts that draw what lowered code makes. */
final class LightCode
{
    public static function functions(): string
    {
        $g = new Graph();
        $vec = static fn (string $name) => $g->input($name, Type::Vec3);
        $float = static fn (string $name) => $g->input($name, Type::Float);
        $lit = Light::lit($g, [
            'baseColour' => $vec('colour'), 'normal' => $vec('normal'), 'roughness' => $float('rough'), 'metallic' => $float('metal'), 'occlusion' => $float('open'), 'emission' => $vec('emission'),
        ], $vec('view'), $vec('sun'), $float('share'));
        $printer = new Printer([]);
        $printer->body($g, ['light' => Light::toned($g, $lit)]);

        return implode("\n", $printer->functions());
    }
}
