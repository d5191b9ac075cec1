<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\MapSlot;
use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Step\Clock;
use Rilta\Core\Step\Surface;

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
        /** Whether the picture changes with the clock. */
        public bool $animated,
    ) {
    }

    public static function of(Lowered $lowered): self
    {
        $arrays = self::arrays($lowered->maps);
        $places = [];
        foreach ($arrays as $array) {
            foreach ($array['slots'] as $layer => $slot) {
                $places[$slot] = [$array['uniform'], $layer];
            }
        }
        $printer = new Printer($places);
        $material = self::material($printer, $lowered);
        $views = Picture::all($lowered);
        $pictures = self::pictures($printer, $lowered, $views);

        return new self(
            self::declarations($printer, $arrays),
            $material,
            $pictures,
            $arrays,
            array_map(static fn (Picture $p): array => ['name' => $p->name, 'label' => $p->label, 'path' => $p->path, 'legend' => $p->legend], $views),
            isset($printer->uniforms()[Clock::UNIFORM]),
        );
    }

    /** The whole as one text, in an order that compiles. */
    public function source(): string
    {
        return $this->declarations . "\n" . $this->material . "\n" . $this->pictures;
    }

    /**
     * @param array<string, MapSlot> $maps
     *
     * @return list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>
     */
    private static function arrays(array $maps): array
    {
        $byKey = [];
        foreach ($maps as $map) {
            $byKey[$map->arrayKey()][] = $map;
        }
        $arrays = [];
        foreach ($byKey as $key => $slots) {
            $arrays[] = ['uniform' => 'maps' . \count($arrays), 'key' => $key, 'slots' => array_map(static fn (MapSlot $map): string => $map->name, $slots), 'sampling' => $slots[0]->sampling->describe()];
        }

        return $arrays;
    }

    private static function material(Printer $printer, Lowered $lowered): string
    {
        $channels = $lowered->channels;
        // Neither is lit.
        unset($channels['slope'], $channels['height'], $channels['opacity']);
        [$lines, $results] = $printer->body($lowered->graph, $channels);
        $fields = implode('', array_map(
            static fn (string $name, Node $field): string => "    {$field->type->value} $name;\n",
            array_keys($channels),
            $channels,
        ));

        return "struct RiltaMaterial {\n$fields};\n\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n$lines\n"
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

    /** @param list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}> $arrays */
    private static function declarations(Printer $printer, array $arrays): string
    {
        $code = "struct RiltaSurface {\n";
        foreach (Surface::INPUTS as $name => $type) {
            $code .= "    {$type->value} $name;\n";
        }
        $code .= "};\n\n";
        foreach ($printer->uniforms() as $name => $type) {
            $code .= "uniform {$type->value} $name;\n";
        }
        foreach ($arrays as $array) {
            $code .= "uniform highp sampler2DArray {$array['uniform']}; // " . implode(', ', $array['slots']) . "\n";
        }

        return $code . "\n" . implode("\n", $printer->functions());
    }
}
