<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\MultipassPlan;
use Rilta\Core\Lowering\StepPass;
use Rilta\Core\Lowering\TapRecord;
use Rilta\Core\Lowering\UniformBinding;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Pass\SinglePrecision;
use Rilta\Core\Target\Shading\MapArrays;
use Rilta\Core\Target\Shading\MaterialCode;
use Rilta\Core\Target\Shading\Printer;

/**
 * A multipass as GLSL. The taps of a point lie in a row of fields of an integer texture, one field as wide as the picture for each tap; the
 * parts of a tap lie in five such textures, the carriers, and what later passes ask of the surface in a sixth, where the origin has put it. A pass is a program for one rectangle, which reads the carriers of the pass before and writes others; the end reads what the last
 * pass left.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
final readonly class MultipassShader
{
    /** Parts of taps by carrier; the sixth carries the surface. */
    public const CARRIERS = [['uv', 'weight', 'index', 'region'], ['dx', 'dy'], ['t', 'b', 'gain', 'inside', 'slope'], ['metres', 'cell'], ['drift', 'joint', 'bend']];

    /**
     * How parts come out of a texel of each carrier, and go into it. Directions are unit vectors, folded to the square of an octahedron
     * (Meyer et al. 2010); what is of colour, relief, bends, or near an edge does with half the bits.
     */
    private const UNPACKED = [
        'tap.uv = uintBitsToFloat(c.xy); tap.weight = uintBitsToFloat(c.z); tap.index = float(c.w >> 16); tap.region = unpackHalf2x16(c.w).x;',
        'tap.dx = uintBitsToFloat(c.xy); tap.dy = uintBitsToFloat(c.zw);',
        'tap.t = riltaDirection(c.x); tap.b = riltaDirection(c.y); tap.gain = unpackHalf2x16(c.z).x; tap.inside = unpackHalf2x16(c.z).y; tap.slope = unpackHalf2x16(c.w);',
        'tap.metres = uintBitsToFloat(c.xy); tap.cell = c.zw;',
        'tap.drift = vec3(unpackHalf2x16(c.x), unpackHalf2x16(c.y).x); tap.joint = unpackHalf2x16(c.y).y; tap.bend = vec4(unpackHalf2x16(c.z), unpackHalf2x16(c.w));',
    ];
    private const PACKED = [
        'uvec4(floatBitsToUint({uv}), floatBitsToUint({weight}), (uint(clamp({index}, 0.0, 65535.0)) << 16) | packHalf2x16(vec2(min({region}, 65504.0), 0.0)))',
        'uvec4(floatBitsToUint({dx}), floatBitsToUint({dy}))',
        'uvec4(riltaPacked({t}), riltaPacked({b}), packHalf2x16(vec2({gain}, {inside})), packHalf2x16({slope}))',
        'uvec4(floatBitsToUint({metres}), {cell})',
        'uvec4(packHalf2x16({drift}.xy), packHalf2x16(vec2({drift}.z, {joint})), packHalf2x16({bend}.xy), packHalf2x16({bend}.zw))',
    ];
    private const SURFACE = 's.objectSeed = uintBitsToFloat(c.x); s.objectValue = uintBitsToFloat(c.y); s.section = uintBitsToFloat(c.z); s.viewDistance = uintBitsToFloat(c.w);';

    private const DIRECTIONS = <<<'GLSL'
        uint riltaPacked(vec3 d) {
            vec2 p = d.xy / (abs(d.x) + abs(d.y) + abs(d.z));
            vec2 folded = (1.0 - abs(p.yx)) * vec2(p.x < 0.0 ? -1.0 : 1.0, p.y < 0.0 ? -1.0 : 1.0);
            return packSnorm2x16(d.z < 0.0 ? folded : p);
        }

        vec3 riltaDirection(uint packed) {
            vec2 p = unpackSnorm2x16(packed);
            float z = 1.0 - abs(p.x) - abs(p.y);
            vec2 unfolded = (1.0 - abs(p.yx)) * vec2(p.x < 0.0 ? -1.0 : 1.0, p.y < 0.0 ? -1.0 : 1.0);
            return normalize(vec3(z < 0.0 ? unfolded : p, z));
        }


        GLSL;

    /** Where to read: beside a point at an edge that is not covered at its centre, and so has no taps. */
    private const SPOT = <<<'GLSL'
        // The next tap of a lane that counts here; as many as there are taps, if there is none.
        int riltaNext(ivec2 at, ivec2 lane, int k) {
            do {
                k++;
                if (k >= lane.y) break;
            } while (texelFetch(riltaCarried0, at + ivec2((lane.x + k) * riltaWidth, 0), 0).z == 0u);
            return k;
        }

        ivec2 riltaSpot() {
            ivec2 at = ivec2(gl_FragCoord.xy);
            ivec2 last = ivec2(riltaWidth, textureSize(riltaCarried0, 0).y) - 1;
            ivec2 spot = at;
            int i = 4;
            do {
                ivec2 near = clamp(at + ivec2(i % 3 - 1, i / 3 - 1), ivec2(0), last);
                if (riltaNext(near, riltaLane0, -1) < riltaLane0.y) {
                    spot = near;
                    break;
                }
                i = (i + 4) % 9;
            } while (i != 4);
            return spot;
        }

        GLSL;

    private function __construct(
        /** The struct of the surface, uniforms and library functions of the end. */
        public string $declarations,
        public string $material,
        /** @var list<MapArrayJson> */
        public array $arrays,
        /** Carries what the end reads of a surface. */
        public Host $host,
        /** @var list<string> names of what is lit */
        public array $channels,
        /** Whether the end or a pass changes with the clock. */
        public bool $animated,
        /** @var array<string, array{code: string, host: array{inputs: list<string>, vertex: string, fragment: string}, origin: bool, taps: int, reads: list<int>, writes: list<int>, surface: bool, clock: bool, numbers: list<UniformBinding>, shared: list<UniformBinding>, prelude: Prelude}> by hash of their code */
        public array $passes,
        /** @var list<array{id: string, read: bool, whole: bool, passes: list<?string>}> whether the end reads the taps of a lane, which it numbers in this order, or has it whole, and the hashes of its passes */
        public array $lanes,
        /** What fills uniforms of the end that follow from others, and from where places are counted from. */
        public Prelude $prelude,
    ) {
    }

    public static function of(MultipassPlan $multipass): self
    {
        $arrays = MapArrays::of($multipass->end->maps);
        $passes = $lanes = [];
        foreach ($multipass->lanes as $id => $steps) {
            $hashes = [];
            foreach ($steps as $stepPass) {
                $described = $stepPass === null ? null : self::stepPass($stepPass);
                $hash = $described === null ? null : hash('xxh128', $described['code']);
                if ($described !== null) {
                    $passes[$hash] ??= $described;
                }
                $hashes[] = $hash;
            }
            $lanes[] = ['id' => (string) $id, 'read' => ($multipass->sums[$id] ?? []) !== [], 'whole' => \in_array($id, $multipass->whole, true), 'passes' => $hashes];
        }
        $names = array_merge(...array_map(array_keys(...), array_values($multipass->sums)));
        $printer = new Printer(new GlslDialect(), MapArrays::places($arrays), self::locals() + array_combine($names, $names));
        $lit = MaterialCode::lit($multipass->end->channels);
        $summed = array_merge(...array_values($multipass->sums));
        $single = new SinglePrecision($multipass->end->graph, $multipass->end->prelude, $lit + $summed);
        [$graph, $fields, $prelude] = [$single->graph, $single->fields, $single->prelude];
        $lit = array_intersect_key($fields, $lit);
        $sums = array_map(static fn (array $each): array => array_intersect_key($fields, $each), $multipass->sums);
        $material = self::end($printer, $graph, $lit, $sums);
        $carried = implode('', array_map(static fn (int $c): string => "uniform highp usampler2D riltaCarried$c;\n", array_keys(self::CARRIERS)));
        $lines = implode('', array_map(static fn (int $lane): string => "uniform ivec2 riltaLane$lane;\n", array_keys(array_values(array_filter($multipass->sums)))));

        return new self(
            Declarations::surface() . "\n" . self::tap() . "\n" . Declarations::used($printer, $arrays) . "\n// The width of a field, and for each lane its first field and how many taps it has.\nuniform int riltaWidth;\n$lines$carried\n" . self::SPOT,
            $material,
            $arrays,
            self::host($fields),
            array_keys($lit),
            isset($printer->uniforms()[Clock::UNIFORM]) || $prelude->reads(Clock::UNIFORM) || array_filter($passes, static fn (array $stepPass): bool => $stepPass['clock']) !== [],
            $passes,
            $lanes,
            $prelude,
        );
    }

    /** @param array<array-key, Node> $fields */
    private static function host(array $fields): Host
    {
        return Host::of(array_values(array_intersect(Reachable::names(Op::Input, $fields), array_keys(Surface::types()))));
    }

    /**
     * What is made of the sums, each of which is added up over the taps of its lane.
     *
     * @param array<string, Node>                   $channels
     * @param array<array-key, array<string, Node>> $lanes
     */
    private static function end(Printer $printer, Graph $graph, array $channels, array $lanes): string
    {
        $dialect = new GlslDialect();
        $code = '';
        $lane = 0;
        foreach (array_filter($lanes) as $sums) {
            foreach ($sums as $name => $each) {
                $code .= "    {$dialect->type($each->type)} $name = {$dialect->type($each->type)}(0.0);\n";
            }
            [$before, $lines, $results] = $printer->loop($graph, $sums, array_keys(self::locals()));
            // Devices that run both branches of everything run such a loop just as often as there are taps that count.
            $code .= "    {\n" . self::indented($before, '    ') . "        RiltaTap tap;\n        uvec4 c;\n        int k = riltaNext(at, riltaLane$lane, -1);\n        do {\n            ivec2 field = at + ivec2((riltaLane$lane.x + k) * riltaWidth, 0);\n            if (k >= riltaLane$lane.y) break;\n";
            foreach (self::carriers(['weight', ...self::read($sums)]) as $carrier) {
                $code .= "            c = texelFetch(riltaCarried$carrier, field, 0);\n            " . self::UNPACKED[$carrier] . "\n";
            }
            $code .= self::indented($lines, '        ');
            foreach ($results as $name => $result) {
                $code .= "            $name += $result;\n";
            }
            $code .= "            k = riltaNext(at, riltaLane$lane, k);\n        } while (k < riltaLane$lane.y);\n    }\n";
            ++$lane;
        }
        [$lines, $results] = $printer->body($graph, $channels);

        return Declarations::material($channels) . "\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n    ivec2 at = riltaSpot();\n$code$lines\n"
            . '    return RiltaMaterial(' . implode(', ', $results) . ");\n}\n";
    }

    /** @return array{code: string, host: array{inputs: list<string>, vertex: string, fragment: string}, origin: bool, taps: int, reads: list<int>, writes: list<int>, surface: bool, clock: bool, numbers: list<UniformBinding>, shared: list<UniformBinding>, prelude: Prelude} */
    private static function stepPass(StepPass $stepPass): array
    {
        $fields = [];
        foreach ($stepPass->taps as $n => $parts) {
            foreach ($parts as $part => $field) {
                $fields["{$n}_$part"] = $field;
            }
        }
        // Where taps part, all of each goes to another field.
        $writes = $stepPass->origin || \count($stepPass->taps) > 1 ? array_keys(self::CARRIERS) : self::carriers($stepPass->changes());
        $written = array_filter($fields, static fn (string $name): bool => array_intersect(self::carriers([explode('_', $name)[1]]), $writes) !== [], \ARRAY_FILTER_USE_KEY);
        $reads = self::carriers(self::read($written));
        $asksSurface = !$stepPass->origin && array_intersect(Reachable::names(Op::Input, $written), StepPass::SURFACE) !== [];
        $printer = new Printer(new GlslDialect(), [], self::locals());
        $single = new SinglePrecision($stepPass->graph, $stepPass->prelude, $written);
        [$graph, $written, $prelude] = [$single->graph, $single->fields, $single->prelude];
        [$lines, $results] = $printer->body($graph, $written);

        $out = '';
        foreach ($stepPass->origin ? [...$writes, \count(self::CARRIERS)] : $writes as $place => $carrier) {
            $out .= "layout(location = $place) out highp uvec4 riltaCarries$carrier;\n";
        }
        $stored = '';
        foreach (array_keys($stepPass->taps) as $n) {
            $stored .= "    if (riltaPart == $n) {\n";
            // Taps that count for nothing are not there for the passes that follow. Of an origin, they hide what lies behind them.
            $stored .= !$stepPass->origin && \count($stepPass->taps) > 1 ? "        if (!({$results["{$n}_weight"]} > 0.0)) discard;\n" : '';
            foreach ($writes as $carrier) {
                $stored .= "        riltaCarries$carrier = " . preg_replace_callback('/\{(\w+)\}/', static fn (array $m): string => self::grouped($results["{$n}_$m[1]"]), self::PACKED[$carrier]) . ";\n";
            }
            $stored .= "    }\n";
        }
        $head = Declarations::surface() . "\n" . ($stepPass->origin ? self::DIRECTIONS : '') . Declarations::used($printer) . "\nuniform int riltaPart;\n$out\n";
        if ($stepPass->origin) {
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
                $in .= 'uniform highp usampler2D riltaCarried' . \count(self::CARRIERS) . ";\nuniform ivec3 riltaFields;\n";
                // The first pixel of the lane's fields, their width, and how many there are now for each that there was at first.
                $unpacked .= '    c = texelFetch(riltaCarried' . \count(self::CARRIERS) . ", ivec2(riltaFields.x + ((at.x + riltaFrom - riltaFields.x) / riltaFields.y / riltaFields.z) * riltaFields.y + at.x % riltaFields.y, at.y), 0);\n    " . self::SURFACE . "\n";
            }
            $code = "#version 300 es\nprecision highp float; precision highp int; precision highp usampler2D;\n" . self::tap() . "{$head}uniform int riltaFrom;\n{$in}void main() {\n$unpacked$lines\n$stored}\n";
        }

        return [
            'code' => $code,
            'host' => self::host([...array_values($written), ...array_map($graph->input(...), StepPass::SURFACE, array_fill(0, \count(StepPass::SURFACE), Type::Float))])->json(),
            'origin' => $stepPass->origin,
            'taps' => \count($stepPass->taps),
            'reads' => $reads,
            'writes' => $writes,
            'surface' => $asksSurface,
            'clock' => $stepPass->clock,
            'numbers' => $stepPass->numbers,
            'shared' => $stepPass->shared,
            'prelude' => $prelude,
        ];
    }

    /** @return array<string, string> the variables that hold the parts of a tap, by input */
    private static function locals(): array
    {
        $parts = array_keys(TapRecord::PARTS);

        return array_combine(array_map(TapRecord::input(...), $parts), array_map(static fn (string $part): string => "tap.$part", $parts));
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

        return array_values(array_filter(array_keys(TapRecord::PARTS), static fn (string $part): bool => \in_array(TapRecord::input($part), $inputs, true)));
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
        $dialect = new GlslDialect();
        $code = self::DIRECTIONS . "struct RiltaTap {\n";
        foreach (TapRecord::PARTS as $part => $type) {
            $code .= "    {$dialect->type($type)} $part;\n";
        }

        return "$code};\n";
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
