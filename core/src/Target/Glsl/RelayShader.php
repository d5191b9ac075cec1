<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Handed;
use Rilta\Core\Lowering\Leg;
use Rilta\Core\Lowering\Relay;
use Rilta\Core\Step\Clock;
use Rilta\Core\Step\Slot;

/**
 * A relay as GLSL. The taps of a point lie in a row of fields of an integer texture, one field as wide as the picture for each tap; the
 * parts of a tap lie in five such textures, the carriers, and what later legs ask of the surface in a sixth, in the first field of each
 * lane. A leg is a program for one rectangle, which reads the carriers of the leg before and writes others; the end reads what the last
 * leg left.
 */
final readonly class RelayShader
{
    /** Parts of taps by carrier; the sixth carries the surface. */
    public const CARRIERS = [['uv', 'weight', 'index'], ['dx', 'dy'], ['t', 'b', 'gain', 'inside'], ['metres', 'cell'], ['drift', 'joint', 'slope', 'region']];

    /** How parts come out of a texel of each carrier, and go into it. What is of direction or colour does with half the bits. */
    private const UNPACKED = [
        'tap.uv = uintBitsToFloat(c.xy); tap.weight = uintBitsToFloat(c.z); tap.index = uintBitsToFloat(c.w);',
        'tap.dx = uintBitsToFloat(c.xy); tap.dy = uintBitsToFloat(c.zw);',
        'tap.t = vec3(unpackHalf2x16(c.x), unpackHalf2x16(c.y).x); tap.b = vec3(unpackHalf2x16(c.y).y, unpackHalf2x16(c.z)); tap.gain = unpackHalf2x16(c.w).x; tap.inside = unpackHalf2x16(c.w).y;',
        'tap.metres = uintBitsToFloat(c.xy); tap.cell = c.zw;',
        'tap.drift = vec3(unpackHalf2x16(c.x), unpackHalf2x16(c.y).x); tap.joint = unpackHalf2x16(c.y).y; tap.slope = unpackHalf2x16(c.z); tap.region = uintBitsToFloat(c.w);',
    ];
    private const PACKED = [
        'uvec4(floatBitsToUint({uv}), floatBitsToUint({weight}), floatBitsToUint({index}))',
        'uvec4(floatBitsToUint({dx}), floatBitsToUint({dy}))',
        'uvec4(packHalf2x16({t}.xy), packHalf2x16(vec2({t}.z, {b}.x)), packHalf2x16({b}.yz), packHalf2x16(vec2({gain}, {inside})))',
        'uvec4(floatBitsToUint({metres}), {cell})',
        'uvec4(packHalf2x16({drift}.xy), packHalf2x16(vec2({drift}.z, {joint})), packHalf2x16({slope}), floatBitsToUint({region}))',
    ];
    private const SURFACE = 's.objectSeed = uintBitsToFloat(c.x); s.objectValue = uintBitsToFloat(c.y); s.section = uintBitsToFloat(c.z); s.viewDistance = uintBitsToFloat(c.w);';

    /** Where to read: beside a point at an edge that is not covered at its centre. */
    private const SPOT = <<<'GLSL'
        ivec2 riltaSpot() {
            ivec2 at = ivec2(gl_FragCoord.xy);
            if (texelFetch(riltaCarried3, at, 0).x != 0u) return at;
            ivec2 spot = at;
            for (int i = 0; i < 9; i++) {
                ivec2 near = clamp(at + ivec2(i % 3 - 1, i / 3 - 1), ivec2(0), ivec2(riltaWidth - 1, textureSize(riltaCarried3, 0).y - 1));
                if (texelFetch(riltaCarried3, near, 0).x != 0u) spot = near;
            }
            return spot;
        }

        GLSL;

    private function __construct(
        /** The struct of the surface, uniforms and library functions of the end. */
        public string $declarations,
        public string $material,
        /** @var list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}> */
        public array $arrays,
        /** Whether the end or a leg changes with the clock. */
        public bool $animated,
        /** @var array<string, array{code: string, origin: bool, taps: int, reads: list<int>, writes: list<int>, surface: bool, clock: bool, numbers: list<Slot>, shared: list<Slot>}> by hash of their code */
        public array $legs,
        /** @var list<array{id: string, legs: list<?string>}> the lanes that are read, and the hashes of their legs */
        public array $lanes,
    ) {
    }

    public static function of(Relay $relay): self
    {
        $arrays = Declarations::arrays($relay->end->maps);
        $legs = $lanes = [];
        foreach (array_filter($relay->sums) as $id => $sums) {
            $hashes = [];
            foreach ($relay->lanes[$id] as $leg) {
                $described = $leg === null ? null : self::leg($leg);
                $hash = $described === null ? null : hash('xxh128', $described['code']);
                if ($described !== null) {
                    $legs[$hash] ??= $described;
                }
                $hashes[] = $hash;
            }
            $lanes[] = ['id' => (string) $id, 'legs' => $hashes];
        }
        $names = array_merge(...array_map(array_keys(...), array_values($relay->sums)));
        $printer = new Printer(Declarations::places($arrays), self::locals() + array_combine($names, $names));
        $material = self::end($printer, $relay);
        $carried = implode('', array_map(static fn (int $c): string => "uniform highp usampler2D riltaCarried$c;\n", array_keys(self::CARRIERS)));
        $lines = implode('', array_map(static fn (int $lane): string => "uniform ivec2 riltaLane$lane;\n", array_keys($lanes)));

        return new self(
            Declarations::surface() . "\n" . self::tap() . "\n" . Declarations::used($printer, $arrays) . "\n// The width of a field, and for each lane its first field and how many taps it has.\nuniform int riltaWidth;\n$lines$carried\n" . self::SPOT,
            $material,
            $arrays,
            isset($printer->uniforms()[Clock::UNIFORM]) || array_filter($legs, static fn (array $leg): bool => $leg['clock']) !== [],
            $legs,
            $lanes,
        );
    }

    /** What is made of the sums, each of which is added up over the taps of its lane. */
    private static function end(Printer $printer, Relay $relay): string
    {
        $code = '';
        $lane = 0;
        foreach (array_filter($relay->sums) as $sums) {
            foreach ($sums as $name => $each) {
                $code .= "    {$each->type->value} $name = {$each->type->value}(0.0);\n";
            }
            [$lines, $results] = $printer->body($relay->end->graph, $sums);
            $code .= "    for (int k = 0; k < riltaLane$lane.y; k++) {\n        RiltaTap tap = RiltaTap(" . implode(', ', array_map(self::nothing(...), Handed::PARTS)) . ");\n        uvec4 c;\n";
            foreach (self::carriers(self::read($sums)) as $carrier) {
                $code .= "        c = texelFetch(riltaCarried$carrier, at + ivec2((riltaLane$lane.x + k) * riltaWidth, 0), 0);\n        " . self::UNPACKED[$carrier] . "\n";
            }
            $code .= self::indented($lines, '    ');
            foreach ($results as $name => $result) {
                $code .= "        $name += $result;\n";
            }
            $code .= "    }\n";
            ++$lane;
        }
        $channels = Declarations::lit($relay->end->channels);
        [$lines, $results] = $printer->body($relay->end->graph, $channels);

        return Declarations::material($channels) . "\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n    ivec2 at = riltaSpot();\n$code$lines\n"
            . '    return RiltaMaterial(' . implode(', ', $results) . ");\n}\n";
    }

    /** @return array{code: string, origin: bool, taps: int, reads: list<int>, writes: list<int>, surface: bool, clock: bool, numbers: list<Slot>, shared: list<Slot>} */
    private static function leg(Leg $leg): array
    {
        $fields = [];
        foreach ($leg->taps as $n => $parts) {
            foreach ($parts as $part => $field) {
                $fields["{$n}_$part"] = $field;
            }
        }
        // Where taps part, all of each goes to another field.
        $writes = $leg->origin || \count($leg->taps) > 1 ? array_keys(self::CARRIERS) : self::carriers($leg->changes());
        $written = array_filter($fields, static fn (string $name): bool => array_intersect(self::carriers([explode('_', $name)[1]]), $writes) !== [], \ARRAY_FILTER_USE_KEY);
        $reads = self::carriers(self::read($written));
        $asksSurface = !$leg->origin && array_intersect(Reachable::names(Op::Input, $written), Leg::SURFACE) !== [];
        $printer = new Printer([], self::locals());
        [$lines, $results] = $printer->body($leg->graph, $written);

        $out = '';
        foreach ($leg->origin ? [...$writes, \count(self::CARRIERS)] : $writes as $place => $carrier) {
            $out .= "layout(location = $place) out highp uvec4 riltaCarries$carrier;\n";
        }
        $stored = '';
        foreach (array_keys($leg->taps) as $n) {
            $stored .= "    if (riltaPart == $n) {\n";
            foreach ($writes as $carrier) {
                $stored .= "        riltaCarries$carrier = " . preg_replace_callback('/\{(\w+)\}/', static fn (array $m): string => self::grouped($results["{$n}_$m[1]"]), self::PACKED[$carrier]) . ";\n";
            }
            $stored .= "    }\n";
        }
        $head = Declarations::surface() . "\n" . Declarations::used($printer) . "\nuniform int riltaPart;\n$out\n";
        if ($leg->origin) {
            $code = "{$head}void riltaStart(RiltaSurface s) {\n$lines\n$stored    riltaCarries" . \count(self::CARRIERS) . " = floatBitsToUint(vec4(s.objectSeed, s.objectValue, s.section, s.viewDistance));\n}\n";
        } else {
            $in = '';
            $unpacked = '    ivec2 at = ivec2(gl_FragCoord.xy);
    RiltaTap tap;
    RiltaSurface s;
    uvec4 c;
';
            foreach ($reads as $carrier) {
                $in .= "uniform highp usampler2D riltaCarried$carrier;\n";
                $unpacked .= "    c = texelFetch(riltaCarried$carrier, at + ivec2(riltaFrom, 0), 0);\n    " . self::UNPACKED[$carrier] . "\n";
            }
            if ($asksSurface) {
                $in .= 'uniform highp usampler2D riltaCarried' . \count(self::CARRIERS) . ";\nuniform ivec2 riltaFirst;\n";
                $unpacked .= '    c = texelFetch(riltaCarried' . \count(self::CARRIERS) . ", ivec2(riltaFirst.x + at.x % riltaFirst.y, at.y), 0);\n    " . self::SURFACE . "\n";
            }
            $code = "#version 300 es\nprecision highp float; precision highp int; precision highp usampler2D;\n" . self::tap() . "{$head}uniform int riltaFrom;\n{$in}void main() {\n$unpacked$lines\n$stored}\n";
        }

        return [
            'code' => $code,
            'origin' => $leg->origin,
            'taps' => \count($leg->taps),
            'reads' => $reads,
            'writes' => $writes,
            'surface' => $asksSurface,
            'clock' => $leg->clock,
            'numbers' => $leg->numbers,
            'shared' => $leg->shared,
        ];
    }

    /** @return array<string, string> the variables that hold the parts of a tap, by input */
    private static function locals(): array
    {
        $parts = array_keys(Handed::PARTS);

        return array_combine(array_map(Handed::input(...), $parts), array_map(static fn (string $part): string => "tap.$part", $parts));
    }

    /**
     * The parts of a tap that fields are made of.
     *
     * @param array<array-key, Node> $fields
     *
     * @return list<string>
     */
    private static function read(array $fields): array
    {
        $inputs = Reachable::names(Op::Input, $fields);

        return array_values(array_filter(array_keys(Handed::PARTS), static fn (string $part): bool => \in_array(Handed::input($part), $inputs, true)));
    }

    /**
     * The carriers of some parts.
     *
     * @param list<string> $parts
     *
     * @return list<int>
     */
    private static function carriers(array $parts): array
    {
        return array_keys(array_filter(self::CARRIERS, static fn (array $carried): bool => array_intersect($carried, $parts) !== []));
    }

    private static function tap(): string
    {
        $code = "struct RiltaTap {\n";
        foreach (Handed::PARTS as $part => $type) {
            $code .= "    {$type->value} $part;\n";
        }

        return "$code};\n";
    }

    private static function nothing(Type $type): string
    {
        return "{$type->value}(" . ($type->scalar() === Type::Uint ? '0u' : '0.0') . ')';
    }

    /** As a whole, whatever stands next to it. */
    private static function grouped(string $expression): string
    {
        return preg_match('/^[\w.]+$/', $expression) === 1 ? $expression : "($expression)";
    }

    private static function indented(string $lines, string $by): string
    {
        return $lines === '' ? '' : preg_replace('/^/m', $by, $lines) . "\n";
    }
}
