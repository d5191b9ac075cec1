<?php

declare(strict_types=1);

namespace Rilta\Core\Judge\Rule;

use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\SurfaceKind;

final class CutOutWithoutMips implements Rule
{
    public function code(): string
    {
        return 'cut-out-without-mips';
    }

    public function label(): string
    {
        return 'Holes that flicker far away';
    }

    public function help(): string
    {
        return 'Without smaller levels of the map, each pixel takes one texel of many.';
    }

    public function severity(): Severity
    {
        return Severity::Doubtful;
    }

    public function of(Subject $subject): iterable
    {
        if ($subject->lowered->cover->kind() === SurfaceKind::OPAQUE) {
            return;
        }
        foreach ($subject->layers() as $path => $layer) {
            $set = $layer->set === '' ? null : $subject->maps->find($layer->set);
            $map = ($set?->map(Role::Opacity) ?? $set?->map(Role::BaseColour))?->map;
            if ($map !== null && !$map->sampling->mips) {
                yield new Finding("$path/set", "$map->name says where the holes are, and is read without mip levels.", map: $map->name);
            }
        }
    }
}
