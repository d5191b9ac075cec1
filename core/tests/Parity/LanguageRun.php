<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\GlslTarget;
use Rilta\Core\Target\Hlsl\HlslTarget;
use Rilta\Core\Target\Shading\ShadingTarget;
use Rilta\Core\Target\Wgsl\WgslTarget;

/**
 * A material as GLSL, HLSL and WGSL, as it is delivered, with an entry that fills the surface from a table of points and hands out all that is
 * compared.
 */
final readonly class LanguageRun
{
    /** Numbers that one pixel can hand out: eight targets of four. */
    private const ROOM = 32;

    /** @var array<string, Node> what is compared, by its member */
    private array $fields;

    /** @var list<string> what is compared, by its name */
    public array $outputs;

    /** @param array<string, Node> $outputs what is seen first, since not all has room */
    public function __construct(private Lowered $lowered, array $outputs)
    {
        $order = static fn (string $name): int => (int) (preg_match('/^(value|direction normal)/', $name) !== 1);
        uksort($outputs, static fn (string $a, string $b): int => $order($a) <=> $order($b));
        /** @var array<string, Node> $fields */
        $fields = [];
        $names = [];
        $room = self::ROOM;
        foreach ($outputs as $name => $field) {
            $room -= $field->type->width();
            if ($room >= 0) {
                $names[] = $name;
                $fields['f' . \count($fields)] = $field;
            }
        }
        [$this->fields, $this->outputs] = [$fields, $names];
    }

    /** @return array{code: string, numbers: list<array{string, string}>, arrays: list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>, outputs: list<array{string, int}>} outputs: with their widths */
    public function hlsl(): array
    {
        $targets = $stores = '';
        foreach (ShadingTarget::packed($this->types()) as $place => $four) {
            $targets .= "    float4 out$place : SV_Target$place;\n";
            $stores .= "    shown.out$place = float4($four);\n";
        }
        $main = "Texture2D<float4> points : register(t31);\nstruct Shown {\n$targets};\nShown main(float4 at : SV_Position) {\n" . $this->surface('    RiltaSurface s = (RiltaSurface) 0;', static fn (int $row): string => "points.Load(int3(int(at.x), $row, 0))")
            . "    RiltaMaterial m = riltaMaterial(s, riltaPrepare());\n    Shown shown;\n$stores    return shown;\n}\n";

        return $this->described(new HlslTarget(), $main);
    }

    /** @return array{code: string, numbers: list<array{string, string}>, arrays: list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>, outputs: list<array{string, int}>} outputs: with their widths */
    public function glsl(): array
    {
        $targets = $stores = '';
        foreach (ShadingTarget::packed($this->types()) as $place => $four) {
            $targets .= "layout(location = $place) out vec4 out$place;\n";
            $stores .= "    out$place = vec4($four);\n";
        }
        $main = "uniform highp sampler2D points;\n{$targets}void main() {\n" . $this->surface('    RiltaSurface s;', static fn (int $row): string => "texelFetch(points, ivec2(int(gl_FragCoord.x), $row), 0)")
            . "    RiltaMaterial m = riltaMaterial(s, riltaPrepare());\n$stores}\n";

        return $this->described(new GlslTarget(), $main, "#version 300 es\nprecision highp float;\nprecision highp int;\n");
    }

    /** @return array{code: string, numbers: list<array{string, string}>, arrays: list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>, outputs: list<array{string, int}>} outputs: with their widths */
    public function wgsl(int $count): array
    {
        $packed = ShadingTarget::packed($this->types());
        $stores = '';
        foreach ($packed as $place => $four) {
            $stores .= '    found[at.x * ' . \count($packed) . "u + {$place}u] = vec4f($four);\n";
        }
        $main = "@group(1) @binding(0) var points: texture_2d<f32>;\n@group(1) @binding(1) var<storage, read_write> found: array<vec4f>;\n@compute @workgroup_size(64)\nfn main(@builtin(global_invocation_id) at: vec3u) {\n    if (at.x >= {$count}u) { return; }\n"
            . $this->surface('    var s: RiltaSurface;', static fn (int $row): string => "textureLoad(points, vec2u(at.x, {$row}u), 0)")
            . "    let m = riltaMaterial(s, riltaPrepare());\n$stores}\n";

        return $this->described(new WgslTarget(), $main);
    }

    /** @return array<string, Type> */
    private function types(): array
    {
        $types = [];
        foreach ($this->fields as $member => $field) {
            $types[$member] = $field->type;
        }

        return $types;
    }

    /** @param \Closure(int): string $row */
    private function surface(string $before, \Closure $row): string
    {
        $read = (new HlslTarget())->code($this->lowered, $this->lowered->graph, $this->fields)->inputs;
        $lines = "$before\n";
        foreach (array_keys(Surface::types()) as $i => $name) {
            if (\in_array($name, $read, true)) {
                $lines .= "    s.$name = {$row($i)}." . substr('xyzw', 0, Surface::types()[$name]->width()) . ";\n";
            }
        }

        return $lines;
    }

    /** @return array{code: string, numbers: list<array{string, string}>, arrays: list<array{uniform: string, key: string, slots: list<string>, sampling: array<string, mixed>}>, outputs: list<array{string, int}>} */
    private function described(ShadingTarget $target, string $main, string $head = ''): array
    {
        $code = $target->code($this->lowered, $this->lowered->graph, $this->fields);

        return [
            'code' => $head . $target->of($this->lowered, $this->lowered->graph, $this->fields) . "\n$main",
            'numbers' => array_map(static fn (string $name, Type $type): array => [$name, $type->value], array_keys($code->numbers), $code->numbers),
            'arrays' => $code->textures,
            'outputs' => array_map(static fn (string $name, Type $type): array => [$name, $type->width()], $this->outputs, array_values($this->types())),
        ];
    }
}
