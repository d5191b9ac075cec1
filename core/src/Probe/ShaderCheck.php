<?php

declare(strict_types=1);

namespace Rilta\Core\Probe;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Declarations;
use Rilta\Core\Target\Glsl\GlslDialect;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Pass\SinglePrecision;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Php\Kernel;
use Rilta\Core\Target\Shading\MapArrays;
use Rilta\Core\Target\Shading\Printer;

/**
 * Whether a device computes what the core does: fields of a material as GLSL, and what the kernel makes of the same points. Tests run it
 * over all that there is, the page about a device over a project's materials.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
final readonly class ShaderCheck
{
    /** How far inputs are moved to see whether rounding decides, of what they are and in metres. */
    private const MOVED = 2e-5;
    private const TIMES = 6;
    /** How far devices are off in the logarithm that chooses mip levels. */
    private const LEVEL = 1 / 64;

    /** Metres around the origin, and metres a pixel, of points that are made up here. */
    private const ROUND = 6.0;
    private const PIXELS = [0.001, 0.05];

    private Kernel $kernel;
    private Shader $shader;
    private SinglePrecision $single;
    private string $code;

    /**
     * @param array<string, Node>                                   $outputs by name, of which the first word is the kind: value, direction, weight, coordinate or derivative
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $texels  by map
     * @param float                                                 $seconds on the clock
     * @param bool                                                  $far     whether points are counted from elsewhere than the world's origin
     */
    public function __construct(private Lowered $lowered, private array $outputs, Compiler $compiler, private array $texels, private float $seconds = 0.0, bool $far = false)
    {
        $this->kernel = $compiler->compile($lowered->graph, $outputs, self::bindings());
        $this->shader = Shader::of($lowered);
        $this->single = new SinglePrecision($lowered->graph, $lowered->prelude, $outputs, $far);
        $this->code = $this->printed();
    }

    /**
     * What is seen of a material: its channels.
     *
     * @param array<string, array<int, int>|\ArrayAccess<int, int>> $texels by map
     */
    public static function ofChannels(Lowered $lowered, Compiler $compiler, array $texels): self
    {
        $outputs = [];
        foreach ($lowered->channels as $channel => $field) {
            if ($channel !== 'slope') {
                $outputs[($channel === 'normal' ? 'direction ' : 'value ') . $channel] = $field;
            }
        }

        return new self($lowered, $outputs, $compiler, $texels);
    }

    /**
     * Points all about, the same each time: numbers that single precision holds.
     *
     * @return array<string, list<float>> flat lists by input
     */
    public static function points(int $count): array
    {
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(11));
        $between = static fn (float $low, float $high): float => $low + ($high - $low) * $dice->getInt(0, 1 << 24) / (1 << 24);
        $points = array_fill_keys(array_keys(Surface::types()), []);
        for ($i = 0; $i < $count; ++$i) {
            $place = [$between(-self::ROUND, self::ROUND), $between(-self::ROUND, self::ROUND), $between(-self::ROUND, self::ROUND)];
            $sample = SurfaceSample::at($place, [$between(-1, 1), $between(-1, 1), $between(0.05, 1)], [$between(-2, 2), $between(-2, 2)], $between(...self::PIXELS));
            $inputs = ['painted' => [$between(0, 1), $between(0, 1), $between(0, 1), $between(0, 1)], 'objectSeed' => [(float) $dice->getInt(0, 9999)], 'objectValue' => [$between(0, 1)], 'viewDistance' => [$between(0.5, 60)]] + $sample->inputs;
            foreach ($inputs as $name => $values) {
                array_push($points[$name], ...array_map(self::single(...), $values));
            }
        }

        return $points;
    }

    /**
     * The points as a texture of vec4: a row for each input.
     *
     * @param array<string, list<float>> $points
     *
     * @return array{count: int, rows: int, values: string} in base 64, single precision
     */
    public static function texture(array $points, int $count): array
    {
        $rows = '';
        foreach (Surface::types() as $name => $type) {
            foreach (array_chunk($points[$name], max(1, $type->width())) as $one) {
                $rows .= pack('g4', ...array_pad($one, 4, 0.0));
            }
        }

        return ['count' => $count, 'rows' => \count(Surface::types()), 'values' => base64_encode($rows)];
    }

    /** Metres from the world's origin within which all outputs are as exact as near it; null within 100 km. */
    public function exactWithin(): ?float
    {
        return $this->single->exactWithin(array_values($this->outputs), $this->lowered->uniforms($this->seconds));
    }

    /**
     * What the kernel finds.
     *
     * @param array<string, list<float>> $points flat lists by input, counted from the origin
     * @param array{float, float, float} $origin metres in the world
     *
     * @return array<string, list<list<float|int>>>
     */
    public function found(array $points, int $count, array $origin = [0.0, 0.0, 0.0]): array
    {
        foreach (['position', 'objectOrigin'] as $place) {
            $points[$place] = array_map(static fn (float $v, int $i): float => $v + $origin[$i % 3], $points[$place], array_keys($points[$place]));
        }

        return $this->kernel->points($count, $this->lowered->uniforms($this->seconds), $this->texels, $points);
    }

    /**
     * What a device needs to compute it and to compare.
     *
     * @param array<string, list<float>> $points flat lists by input, counted from the origin
     * @param array{float, float, float} $origin metres in the world
     *
     * @return array{count: int, outputs: list<string>, code: string, uniforms: JsonObject<float|int>, arrays: list<MapArrayJson>, expected: string, borders: string}
     */
    public function at(array $points, int $count, array $origin = [0.0, 0.0, 0.0]): array
    {
        $found = $this->found($points, $count, $origin);
        $values = $this->lowered->uniforms($this->seconds) + array_combine(SinglePrecision::UNIFORMS, $origin);

        return [
            'count' => $count,
            'outputs' => array_keys($this->outputs),
            'code' => $this->code,
            'uniforms' => new JsonObject($this->single->prelude->values($values) + $values),
            'arrays' => $this->shader->arrays,
            'expected' => base64_encode($this->packed($found, $count)),
            'borders' => base64_encode($this->borders($found, $points, $count, $origin)),
        ];
    }

    /** @param array<string, list<list<float|int>>> $found */
    private function packed(array $found, int $count): string
    {
        $packed = '';
        foreach (array_keys($this->outputs) as $name) {
            for ($c = 0; $c < 4; ++$c) {
                $packed .= pack('g*', ...($found[$name][$c] ?? array_fill(0, $count, 0.0)));
            }
        }

        return $packed;
    }

    /**
     * How much an output changes when its inputs are moved by a few roundings of single precision: on a border as much as you like, and
     * anywhere else hardly at all. What is read of maps may lie between mip levels a little beside as well. One number for each output
     * and point, single precision.
     *
     * @param array<string, list<list<float|int>>> $found
     * @param array<string, list<float>>           $points
     * @param array{float, float, float}           $origin
     */
    private function borders(array $found, array $points, int $count, array $origin): string
    {
        $spread = array_fill_keys(array_keys($this->outputs), array_fill(0, $count, 0.0));
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(5));
        $read = array_values(array_filter(array_keys($this->outputs), static fn (string $name): bool => str_starts_with($name, 'value') || $name === 'direction normal'));
        $times = array_fill(0, self::TIMES, array_keys($this->outputs));
        foreach ([...$times, $read, $read] as $n => $names) {
            $moved = $n < self::TIMES ? self::moved($points, $count, $dice) : self::sized($points, 2 ** ($n === self::TIMES ? self::LEVEL : -self::LEVEL));
            $again = $this->found($moved, $count, $origin);
            foreach ($names as $name) {
                foreach ($found[$name] as $c => $values) {
                    foreach ($values as $i => $value) {
                        $spread[$name][$i] = max($spread[$name][$i], abs((float) $again[$name][$c][$i] - (float) $value));
                    }
                }
            }
        }

        return pack('g*', ...array_merge(...array_values($spread)));
    }

    /**
     * @param array<string, list<float>> $points
     *
     * @return array<string, list<float>> the same points with pixels of another size
     */
    private static function sized(array $points, float $times): array
    {
        $steps = array_filter(array_keys($points), static fn (string $name): bool => preg_match('/^dpd[xy]$|D[xy]$/', $name) === 1);

        return array_map(static fn (array $numbers): array => array_map(static fn (float $one): float => $one * $times, $numbers), array_intersect_key($points, array_flip($steps))) + $points;
    }

    /**
     * @param array<string, list<float>> $points
     *
     * @return array<string, list<float>> the same points, a little beside them
     */
    private static function moved(array $points, int $count, \Random\Randomizer $dice): array
    {
        $moved = [];
        foreach ($points as $name => $numbers) {
            $numbers = \array_slice($numbers, 0, $count * Surface::types()[$name]->width());
            // Whole numbers, and what is 1 or -1, stay what they are; places are moved though they are 0.
            $still = \in_array($name, ['section', 'objectSeed', 'facing'], true);
            $least = \in_array($name, ['position', ...Surface::UV_SETS], true) ? 1.0 : 0.0;
            $moved[$name] = $still ? $numbers : array_map(static fn (float $v): float => $v + ($dice->getInt(0, 1) === 0 ? -1 : 1) * self::MOVED * (abs($v) + $least), $numbers);
        }

        return $moved;
    }

    private static function single(float $value): float
    {
        /** @var array{1: float} $bytes */
        $bytes = unpack('g', pack('g', $value));

        return $bytes[1];
    }

    /** @return array<string, Binding> */
    public static function bindings(): array
    {
        return array_map(static fn (Type $t): Binding => Binding::wide($t->width()), Surface::types());
    }

    private function printed(): string
    {
        $printer = new Printer(new GlslDialect(), MapArrays::places($this->shader->arrays));
        $outputs = $this->single->fields;
        [$lines, $results] = $printer->body($this->single->graph, $outputs);
        $code = Declarations::surface() . Declarations::used($printer, $this->shader->arrays) . "\nvec4 riltaOutput(RiltaSurface s, int which) {\n$lines\n    switch (which) {\n";
        foreach (array_values($results) as $i => $result) {
            $width = array_values($outputs)[$i]->type->width();
            $code .= "    case $i: return vec4($result" . str_repeat(', 0.0', 4 - $width) . ");\n";
        }

        return $code . "    }\n    return vec4(0.0);\n}\n" . self::point();
    }

    /** GLSL that reads a point: each input is one row of the texture of points. */
    public static function point(): string
    {
        $code = "RiltaSurface riltaPoint(int i) {\n    RiltaSurface s;\n";
        foreach (array_keys(Surface::types()) as $row => $name) {
            $letters = substr('xyzw', 0, Surface::types()[$name]->width());
            $code .= "    s.$name = texelFetch(points, ivec2(i, $row), 0).$letters;\n";
        }

        return "$code    return s;\n}\n";
    }
}
