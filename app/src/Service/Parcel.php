<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Entity\StageRecord;

/** A whole project, as its file has it. */
final readonly class Parcel
{
    /**
     * @param array<string, mixed>                                                                                                     $contents of the format rilta-project/1
     * @param array<array-key, string>                                                                                                 $images   names of maps by the SHA-256 of what they need
     * @param array<array-key, string>                                                                                                 $files    names of files of meshes and of what is painted, alike
     * @param array{materials: list<MaterialRecord>, stages: list<StageRecord>, recipes: list<RecipeRecord>, meshes: list<MeshRecord>} $records  in the order in which the contents have them
     */
    public function __construct(public array $contents, public array $images, public array $files, public array $records)
    {
    }
}
