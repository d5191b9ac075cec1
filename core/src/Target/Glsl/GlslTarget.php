<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Target\Target;

/** GLSL ES 3.00: `RiltaMaterial riltaMaterial(RiltaSurface)`, with array textures and uniforms, and before it what a host computes once a picture. */
final class GlslTarget implements Target
{
    public function name(): string
    {
        return 'glsl';
    }

    public function program(Lowered $lowered): string
    {
        $shader = Shader::of($lowered);

        return $shader->preparation() . $shader->declarations . "\n" . $shader->material;
    }
}
