<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Hlsl;

use Rilta\Core\Field\Type;
use Rilta\Core\Surface\Source;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Shading\ShadingDialect;
use Rilta\Core\Target\Shading\ShadingTarget;

/** HLSL of shader models 5 and 6, with the numbers in a constant buffer. */
final class HlslTarget extends ShadingTarget
{
    public function name(): string
    {
        return 'hlsl';
    }

    public function label(): string
    {
        return 'HLSL, shader model 5 and 6';
    }

    public function extension(): string
    {
        return 'hlsl';
    }

    protected function dialect(): ShadingDialect
    {
        return new HlslDialect();
    }

    protected function head(Options $options): string
    {
        return "// HLSL, shader model 5 or 6.\n";
    }

    protected function struct(string $name, array $types, array $notes): string
    {
        return "struct $name {\n" . self::members($types, $notes, $this->member(...)) . "};\n";
    }

    protected function numbers(array $numbers, array $notes): string
    {
        return $numbers === [] ? '' : "cbuffer RiltaNumbers : register(b0) {\n" . self::members($numbers, $notes, $this->member(...)) . "};\n";
    }

    protected function texture(int $place, array $texture, bool $array): string
    {
        return \sprintf("Texture2D%s<float4> %s : register(t%d); // %s\nSamplerState %s_sampler : register(s%d);\n", $array ? 'Array' : '', $texture['uniform'], $place, implode(', ', $texture['slots']), $texture['uniform'], $place);
    }

    protected function made(string $struct, array $members): string
    {
        return "    $struct made = { " . implode(', ', $members) . " };\n    return made;\n";
    }

    protected function function(string $result, string $name, array $params, string $lines, string $return): string
    {
        return "$result $name(" . implode(', ', array_map(static fn (string $param, string $type): string => "$type $param", array_keys($params), $params)) . ") {\n" . ($lines === '' ? '' : "$lines\n") . "$return}\n";
    }

    protected function harness(array $inputs, array $results): string
    {
        [$carried, $made] = self::carried($inputs);
        $params = $lines = $stores = $targets = '';
        foreach ($carried as $place => $input) {
            $params .= ($input->source === Source::Flat ? 'nointerpolation ' : '') . "{$this->dialect()->type($input->type)} v_$input->name : TEXCOORD$place, ";
        }
        foreach ($made as $name => [$source, $of]) {
            $lines .= "    s.$name = " . match ($source) {
                Source::Right => "ddx(v_$of)",
                Source::Down => "ddy(v_$of)",
                Source::Normal => "(front ? 1.0 : -1.0) * normalize(v_$of)",
                Source::Facing => 'front ? 1.0 : -1.0',
                default => "v_$of",
            } . ";\n";
        }
        foreach (self::packed($results) as $place => $four) {
            $targets .= "    float4 out$place : SV_Target$place;\n";
            $stores .= "    shown.out$place = float4($four);\n";
        }

        return "struct RiltaShown {\n$targets};\nRiltaShown main({$params}bool front : SV_IsFrontFace) {\n    RiltaSurface s;\n" . ($lines === '' ? "    s.facing = 1.0;\n" : $lines) . "    RiltaMaterial m = riltaMaterial(s, riltaPrepare());\n    RiltaShown shown;\n$stores    return shown;\n}\n";
    }

    private function member(string $name, Type $type): string
    {
        return "{$this->dialect()->type($type)} $name;";
    }
}
