<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** Names in code, made of whatever people call things. */
final class Identifier
{
    /**
     * Letters, digits and single underscores, beginning with a letter; never what GLSL keeps for itself ("gl_…").
     *
     * @param list<string> $reserved words that the language at hand does not leave to names
     */
    public static function of(string $text, array $reserved = []): string
    {
        $name = self::part($text);

        return preg_match('/^(?:$|[0-9]|gl_|gl$)/D', $name) === 1 || \in_array($name, $reserved, true) ? rtrim("the_$name", '_') : $name;
    }

    /** The same as a part of a name, after something that begins with a letter. */
    public static function part(string $text): string
    {
        return trim((string) preg_replace('/[^A-Za-z0-9]+/', '_', $text), '_');
    }
}
