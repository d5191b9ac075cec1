<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Message\ComputeRegion;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Writer;
use Rilta\Core\Recipe\RecipeBake;
use Rilta\Core\Recipe\RecipeReader;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\Messenger\Attribute\AsMessageHandler;
use Symfony\Component\Messenger\Event\WorkerRunningEvent;

/**
 * Bakes as rows of the database: asked for by the interface, cut into regions that workers compute, one pass after the other.
 *
 * @phpstan-type BakeFactsJson array{
 *     width?: float,
 *     height?: float,
 *     seamless?: bool,
 *     set?: string,
 *     outside?: JsonObject<array{below: float, above: float}>,
 *     channels?: list<string>,
 *     verdict?: string, // in words, whether it is seamless and why not
 *     wrap?: JsonObject<float>, // by channel, the step across the edges over the largest inside
 *     layout?: UvLayoutJson,
 *     glow?: float, // what emission is to be multiplied by, in linear light: 1 or more
 *     objects?: int,
 *     parts?: int, // surfaces that were baked: one for each object or section, and for each variant
 *     variants?: list<string>,
 *     bytes?: int,
 *     notInGltf?: list<string>,
 *     doubled?: list<array{object: string, share: float}>, // of several objects, those whose parts lie over each other in their UVs, and which share of what they cover
 * }
 * @phpstan-type BakeJson array{
 *     id: int,
 *     name: string,
 *     size: int,
 *     state: value-of<BakeState>,
 *     failure: string,
 *     regions: array{done: int, all: int},
 *     facts: BakeFactsJson, // of what was made
 *     files: list<array{
 *         channel: string,
 *         name: string,
 *         url: string,
 *         picture: string, // as PNG, to look at
 *     }>,
 *     material: ?int,
 *     askedAt: string,
 *     archive: ?string, // all its files as one ZIP
 * }
 * @phpstan-type UvLayoutJson array{
 *     covered: float, // share of the picture
 *     doubled: float, // of that, where triangles lie over each other
 *     mirrored: float, // share of the surface
 *     density: array{lowest: float, median: float, highest: float}, // texels a metre
 * }
 */
final class Bakery
{
    /** Pixels a side of pictures with all their levels. */
    private const LARGEST_LEVELS = 4096;
    /** Letters of a variant and of an object in the name of a bake. */
    private const LONGEST = [40, 24];

