<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Chart;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Node;
use Rilta\Core\Step\Tap;

/** Something that can be shown instead of the lit material: a channel, or a station in false colours. */
final readonly class Picture
{
    /**
     * @param string $name   unique in the material
     * @param string $path   JSON Pointer to the step, empty for channels
     * @param Node   $colour vec3, as it is to be displayed, in linear light
     */
    private function __construct(public string $name, public string $label, public string $path, public Node $colour)
    {
    }

    /** @return list<self> */
    public static function all(Lowered $lowered): array
    {
        $g = $lowered->graph;
        $grey = static fn (string $channel): Node => self::encoded($g, $g->vec(...array_fill(0, 3, $lowered->channels[$channel])));
        $pictures = [
            new self('base-colour', 'Base colour', '', $lowered->channels['baseColour']),
            new self('normal', 'Normal', '', self::encoded($g, $g->add($g->mul($lowered->channels['normal'], 0.5), 0.5))),
            new self('roughness', 'Roughness', '', $grey('roughness')),
            new self('metallic', 'Metallic', '', $grey('metallic')),
            new self('occlusion', 'Occlusion', '', $grey('occlusion')),
            new self('coordinates', 'Coordinates', '', self::coordinates($g, $lowered->taps)),
            new self('faces', 'Face weights', '', self::faces($g, $lowered->taps)),
        ];
        if (self::hasCells($lowered->taps)) {
            $pictures[] = new self('cells', 'Cells', '', self::cells($g, $lowered->taps));
        }
        foreach ($lowered->stations as $i => $station) {
            // Where a step makes cells or changes weights, they are what there is to see.
            $picture = self::coordinates($g, $station->taps);
            if (self::hasCells($station->taps) && !self::hasCells($lowered->stations[$i - 1]->taps ?? [])) {
                $picture = $g->mix($picture, self::cells($g, $station->taps), 0.62);
            }
            $pictures[] = new self('station:' . $station->path, $station->label, $station->path, $picture);
        }

        return $pictures;
    }

    /** @param list<Tap> $taps */
    private static function coordinates(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            $sum = $g->add($sum, $g->mul(Chart::repeats($g, $tap->uv, $tap->dx, $tap->dy), $tap->weight));
        }

        return $sum;
    }

    /** @param list<Tap> $taps */
    private static function faces(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            $sum = $g->add($sum, $g->mul(Chart::face($g, $tap->face), $tap->weight));
        }

        return $sum;
    }

    /** @param list<Tap> $taps */
    private static function hasCells(array $taps): bool
    {
        return array_filter($taps, static fn (Tap $tap): bool => $tap->cell !== null) !== [];
    }

    /** @param list<Tap> $taps */
    private static function cells(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            $colour = $tap->cell === null ? $g->vec(0.2, 0.2, 0.2) : Chart::cell($g, $tap->cell);
            $sum = $g->add($sum, $g->mul($colour, $tap->weight));
        }

        return $sum;
    }

    /** Data shown so that the screen's bytes are the stored numbers. */
    private static function encoded(Graph $g, Node $data): Node
    {
        return Colour::decode($g, $g->clamp($data));
    }
}
