<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Assert;
use Rilta\Core\Format\ForeignMaterial;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Role;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\TestMaps;

/** Materials of other formats as they would be here. */
final class ForeignDocuments
{
    /** @return array{Lowered, TestMaps} */
    public static function built(ForeignMaterial $read): array
    {
        $maps = new TestMaps();
        $names = [];
        foreach ($read->sets as $set) {
            $names[$set->name] = $set->name;
            [$images, $packed] = [[], []];
            foreach ($set->maps as $map) {
                $image = ImageFile::fromBytes($map->bytes, $map->file)->decode();
                $images[$map->role->value] = $map->role->isScalar() ? $image->channel(0) : $image;
                $packed = $map->role === Role::Packed ? array_map(static fn (array $one): array => [$one['role'], $one['channels'], $one['inverted']], $map->channels) : $packed;
            }
            $maps->add($set->name, $images, 1.0, $packed);
        }
        $salvage = Documents::reader()->salvage($read->document($names));
        Assert::assertSame([], $salvage->problems);

        return [Lowering::lower($salvage->material, $maps, true), $maps];
    }
}
