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
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Target\Engine;

/** What several objects wear, over the surface of each, part by part. */
final class StageWork implements BakeWork
{
    private int $number = -1;
    private ?MeshBake $job = null;

    /**
     * @param array<string, string>   $variants names, by id
     * @param \Closure(int): Material $worn     what a part is baked of
     */
    public function __construct(
        private readonly StageTarget $target,
        private readonly array $variants,
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
        $bytes = $this->job($region->pass)->region($this->maps, $region->fromRow, $region->toRow);

        return array_combine(array_map(static fn (string $name): string => "$region->pass-$name", array_keys($bytes)), $bytes);
    }

    public function complete(Bake $bake, \Closure $beat): \Closure
    {
        $file = new GltfStage($this->variants);
        $left = [];
        foreach ($this->target->objects as $i => $object) {
            $looks = [];
            foreach (array_filter($this->target->parts, static fn (BakePart $part): bool => $part->object === $i) as $k => $part) {
                $looks[] = $look = $this->look($bake, $k, $part);
                array_push($left, ...GltfMaterial::left($look->rows));
                $beat();
            }
            $file->add($object, $this->meshes->mesh($object->mesh), $this->target->target($this->target->parts[0])->set, $looks ?: throw new \LogicException('An object without parts.'), $this->painted($i));
        }
        $glb = $file->bytes();
        $this->results->putObject($bake, $glb);
        $facts = ['channels' => [], 'objects' => \count($this->target->objects), 'parts' => \count($this->target->parts), 'variants' => array_values($this->variants), 'bytes' => \strlen($glb), 'notInGltf' => array_values(array_unique($left))];

        return static fn (): array => $facts;
    }

    private function look(Bake $bake, int $number, BakePart $part): BakedLook
    {
        $images = [];
        $told = $this->job($number)->complete(fn (string $name): string => $this->results->rows($bake, "$number-$name"), static function (Channel $channel, string $rows) use (&$images): void {
            $images[$channel->value] = $rows;
        });
        $material = ($this->worn)($number);

        return new BakedLook($material->name, $bake->size, $images, $material->cover, $told['glow'], $part->section, $part->variant);
    }

    private function job(int $number): MeshBake
    {
        if ($this->job === null || $this->number !== $number) {
            $target = $this->target->target($this->target->parts[$number]);
            try {
                $this->job = new MeshBake(Lowering::lower(($this->worn)($number), $this->maps, true), $target, $this->meshes->mesh($target->object->mesh), $this->painted($this->target->parts[$number]->object), $this->size, $this->engine);
            } catch (\LengthException $e) {
                throw Refusal::invalid("{$target->object->name} cannot be baked: {$e->getMessage()}.");
            }
            $this->number = $number;
        }

        return $this->job;
    }

    private function painted(int $object): string
    {
        $paint = $this->target->objects[$object]->paint;

        return $paint === '' ? '' : $this->paints->paint($paint) ?? '';
    }
}
