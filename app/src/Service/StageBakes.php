<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Bake;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\Core\Bake\BakePart;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Writer;
use Rilta\Core\Target\Engine;

/** Bakes of several objects of a stage, with what each of them wears, into one file. */
final readonly class StageBakes
{
    public function __construct(private EntityManagerInterface $entities, private MeshBakes $meshBakes, private OwnMeshes $meshes, private ProjectPaints $paints, private MapFiles $files, private Reader $reader, private BakeFiles $results)
    {
    }

    /**
     * What is asked for, with the documents of all that is worn as they are now.
     *
     * @param mixed    $onto  as requests have it
     * @param Material $open  the material that is open, as it is written
     * @param string   $shown variant of it
     *
     * @return array<string, mixed> to be kept with the bake
     *
     * @throws InvalidDocument
     * @throws Refusal         if an object has no such layout
     */
    public function order(Project $project, mixed $onto, Material $open, string $shown, ?MaterialRecord $from, int $size): array
    {
        $target = self::moved(fn (): StageTarget => StageTarget::read($onto, $this->meshes->of($project)));
        $many = \count($target->parts);
        if ($many * $size * $size > StageTarget::MOST_TEXELS) {
            throw Refusal::invalid('So many so large pictures make no file.', [['path' => '/size', 'message' => \sprintf('%d surfaces take at most %d pixels a side', $many, 2 ** (int) floor(log(sqrt(StageTarget::MOST_TEXELS / $many), 2)))]]);
        }
        $names = [];
        foreach ($target->variants as $i => $id) {
            $names[$id] = $open->variants->find($id)->name ?? throw InvalidDocument::at("/onto/variants/$i", "there is no variant \"$id\"");
        }
        $documents = $worn = $laid = [];
        foreach ($target->parts as $part) {
            // Copies of one mesh lie alike.
            $laid["{$target->objects[$part->object]->mesh} $part->section"] ??= $this->meshBakes->layout($project, $target->target($part), $size);
            $document = Writer::json($this->worn($project, $part, $open, $shown, $from));
            $documents[$document] ??= \count($documents);
            $worn[] = $documents[$document];
        }
        $kept = ['documents' => array_map(strval(...), array_keys($documents)), 'worn' => $worn, 'names' => $names, 'said' => $onto];
        foreach ($kept['documents'] as $document) {
            Lowering::lower($this->reader->readJson($document), $this->files->of($project));
        }

        return $kept;
    }

    /**
     * Bands of rows of all parts, one part below the other: they need not wait for each other.
     *
     * @param array<string, mixed> $kept
     *
     * @return list<array{pass: int, from: int, to: int}>
     */
    public function regions(Project $project, array $kept, int $size): array
    {
        $target = $this->target($project, $kept);
        $regions = [];
        // What wears the same comes one after the other, so that its maps are read once.
        $parts = $target->parts;
        uksort($parts, fn (int $a, int $b): int => [$this->number($kept, $a), $a] <=> [$this->number($kept, $b), $b]);
        foreach ($parts as $k => $part) {
            foreach (MeshBake::regions($size, $target->target($part)->grid) as [$from, $to]) {
                $regions[] = ['pass' => 0, 'from' => $k * $size + $from, 'to' => $k * $size + $to];
            }
        }

        return $regions;
    }

    /**
     * Of all that it follows from.
     *
     * @param array<string, mixed> $kept
     */
    public function fingerprint(Project $project, array $kept): string
    {
        $target = $this->target($project, $kept);
        $known = [];
        foreach ($target->parts as $k => $part) {
            $object = $target->objects[$part->object];
            $known["mesh $object->mesh $object->paint"] ??= $this->meshBakes->fingerprint($project, $target->target($part), '');
            $known['worn ' . $this->number($kept, $k)] ??= $this->files->fingerprint($project, $this->material($kept, $k));
        }

        return hash('sha256', json_encode($known, \JSON_THROW_ON_ERROR));
    }

    /** How many pictures a bake is of. */
    public function surfaces(Bake $bake): int
    {
        return \is_array($bake->onto['worn'] ?? null) ? \count($bake->onto['worn']) : 1;
    }

    public function work(Bake $bake, Engine $engine): StageWork
    {
        $kept = $bake->onto ?? [];
        if ($bake->maps !== $this->fingerprint($bake->project, $kept)) {
            throw Refusal::invalid('A map, a mesh or what is painted on it was changed while this was being baked. Bake it again.');
        }
        $names = \is_array($kept['names'] ?? null) ? array_filter($kept['names'], \is_string(...)) : [];

        return new StageWork(
            $this->target($bake->project, $kept),
            array_combine(array_map(strval(...), array_keys($names)), $names),
            array_map($this->reader->readJson(...), $this->documents($kept)),
            fn (int $part): int => $this->number($kept, $part),
            $bake->size,
            $engine,
            $this->meshes->of($bake->project),
            $this->paints,
            $this->files->of($bake->project),
            $this->results,
        );
    }

    /** @param array<string, mixed> $kept */
    private function target(Project $project, array $kept): StageTarget
    {
        return StageTarget::read($kept['said'] ?? null, $this->meshes->of($project));
    }

    /** @param array<string, mixed> $kept */
    private function material(array $kept, int $part): Material
    {
        return $this->reader->readJson($this->documents($kept)[$this->number($kept, $part)] ?? throw new \LogicException('A bake of a stage without what is worn.'));
    }

    /**
     * @param array<string, mixed> $kept
     *
     * @return list<string>
     */
    private function documents(array $kept): array
    {
        return \is_array($kept['documents'] ?? null) ? array_values(array_filter($kept['documents'], \is_string(...))) : [];
    }

    /**
     * Which of the documents a part wears.
     *
     * @param array<string, mixed> $kept
     */
    private function number(array $kept, int $part): int
    {
        $number = \is_array($kept['worn'] ?? null) ? $kept['worn'][$part] ?? null : null;

        return \is_int($number) ? $number : -1;
    }

    private function worn(Project $project, BakePart $part, Material $open, string $shown, ?MaterialRecord $from): Material
    {
        $wear = $part->wear;
        $record = $wear->material === null || $wear->material === $from?->id() ? null : $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'id' => $wear->material]);
        // What wears a material that is gone wears the one that is open.
        $material = $record === null ? $open : $this->reader->readJson($record->document);
        $variant = $material->variants->find($wear->variant) !== null ? $wear->variant : ($record === null ? $shown : '');

        return $variant === '' ? $material : $this->reader->inVariant($material, $variant);
    }

    /**
     * @template T
     *
     * @param \Closure(): T $read
     *
     * @return T
     */
    private static function moved(\Closure $read): mixed
    {
        try {
            return $read();
        } catch (InvalidDocument $e) {
            throw $e->moved('', '/onto');
        }
    }
}
