<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Pass\SinglePrecision;

/** A lowered material in a shading language: what has to be declared, and the statements that compute it. */
final readonly class MaterialCode
{
    /**
     * @param array<string, Type>                                                                            $surface   what a point of a surface carries
     * @param array<string, Type>                                                                            $uniforms  that are read, in their order
     * @param list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}> $arrays    array textures in order of their layers
     * @param array<string, string>                                                                          $functions by name, callees first
     * @param string                                                                                         $lines     of the material's function
     * @param array<string, string>                                                                          $results   the expression that each channel comes to
     * @param array<string, Type>                                                                            $channels  what is lit
     * @param string                                                                                         $before    how uniforms are computed that follow from others, in comments
     */
    private function __construct(public array $surface, public array $uniforms, public array $arrays, public array $functions, public string $lines, public array $results, public array $channels, public string $before, public Prelude $prelude)
    {
    }

    public static function of(Lowered $lowered, ShadingDialect $dialect): self
    {
        $arrays = MapArrays::of($lowered->maps);
        $printer = new Printer($dialect, MapArrays::places($arrays));
        $single = new SinglePrecision($lowered->graph, $lowered->prelude, self::lit($lowered->channels));
        [$lines, $results] = $printer->body($single->graph, $single->fields);

        return new self(
            Surface::types(),
            $printer->uniforms(),
            $arrays,
            $printer->functions(),
            $lines,
            $results,
            array_map(static fn (Node $field): Type => $field->type, $single->fields),
            self::before($single, $dialect),
            $single->prelude,
        );
    }

    /**
     * Members of a struct.
     *
     * @param array<string, Type>            $types
     * @param \Closure(string, Type): string $member
     */
    public static function members(array $types, \Closure $member): string
    {
        return implode('', array_map(static fn (string $name, Type $type): string => '    ' . $member(Identifier::of($name), $type) . "\n", array_keys($types), $types));
    }

    /**
     * The channels that are lit.
     *
     * @param array<string, Node> $channels
     *
     * @return array<string, Node>
     */
    public static function lit(array $channels): array
    {
        return array_diff_key($channels, ['slope' => true, 'height' => true, 'opacity' => true]);
    }

    private static function before(SinglePrecision $single, ShadingDialect $dialect): string
    {
        if ($single->prelude->fields === []) {
            return '';
        }
        [$lines, $results] = (new Printer($dialect))->body($single->graph, $single->prelude->fields);
        $text = "What follows is the same all over a picture: computed by the host before, in double precision.\n" . ($lines === '' ? '' : "$lines\n");
        foreach ($results as $uniform => $result) {
            $text .= "    {$dialect->uniform($uniform, Type::Float)->text} = $result;\n";
        }

        return preg_replace('~^~m', '// ', rtrim($text)) . "\n\n";
    }
}
