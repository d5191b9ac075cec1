<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Hlsl;

use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Target\Shading\MaterialCode;
use Rilta\Core\Target\Target;

/** HLSL: `riltaMaterial`, with the numbers in a constant buffer, and array textures with their samplers. */
final class HlslTarget implements Target
{
    public function name(): string
    {
        return 'hlsl';
    }

    public function program(Lowered $lowered): string
    {
        $dialect = new HlslDialect();
        $code = MaterialCode::of($lowered, $dialect);
        $member = static fn (string $name, Type $type): string => "{$dialect->type($type)} $name;";
        $text = $code->before . "struct RiltaSurface {\n" . MaterialCode::members($code->surface, $member) . "};\n\n"
            . "struct RiltaMaterial {\n" . MaterialCode::members($code->channels, $member) . "};\n\n";
        if ($code->uniforms !== []) {
            $text .= "cbuffer RiltaUniforms : register(b0) {\n" . MaterialCode::members($code->uniforms, $member) . "};\n";
        }
        foreach ($code->arrays as $i => $array) {
            $text .= \sprintf("Texture2DArray %s : register(t%d); // %s\nSamplerState %s_sampler : register(s%d);\n", $array['uniform'], $i, implode(', ', $array['slots']), $array['uniform'], $i);
        }

        return $text . "\n" . implode("\n", $code->functions) . "\nRiltaMaterial riltaMaterial(RiltaSurface s) {\n{$code->lines}\n    RiltaMaterial made = { " . implode(', ', $code->results) . " };\n    return made;\n}\n";
    }
}
