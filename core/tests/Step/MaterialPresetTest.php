<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Step\MaterialPreset;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** What new materials begin with. */
final class MaterialPresetTest extends TestCase
{
    /** @return iterable<string, array{MaterialPreset, string}> and the sentence of its first lane */
    public static function starts(): iterable
    {
        yield 'plain' => [MaterialPreset::Plain, 'world position, tri-planar → 1 m per repeat'];
        yield 'wall' => [MaterialPreset::Wall, 'world position, projected on walls → 1 m per repeat → break up in 2 m cells'];
        yield 'floor' => [MaterialPreset::Floor, 'world position, projected along Y → 1 m per repeat → break up in 1 m cells'];
        yield 'terrain' => [MaterialPreset::Terrain, 'world position, tri-planar → 1 m per repeat → break up in 1.5 m cells → two sizes from 6 to 40 m away'];
        yield 'cloth' => [MaterialPreset::Cloth, 'mesh UV → 2 repeats per metre → scatter by object'];
        yield 'water' => [MaterialPreset::Water, 'world position, projected along Y → 1 m per repeat → warp by 0.06 m every 0.8 m → flow 0.07 × 0.02 m a second'];
        yield 'trim' => [MaterialPreset::Trim, 'mesh UV → cell 0 of 1 x 4'];
    }

    #[DataProvider('starts')]
    public function testItReadsTheSetAtItsSizeAndHasNoMistakes(MaterialPreset $start, string $sentence): void
    {
        $maps = TestMaps::noise();
        $material = Documents::reader()->read($start->document('New', $maps->find('set') ?? self::fail('no set')));
        self::assertSame($sentence, $material->lanes[0]->sentence());
        $lowered = Lowering::lower($material, $maps);
        self::assertSame([], $lowered->problems);
        self::assertNotSame('', $start->help());
        $found = Kernels::values($lowered->graph, ['roughness' => $lowered->channels['roughness']], FloorLane::at(0.3, 0.6)->inputs, $lowered->uniforms(), $lowered->texels($maps));
        self::assertGreaterThan(0.0, $found['roughness'][0]);
    }

    public function testTheFootOfAWallIsDarkerUpToItsParameter(): void
    {
        $maps = TestMaps::noise();
        $lowered = Lowering::lower(Documents::reader()->read(MaterialPreset::Wall->document('New', $maps->find('set') ?? self::fail('no set'))), $maps);
        $mask = $lowered->masks['/layers/1'];
        $at = static fn (float $y, float $reach): float => Kernels::value($lowered->graph, $mask, ['position' => [0.2, $y, 0.1]] + FloorLane::at(0.2, 0.1)->inputs, ['parameter_grime' => $reach] + $lowered->uniforms())[0];
        self::assertEqualsWithDelta([1.0, 0.0], [$at(0.1, 2.0), $at(4.0, 2.0)], 1e-6);
        self::assertEqualsWithDelta(1.0, $at(4.0, 6.0), 1e-6, 'the parameter moves it');
    }
}
