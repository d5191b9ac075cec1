<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\StageRecord;
use Rilta\Core\Deliver\Deliverable;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Material\Reader;

/** Objects of a stage with what they wear baked into their UVs, as files for others: the workers bake them. */
final readonly class StageDelivery implements Deliverable
{
    /** Microseconds between two looks at how far the workers are. */
    private const PAUSE = 300_000;

    /**
     * @param array<string, mixed> $onto     as requests have it
     * @param MaterialRecord       $material what is worn where nothing else is said
     * @param string               $variant  in which it is worn there
     * @param int                  $size     pixels a side
     */
    public function __construct(
        private StageRecord $stage,
        private array $onto,
        private MaterialRecord $material,
        private string $variant,
        private int $size,
        private EntityManagerInterface $entities,
        private Reader $reader,
        private Bakery $bakery,
        private StageBakes $stageBakes,
        private BakeFiles $results,
        private Ending $ending,
    ) {
    }

    public function name(): string
    {
        return NameGuess::slug($this->stage->name) . '-stage';
    }

    public function of(): array
    {
        return ['material' => $this->stage->name, 'variant' => $this->variant];
    }

    /**
     * What all of it follows from: objects, documents, maps, meshes, paint.
     *
     * @throws Refusal
     * @throws \Rilta\Core\Material\InvalidDocument
     */
    public function source(): string
    {
        $kept = $this->stageBakes->order($this->stage->project, $this->onto, $this->reader->readJson($this->material->document), $this->variant, $this->material, $this->size);

        return hash('sha256', json_encode([$kept, $this->stageBakes->fingerprint($this->stage->project, $kept), $this->size], \JSON_THROW_ON_ERROR));
    }

    /** @throws Interrupted if it is told to end; nothing of it is left then */
    public function files(\Closure $progress): \Generator
    {
        $bake = $this->bakery->ask($this->stage->project, json_decode($this->material->document, true), $this->size, $this->variant, from: $this->material, onto: $this->onto);
        try {
            $told = $this->awaited($bake, $progress);
            yield NameGuess::slug($this->stage->name) . '.glb' => ['objects with what they wear baked into their UVs, glTF 2.0', $this->results->read(BakeFiles::object($bake))];
            yield 'stage.json' => ['where all of them stand (rilta-stage/2)', $this->stage->document];
        } finally {
            $this->bakery->delete($bake);
        }

        return array_intersect_key($told, ['objects' => 0, 'parts' => 0, 'variants' => 0, 'notInGltf' => 0, 'doubled' => 0]);
    }

    public function manifest(array $files, array $told, string $source): string
    {
        return json_encode(['format' => Delivery::MANIFEST, ...$this->of(), 'profile' => 'stage', 'source' => $source, 'code' => [], ...$told, 'files' => $files], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }

    /**
     * @param \Closure(int, int): void $progress
     *
     * @return array<mixed> what was found out
     */
    private function awaited(Bake $bake, \Closure $progress): array
    {
        while ($bake->state === BakeState::Waiting) {
            $this->ending->check();
            usleep(self::PAUSE);
            $this->entities->refresh($bake);
            $progress(...array_values($this->bakery->progress($bake)));
        }
        if ($bake->state !== BakeState::Done) {
            throw Refusal::invalid($bake->failure === '' ? 'Somebody cancelled it.' : $bake->failure);
        }
        $told = json_decode($bake->facts, true);

        return \is_array($told) ? $told : [];
    }
}
