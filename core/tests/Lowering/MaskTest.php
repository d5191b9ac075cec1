<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Masks of layers against closed forms. */
final class MaskTest extends TestCase
{
    /** @param list<array<string, mixed>> $mask */
    private static function lowered(array $mask): Lowered
    {
        $maps = (new TestMaps())->add('low', ['roughness' => new Image(1, 1, 1, [0]), 'height' => new Image(1, 1, 1, [64]), 'normal' => new Image(1, 1, 4, [128 | 218 << 8 | 218 << 16 | 0xFF000000])])->add('high', ['roughness' => new Image(1, 1, 1, [255])]);
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['space' => 'mesh']))], [Documents::layer('low', 'a', 'low', ['mask' => [['kind' => 'constant', 'values' => ['value' => 0]]]]), Documents::layer('high', 'a', 'high', ['mask' => $mask])]);

        return Lowering::lower(Documents::reader()->read($document), $maps);
    }

    /**
     * @param list<array<string, mixed>> $mask
     * @param array<string, list<float>> $at   of the surface
     */
    private static function share(array $mask, array $at = []): float
    {
        $lowered = self::lowered($mask);
        $inputs = [];
        foreach (Surface::types() as $name => $type) {
            $inputs[$name] = $at[$name] ?? match ($name) {
                'normal' => [0.0, 1.0, 0.0], 'uvT' => [1.0, 0.0, 0.0], 'uvB' => [0.0, 0.0, 1.0], 'objectX' => [1.0, 0.0, 0.0], 'objectY' => [0.0, 1.0, 0.0], 'objectZ' => [0.0, 0.0, 1.0],
                default => array_fill(0, max(1, $type->width()), 0.0),
            };
        }
        $texels = ['low/roughness' => [0], 'high/roughness' => [255], 'low/height' => [64], 'low/normal' => [128 | 218 << 8 | 218 << 16 | 0xFF000000]];
        // The roughness of the upper layer over that of the lower one is the mask.
        $found = Kernels::compiler()->compile($lowered->graph, ['share' => $lowered->channels['roughness']], array_map(static fn (): Binding => Binding::Constant, $inputs))->points(1, $lowered->uniforms(), $texels, $inputs);

        return (float) $found['share'][0][0];
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array<string, mixed>
     */
    private static function term(string $kind, array $values = []): array
    {
        return ['kind' => $kind, 'values' => $values];
    }

    public function testWithoutAMaskALayerLiesEverywhereAndTheLowestHasNone(): void
    {
        self::assertSame(1.0, self::share([]));
        self::assertSame(['/layers/1'], array_keys(self::lowered([self::term('constant')])->masks));
        self::assertSame([], self::lowered([])->masks);
    }

    /** @return iterable<string, array{list<array<string, mixed>>, float}> */
    public static function algebra(): iterable
    {
        $grey = static fn (float $percent, array $more = []): array => ['kind' => 'constant', 'values' => ['value' => $percent] + $more];
        yield 'a constant' => [[$grey(30)], 0.3];
        yield 'the first has no way' => [[$grey(30, ['how' => 'subtract'])], 0.3];
        yield 'multiply' => [[$grey(30), $grey(50)], 0.15];
        yield 'add' => [[$grey(30), $grey(50, ['how' => 'add'])], 0.8];
        yield 'add too much' => [[$grey(70), $grey(50, ['how' => 'add'])], 1.0];
        yield 'subtract' => [[$grey(70), $grey(50, ['how' => 'subtract'])], 0.2];
        yield 'subtract too much' => [[$grey(30), $grey(50, ['how' => 'subtract'])], 0.0];
        yield 'the darker' => [[$grey(30), $grey(50, ['how' => 'least'])], 0.3];
        yield 'the lighter' => [[$grey(30), $grey(50, ['how' => 'most'])], 0.5];
        yield 'difference' => [[$grey(30), $grey(50, ['how' => 'difference'])], 0.2];
        yield 'levels' => [[$grey(40, ['low' => 0.2, 'high' => 0.6])], 0.5];
        yield 'levels the other way round' => [[$grey(40, ['low' => 0.6, 'high' => 0.1])], 0.4];
        yield 'a lighter middle' => [[$grey(25, ['gamma' => 2])], 0.5];
        yield 'more contrast' => [[$grey(60, ['contrast' => 300])], 0.8];
        yield 'less contrast about a dark grey' => [[$grey(60, ['contrast' => 50, 'pivot' => 0.2])], 0.4];
        yield 'no contrast' => [[$grey(90, ['contrast' => 0, 'pivot' => 0.3])], 0.3];
        yield 'contrast, then turned over' => [[$grey(70, ['contrast' => 200, 'invert' => true])], 0.1];
        yield 'turned over' => [[$grey(30, ['invert' => true])], 0.7];
        yield 'three of them' => [[$grey(80), $grey(50), $grey(20, ['how' => 'add', 'invert' => true])], 1.0];
    }

    /** @param list<array<string, mixed>> $mask */
    #[DataProvider('algebra')]
    public function testTermsAreCombined(array $mask, float $expected): void
    {
        self::assertEqualsWithDelta($expected, self::share($mask), 1e-6);
    }

    public function testSlopeIsTheAngleToAnAxis(): void
    {
        $mask = [self::term('slope', ['angle' => 45, 'softness' => 30])];
        foreach ([0 => 1.0, 30 => 1.0, 45 => 0.5, 50 => 1 / 3, 60 => 0.0, 90 => 0.0, 180 => 0.0] as $degrees => $expected) {
            $a = deg2rad($degrees);
            self::assertEqualsWithDelta($expected, self::share($mask, ['normal' => [sin($a), cos($a), 0.0]]), 1e-5, "at $degrees degrees");
        }
        self::assertEqualsWithDelta(1.0, self::share([self::term('slope', ['axis' => '-y', 'angle' => 10])], ['normal' => [0.0, -1.0, 0.0]]), 1e-6);
        // The normal map below leans by 45° in the plane: it counts only if it is asked for.
        self::assertEqualsWithDelta(1.0, self::share([self::term('slope', ['angle' => 30, 'softness' => 10])]), 1e-6);
        self::assertEqualsWithDelta(0.0, self::share([self::term('slope', ['angle' => 30, 'softness' => 10, 'detailed' => true])]), 1e-6);
    }

    public function testLevelIsBelowAHeightOfTheWorld(): void
    {
        $mask = [self::term('level', ['at' => 0.6, 'fade' => 0.4, 'breaks' => 0])];
        foreach ([[-3.0, 1.0], [0.4, 1.0], [0.5, 0.75], [0.6, 0.5], [0.8, 0.0], [9.0, 0.0]] as [$y, $expected]) {
            self::assertEqualsWithDelta($expected, self::share($mask, ['position' => [2.0, $y, -1.0]]), 1e-6);
        }
        // A band of a metre below that.
        foreach ([[-3.0, 0.0], [-0.6, 0.0], [-0.4, 0.5], [-0.3, 0.75], [0.0, 1.0], [0.6, 0.5], [9.0, 0.0]] as [$y, $expected]) {
            self::assertEqualsWithDelta($expected, self::share([self::term('level', ['at' => 0.6, 'band' => 1.0, 'fade' => 0.4, 'breaks' => 0])], ['position' => [2.0, $y, -1.0]]), 1e-6, "a band, $y");
        }
        $edges = array_map(static fn (float $x): float => self::share([self::term('level', ['at' => 0.6, 'fade' => 0.4, 'breaks' => 1.0])], ['position' => [$x, 0.6, 0.3]]), [0.1, 0.5, 0.9, 1.3, 1.7]);
        self::assertGreaterThan(0.2, max($edges) - min($edges), 'noise breaks the edge');
    }

    public function testBelowIsTheDepthOfWhatLiesBelow(): void
    {
        self::assertEqualsWithDelta(1 - 64 / 255, self::share([self::term('below')]), 1e-6);
        self::assertArrayHasKey('height', self::lowered([self::term('below')])->channels, 'heights are read because a mask asks');
        self::assertArrayNotHasKey('height', self::lowered([self::term('noise')])->channels);
    }

    public function testDistanceAndObjects(): void
    {
        $mask = [self::term('distance', ['near' => 10, 'far' => 30])];
        self::assertEqualsWithDelta([0.0, 0.25, 1.0], array_map(static fn (float $d): float => self::share($mask, ['viewDistance' => [$d]]), [4.0, 15.0, 99.0]), 1e-6);
        $greys = array_map(static fn (int $seed): float => self::share([self::term('object')], ['objectSeed' => [(float) $seed]]), range(1, 12));
        self::assertCount(12, array_unique($greys));
        self::assertGreaterThan(0.4, max($greys) - min($greys));
        self::assertSame($greys[0], self::share([self::term('object')], ['objectSeed' => [1.0], 'position' => [5.0, 5.0, 5.0]]));
    }

    public function testWhatIsPaintedIsReadChannelByChannel(): void
    {
        $painted = ['painted' => [0.1, 0.35, 0.6, 0.85]];
        foreach ([0.1, 0.35, 0.6, 0.85] as $i => $value) {
            self::assertEqualsWithDelta($value, self::share([self::term('painted', ['channel' => (string) ($i + 1)])], $painted), 1e-12);
        }
        self::assertEqualsWithDelta(0.1, self::share([self::term('painted')], $painted), 1e-12);
        self::assertSame(0.0, self::share([self::term('painted', ['channel' => '4'])]), 'where nothing is painted');
    }

    public function testSectionsAreToldApart(): void
    {
        foreach ([0 => [1.0, 0.0, 0.0], 1 => [0.0, 1.0, 0.0], 7 => [0.0, 0.0, 0.0]] as $section => $shares) {
            self::assertSame($shares, array_map(static fn (int $number): float => self::share([self::term('section', ['number' => $number])], ['section' => [(float) $section]]), [1, 2, 3]));
        }
        self::assertSame(1.0, self::share([self::term('section', ['number' => 2]), self::term('section', ['number' => 3, 'how' => 'most'])], ['section' => [2.0]]));
    }

    public function testNoiseHasItsSizeAndStaysWithTheObjectIfAsked(): void
    {
        $near = abs(self::noise(['size' => 50], ['position' => [1.0, 0.0, 1.0]]) - self::noise(['size' => 50], ['position' => [1.2, 0.0, 1.0]]));
        self::assertLessThan(0.02, $near, 'patches of 50 m change little over 20 cm');
        $moved = ['position' => [7.3, 0.0, 4.1], 'objectOrigin' => [5.0, 0.0, 2.0]];
        self::assertEqualsWithDelta(self::noise(['space' => 'object'], ['position' => [2.3, 0.0, 2.1]]), self::noise(['space' => 'object'], $moved), 1e-9);
        self::assertNotEqualsWithDelta(self::noise([], ['position' => [2.3, 0.0, 2.1]]), self::noise([], $moved), 1e-4);
    }

    /**
     * @param array<string, mixed>       $values
     * @param array<string, list<float>> $surface
     */
    private static function noise(array $values, array $surface): float
    {
        return self::share([self::term('noise', $values)], $surface);
    }

    public function testAMaskCanBeShownAndItsNumbersAreUniforms(): void
    {
        $lowered = self::lowered([self::term('noise', ['size' => 3]), self::term('slope')]);
        self::assertContains('mask:/layers/1', array_map(static fn (Picture $p): string => $p->name, Picture::all($lowered)));
        self::assertContains('/layers/1/mask/0/values/size', array_column($lowered->slots, 'path'));
    }

    /** @param array<string, mixed> $values */
    private static function read(array $values, float $u = 0.3): float
    {
        $ramp = array_map(static fn (int $x): int => 16 * $x, range(0, 15));
        $maps = (new TestMaps())
            ->add('set', ['base-colour' => new Image(1, 1, 4, [200 | 100 << 8 | 50 << 16 | 128 << 24]), 'roughness' => new Image(1, 1, 1, [102])])
            ->add('several', ['mask' => new Image(1, 1, 4, [200 | 100 << 8 | 50 << 16 | 128 << 24])])
            ->add('drawn', ['mask' => new Image(16, 1, 1, $ramp)]);
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']))], [Documents::layer('low', 'a'), Documents::layer('high', 'a', 'set', ['mask' => [self::term('map', $values)]])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
        $at = FloorLane::at($u, 0.5, pixel: 1e-4);

        return (float) Kernels::value($lowered->graph, $lowered->masks['/layers/1'], $at->inputs, $lowered->uniforms(), $maps->everything())[0];
    }

    public function testAMapMasksByOneOfItsChannels(): void
    {
        [$r, $g, $b] = array_map(static fn (int $byte): float => Srgb::table()[$byte], [200, 100, 50]);
        foreach (['red' => $r, 'green' => $g, 'blue' => $b, 'alpha' => 128 / 255, 'luminance' => 0.2126 * $r + 0.7152 * $g + 0.0722 * $b] as $channel => $value) {
            self::assertEqualsWithDelta($value, self::read(['map' => 'set/base-colour', 'reads' => $channel]), 1e-6, $channel);
        }
        self::assertEqualsWithDelta(0.4, self::read(['map' => 'set/roughness', 'reads' => 'alpha']), 1e-6, 'a map of one value has only that');
        // A mask with colours has one mask in each channel, as plain numbers.
        foreach (['red' => 200, 'green' => 100, 'blue' => 50, 'alpha' => 128, 'luminance' => 0.2126 * 200 + 0.7152 * 100 + 0.0722 * 50] as $channel => $byte) {
            self::assertEqualsWithDelta($byte / 255, self::read(['map' => 'several/mask', 'reads' => $channel]), 1e-6, $channel);
        }
        self::assertEqualsWithDelta(1.0, self::read([]), 1e-9, 'no map is white');
    }

    public function testAMaskMayBeMuchLargerThanTheMapsThatItMixes(): void
    {
        // Sixteen texels over a metre, or over four: between their middles it rises evenly.
        $ramp = static fn (float $u): float => 16 * (16 * $u - 0.5) / 255;
        foreach ([0.2, 0.45, 0.8] as $u) {
            self::assertEqualsWithDelta($ramp($u), self::read(['map' => 'drawn/mask'], $u), 1e-4, "$u");
            self::assertEqualsWithDelta($ramp($u / 4), self::read(['map' => 'drawn/mask', 'times' => 4], $u), 1e-4, "$u, four times as large");
        }
    }

    public function testAMapThatIsGoneIsNamedAndTheRestOfTheMaskHolds(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']))], [Documents::layer('low', 'a'), Documents::layer('high', 'a', 'set', ['mask' => [self::term('map', ['map' => 'lost/mask']), self::term('constant', ['value' => 30])]])]);
        $material = Documents::reader()->read($document);
        self::assertContains('lost', $material->sets(), 'what a mask reads is among what a material reads');
        $lowered = Lowering::salvage($material, TestMaps::noise());
        self::assertSame(['/layers/1/mask/0/values/map'], array_column($lowered->problems, 'path'));
        self::assertEqualsWithDelta(0.3, Kernels::value($lowered->graph, $lowered->masks['/layers/1'], FloorLane::at(0.1, 0.1)->inputs, $lowered->uniforms())[0], 1e-6);
    }

    public function testDocumentsKeepMasksAndMistakesHavePlaces(): void
    {
        $of = Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a', 'set', ['mask' => [self::term('noise', ['size' => 9])]])]);
        $written = Writer::json(Documents::reader()->read($of));
        self::assertStringContainsString('"mask":[{"kind":"noise","values":{"how":"multiply","form":"smooth","space":"world","size":9', $written);
        self::assertSame($written, Writer::json(Documents::reader()->readJson($written)));
        $problems = Documents::reader()->salvage(['layers' => [Documents::layer('low', 'a', 'set', ['mask' => [self::term('fog'), self::term('noise', ['size' => -1])]])]] + $of)->problems;
        self::assertSame(['/layers/0/mask/0/kind', '/layers/0/mask/1/values/size'], array_column($problems, 'path'));
    }
}
