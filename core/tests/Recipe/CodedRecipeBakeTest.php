<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Recipe;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Raster\HeightField;
use Rilta\Core\Raster\Image;
use Rilta\Core\Recipe\CodedRecipe;
use Rilta\Core\Recipe\CodedRecipeBake;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;
use Rilta\Demo\LimePlaster;
use Rilta\Demo\Recipes;

final class CodedRecipeBakeTest extends TestCase
{
    /** @return iterable<string, array{CodedRecipe}> */
    public static function recipes(): iterable
    {
        foreach (Recipes::all() as $recipe) {
            yield $recipe->name() => [$recipe];
        }
    }

    public function testACommittedMapIsRegeneratedBitForBit(): void
    {
        $folder = \dirname(__DIR__, 3) . '/demo/maps/lime-plaster';
        foreach ((new CodedRecipeBake(Kernels::compiler()))->maps(new LimePlaster(), 1024) as $role => $image) {
            $file = ImageFile::open("$folder/lime-plaster-$role.png");
            self::assertSame($role === 'height', $file->deep, 'heights have 16 bits');
            $expected = ($image->samples === 1 ? $file->first() : $file->decode())->texels;
            self::assertTrue($expected === $image->texels, "lime-plaster-$role.png is not what its recipe makes; run bin/rilta cook lime-plaster");
        }
    }

    #[DataProvider('recipes')]
    public function testRecipesRepeatAfterOneTile(CodedRecipe $recipe): void
    {
        $g = new Graph();
        $fields = $recipe->fields($g, $g->input('uv', Type::Vec2));
        mt_srand(12);
        $points = array_map(static fn (): float => mt_rand() / mt_getrandmax(), range(1, 400));
        $kernel = Kernels::compiler()->compile($g, $fields, ['uv' => Binding::Pairs]);
        $there = array_map(static fn (float $c, int $i): float => $c + ($i % 2 === 0 ? 1.0 : -2.0), $points, array_keys($points));
        self::assertEqualsWithDelta($kernel->points(200, [], [], ['uv' => $points]), $kernel->points(200, [], [], ['uv' => $there]), 1e-8);
    }

    #[DataProvider('recipes')]
    public function testMapsHaveOneSizeAndSomethingOnThem(CodedRecipe $recipe): void
    {
        $maps = (new CodedRecipeBake(Kernels::compiler()))->maps($recipe, 64);
        foreach (['base-colour', 'normal', 'roughness', 'occlusion'] as $role) {
            self::assertArrayHasKey($role, $maps);
        }
        foreach ($maps as $role => $image) {
            self::assertSame([64, 64], [$image->width, $image->height]);
            self::assertGreaterThan($role === 'occlusion' ? 2 : 20, \count(array_unique($image->texels)), "$role of {$recipe->name()}");
        }
    }

    public function testASlopeOfOneTiltsTheNormalBy45Degrees(): void
    {
        // A saw of 8 texels: inside a tooth the height grows by one texel a texel.
        $height = array_map(static fn (int $i): float => ($i % 8) / 8.0, range(0, 63));
        $texel = HeightField::normals($height, 8, 8, 8.0)->texels[8 * 3 + 3];
        self::assertEqualsWithDelta([127.5 - 127.5 * \M_SQRT1_2, 127.5, 127.5 + 127.5 * \M_SQRT1_2], [$texel & 255, $texel >> 8 & 255, $texel >> 16 & 255], 1.0);
        $down = array_map(static fn (int $i): float => intdiv($i, 8) / 8.0, range(0, 63));
        self::assertEqualsWithDelta(127.5 + 127.5 * \M_SQRT1_2, HeightField::normals($down, 8, 8, 8.0)->texels[8 * 3 + 3] >> 8 & 255, 1.0, 'rising downwards looks up');
    }

    public function testFlatGroundIsOpenAndAPitIsNot(): void
    {
        self::assertSame(array_fill(0, 256, 255), HeightField::occlusion(array_fill(0, 256, 0.5), 16, 16, 10.0)->texels);
        $pit = array_fill(0, 256, 1.0);
        $pit[8 * 16 + 8] = 0.0;
        $found = new Image(16, 16, 1, HeightField::occlusion(array_values($pit), 16, 16, 1.0)->texels);
        // One texel deep and one wide: the horizon stands at 45 degrees, diagonally at 35.
        self::assertEqualsWithDelta(255 * (0.5 + (1 - 1 / 3)) / 2, $found->texels[8 * 16 + 8], 2.0);
        self::assertSame(255, $found->texels[0]);
    }
}
