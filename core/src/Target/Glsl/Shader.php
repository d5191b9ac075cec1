<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Picture;

/**
 * A lowered material as GLSL: declarations, `RiltaMaterial riltaMaterial(RiltaSurface)` and
 * `vec3 riltaPicture(int, RiltaSurface)`, which shows any station. A host declares the varyings, fills the
 * surface and lights the result.
 */
final readonly class Shader
{
    private function __construct(
        /** The struct of the surface, uniforms and library functions. */
        public string $declarations,
        public string $material,
        public string $pictures,
        /** @var list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}> array textures in order of their layers */
        public array $arrays,
        /** @var list<array{name: string, label: string, path: string, legend: list<array{colours: list<string>, text: string}>}> what riltaPicture can show, by index */
        public array $views,
        /** Carries what the material reads of a surface. */
        public Host $host,
        /** Carries what pictures read of a surface as well. */
        public Host $pictureHost,
        /** @var list<string> names of what is lit */
        public array $channels,
        /** Whether the picture changes with the clock. */
        public bool $animated,
    ) {
    }

    public static function of(Lowered $lowered): self
    {
        $arrays = Declarations::arrays($lowered->maps);
        $printer = new Printer(Declarations::places($arrays));
        $material = self::material($printer, $lowered);
        $views = Picture::all($lowered);
        $pictures = self::pictures($printer, $lowered, $views);
        $lit = Declarations::lit($lowered->channels);

        return new self(
            Declarations::surface() . "\n" . Declarations::used($printer, $arrays),
            $material,
            $pictures,
            $arrays,
            array_map(static fn (Picture $p): array => ['name' => $p->name, 'label' => $p->label, 'path' => $p->path, 'legend' => $p->legend], $views),
            Host::of(Reachable::names(Op::Input, $lit)),
            Host::of(Reachable::names(Op::Input, [...array_values($lit), ...array_map(static fn (Picture $p): Node => $p->colour, $views)])),
            array_keys($lit),
            isset($printer->uniforms()[Clock::UNIFORM]) || $lowered->prelude->reads(Clock::UNIFORM),
        );
    }

    /** The whole as one text, in an order that compiles. */
    public function source(): string
    {
        return $this->declarations . "\n" . $this->material . "\n" . $this->pictures;
    }

    private static function material(Printer $printer, Lowered $lowered): string
    {
        $channels = Declarations::lit($lowered->channels);
        [$lines, $results] = $printer->body($lowered->graph, $channels);

        return Declarations::material($channels) . "\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n$lines\n"
            . '    return RiltaMaterial(' . implode(', ', $results) . ");\n}\n";
    }

    /** @param list<Picture> $views */
    private static function pictures(Printer $printer, Lowered $lowered, array $views): string
    {
        $names = array_map(static fn (Picture $p): string => $p->name, $views);
        $fields = array_combine($names, array_map(static fn (Picture $p): Node => $p->colour, $views));
        $notes = array_combine($names, array_map(static fn (Picture $p): string => trim("$p->label $p->path"), $views));

        return "vec3 riltaPicture(int which, RiltaSurface s) {\n" . $printer->branches($lowered->graph, 'which', $fields, $notes) . "\n    return vec3(0.0);\n}\n";
    }
}
