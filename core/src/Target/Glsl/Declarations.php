<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Node;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Shading\MapArrays;
use Rilta\Core\Target\Shading\Printer;

/**
 * What stands before the bodies of shaders.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
final class Declarations
{
    /** The struct of the surface point. */
    public static function surface(): string
    {
        $dialect = new GlslDialect();
        $code = "struct RiltaSurface {\n";
        foreach (Surface::types() as $name => $type) {
            $code .= "    {$dialect->type($type)} $name;\n";
        }

        return "$code};\n";
    }

    /**
     * The uniforms, textures and functions of the bodies that a printer has printed.
     *
     * @param list<MapArrayJson> $arrays
     */
    public static function used(Printer $printer, array $arrays = []): string
    {
        $dialect = new GlslDialect();
        $code = '';
        foreach ($printer->uniforms() as $name => $type) {
            $code .= "uniform {$dialect->type($type)} $name;\n";
        }
        foreach ($arrays as $array) {
            $code .= "uniform highp sampler2DArray {$array['uniform']}; // " . implode(', ', $array['slots']) . "\n";
        }

        return $code . "\n" . implode("\n", $printer->functions());
    }

    /**
     * The struct of what is lit.
     *
     * @param array<string, Node> $channels
     */
    public static function material(array $channels): string
    {
        $dialect = new GlslDialect();
        $code = "struct RiltaMaterial {\n";
        foreach ($channels as $name => $field) {
            $code .= "    {$dialect->type($field->type)} $name;\n";
        }

        return "$code};\n";
    }
}
