<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

/** Text of expressions, as printers put them together. */
final class Expression
{
    /** Without the pair of parentheses around the whole of it, if there is one. */
    public static function bare(string $expression): string
    {
        if (!str_starts_with($expression, '(') || !str_ends_with($expression, ')')) {
            return $expression;
        }
        $depth = 0;
        $last = \strlen($expression) - 1;
        for ($i = 0; $i < $last; $i += 1 + strcspn($expression, '()', $i + 1)) {
            $depth += $expression[$i] === '(' ? 1 : -1;
            if ($depth === 0) {
                return $expression;
            }
        }

        return substr($expression, 1, -1);
    }
}
