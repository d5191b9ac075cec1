<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\NormalFrame;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\GltfStage;
use Rilta\Core\Material\Material;
use Rilta\Core\Mesh\Mesh;

/** A material's channels over the surface of an object. */
final readonly class MeshWork implements BakeWork
{
    public function __construct(private MeshBake $job, private Material $material, private MeshTarget $target, private Mesh $mesh, private string $paint, private ProjectMaps $maps, private BakeFiles $results)
    {
    }

    public function region(BakeRegion $region): array
    {
        return $this->job->region($this->maps, $region->fromRow, $region->toRow);
    }

    public function complete(Bake $bake, \Closure $beat): \Closure
    {
        $images = [];
        $told = $this->job->complete(fn (string $name): string => $this->results->rows($bake, $name), function (Channel $channel, string $rows) use ($bake, $beat, &$images): void {
            $this->results->putImage($bake, $channel, $rows);
            $images[$channel->value] = $rows;
            $beat();
        });
        // glTF has normals along the surface alone.
        if ($this->target->frame === NormalFrame::Tangent) {
            $file = new GltfStage();
            $file->add($this->target->object, $this->mesh, $this->target->set, [new BakedLook($this->material->name, $bake->size, $images, $this->material->cover, $told['glow'], $this->target->section)], $this->paint);
            $this->results->putObject($bake, $file->bytes());
        }

        return fn (): array => ['channels' => array_column($this->job->channels, 'value'), 'layout' => array_diff_key($told, ['glow' => 0]), 'glow' => $told['glow']];
    }
}