    /** The bake that this process works on: its kernels and texels are worth keeping. */
    private ?int $warmId = null;
    private ?BakeWork $warm = null;

    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Reader $reader,
        private readonly MapFiles $files,
        private readonly BakeFiles $results,
        private readonly Recipes $recipes,
        private readonly Projects $projects,
        private readonly Quota $quota,
        private readonly Engines $engines,
        private readonly Queue $queue,
        private readonly Ending $ending,
        private readonly MeshBakes $meshBakes,
        private readonly StageBakes $stageBakes,
    ) {
    }

    /**
     * Asks for a bake of a material, as it is in a variant, under a name that is new in the project.
     *
     * @param string $variant "" for the material as it is written
     */
    public function ask(Project $project, mixed $document, int $size, string $variant = '', Edges $edges = Edges::AsComputed, ?float $longest = null, ?MaterialRecord $from = null, mixed $onto = null, PictureFormat $files = PictureFormat::Png, bool $greenUp = true): Bake
    {
        if ($edges === Edges::Cut && $size > Edges::LARGEST_CUT) {
            throw Refusal::invalid('So large a tile cannot be cut.', [['path' => '/edges', 'message' => \sprintf('a cut takes at most %d pixels a side', Edges::LARGEST_CUT)]]);
        }
        if ($files->hasLevels() && $size > self::LARGEST_LEVELS) {
            throw Refusal::invalid('So large a picture is written as PNG or TGA.', [['path' => '/files', 'message' => \sprintf('with mip levels it has at most %d pixels a side', self::LARGEST_LEVELS)]]);
        }
        $this->quota->queue($project);
        $written = $this->reader->read($document);
        $material = $variant === '' ? $written : $this->reader->inVariant($written, $variant);
        Lowering::lower($material, $this->files->of($project));
        $several = \is_array($onto) && \array_key_exists('objects', $onto);
        if ($several) {
            $kept = $this->stageBakes->order($project, $onto, $written, $variant, $from, $size);
            [$object, $regions, $fingerprint] = ['stage', $this->stageBakes->regions($project, $kept, $size), $this->stageBakes->fingerprint($project, $kept)];
        } else {
            $target = $onto === null ? null : $this->meshBakes->target($project, $onto);
            $kept = $target === null || !\is_array($onto) ? null : array_filter($onto, \is_string(...), \ARRAY_FILTER_USE_KEY);
            $fingerprint = $this->files->fingerprint($project, $material);
            $bands = TileBake::regions($size);
            $object = '';
            if ($target !== null) {
                $this->meshBakes->layout($project, $target, $size);
                $bands = MeshBake::regions($size, $target->grid);
                $fingerprint = $this->meshBakes->fingerprint($project, $target, $fingerprint);
                $object = 'on-' . rtrim(substr(NameGuess::slug($target->object->name), 0, self::LONGEST[1]), '-');
            }
            $regions = array_map(static fn (array $rows): array => ['pass' => 0, 'from' => $rows[0], 'to' => $rows[1]], $bands);
        }

        return $this->projects->alone($project, function () use ($project, $material, $variant, $size, $edges, $longest, $regions, $fingerprint, $from, $kept, $object, $files, $greenUp): Bake {
            $name = $this->free($project, implode('-', array_filter([NameGuess::slug($material->name), substr($variant, 0, self::LONGEST[0]), $object, $size])));

            return $this->queued(new Bake($project, $name, Writer::json($material), $size, new \DateTimeImmutable(), $fingerprint, edges: $edges, longest: $longest, material: $from, onto: $kept, files: $files, greenUp: $greenUp), $regions);
        });
    }

    /** The tile that a bake would make. */
    public function tile(Project $project, mixed $document, string $variant, ?float $longest): Tile
    {
        $material = $this->reader->read($document);
        $material = $variant === '' ? $material : $this->reader->inVariant($material, $variant);

        return Tile::of(Lowering::lower($material, $this->files->of($project), true), $longest);
    }

    /**
     * How an object lies in one of its sets of UVs, as a picture of some size would have it.
     *
     * @return array{covered: float, doubled: float, mirrored: float, density: array{lowest: float, median: float, highest: float}}
     */
    public function layout(Project $project, mixed $onto, int $size): array
    {
        return $this->meshBakes->layout($project, $this->meshBakes->target($project, $onto), $size);
    }

    /** Asks for the maps of a recipe, as it is now. One that is waiting already is not asked for again. */
    public function cook(RecipeRecord $record): Bake
    {
        return $this->projects->alone($record->project, function () use ($record): Bake {
            $waiting = $this->entities->getRepository(Bake::class)->findOneBy(['recipe' => $record, 'state' => BakeState::Waiting, 'document' => $record->document]);
            if ($waiting !== null) {
                return $waiting;
            }
            $recipe = RecipeReader::readJson($record->document);
            $name = $this->free($record->project, NameGuess::slug($recipe->name) . '-maps-' . $recipe->size);

            return $this->queued(new Bake($record->project, $name, $record->document, $recipe->size, new \DateTimeImmutable(), recipe: $record), RecipeBake::bands($recipe, $recipe->size));
        });
    }

    private function free(Project $project, string $base): string
    {
        $taken = $this->connection()->fetchFirstColumn('SELECT name FROM bake WHERE project_id = ?', [$project->id()]);
        $name = $base;
        for ($n = 2; \in_array($name, $taken, true); ++$n) {
            $name = "$base-$n";
        }

        return $name;
    }

    /** @param list<array{pass: int, from: int, to: int}> $regions */
    private function queued(Bake $bake, array $regions): Bake
    {
        $this->entities->persist($bake);
        foreach ($regions as $region) {
            $this->entities->persist(new BakeRegion($bake, $region['from'], $region['to'], $region['pass']));
        }
        $this->entities->persist(new BakeRegion($bake, 0, 0, BakeRegion::ASSEMBLY));
        $this->entities->flush();
        $this->queueNext($bake);

        return $bake;
    }

    /** Puts the regions of the first pass that is not done into the queue. */
    private function queueNext(Bake $bake): void
    {
        foreach ($this->connection()->fetchFirstColumn('SELECT id FROM bake_region WHERE bake_id = ? AND done = 0 AND pass = (SELECT MIN(pass) FROM bake_region WHERE bake_id = ? AND done = 0) ORDER BY id', [$bake->id(), $bake->id()]) as $id) {
            $this->queue->region(self::int($id), $bake->size);
        }
    }

    /** Begins again with what had failed. What was computed stays. */
    public function again(Bake $bake): void
    {
        $this->projects->alone($bake->project, function () use ($bake): void {
            if ($this->connection()->executeStatement("UPDATE bake SET state = 'waiting', failure = '' WHERE id = ? AND state = 'failed'", [$bake->id()]) > 0) {
                $this->connection()->executeStatement('UPDATE bake_region SET attempts = 0 WHERE bake_id = ?', [$bake->id()]);
                $this->queueNext($bake);
            }
        });
        $this->entities->refresh($bake);
    }

    /** @return list<Bake> of a material, the latest first; without those that were cancelled */
    public function of(MaterialRecord $material, int $most): array
    {
        /** @var list<Bake> $bakes */
        $bakes = $this->entities->createQueryBuilder()->select('b')->from(Bake::class, 'b')->where("b.material = :material AND b.state <> 'cancelled'")->setParameter('material', $material)->orderBy('b.id', 'DESC')->setMaxResults($most)->getQuery()->getResult();

        return $bakes;
    }

    /**
     * The files of a finished bake as one ZIP.
     *
     * @return string the path of a file that is the caller's to delete
     */
    public function archive(Bake $bake): string
    {
        $path = tempnam(sys_get_temp_dir(), 'rilta-bake-');
        $zip = new \ZipArchive();
        if ($path === false || $zip->open($path, \ZipArchive::CREATE | \ZipArchive::OVERWRITE) !== true) {
            throw StorageFailure::full();
        }
        $aside = [];
        try {
            foreach ([...array_map(static fn (Channel $channel): string => BakeFiles::wanted($bake, $channel), self::channels($bake)), BakeFiles::object($bake)] as $file) {
                if ($this->results->has($file)) {
                    $zip->addFile($aside[] = $this->aside($file), basename($file));
                    $zip->setCompressionName(basename($file), str_ends_with($file, '.glb') ? \ZipArchive::CM_DEFAULT : \ZipArchive::CM_STORE);
                }
            }
            $zip->addFromString("$bake->name.json", $bake->document);

            return $zip->close() ? $path : throw StorageFailure::full();
        } catch (\Throwable $e) {
            @unlink($path);
            throw $e;
        } finally {
            array_map(unlink(...), $aside);
        }
    }

    /** A copy of a file outside the store, which is the caller's to delete. */
    private function aside(string $file): string
    {
        [$from] = $this->results->stream($file);
        $path = tempnam(sys_get_temp_dir(), 'rilta-bake-');
        if ($path === false || !@file_put_contents($path, $from)) {
            $path === false || @unlink($path);
            throw StorageFailure::full();
        }

        return $path;
    }

    /** Throws it away, with its files. */
    public function delete(Bake $bake): void
    {
        $this->cancel($bake);
        $this->results->forget($bake);
        $this->entities->remove($bake);
        $this->entities->flush();
    }

    public function cancel(Bake $bake): void
    {
        $this->connection()->executeStatement(
            "UPDATE bake SET state = 'cancelled' WHERE id = ? AND state = 'waiting'",
            [$bake->id()],
        );
        $this->entities->refresh($bake);
    }

    /** @return list<Channel> those that a finished bake has; all that there were before they were noted */
    private static function channels(Bake $bake): array
    {
        $facts = json_decode($bake->facts, true);
        $named = \is_array($facts) && \is_array($facts['channels'] ?? null) ? $facts['channels'] : null;

        return array_values(array_filter(Channel::cases(), static fn (Channel $c): bool => $named === null ? $c !== Channel::Height : \in_array($c->value, $named, true)));
    }

    /** @return BakeJson */
    public function describe(Bake $bake): array
    {
        /** @var BakeFactsJson $facts */
        $facts = json_decode($bake->facts);

        return [
            'id' => $bake->id(),
            'name' => $bake->name,
            'size' => $bake->size,
            'state' => $bake->state->value,
            'failure' => $bake->failure,
            'material' => $bake->material?->id(),
            'askedAt' => $bake->askedAt->format(\DATE_ATOM),
            'archive' => $bake->state === BakeState::Done && $bake->recipe === null ? \sprintf('/api/bakes/%d/files.zip', $bake->id()) : null,
            'regions' => $this->progress($bake),
            'facts' => $facts,
            'files' => $bake->state !== BakeState::Done || $bake->recipe !== null ? [] : array_map(static fn (Channel $c): array => [
                'channel' => $c->value,
                'name' => basename(BakeFiles::wanted($bake, $c)),
                'picture' => \sprintf('/api/bakes/%d/%s.png', $bake->id(), $c->value),
                'url' => \sprintf('/api/bakes/%d/%s.%s?wanted', $bake->id(), $c->value, $bake->files->extension()),
            ], self::channels($bake)),
        ];
    }

    /** @return array{done: int, all: int} regions */
    public function progress(Bake $bake): array
    {
        $row = $this->connection()->fetchAssociative('SELECT COUNT(*) a, COALESCE(SUM(done), 0) d FROM bake_region WHERE bake_id = ?', [$bake->id()]);

        return ['done' => self::int($row['d'] ?? 0), 'all' => self::int($row['a'] ?? 0)];
    }

    #[AsMessageHandler]
    public function work(ComputeRegion $message): void
    {
        $region = $this->entities->find(BakeRegion::class, $message->region);
        if ($region === null || $region->done || $region->bake->state !== BakeState::Waiting) {
            return;
        }
        $bake = $region->bake;
        try {
            $work = $this->warm($bake);
            if ($region->isAssembly()) {
                $this->assemble($region, $work);
            } else {
                $this->results->putRegion($bake, $region->fromRow, $work->region($region));
                $this->finish($region);
            }
        } catch (Cancelled) {
            $state = $this->state($bake);
            if ($state === false) {
                // It was thrown away meanwhile.
                $this->results->forget($bake);
            } elseif ($state !== BakeState::Failed->value) {
                // What has failed can go on from where it was.
                $this->results->tidy($bake);
            }
        } catch (Interrupted $e) {
            throw $e;
        } catch (\Throwable $e) {
            $this->warmId = null;
            throw $e;
        }
    }

    /** Whoever finishes the last region of a pass puts the next pass into the queue. */
    private function finish(BakeRegion $region): void
    {
        $this->connection()->transactional(function (Connection $db) use ($region): void {
            $bake = $region->bake;
            $state = $db->fetchOne('SELECT state FROM bake WHERE id = ? FOR UPDATE', [$bake->id()]);
            if ($state !== BakeState::Waiting->value && $state !== BakeState::Failed->value) {
                throw new Cancelled();
            }
            $first = $db->executeStatement('UPDATE bake_region SET done = 1 WHERE id = ? AND done = 0', [$region->id()]);
            if ($first > 0 && $db->fetchOne('SELECT 1 FROM bake_region WHERE bake_id = ? AND pass <= ? AND done = 0 LIMIT 1', [$bake->id(), $region->pass]) === false) {
                $this->queueNext($bake);
            }
        });
    }

    /** Forgets what was loaded, so that a long-lived worker stays small. */
    #[AsEventListener]
    public function rest(?WorkerRunningEvent $event = null): void
    {
        if ($event === null || $event->isWorkerIdle()) {
            $this->warmId = null;
            $this->warm = null;
        }
    }

    private function warm(Bake $bake): BakeWork
    {
        if ($this->warm === null || $this->warmId !== $bake->id()) {
            // What pays for a picture pays for many small ones.
            $engine = $this->engines->forBakes((int) ($bake->size * sqrt($this->stageBakes->surfaces($bake))));
            $this->warm = match (true) {
                $bake->recipe !== null => new RecipeWork($bake, $this->recipes, $this->results, $engine),
                isset($bake->onto['said']) => $this->stageBakes->work($bake, $engine),
                $bake->onto !== null => $this->meshBakes->work($bake, $engine),
                default => TileWork::of($bake, $this->reader, $this->files, $this->results, $engine),
            };
            $this->warmId = $bake->id();
        }

        return $this->warm;
    }

    private function assemble(BakeRegion $region, BakeWork $work): void
    {
        $bake = $region->bake;
        $store = $work->complete($bake, function () use ($bake): void {
            if ($this->state($bake) !== BakeState::Waiting->value) {
                throw new Cancelled();
            }
            $this->ending->check();
        });
        $this->connection()->transactional(static function (Connection $db) use ($region, $bake, $store): void {
            // Another worker may have put it together meanwhile, or somebody has cancelled it.
            if ($db->fetchOne('SELECT state FROM bake WHERE id = ? FOR UPDATE', [$bake->id()]) !== BakeState::Waiting->value) {
                throw new Cancelled();
            }
            $facts = json_encode($store(), \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);
            $db->executeStatement('UPDATE bake_region SET done = 1 WHERE id = ?', [$region->id()]);
            $db->executeStatement('UPDATE bake SET state = ?, facts = ? WHERE id = ?', [BakeState::Done->value, $facts, $bake->id()]);
        });
        if ($bake->recipe === null) {
            $this->results->tidy($bake);
        } else {
            $this->results->forget($bake);
        }
    }

    private function state(Bake $bake): mixed
    {
        return $this->connection()->fetchOne('SELECT state FROM bake WHERE id = ?', [$bake->id()]);
    }

    private function connection(): Connection
    {
        return $this->entities->getConnection();
    }

    private static function int(mixed $value): int
    {
        return is_numeric($value) ? (int) $value : 0;
    }
}
