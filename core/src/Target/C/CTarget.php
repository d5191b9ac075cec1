<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Pass\Scalariser;
use Rilta\Core\Target\ProgramInterface;
use Rilta\Core\Target\Target;

/**
 * C99 in one file: structs of what goes in and comes out, `rilta_prepare`, which computes what follows from the numbers alone, and
 * `rilta_material`, which computes one point in double precision.
 */
final class CTarget implements Target
{
    private const HEAD = <<<'C'
        /*
         * A material as one C99 function, in double precision. It needs nothing but the mathematics of the standard library (-lm).
         * Texels: for each map 32-bit numbers, all levels after one another, the largest first, rows from the top; each level is half as
         * wide and high as the one before, rounded down, down to 1 x 1. Four values a texel lie in it from the lowest byte up.
         */
        #include <math.h>
        #include <stdbool.h>
        #include <stdint.h>

        C;

    private const HELPERS = [
        'rilta_min' => "static double rilta_min(double a, double b) { return b < a ? b : a; }\n",
        'rilta_max' => "static double rilta_max(double a, double b) { return a < b ? b : a; }\n",
    ];

    private const READ = <<<'C'
        enum { RILTA_GREY8, RILTA_GREY16, RILTA_RGBA8, RILTA_SRGB8 };
        enum { RILTA_REPEAT, RILTA_MIRROR, RILTA_EDGE };
        typedef struct { double x, y, z, w; } rilta_texel;
        static const rilta_texel rilta_nothing = { 0.0, 0.0, 0.0, 0.0 };

        /* The texel that a coordinate in texels, 0 to 1 repeats or a little beside, falls on. */
        static int rilta_wrap(int t, int size, int how) {
            if (t >= 0 && t < size) return t;
            if (how == RILTA_EDGE) return t < 0 ? 0 : size - 1;
            if (how == RILTA_MIRROR) {
                t %= 2 * size;
                if (t < 0) t += 2 * size;
                return t >= size ? 2 * size - 1 - t : t;
            }
            t %= size;
            return t < 0 ? t + size : t;
        }

        /* Whole repeats make no difference; of what is reversed in every other one, pairs. */
        static double rilta_within(double t, int how) {
            return how == RILTA_REPEAT ? t - floor(t) : how == RILTA_MIRROR ? t - 2.0 * floor(t * 0.5) : t < -1.0 ? -1.0 : t > 2.0 ? 2.0 : t;
        }

        /* Between the four texels around a coordinate, or the one that it lies in, of one level. */
        static void rilta_level(rilta_texel *sum, const uint32_t *texels, int width, int height, int kind, bool sharp, int wrap_u, int wrap_v, double u, double v, double share) {
            const double x = u * width - (sharp ? 0.0 : 0.5), y = v * height - (sharp ? 0.0 : 0.5);
            const double left = floor(x), top = floor(y);
            const double a = sharp ? 0.0 : x - left, b = sharp ? 0.0 : y - top;
            const int x0 = rilta_wrap((int) left, width, wrap_u), x1 = rilta_wrap((int) left + 1, width, wrap_u);
            const uint32_t *upper = texels + (int64_t) rilta_wrap((int) top, height, wrap_v) * width;
            const uint32_t *lower = texels + (int64_t) rilta_wrap((int) top + 1, height, wrap_v) * width;
            const uint32_t t[4] = { upper[x0], upper[x1], lower[x0], lower[x1] };
            const double s[4] = { share * ((1.0 - a) * (1.0 - b)), share * (a * (1.0 - b)), share * ((1.0 - a) * b), share * (a * b) };
            if (kind == RILTA_GREY8 || kind == RILTA_GREY16) {
                const double one = kind == RILTA_GREY8 ? 255.0 : 65535.0;
                for (int i = 0; i < 4; ++i) sum->x += s[i] * (double) t[i] / one;
                sum->w += share;
                return;
            }
            for (int i = 0; i < 4; ++i) {
                const uint32_t red = t[i] & 255u, green = t[i] >> 8 & 255u, blue = t[i] >> 16 & 255u;
                sum->x += s[i] * (kind == RILTA_SRGB8 ? rilta_srgb[red] : (double) red / 255.0);
                sum->y += s[i] * (kind == RILTA_SRGB8 ? rilta_srgb[green] : (double) green / 255.0);
                sum->z += s[i] * (kind == RILTA_SRGB8 ? rilta_srgb[blue] : (double) blue / 255.0);
                sum->w += s[i] * (double) (t[i] >> 24) / 255.0;
            }
        }

