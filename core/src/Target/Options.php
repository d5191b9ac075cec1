<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

/** How a material is printed. */
final readonly class Options
{
    public const PREFIX = 'rilta';

    /**
     * @param string                $prefix  what the names of structs, functions, numbers and textures begin with
     * @param bool                  $arrays  whether maps of one size and format lie in one array texture; else each is a texture of its own
     * @param bool                  $harness whether an entry `main` is added that calls it, so that any compiler takes the file as it is
     * @param array<string, string> $notes   what numbers are, by JSON Pointer: comments
     * @param string                $title   what it is, in a line: a comment
     *
     * @throws \InvalidArgumentException if the prefix is no beginning of names
     */
    public function __construct(public string $prefix = self::PREFIX, public bool $arrays = true, public bool $harness = false, public array $notes = [], public string $title = '')
    {
        if (preg_match('/^[a-z][A-Za-z0-9]{0,23}$/D', $prefix) !== 1 || str_starts_with($prefix, 'gl')) {
            throw new \InvalidArgumentException(\sprintf('The prefix of names: expected a lower-case letter and up to 23 letters and digits after it, not beginning with "gl", found "%s".', $prefix));
        }
    }

    /** The title as a line of its own, whatever people call things: a backslash at its end would take the next line along. */
    public function heading(): string
    {
        return $this->title === '' ? '' : '// ' . rtrim((string) preg_replace('/[\s\x00-\x1f\x7f]+/u', ' ', $this->title), ' \\') . "\n";
    }

    /**
     * A text with names that begin with the prefix.
     *
     * @param list<string> $names all that the text declares outside of functions and structs
     */
    public function named(string $text, array $names): string
    {
        if ($this->prefix === self::PREFIX) {
            return $text;
        }
        $renamed = [];
        foreach ($names as $name) {
            $renamed[$name] = $this->name($name);
        }

        return preg_replace_callback('/\b[A-Za-z]\w*/', static fn (array $word): string => $renamed[$word[0]] ?? $word[0], $text) ?? throw new \LogicException('A text that cannot be read.');
    }

    /** What something is called that is declared outside of functions and structs. */
    public function name(string $name): string
    {
        return match (true) {
            $this->prefix === self::PREFIX => $name,
            str_starts_with($name, self::PREFIX) => $this->prefix . substr($name, \strlen(self::PREFIX)),
            str_starts_with($name, ucfirst(self::PREFIX)) => ucfirst($this->prefix) . substr($name, \strlen(self::PREFIX)),
            default => "{$this->prefix}_$name",
        };
    }
}
