<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Target\Pass\SinglePrecision;
use Rilta\Core\Target\Shading\MapArrays;
use Rilta\Core\Target\Shading\MaterialCode;
use Rilta\Core\Target\Shading\Printer;

/**
 * A lowered material as GLSL: declarations, `RiltaMaterial riltaMaterial(RiltaSurface)` and
 * `vec3 riltaPicture(int, RiltaSurface)`, which shows any station. A host declares the varyings, fills the
 * surface and lights the result.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
final readonly class Shader
{
    /** What fills uniforms that follow from others, and from where places are counted from. */
    public Prelude $prelude;

    private function __construct(
        /** The struct of the surface, uniforms and library functions. */
        public string $declarations,
        public string $material,
        public string $pictures,
        /** @var list<MapArrayJson> array textures in order of their layers */
        public array $arrays,
        /** @var list<array{name: string, label: string, path: string, group: string, form: bool, reading: string, legend: list<array{colours: list<string>, text: string}>}> what riltaPicture can show, by index */
        public array $views,
        /** Carries what the material reads of a surface. */
        public Host $host,
        /** Carries what pictures read of a surface as well. */
        public Host $pictureHost,
        /** @var list<string> names of what is lit */
        public array $channels,
        /** Whether the picture changes with the clock. */
        public bool $animated,
        private SinglePrecision $single,
    ) {
        $this->prelude = $single->prelude;
    }

    /** @param bool $far whether places are counted from an origin that the host chooses (SinglePrecision::UNIFORMS), so that it is exact far from the world's */
    public static function of(Lowered $lowered, bool $far = false): self
    {
        $arrays = MapArrays::of($lowered->maps);
        $printer = new Printer(new GlslDialect(), MapArrays::places($arrays));
        $views = Picture::all($lowered);
        $lit = MaterialCode::lit($lowered->channels);
        $single = new SinglePrecision($lowered->graph, $lowered->prelude, $lit + array_combine(array_map(static fn (int $i): string => "picture $i", array_keys($views)), array_map(static fn (Picture $p): Node => $p->colour, $views)), $far);
        [$graph, $fields] = [$single->graph, $single->fields];
        $colours = array_values(array_diff_key($fields, $lit));
        $lit = array_intersect_key($fields, $lit);
        $material = self::material($printer, $graph, $lit);
        $pictures = self::pictures($printer, $graph, $views, $colours);

        return new self(
            Declarations::surface() . "\n" . Declarations::used($printer, $arrays),
            $material,
            $pictures,
            $arrays,
            array_map(static fn (Picture $p): array => ['name' => $p->name, 'label' => $p->label, 'path' => $p->path, 'group' => $p->group, 'form' => $p->form, 'reading' => $p->reading === '' ? $p->label : $p->reading, 'legend' => $p->legend], $views),
            Host::of(Reachable::names(Op::Input, $lit)),
            Host::of(Reachable::names(Op::Input, $fields)),
            array_keys($lit),
            isset($printer->uniforms()[Clock::UNIFORM]) || $single->prelude->reads(Clock::UNIFORM),
            $single,
        );
    }

    /**
     * How far from the world's origin a lane's coordinates are as exact as near it.
     *
     * @param list<Tap> $taps
     *
     * @return ?float metres; null if they are so within 100 km
     */
    public function exactWithin(Lowered $lowered, array $taps): ?float
    {
        return $this->single->exactWithin(array_map(static fn (Tap $tap): Node => $tap->at->uv, $taps), $lowered->uniforms());
    }

    /** The whole as one text, in an order that compiles. */
    public function source(): string
    {
        return $this->declarations . "\n" . $this->material . "\n" . $this->pictures;
    }

    /** @param array<string, Node> $channels those that are lit */
    private static function material(Printer $printer, Graph $graph, array $channels): string
    {
        [$lines, $results] = $printer->body($graph, $channels);

        return Declarations::material($channels) . "\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n$lines\n"
            . '    return RiltaMaterial(' . implode(', ', $results) . ");\n}\n";
    }

    /**
     * @param list<Picture> $views
     * @param list<Node>    $colours what each shows
     */
    private static function pictures(Printer $printer, Graph $graph, array $views, array $colours): string
    {
        $names = array_map(static fn (Picture $p): string => $p->name, $views);
        $notes = array_combine($names, array_map(static fn (Picture $p): string => trim("$p->label $p->path"), $views));

        return "vec3 riltaPicture(int which, RiltaSurface s) {\n" . $printer->branches($graph, 'which', array_combine($names, $colours), $notes) . "\n    return vec3(0.0);\n}\n";
    }
}
