<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Target\C\CTarget;
use Rilta\Core\Target\Glsl\GlslTarget;
use Rilta\Core\Target\Hlsl\HlslTarget;
use Rilta\Core\Target\Wgsl\WgslTarget;

/** All languages that materials are printed in. */
final class Targets
{
    /** @return array<string, Target> by name */
    public static function all(): array
    {
        return array_column(array_map(static fn (Target $target): array => ['name' => $target->name(), 'target' => $target], [new GlslTarget(), new GlslTarget(full: true), new HlslTarget(), new WgslTarget(), new CTarget()]), 'target', 'name');
    }
}
