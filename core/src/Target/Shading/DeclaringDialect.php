<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;

/** What shading languages have in common that declare as C does: the type before the name. */
abstract class DeclaringDialect implements ShadingDialect
{
    public function value(Type $type, string $name, string $is): string
    {
        return "{$this->type($type)} $name = $is;";
    }

    public function head(string $name, Type $result, array $params): string
    {
        return "{$this->type($result)} $name(" . implode(', ', array_map(fn (string $param, Type $type): string => "{$this->type($type)} $param", array_keys($params), $params)) . ')';
    }

    public function select(Expression $condition, Expression $then, Expression $else): Expression
    {
        return Expression::choice($condition, $then, $else);
    }

    public function uniform(string $name, Type $type): Expression
    {
        return new Expression($name);
    }
}
