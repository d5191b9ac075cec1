<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Math\Vec;
use Rilta\Core\Target\MaterialX\StandardNodes;

/**
 * A material as MaterialX 1.39: what its standard nodes can say stays alive, with its numbers as inputs; the rest is read from the baked tile.
 *
 * https://github.com/AcademySoftwareFoundation/MaterialX/tree/main/documents/Specification
 */
final readonly class MaterialXFile
{
    public const VERSION = '1.39';
    private const ALPHA = [SurfaceKind::OPAQUE => 0, SurfaceKind::CUT_OUT => 1];
    /** The set of UVs of ready-made meshes that is in metres. */
    private const METRES = 2;

    /**
     * @param array<string, string> $maps  the file of each map that is read, by its name
     * @param array<string, string> $baked the file of each channel that is read from the tile
     * @param list<string>          $told  what is not alive in it, and why, in words
     */
    private function __construct(public string $document, public array $maps, public array $baked, public array $told)
    {
    }

    /**
     * @param string                $slug     what names of files begin with
     * @param array<string, string> $notes    what numbers are, by JSON Pointer
     * @param list<Channel>         $channels that were baked
     * @param float                 $glow     what the image of emission is to be multiplied by
     */
    public static function of(string $name, string $slug, Lowered $lowered, array $notes, Tile $tile, array $channels, float $glow): self
    {
        $files = [];
        foreach ($lowered->maps as $map) {
            $files[$map->name] = strtr($map->name, '/', '-') . '.png';
        }
        $nodes = new StandardNodes($lowered->graph, $lowered->prelude, $files);
        /** @var array<string, string> $lacking */
        $lacking = [];
        $alive = false;
        foreach ($channels as $channel) {
            $field = self::field($lowered, $channel);
            $why = $field === null ? null : $nodes->lacks($field);
            if ($why !== null) {
                $lacking[$channel->value] = $why;
            }
            $alive = $alive || ($field !== null && $why === null && !$field->isConstant());
        }
        $taps = $lowered->layers === [] ? [] : $lowered->layers[0]->taps;
        $place = static fn (): string => !$alive ? self::inMetres($nodes, $tile, self::METRES) : ($taps !== [] && $taps[0]->face === 'uv' ? self::inMetres($nodes, $tile, 0) : self::inWorld($nodes, $tile));
        $outputs = $inputs = $baked = [];
        foreach ($channels as $channel) {
            $field = self::field($lowered, $channel);
            if ($field === null) {
                continue;
            }
            [$input, $type] = self::input($channel);
            if (!isset($lacking[$channel->value])) {
                $read = $nodes->of($field);
                $read = $type === 'color3' ? $nodes->node('convert', 'color3', ['in' => ['vector3', $read]]) : $read;
            } else {
                $read = self::tile($nodes, $channel, $baked[$channel->value] = "$slug-$channel->value.png", $place(), $alive ? $tile : null);
                $inputs += $channel === Channel::Emission && $glow > 1.0 ? ['emissive_strength' => ['float', StandardNodes::value($glow)]] : [];
            }
            // What is a number needs no output of its own.
            if (str_starts_with($read, 'value=')) {
                $inputs[$input] = [$type, $read];
                continue;
            }
            $outputs[] = "<output name=\"out_$input\" type=\"$type\" $read/>";
            $inputs[$input] = [$type, "nodegraph=\"NG_material\" output=\"out_$input\""];
        }
        $kind = $lowered->cover->kind();
        $inputs['alpha_mode'] = ['integer', StandardNodes::text((string) (self::ALPHA[$kind] ?? 2))];
        if ($kind === SurfaceKind::CUT_OUT) {
            $inputs['alpha_cutoff'] = ['float', StandardNodes::value($lowered->cover->values->number('threshold') / 100)];
        }
        $told = [];
        foreach (array_unique($lacking) as $why) {
            $told[] = "baked, since nodes do not know $why: " . implode(', ', array_keys($lacking, $why, true));
        }
        if (\in_array(Channel::Height, $channels, true)) {
            $told[] = 'left out: height';
        }
        if ($nodes->areOneSided()) {
            $told[] = 'seen as from the front: both sides';
        }

        return new self(self::xml($name, self::numbers($nodes, $lowered, $notes), $nodes->lines(), $outputs, $inputs), array_intersect_key($files, $nodes->maps()), $baked, $told);
    }

    private static function field(Lowered $lowered, Channel $channel): ?Node
    {
        return match ($channel) {
            Channel::BaseColour => $lowered->channels['baseColour'],
            Channel::Height => null,
            default => $lowered->channels[$channel->value],
        };
    }

    /** @return array{string, string} of the surface, and its type */
    private static function input(Channel $channel): array
    {
        return match ($channel) {
            Channel::BaseColour => ['base_color', 'color3'],
            Channel::Normal => ['normal', 'vector3'],
            Channel::Opacity => ['alpha', 'float'],
            Channel::Emission => ['emissive', 'color3'],
            default => [$channel->value, 'float'],
        };
    }

    /** Where a place of the mesh lies on the tile, by a set of UVs that is in metres: vec2, from its lower left corner. */
    private static function inMetres(StandardNodes $nodes, Tile $tile, int $set): string
    {
        $uv = $nodes->node('texcoord', 'vector2', ['index' => ['integer', StandardNodes::text((string) $set)]]);

        // UVs here begin at the upper left, as glTF's do.
        return $nodes->node('place2d', 'vector2', ['texcoord' => ['vector2', $uv], 'pivot' => ['vector2', StandardNodes::value(0.0, 1.0)], 'scale' => ['vector2', StandardNodes::value($tile->width, $tile->height)]]);
    }

    /** The same by the plane that the tile was baked on. */
    private static function inWorld(StandardNodes $nodes, Tile $tile): string
    {
        $at = $nodes->node('position', 'vector3', ['space' => ['string', StandardNodes::text('world')]]);
        [$right, $up] = [Vec::scale($tile->plane->right, 1 / $tile->width), Vec::scale($tile->plane->down, -1 / $tile->height)];
        [$u, $v] = array_map(static fn (array $along): string => $nodes->node('dotproduct', 'float', ['in1' => ['vector3', $at], 'in2' => ['vector3', StandardNodes::value(...$along)]]), [$right, $up]);

        return $nodes->node('combine2', 'vector2', ['in1' => ['float', $u], 'in2' => ['float', $v]]);
    }

    /** @param ?Tile $on the tile on whose plane in the world it lies; null where it lies along the mesh */
    private static function tile(StandardNodes $nodes, Channel $channel, string $file, string $place, ?Tile $on): string
    {
        $colour = $channel === Channel::BaseColour || $channel === Channel::Emission;
        $type = $colour ? 'color3' : ($channel === Channel::Normal ? 'vector3' : 'float');
        $image = $nodes->node('image', $type, ['file' => ['filename', StandardNodes::text($file) . ($colour ? ' colorspace="srgb_texture"' : '')], 'texcoord' => ['vector2', $place]]);
        if ($channel !== Channel::Normal) {
            return $image;
        }
        $frame = $on === null ? [] : ['tangent' => ['vector3', StandardNodes::value(...$on->plane->right)], 'bitangent' => ['vector3', StandardNodes::value(...[0.0 - $on->plane->down[0], 0.0 - $on->plane->down[1], 0.0 - $on->plane->down[2]])]];

        return $nodes->node('normalmap', 'vector3', ['in' => ['vector3', $image]] + $frame);
    }

    /**
     * @param array<string, string> $notes
     *
     * @return list<string>
     */
    private static function numbers(StandardNodes $nodes, Lowered $lowered, array $notes): array
    {
        $slots = array_column($lowered->slots, null, 'uniform');

        return array_map(static function (string $uniform) use ($slots, $notes): string {
            $slot = $slots[$uniform] ?? throw new \LogicException("No number for $uniform.");

            return "<input name=\"$uniform\" type=\"float\" " . StandardNodes::value($slot->value) . self::named($slot, $notes) . '/>';
        }, $nodes->uniforms());
    }

    /** @param array<string, string> $notes */
    private static function named(UniformBinding $slot, array $notes): string
    {
        return isset($notes[$slot->path]) ? ' uiname="' . htmlspecialchars($notes[$slot->path], \ENT_XML1 | \ENT_QUOTES) . '"' : '';
    }

    /**
     * @param list<string>                         $numbers
     * @param list<string>                         $lines
     * @param list<string>                         $outputs
     * @param array<string, array{string, string}> $inputs
     */
    private static function xml(string $name, array $numbers, array $lines, array $outputs, array $inputs): string
    {
        $called = htmlspecialchars($name, \ENT_XML1 | \ENT_QUOTES);
        $graph = $outputs === [] ? [] : ['  <nodegraph name="NG_material">', ...array_map(static fn (string $line): string => "    $line", [...$numbers, ...$lines, ...$outputs]), '  </nodegraph>'];
        $surface = array_map(static fn (string $input, array $one): string => "    <input name=\"$input\" type=\"$one[0]\" $one[1]/>", array_keys($inputs), $inputs);

        return implode("\n", [
            '<?xml version="1.0" encoding="UTF-8"?>',
            '<materialx version="' . self::VERSION . '" colorspace="lin_rec709">',
            ...$graph,
            '  <gltf_pbr name="SR_material" type="surfaceshader">',
            ...$surface,
            '  </gltf_pbr>',
            "  <surfacematerial name=\"Material\" type=\"material\" uiname=\"$called\">",
            '    <input name="surfaceshader" type="surfaceshader" nodename="SR_material"/>',
            '  </surfacematerial>',
            '</materialx>',
            '',
        ]);
    }
}
