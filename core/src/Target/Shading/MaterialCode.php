<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Target\Pass\SinglePrecision;

/**
 * A lowered material in a shading language: what has to be declared, and the statements that compute it.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
final readonly class MaterialCode
{
    /**
     * @param list<string>                         $inputs    that are read of a point of a surface
     * @param array<string, Type>                  $numbers   that a host sets: the document's, and the clock
     * @param array<string, Type>                  $ready     what follows from them alone
     * @param list<MapArrayJson>                   $textures
     * @param array<string, string>                $functions by name, callees first
     * @param array{string, array<string, string>} $prepare   statements, and the expression that each of what is ready comes to
     * @param array{string, array<string, string>} $material  the same of what the material is
     * @param array<string, Type>                  $results   what the material is, by name
     */
    private function __construct(public array $inputs, public array $numbers, public array $ready, public array $textures, public array $functions, public array $prepare, public array $material, public array $results, public Prelude $prelude)
    {
    }

    /**
     * @param array<string, Node> $fields of the lowered graph, by what they are called
     * @param bool                $arrays whether maps lie in array textures
     */
    public static function of(Lowered $lowered, Graph $graph, array $fields, ShadingDialect $dialect, bool $arrays = true): self
    {
        $single = new SinglePrecision($graph, $lowered->prelude, $fields);
        $read = array_flip(array_map(static fn (Node $node): string => $node->map()->name, array_filter(Reachable::from($single->fields), static fn (Node $node): bool => $node->op === Op::Sample)));
        $maps = array_filter($lowered->maps, static fn (string $name): bool => isset($read[$name]), \ARRAY_FILTER_USE_KEY);
        $textures = $arrays ? MapArrays::of($maps) : MapArrays::single($maps);
        $printer = new Printer($dialect, MapArrays::places($textures, !$arrays), ready: array_keys($single->prelude->fields));
        $material = $printer->body($single->graph, $single->fields);
        $prepare = $printer->body($single->graph, $single->prelude->fields);

        return new self(
            Reachable::names(Op::Input, $single->fields),
            array_diff_key($printer->uniforms(), $single->prelude->fields),
            self::types($single->prelude->fields),
            $textures,
            $printer->functions(),
            $prepare,
            $material,
            self::types($single->fields),
            $single->prelude,
        );
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

    /**
     * @param array<string, Node> $fields
     *
     * @return array<string, Type>
     */
    private static function types(array $fields): array
    {
        return array_map(static fn (Node $field): Type => $field->type, $fields);
    }
}