        static rilta_texel rilta_read(const uint32_t *texels, int width, int height, int kind, bool sharp, bool mips, int wrap_u, int wrap_v, double u, double v, double level) {
            rilta_texel sum = rilta_nothing;
            double part = mips && level > 0.0 ? level : 0.0;
            u = rilta_within(u, wrap_u);
            v = rilta_within(v, wrap_v);
            while (part >= 1.0 && (width > 1 || height > 1)) {
                texels += (int64_t) width * height;
                width = width > 1 ? width / 2 : 1;
                height = height > 1 ? height / 2 : 1;
                part -= 1.0;
            }
            if (width == 1 && height == 1) part = 0.0;
            rilta_level(&sum, texels, width, height, kind, sharp, wrap_u, wrap_v, u, v, 1.0 - part);
            if (part > 0.0) rilta_level(&sum, texels + (int64_t) width * height, width > 1 ? width / 2 : 1, height > 1 ? height / 2 : 1, kind, sharp, wrap_u, wrap_v, u, v, part);
            return sum;
        }

        C;

    public function name(): string
    {
        return 'c';
    }

    public function label(): string
    {
        return 'C99';
    }

    public function extension(): string
    {
        return 'c';
    }

    public function interface(Lowered $lowered, Options $options = new Options()): ProgramInterface
    {
        $printer = new Printer();
        $this->point($lowered->graph, $lowered->channels, $printer);
        $this->point($lowered->graph, self::byLayer($lowered), $printer);
        $name = static fn (string $name): string => str_replace(Options::PREFIX . '_', "{$options->prefix}_", $name);
        $numbers = [Clock::UNIFORM => [Clock::UNIFORM, Type::Uint]];
        foreach ($lowered->slots as $slot) {
            $numbers[$slot->uniform] = [$name($slot->uniform), $slot->type];
        }

        return new ProgramInterface(
            ['prepare' => $name('rilta_prepare'), 'material' => $name('rilta_material')],
            ['surface' => $name('rilta_surface'), 'ready' => $name('rilta_uniforms'), 'material' => $name('rilta_result')],
            $numbers,
            $lowered->prelude,
            array_map(static fn (string $texels, TextureBinding $map): array => ['name' => $name($texels), 'kind' => 'texels', 'maps' => [$map->name]], array_keys($printer->maps()), array_values($printer->maps())),
            array_keys(Surface::types()),
            array_map(static fn (Node $field): Type => $field->type, $lowered->channels),
        );
    }

    /** Compilers take it as it is; there are no array textures. */
    public function program(Lowered $lowered, Options $options = new Options()): string
    {
        $code = $this->of($lowered, $lowered->graph, $lowered->channels, Surface::types(), self::byLayer($lowered));

        // A C99 compiler takes such comments as well.
        return $options->heading() . ($options->prefix === Options::PREFIX ? $code : str_replace([Options::PREFIX . '_', strtoupper(Options::PREFIX) . '_'], ["{$options->prefix}_", strtoupper($options->prefix) . '_'], $code));
    }

