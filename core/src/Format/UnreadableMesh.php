<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** A file cannot become a mesh. The message names the file, the place in it, what was found and what was expected. */
final class UnreadableMesh extends \RuntimeException
{
    public static function of(string $file, string $detail): self
    {
        return new self(\sprintf('%s: %s.', $file, rtrim($detail, '.')));
    }

    /** @param string $place as the format names it: "line 12", "/accessors/3" */
    public static function at(string $file, string $place, string $detail): self
    {
        return new self(\sprintf('%s, %s: %s.', $file, $place, rtrim($detail, '.')));
    }
}
