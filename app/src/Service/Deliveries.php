<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\DeliveryRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Revision;
use Rilta\App\Message\HandOut;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Deliver\PictureFacts;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Writer;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;

/**
 * Deliveries of a project's materials: asked for by the interface, made by the workers, each kept beside those before it.
 *
 * @phpstan-type DeliveryJson array{
 *     id: int,
 *     name: string,
 *     material: ?int,
 *     variant: string,
 *     profile: string,
 *     profileLabel: string,
 *     state: value-of<BakeState>,
 *     failure: string,
 *     done: int,
 *     all: int,
 *     unchanged: bool, // whether all of it had been delivered before
 *     asked: string,
 *     archive: ?string,
 *     files: list<DeliveredFileJson>,
 *     approvedBy: string, // who had approved the material as it is in it
 * }
 * @phpstan-type DeliveredFileJson array{
 *     path: string,
 *     sha256: string,
 *     bytes: int,
 *     meaning: string,
 *     url: string,
 *     picture?: array{
 *         width: int,
 *         height: int,
 *         layers: int,
 *         memory: int, // bytes, with all levels, as a device keeps it
 *         off?: array{ // how far it is from what it is a picture of, in steps of 1/255 as it is stored; deliveries of before it was taken have none
 *             mean: float,
 *             within: float, // 95 of 100 values stay within it
 *         },
 *         shows?: string, // the channel that it is a picture of; "" for a map, or several channels
 *     },
 * }
 */
