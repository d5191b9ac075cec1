<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Type;
use Rilta\Core\Surface\Source;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Shading\ShadingDialect;
use Rilta\Core\Target\Shading\ShadingTarget;

/** GLSL: ES 3.00 with a uniform for each number, or 4.50 with all of them in a block and with bindings. */
final class GlslTarget extends ShadingTarget
{
    /** @param bool $full whether it is 4.50, and not ES 3.00 */
    public function __construct(private readonly bool $full = false)
    {
    }

    public function name(): string
    {
        return $this->full ? 'glsl450' : 'glsl';
    }

    public function label(): string
    {
        return $this->full ? 'GLSL 4.50' : 'GLSL ES 3.00';
    }

    public function extension(): string
    {
        return $this->full ? '450.glsl' : 'glsl';
    }

    protected function dialect(): ShadingDialect
    {
        return new GlslDialect();
    }

    protected function head(Options $options): string
    {
        $version = $this->full ? "#version 450\n" : "#version 300 es\nprecision highp float;\nprecision highp int;\n";

        return $options->harness ? $version : ($this->full ? "// GLSL 4.50.\n" : "// GLSL ES 3.00; floats and ints have to be highp.\n");
    }

    protected function struct(string $name, array $types, array $notes): string
    {
        return "struct $name {\n" . self::members($types, $notes, $this->member(...)) . "};\n";
    }

    protected function numbers(array $numbers, array $notes): string
    {
        if (!$this->full) {
            return self::members($numbers, $notes, fn (string $name, Type $type): string => "uniform {$this->member($name, $type)}", '');
        }

        return $numbers === [] ? '' : "layout(std140, binding = 0) uniform RiltaNumbers {\n" . self::members($numbers, $notes, $this->member(...)) . "};\n";
    }

    protected function texture(int $place, array $texture, bool $array): string
    {
        $type = $array ? 'sampler2DArray' : 'sampler2D';

        return ($this->full ? 'layout(binding = ' . ($place + 1) . ") uniform $type" : "uniform highp $type") . " {$texture['uniform']}; // " . implode(', ', $texture['slots']) . "\n";
    }

    protected function made(string $struct, array $members): string
    {
        return "    return $struct(" . implode(', ', $members) . ");\n";
    }

    protected function function(string $result, string $name, array $params, string $lines, string $return): string
    {
        return "$result $name(" . implode(', ', array_map(static fn (string $param, string $type): string => "$type $param", array_keys($params), $params)) . ") {\n" . ($lines === '' ? '' : "$lines\n") . "$return}\n";
    }

    protected function harness(array $inputs, array $results): string
    {
        [$carried, $made] = self::carried($inputs);
        $text = $lines = '';
        foreach ($carried as $place => $input) {
            $text .= ($this->full ? "layout(location = $place) " : '') . ($input->source === Source::Flat ? 'flat ' : '') . "in {$this->dialect()->type($input->type)} v_$input->name;\n";
        }
        foreach ($made as $name => [$source, $of]) {
            $lines .= "    s.$name = " . match ($source) {
                Source::Right => "dFdx(v_$of)",
                // Pixels count downwards, the device upwards.
                Source::Down => "-dFdy(v_$of)",
                Source::Normal => "(gl_FrontFacing ? 1.0 : -1.0) * normalize(v_$of)",
                Source::Facing => 'gl_FrontFacing ? 1.0 : -1.0',
                default => "v_$of",
            } . ";\n";
        }
        $stores = '';
        foreach (self::packed($results) as $place => $four) {
            $text .= "layout(location = $place) out vec4 out$place;\n";
            $stores .= "    out$place = vec4($four);\n";
        }

        return "{$text}void main() {\n    RiltaSurface s;\n" . ($lines === '' ? "    s.facing = 1.0;\n" : $lines) . "    RiltaMaterial m = riltaMaterial(s, riltaPrepare());\n$stores}\n";
    }

    private function member(string $name, Type $type): string
    {
        return "{$this->dialect()->type($type)} $name;";
    }
}
