<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Chart;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Role;
use Rilta\Core\Surface\Surface;

/** Something that can be shown instead of the lit material: a channel, or a station in false colours. */
final readonly class Picture
{
    private const CHANNELS = 'Channels';
    private const READING = 'How maps are read';
    private const MESH = 'The mesh';
    private const LAYERS = 'Layers';
    private const LANES = 'Lanes';

    /**
     * @param string                                           $name    unique in the material
     * @param string                                           $path    JSON Pointer to the step, empty for channels
     * @param Node                                             $colour  vec3, as it is to be displayed, in linear light
     * @param list<array{colours: list<string>, text: string}> $legend  what its colours mean, as sRGB hex codes
     * @param string                                           $group   what kind of picture it is; those of a kind follow each other where people choose one
     * @param bool                                             $form    whether a little shade may tell what is near and far: its parts are large and even
     * @param string                                           $reading what the trail's readings begin with that tell it; "" for its label
     */
    private function __construct(public string $name, public string $label, public string $path, public Node $colour, public array $legend = [], public string $group = self::CHANNELS, public bool $form = false, public string $reading = '')
    {
    }

    /** @return list<self> */
    public static function all(Lowered $lowered): array
    {
        $g = $lowered->graph;
        $grey = static fn (string $channel): Node => self::encoded($g, $g->vec(...array_fill(0, 3, $lowered->channels[$channel])));
        $taps = $lowered->layers[0]->taps ?? [];
        $pictures = [
            new self('base-colour', 'Base colour', '', $lowered->channels['baseColour'], [['colours' => [], 'text' => 'As the maps say, without light']]),
            new self('normal', 'Normal', '', self::encoded($g, $g->add($g->mul($lowered->channels['normal'], 0.5), 0.5)), [['colours' => ['#ff8080', '#80ff80', '#8080ff'], 'text' => 'Looks along X, Y, Z of the world']]),
            new self('roughness', 'Roughness', '', $grey('roughness'), self::shades('Mirror', 'Matt')),
            new self('metallic', 'Metallic', '', $grey('metallic'), self::shades('Not metal', 'Metal')),
            new self('occlusion', 'Occlusion', '', $grey('occlusion'), self::shades('Closed in', 'Open')),
            new self('coordinates', 'Coordinates', '', self::coordinates($g, $taps), Chart::repeatLegend(), self::LANES),
            new self('faces', 'Face weights', '', self::faces($g, $taps), Chart::faceLegend(), self::LANES),
        ];
        if (isset($lowered->channels['height'])) {
            $pictures[] = new self('height', 'Height', '', $grey('height'), self::shades('Lowest', 'Highest'));
        }
        if (isset($lowered->channels['opacity'])) {
            $pictures[] = new self('opacity', 'Opacity', '', $grey('opacity'), self::shades('Seen through', 'Closed'));
        }
        if (isset($lowered->channels['emission'])) {
            $pictures[] = new self('emission', 'Emission', '', $lowered->channels['emission'], [['colours' => [], 'text' => 'The light that it gives off']]);
        }
        array_push($pictures, ...self::gauges($lowered));
        foreach ($lowered->masks as $path => $mask) {
            $layer = array_values(array_filter($lowered->layers, static fn (LoweredLayer $laid): bool => $laid->path === $path))[0] ?? null;
            $of = 'Mask of ' . ($layer->layer->name ?? $path);
            $shown = static fn (Node $mask): Node => self::encoded($g, $g->vec($mask, $mask, $mask));
            $legend = self::shades('Not there', 'There');
            $pictures[] = new self("mask:$path", $of, '', $shown($mask), $legend, self::LAYERS);
            // As far as it has come after each term; after the last it is the mask.
            foreach (\array_slice($lowered->terms[$path] ?? [], 0, -1, true) as $t => $term) {
                $pictures[] = new self("term:$path/mask/$t", "$of, up to term " . $t + 1, '', $shown($term), $legend, self::LAYERS);
            }
        }
        foreach (array_chunk(array_values($lowered->shares), 3) as $i => $three) {
            // Not to be looked at, but to be measured: how much of each layer is seen.
            $pictures[] = new self('shares:' . 3 * $i, 'Shares', '', $g->vec(...array_pad($three, 3, $g->float(0))));
        }
        if (self::hasCells($taps)) {
            $pictures[] = new self('cells', 'Cells', '', self::cells($g, $taps), Chart::cellLegend(), self::LANES);
        }
        foreach ($lowered->stations as $i => $station) {
            // Where a step makes cells or changes weights, they are what there is to see.
            $picture = self::coordinates($g, $station->taps);
            $legend = Chart::repeatLegend();
            $before = str_ends_with($station->path, '/steps/0') ? [] : $lowered->stations[$i - 1]->taps ?? [];
            $family = self::family($station->taps);
            if ($family !== null && $family !== self::family($before)) {
                $picture = $g->mix($picture, self::alternates($g, $station->taps), 0.8);
                $legend = Chart::alternateLegend($family->sets);
            } elseif (self::hasCells($station->taps) && !self::hasCells($before)) {
                $picture = $g->mix($picture, self::cells($g, $station->taps), 0.62);
                $legend = [...Chart::cellLegend(), ...$legend];
            }
            $pictures[] = new self('station:' . $station->path, $station->label, $station->path, $picture, $legend, self::LANES);
            if ($before !== [] && $station->taps[0]->cover->region !== $before[0]->cover->region) {
                // Not to be looked at, but to be read where rectangles are dragged: the coordinate that they lie in.
                $pictures[] = new self('area:' . $station->path, 'Coordinate', '', self::foremost($g, $before));
            }
        }

        return $pictures;
    }

    /**
     * How maps are read, and what the mesh brings.
     *
     * @return list<self>
     */
    private static function gauges(Lowered $lowered): array
    {
        $g = $lowered->graph;
        $gauge = Gauge::of($lowered);
        $surface = new Surface($g);
        // A step of the scale is twice as much.
        $doublings = static fn (Node $of, Node|float $right): Node => $g->mul($g->log2($g->max($g->div($of, $right), 1e-6)), 0.25);
        $bare = static fn (Node $shown): Node => $g->mix($g->vec(0.045, 0.045, 0.05), $shown, $g->clamp($gauge->read));
        $few = $g->mul($g->log2($g->add($gauge->fetches, 1.0)), 1 / log(49, 2));

        return [
            new self('density', 'Density', '', $bare(Chart::scale($g, $g->add($doublings($gauge->density, $lowered->density), 0.5))), Chart::scaleLegend(['A quarter of what is wanted, or less', 'Half', 'As dense as is wanted', 'Twice', 'Four times, or more']), self::READING),
            new self('stretch', 'Stretch', '', $bare(Chart::scale($g, $g->add($doublings($gauge->stretch, 1.0), 0.5))), Chart::scaleLegend(['', '', 'As long as wide', 'Twice as long', 'Four times, or more']), self::READING),
            new self('level', 'Mip level', '', $bare(Chart::scale($g, $g->sub(0.5, $g->mul($gauge->level, 1 / 16)))), Chart::scaleLegend(['8, or more', '4', '0: the map as it is', '', '']), self::READING),
            new self('fetches', 'Fetches', '', Chart::scale($g, $few), Chart::scaleLegend(['None', '2', '6', '18', '48, or more']), self::READING),
            new self('painted', 'Painted', '', Chart::painted($g, $surface->input('painted')), Chart::paintedLegend(), self::MESH, true),
            new self('section', 'Section', '', Chart::section($g, $surface->input('section')), Chart::sectionLegend(), self::MESH, true),
            new self('metres', 'Metre grid', '', Chart::metres($g, $surface->position(), $surface->normal(), $surface->input('dpdx'), $surface->input('dpdy')), Chart::metreLegend(), self::MESH, true, 'Position'),
        ];
    }

    /** @return list<array{colours: list<string>, text: string}> */
    private static function shades(string $none, string $all): array
    {
        return [['colours' => ['#000000'], 'text' => "0: $none"], ['colours' => ['#ffffff'], 'text' => "1: $all"]];
    }

    /** @param list<Tap> $taps */
    private static function coordinates(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            if ($tap->reads->includes(Role::BaseColour)) {
                // Around a place there is nothing to read.
                $chart = Chart::repeats($g, $tap->at->uv, $tap->at->dx, $tap->at->dy);
                $here = $tap->cover->share($g);
                $sum = $g->add($sum, $g->mul($g->mix($g->vec(0.03, 0.03, 0.03), $chart, $here), $tap->weight));
            }
        }

        return $sum;
    }

    /**
     * U, v, and which tap of the lane it is, of the tap that weighs most.
     *
     * @param non-empty-list<Tap> $taps
     */
    private static function foremost(Graph $g, array $taps): Node
    {
        [$most, $found] = [null, $g->vec(0, 0, 0)];
        foreach (array_filter($taps, static fn (Tap $tap): bool => $tap->reads->includes(Role::BaseColour)) as $t => $tap) {
            $own = $g->vec($tap->at->uv, $g->float($t));
            $found = $most === null ? $own : $g->select($g->less($most, $tap->weight), $own, $found);
            $most = $most === null ? $tap->weight : $g->max($most, $tap->weight);
        }

        return $found;
    }

    /** @param list<Tap> $taps */
    private static function faces(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            if ($tap->reads->includes(Role::BaseColour)) {
                $sum = $g->add($sum, $g->mul(Chart::face($g, $tap->face), $tap->weight));
            }
        }

        return $sum;
    }

    /**
     * The family that was chosen from last.
     *
     * @param list<Tap> $taps
     */
    private static function family(array $taps): ?Family
    {
        return ($taps[0] ?? null)?->alternate?->family;
    }

    /** @param list<Tap> $taps */
    private static function alternates(Graph $g, array $taps): Node
    {
        $sum = $g->vec(0, 0, 0);
        foreach ($taps as $tap) {
            $index = array_search($tap->alternate?->set->name, $tap->alternate->family->sets ?? [], true);
            $sum = $g->add($sum, $g->mul(Chart::alternate($g, (int) $index), $tap->reads->includes(Role::BaseColour) ? $tap->weight : 0.0));
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
            $sum = $g->add($sum, $g->mul($colour, $tap->reads->includes(Role::BaseColour) ? $tap->weight : 0.0));
        }

        return $sum;
    }

    /** Data shown so that the screen's bytes are the stored numbers. */
    private static function encoded(Graph $g, Node $data): Node
    {
        return Colour::decode($g, $g->clamp($data));
    }
}
