<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Psr\Log\LoggerInterface;
use Rilta\App\Entity\AuditEntry;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;

/** Who did what, when, and from where. */
final readonly class Audit
{
    /** Minutes in which the same, done again and again, is one entry: a material that is being worked on saves itself. */
    private const TOGETHER = 10;
    private const MOST = 1000;

    public function __construct(private EntityManagerInterface $entities, private LoggerInterface $requestsLogger)
    {
    }

    public function note(?Project $project, ?Person $person, string $who, string $what, string $target, string $address): void
    {
        $db = $this->entities->getConnection();
        $now = new \DateTimeImmutable();
        [$who, $what, $target] = array_map(static fn (string $text): string => mb_substr(mb_scrub($text), 0, 190), [$who, $what, $target]);
        $again = $db->executeStatement(
            'UPDATE audit SET times = times + 1, at = ? WHERE project_id <=> ? AND person_id <=> ? AND what = ? AND target = ? AND address = ? AND at > ? ORDER BY id DESC LIMIT 1',
            [$now->format('Y-m-d H:i:s'), $project?->id(), $person?->id(), $what, $target, $address, $now->modify('-' . self::TOGETHER . ' minutes')->format('Y-m-d H:i:s')],
        );
        $this->requestsLogger->notice('audit', ['who' => $who, 'what' => $what, 'target' => $target, 'from' => $address]);
        if ($again === 0) {
            $db->executeStatement('INSERT INTO audit (project_id, person_id, who, what, target, address, at, times) VALUES (?, ?, ?, ?, ?, ?, ?, 1)', [$project?->id(), $person?->id(), $who, $what, $target, $address, $now->format('Y-m-d H:i:s')]);
        }
    }

    /**
     * @param ?Project $project null for what was done in none: sign-ins and accounts
     * @param string   $words   that are in who, what or of what
     *
     * @return list<AuditEntry> the latest first
     */
    public function of(?Project $project, string $words): array
    {
        $found = $this->entities->createQueryBuilder()->select('a')->from(AuditEntry::class, 'a');
        $project === null ? $found->where('a.project IS NULL') : $found->where('a.project = :project')->setParameter('project', $project);
        if ($words !== '') {
            $found->andWhere('a.who LIKE :words OR a.what LIKE :words OR a.target LIKE :words')->setParameter('words', '%' . addcslashes($words, '%_\\') . '%');
        }
        /** @var list<AuditEntry> $all */
        $all = $found->orderBy('a.at', 'DESC')->addOrderBy('a.id', 'DESC')->setMaxResults(self::MOST)->getQuery()->getResult();

        return $all;
    }
}
