<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Wgsl;

use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Target\Shading\MaterialCode;
use Rilta\Core\Target\Target;

/**
 * WGSL: `riltaMaterial`, with the numbers as one uniform struct `u` of 32-bit words (group 0, binding 0), and array textures and their
 * samplers after it, each pair in two bindings.
 */
final class WgslTarget implements Target
{
    public function name(): string
    {
        return 'wgsl';
    }

    public function program(Lowered $lowered): string
    {
        $dialect = new WgslDialect();
        $code = MaterialCode::of($lowered, $dialect);
        $member = static fn (string $name, Type $type): string => "$name: {$dialect->type($type)},";
        $text = $code->before . "struct RiltaSurface {\n" . MaterialCode::members($code->surface, $member) . "}\n\n"
            . "struct RiltaMaterial {\n" . MaterialCode::members($code->channels, $member) . "}\n\n";
        if ($code->uniforms !== []) {
            $text .= "struct RiltaUniforms {\n" . MaterialCode::members($code->uniforms, static fn (string $name, Type $type): string => "$name: " . ($type === Type::Bool ? 'u32' : $dialect->type($type)) . ',') . "}\n@group(0) @binding(0) var<uniform> " . WgslDialect::UNIFORMS . ": RiltaUniforms;\n";
        }
        foreach ($code->arrays as $i => $array) {
            $text .= \sprintf("@group(0) @binding(%d) var %s: texture_2d_array<f32>; // %s\n@group(0) @binding(%d) var %s_sampler: sampler;\n", 2 * $i + 1, $array['uniform'], implode(', ', $array['slots']), 2 * $i + 2, $array['uniform']);
        }

        return $text . "\n" . implode("\n", $code->functions) . "\nfn riltaMaterial(s: RiltaSurface) -> RiltaMaterial {\n{$code->lines}\n    return RiltaMaterial(" . implode(', ', $code->results) . ");\n}\n";
    }
}