final readonly class Deliveries
{
    private const MANIFEST = 'manifest.json';
    private const MOST_LISTED = 100;

    /** @param Connection $queueConnection one that no transaction of the work is open on: what it stores is seen at once */
    public function __construct(
        private EntityManagerInterface $entities,
        private Connection $queueConnection,
        private Reader $reader,
        private MapFiles $files,
        private Blobs $blobs,
        private DeliveryProfiles $profiles,
        private Projects $projects,
        private Quota $quota,
        private Engines $engines,
        private Queue $queue,
        private Ending $ending,
    ) {
    }

    /**
     * Asks for materials, each as it is now: all of them, or none.
     *
     * @param list<int>     $materials
     * @param ?list<string> $variants  of each, by id, "" for the material as it is written; null for that and all variants
     *
     * @return list<DeliveryRecord>
     *
     * @throws Refusal if something of it is not there or has mistakes, or too much is waiting
     */
    public function ask(Project $project, array $materials, ?array $variants, string $profile): array
    {
        $said = $this->profiles->of($project)[$profile] ?? throw Refusal::invalid('There is no such profile.', [['path' => '/profile', 'message' => 'expected one of ' . implode(', ', array_keys($this->profiles->of($project)))]]);
        $read = DeliveryProfile::read($said);
        $maps = $this->files->of($project);
        $wanted = [];
        foreach (array_values(array_unique($materials)) as $i => $id) {
            $record = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => $id, 'deletedAt' => null]) ?? throw Refusal::invalid('There is no such material.', [['path' => "/materials/$i", 'message' => 'expected the number of a material of the project']]);
            try {
                $material = $this->reader->readJson($record->document);
                foreach (array_unique($variants ?? ['', ...array_column($material->variants->all, 'id')]) as $variant) {
                    $worn = $variant === '' ? $material : $this->reader->inVariant($material, $variant);
                    Lowering::lower($worn, $maps, true);
                    $wanted[] = [$record, $variant, Writer::json($worn), implode('-', array_filter([NameGuess::slug($worn->name), $variant, $read->name]))];
                }
            } catch (InvalidDocument $e) {
                throw Refusal::invalid("“{$record->name}” cannot be delivered as it is.", array_map(static fn (object $one): array => ['path' => $one->path, 'message' => $one->message], $e->problems));
            }
        }
        $this->quota->queue($project, \count($wanted));

        return $this->entities->wrapInTransaction(function () use ($project, $wanted, $said, $read): array {
            $asked = [];
            foreach ($wanted as [$material, $variant, $document, $name]) {
                $asked[] = $one = new DeliveryRecord($project, $material, $name, $variant, $document, $said, new \DateTimeImmutable());
                $one->approvedBy = $this->entities->getRepository(Revision::class)->findOneBy(['material' => $material, 'version' => $material->version, 'aside' => false])->approvedBy ?? '';
                $this->entities->persist($one);
            }
            $this->entities->flush();
            foreach ($asked as $one) {
                $this->queue->delivery($one, $read->pixels());
            }

            return $asked;
        });
    }

    /**
     * @param ?MaterialRecord $material of that one alone
     *
     * @return list<DeliveryRecord> the latest first; without those that were cancelled
     */
    public function of(Project $project, ?MaterialRecord $material): array
    {
        $found = $this->entities->createQueryBuilder()->select('d')->from(DeliveryRecord::class, 'd')->where("d.project = :project AND d.state <> 'cancelled'")->setParameter('project', $project);
        if ($material !== null) {
            $found->andWhere('d.material = :material')->setParameter('material', $material);
        }
        /** @var list<DeliveryRecord> $all */
        $all = $found->orderBy('d.id', 'DESC')->setMaxResults(self::MOST_LISTED)->getQuery()->getResult();

        return $all;
    }

    public function cancel(DeliveryRecord $delivery): void
    {
        $this->entities->getConnection()->executeStatement("UPDATE delivery SET state = 'cancelled' WHERE id = ? AND state = 'waiting'", [$delivery->id()]);
        $this->entities->refresh($delivery);
    }

    /** Begins anew with what had failed. */
    public function again(DeliveryRecord $delivery): void
    {
        $this->entities->wrapInTransaction(function () use ($delivery): void {
            if ($this->entities->getConnection()->executeStatement("UPDATE delivery SET state = 'waiting', failure = '', attempts = 0, done = 0 WHERE id = ? AND state = 'failed'", [$delivery->id()]) > 0) {
                $this->queue->delivery($delivery, DeliveryProfile::read($delivery->profile)->pixels());
            }
        });
        $this->entities->refresh($delivery);
    }

    /** Throws it away; other deliveries stay. */
    public function delete(DeliveryRecord $delivery): void
    {
        $this->entities->remove($delivery);
        $this->entities->flush();
    }

    /**
     * A file of it, by its path.
     *
     * @throws Refusal if it has none there
     */
    public function file(DeliveryRecord $delivery, string $path): string
    {
        foreach ($delivery->files as $file) {
            if ($file['path'] === $path) {
                return $this->blobs->get($file['sha256'], "$path of " . self::folder($delivery));
            }
        }
        throw Refusal::notFound("file \"$path\" of the delivery " . $delivery->id());
    }

    /**
     * All of it as one ZIP.
     *
     * @return string the path of a file that is the caller's to delete
     *
     * @throws Refusal if it is not there yet
     */
    public function archive(DeliveryRecord $delivery): string
    {
        if ($delivery->state !== BakeState::Done) {
            throw Refusal::notFound('finished delivery ' . $delivery->id());
        }
        $files = [];
        foreach ($delivery->files as $file) {
            $files[self::folder($delivery) . "/{$file['path']}"] = fn (): string => $this->blobs->get($file['sha256'], $file['path']);
        }
        $path = sys_get_temp_dir() . '/rilta-delivery-' . bin2hex(random_bytes(8)) . '.zip';
        SameZip::write($path, $files);

        return $path;
    }

    /** What its folder is called, once it is done. */
    public static function folder(DeliveryRecord $delivery): string
    {
        return $delivery->name . ($delivery->number > 1 ? "-$delivery->number" : '');
    }

    /** @return DeliveryJson */
    public static function describe(DeliveryRecord $delivery): array
    {
        $profile = DeliveryProfile::read($delivery->profile);

        return [
            'id' => $delivery->id(),
            'name' => self::folder($delivery),
            'material' => $delivery->material?->id(),
            'variant' => $delivery->variant,
            'profile' => $profile->name,
            'profileLabel' => $profile->label,
            'state' => $delivery->state->value,
            'failure' => $delivery->failure,
            'done' => $delivery->done,
            'all' => $delivery->all,
            'unchanged' => $delivery->unchanged,
            'approvedBy' => $delivery->approvedBy,
            'asked' => $delivery->asked->format(\DATE_ATOM),
            'archive' => $delivery->state === BakeState::Done ? \sprintf('/api/deliveries/%d/files.zip', $delivery->id()) : null,
            'files' => array_map(static fn (array $file): array => $file + ['url' => \sprintf('/api/deliveries/%d/file?path=%s', $delivery->id(), rawurlencode($file['path']))], $delivery->files),
        ];
    }

    #[AsMessageHandler]
    public function work(HandOut $message): void
    {
        $record = $this->entities->find(DeliveryRecord::class, $message->delivery);
        if ($record === null || $record->state !== BakeState::Waiting) {
            return;
        }
        try {
            $this->make($record);
        } catch (Cancelled) {
            // Nobody wants it any more. What was stored of it has no name, and is collected.
        }
    }

    private function make(DeliveryRecord $record): void
    {
        $material = $this->reader->readJson($record->document);
        $profile = DeliveryProfile::read($record->profile);
        $maps = $this->files->of($record->project);
        $variants = Delivery::variants($this->reader, $material, $record->variant, $profile, $maps);
        $read = fn (): array => array_map(fn (Material $one): string => $this->files->fingerprint($record->project, $one), [$material, ...array_column($variants, 'material')]);
        $before = $read();
        $delivery = new Delivery($this->reader->asWritten($material), $record->variant, $profile, $maps, $this->engines->forBakes($profile->pixels()), $variants);
        // What somebody has approved says so in its manifest.
        $approved = $record->approvedBy === '' ? [] : ['approvedBy' => $record->approvedBy];
        $source = $approved === [] ? $delivery->source() : hash('sha256', $delivery->source() . $record->approvedBy);
        $this->beat($record, 0, 0);
        $same = $this->same($record, $source);
        $files = $same->files ?? $this->stored($record, $delivery, $source, $approved);
        if ($before !== $read()) {
            // Half of one version and half of another would be wrong everywhere.
            throw Refusal::invalid('A map was changed while this was made. Deliver it again.');
        }
        $this->projects->alone($record->project, function () use ($record, $source, $same, $files): void {
            $db = $this->entities->getConnection();
            $last = $db->fetchOne('SELECT MAX(number) FROM delivery WHERE project_id = ? AND name = ?', [$record->project->id(), $record->name]);
            $number = $same->number ?? (is_numeric($last) ? (int) $last : 0) + 1;
            $db->executeStatement(
                "UPDATE delivery SET state = 'done', done = total, number = ?, unchanged = ?, source = ?, files = ? WHERE id = ? AND state = 'waiting'",
                [$number, (int) ($same !== null), $source, json_encode($files, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE), $record->id()],
            );
        });
    }

    /** The newest delivery of the same name, if it follows from the same and is whole. */
    private function same(DeliveryRecord $record, string $source): ?DeliveryRecord
    {
        $newest = $this->entities->getRepository(DeliveryRecord::class)->findOneBy(['project' => $record->project, 'name' => $record->name, 'state' => BakeState::Done], ['number' => 'DESC', 'id' => 'DESC']);
        if ($newest === null || $newest->source !== $source) {
            return null;
        }
        foreach ($newest->files as $file) {
            if (!$this->blobs->has($file['sha256'])) {
                return null;
            }
        }

        return $newest;
    }

    /**
     * @param array<string, string> $told besides what the delivery tells of itself
     *
     * @return list<array{path: string, sha256: string, bytes: int, meaning: string, picture?: PictureFacts}> what was made and stored, and a manifest of it
     */
    private function stored(DeliveryRecord $record, Delivery $delivery, string $source, array $told): array
    {
        $files = [];
        $bytes = 0;
        $store = function (string $path, string $meaning, string $content, ?PictureFacts $picture = null) use ($record, &$files, &$bytes): void {
            $this->quota->room($record->project, $bytes += \strlen($content));
            $files[] = ['path' => $path, 'sha256' => $this->blobs->put($content), 'bytes' => \strlen($content), 'meaning' => $meaning] + ($picture === null ? [] : ['picture' => $picture]);
        };
        $made = $delivery->files(fn (int $done, int $all) => $this->beat($record, $done, $all));
        foreach ($made as $path => $one) {
            $store($path, $one[0], $one[1], $one[2] ?? null);
            $this->beat($record);
        }
        $store(self::MANIFEST, 'what all files are', $delivery->manifest($files, $made->getReturn() + $told, $source));

        return $files;
    }

    /** Says how far it is, if that is known, and notices when it is to end. */
    private function beat(DeliveryRecord $record, ?int $done = null, int $all = 0): void
    {
        $this->ending->check();
        if ($this->queueConnection->fetchOne('SELECT state FROM delivery WHERE id = ?', [$record->id()]) !== BakeState::Waiting->value) {
            throw new Cancelled();
        }
        if ($done !== null) {
            $this->queueConnection->executeStatement("UPDATE delivery SET done = ?, total = ? WHERE id = ? AND state = 'waiting'", [$done, $all, $record->id()]);
        }
    }
}
