<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Op;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Dialect;
use Rilta\Core\Target\Expression;

/** What tells one shading language from another: all of them have vectors, swizzles and functions. */
interface ShadingDialect extends Dialect
{
    /** Whether one number meets many in calls and operations on bits. */
    public function isLenient(): bool;

    /** What a whole number of so many components is called that may be below 0. */
    public function signed(int $width): string;

    /** A value with a name, as a statement. */
    public function value(Type $type, string $name, string $is): string;

    /**
     * A function, up to its body.
     *
     * @param array<string, Type> $params
     */
    public function head(string $name, Type $result, array $params): string;

    /** What an operation is called that is a call. */
    public function call(Op $op): string;

    /** A vector that is the same in all components. */
    public function splat(Type $type, Expression $one): Expression;

    public function select(Expression $condition, Expression $then, Expression $else): Expression;

    /** How a uniform is read. */
    public function uniform(string $name, Type $type): Expression;

    /**
     * A read of a map by gradients: what is to be called, and the function, if there has to be one, by its name.
     *
     * @param ?int        $layer  of an array texture; null if the map is a texture of its own
     * @param Expression  $uv     vec2
     * @param Expression  $dx     vec2
     * @param Expression  $dy     vec2
     * @param ?Expression $weight nothing is read where it is 0; null if it always is
     *
     * @return array{Expression, array<string, string>}
     */
    public function read(string $texture, ?int $layer, Expression $uv, Expression $dx, Expression $dy, ?Expression $weight): array;
}
