<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Lowering\Station;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\Image;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

final class LoweringTest extends TestCase
{
    public function testEveryNumberIsASlotAndEveryStepAStation(): void
    {
        $lowered = Documents::lower([Documents::step('origin', ['seam' => 30.0]), Documents::step('size', ['u' => 2.5])]);
        self::assertSame(['/lanes/0/steps/0/values/seam' => 30.0, '/lanes/0/steps/1/values/u' => 2.5, '/surface/values/density' => 512.0], array_column($lowered->slots, 'value', 'path'));
        self::assertSame(['/lanes/0/steps/0', '/lanes/0/steps/1'], array_map(static fn (Station $s): string => $s->path, $lowered->stations));
    }

    public function testNumbersDoNotChangeTheCodeAndStructureDoes(): void
    {
        $one = self::code([Documents::step('origin', ['seam' => 30.0]), Documents::step('size', ['u' => 2.5])]);
        self::assertSame($one, self::code([Documents::step('origin', ['seam' => 1.0]), Documents::step('size', ['u' => 0.1])]));
        self::assertNotSame($one, self::code([Documents::step('origin', ['space' => 'object']), Documents::step('size')]));
    }

    public function testMapsOfOneKindShareAnArrayTexture(): void
    {
        $shader = Shader::of(Documents::lower([Documents::step('origin')]));
        // Colour, normal, and two single-valued maps of one size.
        self::assertCount(3, $shader->arrays);
        self::assertSame(['set/roughness', 'set/occlusion'], array_values(array_filter($shader->arrays, static fn (array $a): bool => \count($a['slots']) > 1))[0]['slots']);
    }

    public function testMissingMapsTakeNeutralValues(): void
    {
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(1, 1, 1, [51])]);
        $lowered = Documents::lower([Documents::step('origin')], $maps);
        $point = SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.6, 0.8]);
        $found = Kernels::values($lowered->graph, $lowered->channels, $point->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta([0.5, 0.5, 0.5], $found['baseColour'], 1e-12);
        self::assertEqualsWithDelta([0.0, 0.6, 0.8], $found['normal'], 1e-12);
        self::assertEqualsWithDelta([0.2], $found['roughness'], 1e-9);
        self::assertEqualsWithDelta([1.0], $found['occlusion'], 1e-12);
        self::assertEqualsWithDelta([0.0], $found['metallic'], 1e-12);
    }

    public function testCostCountsEveryTapOfEveryMap(): void
    {
        self::assertSame(12, Documents::lower([Documents::step('origin')])->fetches());
        self::assertSame(8, Documents::lower([Documents::step('origin', ['faces' => 'xz'])])->fetches());
        self::assertSame(4, Documents::lower([Documents::step('origin', ['space' => 'mesh'])])->fetches());
    }

    public function testChannelsAreTheWeightedSumOfTheTaps(): void
    {
        // One colour a face would need six sets; a gradient in u tells the taps apart as well.
        $row = array_map(static fn (int $x): int => $x * 16, range(0, 15));
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(16, 1, 1, $row)]);
        $lowered = Documents::lower([Documents::step('origin', ['seam' => 90.0])], $maps);
        $point = SurfaceSample::at([0.15, 0.37, 0.68], [0.5, 0.6, 0.62], pixel: 0.0001);
        $fields = ['roughness' => $lowered->channels['roughness']];
        foreach ($lowered->taps() as $tap) {
            $fields["$tap->name.uv"] = $tap->at->uv;
            $fields["$tap->name.w"] = $tap->weight;
        }
        $found = Kernels::values($lowered->graph, $fields, $point->inputs, $lowered->uniforms(), $maps->everything());
        $sum = 0.0;
        foreach ($lowered->taps() as $tap) {
            $x = ((float) $found["$tap->name.uv"][0] - floor((float) $found["$tap->name.uv"][0])) * 16 - 0.5;
            self::assertTrue($x > 0 && $x < 15, 'inside the ramp');
            $sum += (float) $found["$tap->name.w"][0] * $x * 16 / 255;
        }
        self::assertEqualsWithDelta($sum, $found['roughness'][0], 1e-9);
    }

    public function testPicturesCoverChannelsAndStations(): void
    {
        $names = array_map(static fn (Picture $p): string => $p->name, Picture::all(Documents::lower([Documents::step('origin'), Documents::step('size')])));
        self::assertContains('station:/lanes/0/steps/1', $names);
        self::assertContains('roughness', $names);
        self::assertSame($names, array_unique($names));
    }

    public function testShaderCodeNamesItsStepsAndEndsWithTheChannels(): void
    {
        $shader = Shader::of(Documents::lower([Documents::step('origin'), Documents::step('size', ['u' => 2.0])]));
        self::assertStringContainsString('vec2 main_1_size_x = ', $shader->material);
        self::assertStringContainsString('uniform float main_1_size_u;', $shader->declarations);
        self::assertStringContainsString('Mikkelsen 2020', $shader->declarations, 'library functions carry their source');
        self::assertStringNotContainsString('__', $shader->source(), 'two underscores are reserved');
    }

    /** @param list<array<string, mixed>> $steps */
    private static function code(array $steps): string
    {
        return Shader::of(Documents::lower($steps))->source();
    }

    public function testAMaterialThatIsTooLargeIsRefusedWhereItBecomesSoBeforeTheTimeIsSpent(): void
    {
        $place = ['u' => 0.0, 'v' => 0.0, 'width' => 1.0, 'height' => 1.0, 'turn' => 0.0, 'cell' => 0.0];
        $steps = [Documents::step('origin'), ...array_fill(0, 31, Documents::step('place', ['more' => array_fill(0, 8, $place)]))];
        $document = Documents::whole(array_map(static fn (int $i): array => Documents::lane("l$i", ...$steps), range(0, 31)), [Documents::layer('g', 'l0')]);
        $lowered = Lowering::salvage(Documents::reader()->read($document), TestMaps::noise());
        self::assertMatchesRegularExpression('~^/lanes/0/steps/1\d$~', $lowered->problems[0]->path);
        self::assertStringContainsString('more than 40000 operations', $lowered->problems[0]->message);
        // A step may be the last that fits, and a lane begins with another.
        self::assertLessThan(1.2 * Lowering::MOST_FIELDS, $lowered->graph->size());
        $this->expectException(InvalidDocument::class);
        Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
    }
}
