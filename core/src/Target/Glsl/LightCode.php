<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Shading\Printer;

/**
 * The light as functions, for hosts that draw what lowered code makes: `riltaLit` (a surface under a sun and a sky), `riltaSky` (what comes
 * from a direction of it) and `riltaToned` (what is shown of light).
 */
final class LightCode
{
    /** What the names of a sky's fields begin with. */
    public const PREFIX = 'riltaSky_';
    public const EXPOSURE = 'riltaExposure';
    /** How much is shown of what is scattered, of what is mirrored, and of what is given off. */
    public const PARTS = 'riltaParts';

    /** With the sky as uniforms, and the sun among them. */
    public static function live(): string
    {
        return self::code(static fn (string $name, Type $type): string => 'uniform ' . self::type($type) . " $name;\n");
    }

    /** With one of the ready-made skies as it is. */
    public static function fixed(SkyKind $kind = SkyKind::ClearDay): string
    {
        $numbers = Sky::numbers($kind);

        return self::code(static function (string $name, Type $type) use ($numbers): string {
            $values = [self::EXPOSURE => [Light::EXPOSURE], self::PARTS => [1.0, 1.0, 1.0]][$name] ?? $numbers[substr($name, \strlen(self::PREFIX))];

            return 'const ' . self::type($type) . " $name = " . self::type($type) . '(' . implode(', ', array_map(static fn (float $value): string => \sprintf('%.8e', $value), $values)) . ");\n";
        });
    }

    /** @param \Closure(string, Type): string $declare */
    private static function code(\Closure $declare): string
    {
        $g = new Graph();
        $vec = static fn (string $name): Node => $g->input($name, Type::Vec3);
        $float = static fn (string $name): Node => $g->input($name, Type::Float);
        $fields = [];
        foreach (Sky::FIELDS as $name => $type) {
            $fields[$name] = $g->input($name, $type);
        }
        $sky = new Sky($g, $fields);
        $lit = Light::lit($g, [
            'baseColour' => $vec('colour'), 'normal' => $vec('normal'), 'roughness' => $float('rough'), 'metallic' => $float('metal'), 'occlusion' => $float('open'), 'emission' => $vec('emission'),
        ], $vec('view'), $sky, $float('share'), $vec('parts'));
        $printer = new Printer(new GlslDialect());
        $printer->body($g, ['light' => Light::toned($g, $g->add($lit, $sky->radiance($vec('from'))), $float('exposure'))]);

        $declared = '';
        foreach (Sky::FIELDS as $name => $type) {
            $declared .= $declare(self::PREFIX . $name, $type);
        }
        $all = implode(', ', array_map(static fn (string $name): string => $name === 'sun' ? 'sun' : self::PREFIX . $name, array_keys(Sky::FIELDS)));
        $sun = self::PREFIX . 'sun';

        return $declared . $declare(self::EXPOSURE, Type::Float) . $declare(self::PARTS, Type::Vec3) . implode("\n", $printer->functions()) . '
vec3 riltaLit(vec3 colour, vec3 n, float rough, float metal, float open, vec3 emission, vec3 view, vec3 sun, float share) { return litSurface(colour, n, rough, metal, open, emission, view, share, ' . self::PARTS . ", $all); }
vec3 riltaSky(vec3 from) { vec3 sun = $sun; return skyRadiance(from, $all); }
vec3 riltaToned(vec3 light) { return tonedLight(light, " . self::EXPOSURE . "); }\n";
    }

    private static function type(Type $type): string
    {
        return (new GlslDialect())->type($type);
    }
}
