<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Declarations;
use Rilta\Core\Target\Glsl\Printer;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Pass\SinglePrecision;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Kernel;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/**
 * One document in both targets: GLSL that computes its stations and channels, and what the PHP kernel makes of the
 * same points.
 */
final readonly class ParityCase
{
    /** How far inputs are moved to see whether rounding decides, of what they are and in metres. */
    private const MOVED = 2e-5;
    private const TIMES = 6;

    /** Points that are compared there. */
    private const FEW = 64;

    /** Where lies what is far from the world's origin, of its distance: a unit vector. */
    private const FAR = [0.8, 0.36, -0.48];

    /**
     * @param float                      $seconds on the clock
     * @param array{float, float, float} $origin  where places are counted from, metres
     */
    public function __construct(private string $name, private Lowered $lowered, private float $seconds = 0.0, private array $origin = [0.0, 0.0, 0.0])
    {
    }

    /**
     * What is compared, by name; the first word is the kind, which decides how near it has to be.
     *
     * @return array<string, Node>
     */
    private function outputs(): array
    {
        $outputs = [];
        foreach ($this->lowered->stations as $s => $station) {
            foreach ($station->taps as $t => $tap) {
                $outputs["coordinate $s.$t"] = $tap->uv;
                $outputs["weight $s.$t"] = $tap->weight;
            }
        }
        foreach ($this->lowered->taps() as $t => $tap) {
            foreach (['dx', 'dy'] as $part) {
                $outputs["derivative $part.$t"] = $tap->$part;
            }
            [$outputs["direction t.$t"], $outputs["direction b.$t"]] = $tap->directions($this->lowered->graph);
        }
        foreach ($this->lowered->channels as $channel => $field) {
            if ($channel !== 'slope') {
                $outputs[($channel === 'normal' ? 'direction ' : 'value ') . $channel] = $field;
            }
        }

        return $outputs;
    }

    /**
     * @param array<string, list<float>> $points flat lists by input, counted from the origin
     * @param ?CRun                      $c      what runs the same as C, and compares
     * @param list<float>                $far    kilometres from the world's origin to compare it at as well
     *
     * @return list<array<string, mixed>>
     */
    public function describe(array $points, int $count, TestMaps $maps, ?CRun $c = null, array $far = []): array
    {
        $outputs = $this->outputs();
        $kernel = Kernels::compiler()->compile($this->lowered->graph, $outputs, self::bindings());
        $shader = Shader::of($this->lowered);
        [$code, $single] = $this->code($shader, $outputs);
        $exact = $single->exactWithin(array_values($outputs), $this->lowered->uniforms($this->seconds));
        $cases = [];
        foreach ([0.0, ...$far] as $kilometres) {
            $origin = $kilometres > 0 ? array_map(static fn (float $share): float => round($share * 1000 * $kilometres), self::FAR) : $this->origin;
            $count = $kilometres > 0 ? min($count, self::FEW) : $count;
            $there = new self($kilometres > 0 ? "$this->name, at $kilometres km" : $this->name, $this->lowered, $this->seconds, $origin);
            $found = $kernel->points($count, $this->lowered->uniforms($this->seconds), $maps->everything(), $there->inWorld($points));
            $cases[] = [
                'name' => $there->name,
                'count' => $count,
                'outputs' => array_keys($outputs),
                'code' => $code,
                'uniforms' => $there->uniforms($single->prelude),
                'arrays' => $shader->arrays,
                'kilometres' => $kilometres,
                'exact' => $exact === null || $exact >= 1000 * $kilometres,
                'expected' => base64_encode(self::packed($outputs, $found, $count)),
                'borders' => base64_encode($there->borders($kernel, $outputs, $found, $points, $count, $maps)),
            ];
            if ($kilometres <= 0) {
                // What a program in C computes is the material; all else goes into it.
                $channels = array_intersect_key($outputs, array_flip(array_filter(array_keys($outputs), static fn (string $name): bool => preg_match('/^(value|direction normal)/', $name) === 1)));
                $c?->start($this->name, $this->lowered, $channels, array_intersect_key($found, $channels), $count, $this->seconds, $maps);
            }
        }

        return $cases;
    }

    /**
     * The pictures of stations, which are printed with a branch for each.
     *
     * @param array<string, list<float>> $points flat lists by input
     *
     * @return array<string, mixed>
     */
    public function pictures(array $points, int $count, TestMaps $maps): array
    {
        $outputs = [];
        foreach (Picture::all($this->lowered) as $i => $picture) {
            $outputs["value picture $i $picture->name"] = $picture->colour;
        }
        $kernel = Kernels::compiler()->compile($this->lowered->graph, $outputs, self::bindings());
        $found = $kernel->points($count, $this->lowered->uniforms($this->seconds), $maps->everything(), $this->inWorld($points));
        $shader = Shader::of($this->lowered);

        return [
            'name' => "pictures of $this->name",
            'count' => $count,
            'outputs' => array_keys($outputs),
            'code' => "$shader->declarations\n$shader->pictures\nvec4 riltaOutput(RiltaSurface s, int which) { return vec4(riltaPicture(which, s), 0.0); }\n" . $this->point(),
            'uniforms' => $this->uniforms($shader->prelude),
            'arrays' => $shader->arrays,
            'expected' => base64_encode(self::packed($outputs, $found, $count)),
            'borders' => base64_encode($this->borders($kernel, $outputs, $found, $points, $count, $maps)),
        ];
    }

    private function uniforms(Prelude $prelude): object
    {
        $values = $this->lowered->uniforms($this->seconds) + array_combine(SinglePrecision::UNIFORMS, $this->origin);

        return (object) ($prelude->values($values) + $values);
    }

    /**
     * @param array<string, list<float>> $points counted from the origin
     *
     * @return array<string, list<float>> the same in the world
     */
    private function inWorld(array $points): array
    {
        foreach (['position', 'objectOrigin'] as $place) {
            $points[$place] = array_map(fn (float $v, int $i): float => $v + $this->origin[$i % 3], $points[$place], array_keys($points[$place]));
        }

        return $points;
    }

    /**
     * @param array<string, Node>                       $outputs
     * @param array<string, list<list<float|int|bool>>> $found
     */
    private static function packed(array $outputs, array $found, int $count): string
    {
        $packed = '';
        foreach ($outputs as $name => $_) {
            for ($c = 0; $c < 4; ++$c) {
                $packed .= pack('g*', ...($found[$name][$c] ?? array_fill(0, $count, 0.0)));
            }
        }

        return $packed;
    }

    /**
     * How much an output changes when its inputs are moved by a few roundings of single precision: on a border as much as you like, and
     * anywhere else hardly at all. One number for each output and point, single precision.
     *
     * @param array<string, Node>                       $outputs
     * @param array<string, list<list<float|int|bool>>> $found
     * @param array<string, list<float>>                $points
     */
    private function borders(Kernel $kernel, array $outputs, array $found, array $points, int $count, TestMaps $maps): string
    {
        $spread = array_fill_keys(array_keys($outputs), array_fill(0, $count, 0.0));
        foreach (self::moved($points) as $moved) {
            $again = $kernel->points($count, $this->lowered->uniforms($this->seconds), $maps->everything(), $this->inWorld($moved));
            foreach ($outputs as $name => $_) {
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
     * @return list<array<string, list<float>>> the same points, a little beside them
     */
    private static function moved(array $points): array
    {
        /** @var list<array<string, list<float>>>|null $all they are the same for all documents */
        static $all = null;
        if ($all !== null) {
            return $all;
        }
        $dice = new \Random\Randomizer(new \Random\Engine\Mt19937(5));
        for ($n = 0; $n < self::TIMES; ++$n) {
            $moved = [];
            foreach ($points as $name => $numbers) {
                // Whole numbers, and what is 1 or -1, stay what they are; places are moved though they are 0.
                $still = \in_array($name, ['section', 'objectSeed', 'facing'], true);
                $least = \in_array($name, ['position', ...Surface::UV_SETS], true) ? 1.0 : 0.0;
                $moved[$name] = $still ? $numbers : array_map(static fn (float $v): float => $v + ($dice->getInt(0, 1) === 0 ? -1 : 1) * self::MOVED * (abs($v) + $least), $numbers);
            }
            $all[] = $moved;
        }

        return $all;
    }

    /** @return array<string, Binding> */
    private static function bindings(): array
    {
        return array_map(static fn (Type $t): Binding => match ($t->width()) {
            1 => Binding::Scalars,
            2 => Binding::Pairs,
            default => Binding::Triples,
        }, Surface::types());
    }

    /**
     * @param array<string, Node> $outputs
     *
     * @return array{string, SinglePrecision}
     */
    private function code(Shader $shader, array $outputs): array
    {
        $printer = new Printer(Declarations::places($shader->arrays));
        $single = new SinglePrecision($this->lowered->graph, $this->lowered->prelude, $outputs);
        $outputs = $single->fields;
        [$lines, $results] = $printer->body($single->graph, $outputs);
        $code = Declarations::surface() . Declarations::used($printer, $shader->arrays) . "\nvec4 riltaOutput(RiltaSurface s, int which) {\n$lines\n    switch (which) {\n";
        foreach (array_values($results) as $i => $result) {
            $width = array_values($outputs)[$i]->type->width();
            $code .= "    case $i: return vec4($result" . str_repeat(', 0.0', 4 - $width) . ");\n";
        }

        return [$code . "    }\n    return vec4(0.0);\n}\n" . $this->point(), $single];
    }

    /** Each input is one row of the texture of points. */
    private function point(): string
    {
        $code = "RiltaSurface riltaPoint(int i) {\n    RiltaSurface s;\n";
        foreach (array_keys(Surface::types()) as $row => $name) {
            $letters = substr('xyzw', 0, Surface::types()[$name]->width());
            $code .= "    s.$name = texelFetch(points, ivec2(i, $row), 0).$letters;\n";
        }

        return "$code    return s;\n}\n";
    }
}
