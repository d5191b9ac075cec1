<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** The type of a field: a scalar or a short vector of one scalar kind. */
enum Type: string
{
    case Bool = 'bool';
    case Uint = 'uint';
    case Uint2 = 'uint2';
    case Uint3 = 'uint3';
    case Float = 'float';
    case Vec2 = 'float2';
    case Vec3 = 'float3';
    case Vec4 = 'float4';

    /** The number of components, 1 to 4. */
    public function width(): int
    {
        return match ($this) {
            self::Bool, self::Uint, self::Float => 1,
            self::Uint2, self::Vec2 => 2,
            self::Uint3, self::Vec3 => 3,
            self::Vec4 => 4,
        };
    }

    /** The type of one component. */
    public function scalar(): self
    {
        return match ($this) {
            self::Bool => self::Bool,
            self::Uint, self::Uint2, self::Uint3 => self::Uint,
            default => self::Float,
        };
    }

    /** The type with the same component and another width. */
    public function ofWidth(int $width): self
    {
        $types = match ($this->scalar()) {
            self::Bool => [1 => self::Bool],
            self::Uint => [1 => self::Uint, self::Uint2, self::Uint3],
            default => [1 => self::Float, self::Vec2, self::Vec3, self::Vec4],
        };

        return $types[$width] ?? throw IllTyped::noSuchType($this->scalar()->value, $width);
    }
}
