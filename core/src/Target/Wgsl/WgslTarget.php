<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Wgsl;

use Rilta\Core\Field\Type;
use Rilta\Core\Surface\Source;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Shading\MaterialCode;
use Rilta\Core\Target\Shading\ShadingDialect;
use Rilta\Core\Target\Shading\ShadingTarget;

/** WGSL, with the numbers as one uniform struct `u` of 32-bit words (group 0, binding 0), and after it each texture and its sampler in two bindings. */
final class WgslTarget extends ShadingTarget
{
    public function name(): string
    {
        return 'wgsl';
    }

    public function label(): string
    {
        return 'WGSL';
    }

    public function extension(): string
    {
        return 'wgsl';
    }

    protected function dialect(): ShadingDialect
    {
        return new WgslDialect();
    }

    protected function head(Options $options): string
    {
        return "// WGSL.\n";
    }

    protected function struct(string $name, array $types, array $notes): string
    {
        return "struct $name {\n" . self::members($types, $notes, $this->member(...)) . "}\n";
    }

    protected function numbers(array $numbers, array $notes): string
    {
        return $numbers === [] ? '' : "struct RiltaNumbers {\n" . self::members($numbers, $notes, static fn (string $name, Type $type): string => "$name: " . ($type === Type::Bool ? 'u32' : (new WgslDialect())->type($type)) . ',')
            . "}\n@group(0) @binding(0) var<uniform> " . WgslDialect::UNIFORMS . ": RiltaNumbers;\n";
    }

    protected function texture(int $place, array $texture, bool $array): string
    {
        return \sprintf("@group(0) @binding(%d) var %s: texture_2d%s<f32>; // %s\n@group(0) @binding(%d) var %s_sampler: sampler;\n", 2 * $place + 1, $texture['uniform'], $array ? '_array' : '', implode(', ', $texture['slots']), 2 * $place + 2, $texture['uniform']);
    }

    protected function made(string $struct, array $members): string
    {
        return "    return $struct(" . implode(', ', $members) . ");\n";
    }

    protected function function(string $result, string $name, array $params, string $lines, string $return): string
    {
        return "fn $name(" . implode(', ', array_map(static fn (string $param, string $type): string => "$param: $type", array_keys($params), $params)) . ") -> $result {\n" . ($lines === '' ? '' : "$lines\n") . "$return}\n";
    }

    protected function harness(array $inputs, array $results): string
    {
        [$carried, $made] = self::carried($inputs);
        $params = $lines = $targets = '';
        foreach ($carried as $place => $input) {
            $params .= "@location($place) " . ($input->source === Source::Flat ? '@interpolate(flat) ' : '') . "v_$input->name: {$this->dialect()->type($input->type)}, ";
        }
        foreach ($made as $name => [$source, $of]) {
            $lines .= "    s.$name = " . match ($source) {
                Source::Right => "dpdx(v_$of)",
                Source::Down => "dpdy(v_$of)",
                Source::Normal => "select(-1.0, 1.0, front) * normalize(v_$of)",
                Source::Facing => 'select(-1.0, 1.0, front)',
                default => "v_$of",
            } . ";\n";
        }
        $packed = self::packed($results);
        foreach (array_keys($packed) as $place) {
            $targets .= "    @location($place) out$place: vec4f,\n";
        }
        $stores = implode(', ', array_map(static fn (string $four): string => "vec4f($four)", $packed));

        return "struct RiltaShown {\n$targets}\n@fragment\nfn main({$params}@builtin(front_facing) front: bool) -> RiltaShown {\n    var s: RiltaSurface;\n$lines    let m = riltaMaterial(s, riltaPrepare());\n    return RiltaShown($stores);\n}\n";
    }

    protected function number(string $name, Options $options): string
    {
        return $name;
    }

    /** Numbers are members of `u`. */
    protected function names(MaterialCode $code): array
    {
        return [WgslDialect::UNIFORMS, ...array_diff(parent::names($code), array_keys($code->numbers))];
    }

    private function member(string $name, Type $type): string
    {
        return "$name: {$this->dialect()->type($type)},";
    }
}
