<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Rilta\App\Entity\Project;
use Symfony\Contracts\Cache\CacheInterface;
use Symfony\Contracts\Cache\ItemInterface;

/** What was computed of a document and the maps of a project as they were then, kept for a week. */
final readonly class Answers
{
    private const SECONDS = 7 * 86400;

    public function __construct(private CacheInterface $cache, private Connection $connection)
    {
    }

    /**
     * @param string                           $kind     what is asked
     * @param int                              $edition  counts up when the answer to the same question is another
     * @param mixed                            $question all that the answer depends on beside the project's library
     * @param \Closure(): array<string, mixed> $answer
     *
     * @return string JSON
     */
    public function json(string $kind, int $edition, Project $project, mixed $question, \Closure $answer): string
    {
        $library = $this->connection->fetchOne('SELECT edition FROM project WHERE id = ?', [$project->id()]);
        $key = hash('xxh128', json_encode([$edition, $project->id(), $library, $question], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));

        return $this->cache->get("$kind.$key", static function (ItemInterface $item) use ($answer): string {
            $item->expiresAfter(self::SECONDS);

            return json_encode($answer(), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE);
        });
    }
}
