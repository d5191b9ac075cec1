<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;
use Rilta\Core\Bake\BakePart;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\GltfMaterial;
use Rilta\Core\Deliver\GltfStage;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Target\Engine;

/** What several objects wear, over the surface of each, part by part. */
final class StageWork implements BakeWork
{
    /** Of a picture, so little may lie over each other. */
    private const LITTLE = 0.001;

    private int $number = -1;
    private ?MeshBake $job = null;

    private int $loaded = -1;
    private ?Lowered $lowered = null;

    /** @var array<string, list<int>> of the maps of what is loaded */
    private array $texels = [];

    /**
     * @param array<string, string> $variants  names, by id
     * @param list<Material>        $materials
     * @param \Closure(int): int    $worn      which of them a part is baked of
     */
    public function __construct(
        private readonly StageTarget $target,
        private readonly array $variants,
        private readonly array $materials,
        private readonly \Closure $worn,
        private readonly int $size,
        private readonly Engine $engine,
        private readonly ProjectMeshes $meshes,
        private readonly ProjectPaints $paints,
        private readonly ProjectMaps $maps,
        private readonly BakeFiles $results,
    ) {
    }

    public function region(BakeRegion $region): array
    {
        // Parts lie one below the other.
        $part = intdiv($region->fromRow, $this->size);
        $bytes = $this->job($part)->region($this->maps, $region->fromRow - $part * $this->size, $region->toRow - $part * $this->size);

        return array_combine(array_map(static fn (string $name): string => "$part-$name", array_keys($bytes)), $bytes);
    }

    public function complete(Bake $bake, \Closure $beat): \Closure
    {
        $file = new GltfStage($this->variants);
        $left = $doubled = [];
        foreach ($this->target->objects as $i => $object) {
            $looks = [];
            $set = 0;
            foreach (array_filter($this->target->parts, static fn (BakePart $part): bool => $part->object === $i) as $k => $part) {
                [$look, $twice] = $this->look($bake, $k, $part);
                $looks[] = $look;
                if ($twice > self::LITTLE) {
                    $doubled[] = ['object' => $object->name, 'share' => $twice];
                }
                $set = $this->target->target($part)->set;
                array_push($left, ...GltfMaterial::left($look->rows, $look->cover));
                $beat();
            }
            $file->add($object, $this->meshes->mesh($object->mesh), $set, $looks ?: throw new \LogicException('An object without parts.'), $this->painted($i));
        }
        $glb = $file->bytes();
        $this->results->putObject($bake, $glb);
        $facts = ['channels' => [], 'objects' => \count($this->target->objects), 'parts' => \count($this->target->parts), 'variants' => array_values($this->variants), 'bytes' => \strlen($glb), 'notInGltf' => array_values(array_unique($left)), 'doubled' => array_values(array_column($doubled, null, 'object'))];

        return static fn (): array => $facts;
    }

    /** @return array{BakedLook, float} and the share of what it covers that lies over each other */
    private function look(Bake $bake, int $number, BakePart $part): array
    {
        $images = [];
        $told = $this->job($number)->complete(fn (string $name): string => $this->results->rows($bake, "$number-$name"), static function (Channel $channel, string $rows) use (&$images): void {
            $images[$channel->value] = $rows;
        });
        $material = $this->materials[($this->worn)($number)];

        return [new BakedLook($material->name, $bake->size, $images, $material->cover, $told['glow'], $part->section, $part->variant), $told['doubled']];
    }

    private function job(int $number): MeshBake
    {
        if ($this->job === null || $this->number !== $number) {
            $target = $this->target->target($this->target->parts[$number]);
            $this->load(($this->worn)($number));
            try {
                $this->job = new MeshBake($this->lowered ?? throw new \LogicException('Nothing is loaded.'), $target, $this->meshes->mesh($target->object->mesh), $this->painted($this->target->parts[$number]->object), $this->size, $this->engine, $this->texels);
            } catch (\LengthException $e) {
                throw Refusal::invalid("{$target->object->name} cannot be baked: {$e->getMessage()}.");
            }
            $this->number = $number;
        }

        return $this->job;
    }

    /** Several materials at once would be much to keep. */
    private function load(int $worn): void
    {
        if ($this->loaded !== $worn) {
            $this->lowered = Lowering::lower($this->materials[$worn], $this->maps, true);
            $this->texels = $this->lowered->texels($this->maps);
            $this->loaded = $worn;
        }
    }

    private function painted(int $object): string
    {
        $paint = $this->target->objects[$object]->paint;

        return $paint === '' ? '' : $this->paints->paint($paint) ?? '';
    }
}
