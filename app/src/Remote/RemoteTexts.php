<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Service\ProjectFolder;
use Rilta\App\Service\ProjectTexts;
use Rilta\App\Service\Reason;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\TextSource;
use Rilta\Core\Format\Absent;

/** Projects of another server. It is told what it said when it was asked, and refuses where it says something else by then. */
final class RemoteTexts implements TextSource
{
    /** Files that are asked for at once. */
    private const AT_ONCE = 40;
    /** How often a merge is begun anew where somebody else was first. */
    private const TRIES = 5;

    /** @var array{known: \stdClass, taken: \stdClass, state: string}|null what it was asked for last, and what it said then */
    private ?array $asked = null;

    public function __construct(private readonly RemoteServer $server)
    {
    }

    public function called(string $slug): string
    {
        try {
            $name = self::object($this->server->ask('GET', self::at($slug)))->name ?? null;
        } catch (Refusal $e) {
            if ($e->reason !== Reason::Missing) {
                throw $e;
            }
            $all = $this->server->ask('GET', '/api/projects');
            throw Refusal::noProject($slug, array_values(array_filter(array_map(static fn (mixed $one): mixed => $one instanceof \stdClass ? $one->slug ?? null : null, \is_array($all) ? $all : []), is_string(...))));
        }

        return \is_string($name) ? $name : $slug;
    }

    public function of(string $slug, \stdClass $known, \stdClass $taken): array
    {
        $keys = (object) array_map(static fn (mixed $kind): array => array_map(strval(...), array_keys((array) $kind)), array_intersect_key((array) $taken, array_flip(ProjectTexts::NUMBERED)));
        $numbers = (object) array_intersect_key((array) $known, array_flip(ProjectTexts::NUMBERED));
        $answer = self::object($this->server->ask('POST', self::at($slug) . '/folder', ['known' => $numbers, 'taken' => $keys]));
        if (!($answer->says ?? null) instanceof \stdClass || !($answer->numbers ?? null) instanceof \stdClass || !\is_string($answer->state ?? null)) {
            throw RemoteServer::strange();
        }
        $this->asked = ['known' => $numbers, 'taken' => $keys, 'state' => $answer->state];

        return [$answer->says, $answer->numbers, array_filter((array) ($answer->files ?? null), is_string(...))];
    }

    public function files(string $slug, array $files): \Closure
    {
        $all = array_map(strval(...), array_keys($files));
        $here = [];

        return function (string $sha) use ($slug, $all, $files, &$here): string {
            // What is asked for comes with what will be asked for next; as much as the server sends at once is in memory.
            $here = isset($here[$sha]) ? $here : $this->fetched($slug, \array_slice($all, (int) array_search($sha, $all, true), self::AT_ONCE), $files);

            return $here[$sha];
        };
    }

    /**
     * @param list<string>             $wanted
     * @param array<array-key, string> $files  what they are called
     *
     * @return array<string, string> bytes by SHA-256: of the first one at least
     */
    private function fetched(string $slug, array $wanted, array $files): array
    {
        $archive = (string) tempnam(sys_get_temp_dir(), 'rilta');
        try {
            $this->server->fetch('POST', self::at($slug) . '/folder/files', $archive, ['files' => $wanted]);
            $zip = new \ZipArchive();
            if ($zip->open($archive) !== true) {
                throw Refusal::elsewhere('What the server sent is no ZIP file; ask again.');
            }
            $bytes = [];
            foreach ($wanted as $i => $sha) {
                $found = $zip->getFromName($sha);
                if ($found === false && $i > 0) {
                    break;
                }
                $bytes[$sha] = hash('sha256', (string) $found) === $sha ? (string) $found : throw Refusal::elsewhere("$files[$sha] did not arrive whole; ask again.");
            }
            $zip->close();

            return $bytes;
        } finally {
            @unlink($archive);
        }
    }

    public function alone(string $slug, \Closure $do): mixed
    {
        for ($try = 1;; ++$try) {
            try {
                return $do();
            } catch (Refusal $e) {
                // Somebody else was first: what they did is merged as well.
                if ($e->reason !== Reason::Taken || $try === self::TRIES) {
                    throw $e;
                }
            }
        }
    }

    public function store(string $slug, \stdClass $now, \stdClass $said, \stdClass $numbers, ProjectFolder $folder): \stdClass
    {
        $changes = [];
        foreach ([...ProjectFolder::KINDS, ...ProjectFolder::SINGLE] as $kind) {
            $changes[$kind] = (object) array_map(static fn (mixed $one): mixed => $one === Absent::Here ? null : $one, ProjectTexts::changed(ProjectFolder::part($now, $kind), ProjectFolder::part($said, $kind)));
        }
        $changes = array_filter($changes, static fn (\stdClass $of): bool => (array) $of !== []);
        preg_match_all('/"([0-9a-f]{64})"/', ProjectFolder::text($changes), $named);
        preg_match_all('/"([0-9a-f]{64})"/', ProjectFolder::text($now), $there);
        foreach (array_diff(array_unique($named[1]), $there[1]) as $sha) {
            $bytes = $folder->bytes($sha);
            $bytes === null || $this->server->bring(self::at($slug) . "/folder/files/$sha", $bytes);
        }
        $answer = self::object($this->server->ask('PUT', self::at($slug) . '/folder', ($this->asked ?? throw new \LogicException('Nothing was asked for.')) + ['changes' => (object) $changes]));

        return self::object($answer->numbers ?? null);
    }

    public function anew(string $name, \stdClass $said, ProjectFolder $folder): string
    {
        $about = ProjectFolder::part($said, 'project')->about ?? null;
        $slug = self::object($this->server->ask('POST', '/api/projects', ['name' => $name, 'about' => \is_string($about) ? mb_substr($about, 0, 400) : '']))->slug ?? null;
        $slug = \is_string($slug) ? $slug : throw RemoteServer::strange();
        [$server, $numbers] = $this->of($slug, new \stdClass(), new \stdClass());
        try {
            $this->store($slug, $server, $said, $numbers, $folder);
        } catch (Refusal $e) {
            throw $e->problems === [] ? $e : Refusal::invalid("{$e->getMessage()} /$slug was made on the server, and is empty.", $e->problems);
        }

        return $slug;
    }

    private static function at(string $slug): string
    {
        return '/api/projects/' . rawurlencode($slug);
    }

    private static function object(mixed $value): \stdClass
    {
        return $value instanceof \stdClass ? $value : throw RemoteServer::strange();
    }
}
