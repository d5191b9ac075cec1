<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Format\Absent;

/**
 * A project as a folder of text, one file for each thing of it (rilta-folder/1), for version control. What it was like when it was last
 * brought to agree with the server lies in `.rilta`, which version control leaves alone.
 */
final readonly class ProjectFolder
{
    public const FORMAT = 'rilta-folder/1';
    /** Folders with a file for each thing, called by its key. */
    public const KINDS = ['materials', 'stages', 'recipes', 'sets', 'meshes', 'budgets', 'profiles'];
    /** Files of their own. */
    public const SINGLE = ['project', 'families'];
    private const NUMBERS = 'numbers';
    private const BASE = '.rilta/base';
    private const FILES = 'files';
    private const DEPTH = 128;

    public function __construct(public string $path)
    {
    }

    /** Whether there is a project in it; an empty folder, or none, has none. */
    public function holdsProject(): bool
    {
        return is_file("$this->path/project.json");
    }

    public function isEmpty(): bool
    {
        return !is_dir($this->path) || \count(scandir($this->path) ?: []) <= 2;
    }

    /** All that it says. */
    public function said(): \stdClass
    {
        return $this->tree($this->path);
    }

    /** What it said when it last agreed with the server; nothing where that is not known. */
    public function base(): \stdClass|Absent
    {
        return is_file("$this->path/" . self::BASE . '/project.json') ? $this->tree("$this->path/" . self::BASE) : Absent::Here;
    }

    /** Which project of the server it is, and the numbers that its things have there, by kind and key. */
    public function numbers(): \stdClass
    {
        return self::object(self::read("$this->path/" . self::NUMBERS . '.json', self::NUMBERS . '.json'), self::NUMBERS . '.json');
    }

    /**
     * Writes what it is to say, and that this is what the server says.
     *
     * @param \Closure(string): string $bytes of a file that it needs, by its SHA-256
     * @param array<array-key, string> $files what those are called that it is to have
     */
    public function agree(\stdClass $said, \stdClass $server, \stdClass $numbers, array $files, \Closure $bytes): void
    {
        // What nothing names any more goes, if it came from the server: nobody's own file is touched.
        $base = $this->base();
        $gone = array_diff_key($base instanceof \stdClass ? self::named($base) : [], self::named($said));
        $this->put($this->path, $said);
        $this->number($numbers);
        foreach ($this->lacks($files) as $sha => $name) {
            $end = strtolower(pathinfo($name, \PATHINFO_EXTENSION));
            self::write("$this->path/" . self::FILES . "/$sha" . (preg_match('/^[a-z0-9]{1,5}$/D', $end) === 1 ? ".$end" : ''), $bytes((string) $sha));
        }
        foreach (self::names("$this->path/" . self::FILES) as $name) {
            if (preg_match('/^[0-9a-f]{64}/', $name, $sha) === 1 && isset($gone[$sha[0]])) {
                unlink("$this->path/" . self::FILES . "/$name");
            }
        }
        $this->put("$this->path/" . self::BASE, $server);
        self::write("$this->path/.rilta/.gitignore", "*\n");
    }

    /** Keeps which project of the server it is, and the numbers of its things there. */
    public function number(\stdClass $numbers): void
    {
        self::write("$this->path/" . self::NUMBERS . '.json', self::text($numbers));
    }

    /**
     * Those of some files that are not in it.
     *
     * @param array<array-key, string> $files what they are called, by their SHA-256
     *
     * @return array<array-key, string>
     */
    public function lacks(array $files): array
    {
        return array_filter($files, fn (int|string $sha): bool => $this->file((string) $sha) === null, \ARRAY_FILTER_USE_KEY);
    }

    /**
     * The bytes of a file that the project needs.
     *
     * @throws Refusal if they are not what it is called by
     */
    public function bytes(string $sha): ?string
    {
        $path = $this->file($sha);
        if ($path === null) {
            return null;
        }
        $bytes = (string) file_get_contents($path);

        return hash('sha256', $bytes) === $sha ? $bytes : throw Refusal::invalid(self::FILES . '/' . basename($path) . ' is damaged: it is not what it is called by.');
    }

    public static function text(mixed $value): string
    {
        return json_encode($value, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /** @return array<array-key, int> the files that a project names, by their SHA-256 */
    private static function named(\stdClass $said): array
    {
        preg_match_all('/"([0-9a-f]{64})"/', self::text($said), $found);

        return array_flip($found[1]);
    }

    /** Where a file lies that is called by its SHA-256. */
    private function file(string $sha): ?string
    {
        foreach (self::names("$this->path/" . self::FILES) as $name) {
            if ($name === $sha || str_starts_with($name, "$sha.")) {
                return "$this->path/" . self::FILES . "/$name";
            }
        }

        return null;
    }

    private function tree(string $folder): \stdClass
    {
        $tree = new \stdClass();
        foreach (self::SINGLE as $name) {
            $tree->{$name} = self::object(self::read("$folder/$name.json", "$name.json"), "$name.json");
        }
        if ((self::part($tree, 'project')->format ?? null) !== self::FORMAT) {
            throw self::wrong('project.json', '/format', 'expected "' . self::FORMAT . '"');
        }
        foreach (self::KINDS as $kind) {
            $tree->{$kind} = new \stdClass();
            foreach (self::names("$folder/$kind", '.json') as $name) {
                $key = basename($name, '.json');
                if (preg_match('/^[a-z0-9][a-z0-9-]{0,119}$/D', $key) !== 1) {
                    throw self::wrong("$kind/$key.json", '', 'expected a name of lower-case letters, digits and -');
                }
                $tree->{$kind}->{$key} = self::object(self::read("$folder/$kind/$name", "$kind/$name"), "$kind/$key.json");
            }
        }

        return $tree;
    }

    private function put(string $folder, \stdClass $tree): void
    {
        foreach (self::KINDS as $kind) {
            $there = (array) self::part($tree, $kind);
            foreach ($there as $key => $value) {
                self::write("$folder/$kind/$key.json", self::text($value));
            }
            foreach (self::names("$folder/$kind", '.json') as $name) {
                if (!\array_key_exists(basename($name, '.json'), $there)) {
                    unlink("$folder/$kind/$name");
                }
            }
        }
        // What tells that there is a project comes last.
        foreach (array_reverse(self::SINGLE) as $name) {
            self::write("$folder/$name.json", self::text($tree->{$name}));
        }
    }

    /** @return list<string> of files in a folder */
    private static function names(string $folder, string $end = ''): array
    {
        return array_values(array_filter(is_dir($folder) ? scandir($folder) ?: [] : [], static fn (string $name): bool => $name[0] !== '.' && str_ends_with($name, $end)));
    }

    /** A file that is there whole or not at all, and is left alone where it says that already. */
    private static function write(string $path, string $text): void
    {
        if (is_file($path) && file_get_contents($path) === $text) {
            return;
        }
        $folder = \dirname($path);
        if ((!is_dir($folder) && !@mkdir($folder, 0o777, true) && !is_dir($folder)) || @file_put_contents("$path.part", $text) !== \strlen($text) || !@rename("$path.part", $path)) {
            @unlink("$path.part");
            throw new \RuntimeException("$path cannot be written; is the disk full, or the folder somebody else's?");
        }
    }

    private static function read(string $path, string $name): mixed
    {
        if (!is_file($path)) {
            throw self::wrong($name, '', 'expected a file');
        }
        try {
            return json_decode((string) file_get_contents($path), false, self::DEPTH, \JSON_THROW_ON_ERROR);
        } catch (\JsonException $e) {
            throw self::wrong($name, '', 'this is no JSON: ' . $e->getMessage());
        }
    }

    /** What a project says of one kind of its things, by key. */
    public static function part(\stdClass $tree, string $kind): \stdClass
    {
        return ($tree->{$kind} ?? null) instanceof \stdClass ? $tree->{$kind} : new \stdClass();
    }

    private static function object(mixed $value, string $name): \stdClass
    {
        return $value instanceof \stdClass ? $value : throw self::wrong($name, '', 'expected an object');
    }

    public static function wrong(string $name, string $path, string $message): Refusal
    {
        return Refusal::invalid('The folder has mistakes.', [['path' => $name . $path, 'message' => $message]]);
    }
}