    /**
     * A program that computes any fields that are made of a material.
     *
     * @param array<string, Node> $fields of the graph, by what their members of the result are called
     * @param array<string, Type> $inputs what a point has
     * @param array<string, Node> $layers how much of each layer is seen, by its id: a function of its own, if there are any
     */
    public function of(Lowered $lowered, Graph $graph, array $fields, array $inputs, array $layers = []): string
    {
        $printer = new Printer();
        $dialect = new CDialect();
        $once = new Printer();
        $scalariser = new Scalariser($lowered->graph);
        [$prepared, $results] = $once->body(array_map(static fn (Node $field): Node => $scalariser->scalarise($field)[0], $lowered->prelude->fields));
        $point = $this->point($graph, $fields, $printer);
        $seen = $this->point($graph, $layers, $printer);
        $uniforms = [Clock::UNIFORM => Type::Uint];
        foreach ($lowered->slots as $slot) {
            $uniforms[$slot->uniform] = $slot->type;
        }
        foreach ($lowered->prelude->fields as $name => $field) {
            $uniforms[$name] = $field->type;
        }
        $members = '';
        foreach ($uniforms as $name => $type) {
            $members .= '    ' . $dialect->type($type) . " $name;" . (isset($lowered->prelude->fields[$name]) ? ' /* by rilta_prepare */' : '') . "\n";
        }
        $maps = '';
        foreach ($printer->maps() as $name => $slot) {
            $maps .= "    const uint32_t *$name; /* {$slot->width} x {$slot->height} */\n";
        }
        $code = self::head([...$printer->helpers(), ...$once->helpers()])
            . "\n/* The numbers of the document, and the clock in 1/" . Clock::TICKS . " s. */\ntypedef struct {\n$members} rilta_uniforms;\n"
            . "\n/* The texels of the maps. */\ntypedef struct {\n" . ($maps === '' ? "    char none;\n" : $maps) . "} rilta_maps;\n"
            . "\n/* A point of a surface: metres, in the world; directions are unit vectors; …Dx and …Dy to the next pixel on the right and below. */\ntypedef struct {\n" . self::members($inputs) . "} rilta_surface;\n"
            . "\n/* What the material is there. Colours in linear light. */\ntypedef struct {\n" . self::members(array_map(static fn (Node $field): Type => $field->type, $fields)) . "} rilta_result;\n\n";
        $stores = '';
        foreach ($results as $name => $result) {
            $stores .= "    u->$name = $result;\n";
        }

        return $code
            . "\n/* What follows from the numbers and the clock alone: once, before points are computed. */\nvoid rilta_prepare(rilta_uniforms *u);\nvoid rilta_prepare(rilta_uniforms *u) {\n"
            . ($results === [] ? "    (void) u;\n" : '') . self::lines($prepared) . "$stores}\n"
            . self::pointFunction('rilta_material', 'rilta_result', $point)
            . ($layers === [] ? '' : "\n/* How much of each layer is seen at a point, 0 to 1: the same question as bin/rilta at asks. */\ntypedef struct {\n" . self::members(array_map(static fn (Node $field): Type => $field->type, $layers)) . "} rilta_shares;\n" . self::pointFunction('rilta_layers', 'rilta_shares', $seen));
    }

    private static function pointFunction(string $name, string $result, string $lines): string
    {
        $head = "void $name(const rilta_uniforms *u, const rilta_maps *m, const rilta_surface *s, $result *out)";

        return "\n$head;\n$head {\n    (void) u;\n    (void) m;\n    (void) s;\n$lines}\n";
    }

    /** @return array<string, Node> how much of each layer is seen, by a name of its own */
    private static function byLayer(Lowered $lowered): array
    {
        $shares = [];
        foreach ($lowered->layers as $laid) {
            $name = Identifier::of($laid->layer->id, (new CDialect())->reserved());
            // Ids that differ in punctuation alone would make the same names.
            while (isset($shares[$name])) {
                $name .= 'b';
            }
            $shares[$name] = $lowered->layerShares()[$laid->path];
        }

        return $shares;
    }

    /**
     * What stands before all else: what is included, and the functions that are called.
     *
     * @param list<string> $helpers
     */
    public static function head(array $helpers): string
    {
        $code = self::HEAD . "\n" . implode('', array_intersect_key(self::HELPERS, array_flip($helpers)));

        return $code . (\in_array('rilta_read', $helpers, true) ? self::srgb() . self::READ : '');
    }

    /** @param array<string, Node> $fields */
    private function point(Graph $graph, array $fields, Printer $printer): string
    {
        $scalariser = new Scalariser($graph);
        $outputs = [];
        foreach ($fields as $name => $field) {
            $components = $scalariser->scalarise($field);
            foreach ($components as $c => $component) {
                $outputs[$this->member($name) . (\count($components) === 1 ? '' : "[$c]")] = $component;
            }
        }
        [$lines, $results] = $printer->body($outputs);
        $stores = '';
        foreach ($results as $member => $result) {
            $stores .= "    out->$member = $result;\n";
        }

        return self::lines($lines) . $stores;
    }

    private function member(string $name): string
    {
        return Identifier::of($name, (new CDialect())->reserved());
    }

    /** @param array<string, Type> $types */
    private static function members(array $types): string
    {
        $code = '';
        $dialect = new CDialect();
        foreach ($types as $name => $type) {
            $code .= '    ' . $dialect->type($type->scalar()) . ' ' . Identifier::of($name, $dialect->reserved()) . ($type->width() === 1 ? '' : "[{$type->width()}]") . ";\n";
        }

        return $code;
    }

    private static function srgb(): string
    {
        $rows = array_map(static fn (array $row): string => '    ' . implode(', ', array_map(static fn (float $value): string => json_encode($value, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION), $row)), array_chunk(Srgb::table(), 8));

        return "/* The linear light of sRGB bytes (IEC 61966-2-1). */\nstatic const double rilta_srgb[256] = {\n" . implode(",\n", $rows) . "\n};\n\n";
    }

    /** @param list<string> $lines */
    private static function lines(array $lines): string
    {
        return implode('', array_map(static fn (string $line): string => "    $line\n", $lines));
    }
}
