<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** A field was composed of parts that do not fit together: a mistake in our own code, never in a document. */
final class IllTyped extends \LogicException
{
    public static function noSuchType(string $scalar, int $width): self
    {
        return new self(\sprintf('There is no vector of %d x %s.', $width, $scalar));
    }

    public static function operands(string $operation, string ...$types): self
    {
        return new self(\sprintf('%s does not take (%s).', $operation, implode(', ', $types)));
    }

    public static function call(string $function, int $index, string $given): self
    {
        return new self(\sprintf('Argument %d of %s cannot be a %s.', $index + 1, $function, $given));
    }

    public static function unbound(string $name): self
    {
        return new self(\sprintf('The input "%s" is bound to nothing in this kernel.', $name));
    }
}
