<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\FloorLane;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Kinds of surfaces, what of them is there, their two sides, and what glows. */
final class CoverTest extends TestCase
{
    private const GLOW = [255, 128, 0];

    /**
     * A set with an opacity of 0.4 and a glow, one whose colour has an alpha of 0.8, and one that says nothing of either.
     *
     * @param list<array<string, mixed>> $layers
     * @param array<string, mixed>       $surface
     */
    private static function lowered(array $layers, array $surface = []): Lowered
    {
        [$r, $g, $b] = self::GLOW;

        return Lowering::lower(Documents::reader()->read(Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']))], $layers) + ['surface' => ['values' => $surface]]), self::maps($r | $g << 8 | $b << 16 | 0xFF000000));
    }

    private static function maps(int $glow): TestMaps
    {
        $grey = static fn (int $alpha): Image => new Image(1, 1, 4, [100 | 100 << 8 | 100 << 16 | $alpha << 24]);

        return (new TestMaps())
            ->add('lamp', ['base-colour' => $grey(255), 'opacity' => new Image(1, 1, 1, [102]), 'emission' => new Image(1, 1, 4, [$glow])])
            ->add('leaf', ['base-colour' => $grey(204)])
            ->add('stone', ['base-colour' => $grey(255)]);
    }

    /**
     * @param array<string, float> $uniforms
     *
     * @return list<float>
     */
    private static function channel(Lowered $lowered, string $channel, float $facing = 1.0, array $uniforms = []): array
    {
        [$r, $g, $b] = self::GLOW;
        $texels = $lowered->texels(self::maps($r | $g << 8 | $b << 16 | 0xFF000000));

        return array_map(floatval(...), Kernels::value($lowered->graph, $lowered->channels[$channel], ['facing' => [$facing]] + FloorLane::at(0.3, 0.4)->inputs, $uniforms + $lowered->uniforms(), $texels));
    }

    public function testAClosedSurfaceHasNoCodeForIt(): void
    {
        $plain = self::lowered([Documents::layer('low', 'a', 'stone')]);
        self::assertSame([], array_intersect_key($plain->channels, ['opacity' => 1, 'coverage' => 1, 'emission' => 1]));
        self::assertStringNotContainsString('coverage', Shader::of($plain)->material);
        self::assertStringContainsString('float coverage;', Shader::of(self::lowered([Documents::layer('low', 'a', 'stone')], ['kind' => 'translucent']))->material);
    }

    /** @return iterable<string, array{string, float}> set and its opacity */
    public static function opacities(): iterable
    {
        yield 'a map says so' => ['lamp', 0.4];
        yield 'the alpha of its colours does' => ['leaf', 0.8];
        yield 'nothing does' => ['stone', 1.0];
    }

    #[DataProvider('opacities')]
    public function testOpacityComesFromItsMapOrFromTheAlphaOfColours(string $set, float $opacity): void
    {
        $layers = [Documents::layer('low', 'a', $set)];
        $through = self::lowered($layers, ['kind' => 'translucent']);
        self::assertEqualsWithDelta([[$opacity], [$opacity]], [self::channel($through, 'opacity'), self::channel($through, 'coverage')], 1e-9);
        foreach ([10.0, 41.0, 79.0, 81.0] as $threshold) {
            $cut = self::lowered($layers, ['kind' => 'cut-out', 'threshold' => $threshold]);
            self::assertSame([100 * $opacity >= $threshold ? 1.0 : 0.0], self::channel($cut, 'coverage'), "$set at $threshold %");
        }
    }

    /** @return iterable<string, array{array<string, mixed>, float, TestMaps}> layers, threshold in percent, maps */
    public static function holes(): iterable
    {
        mt_srand(11);
        // Thin bars, soft blotches and single texels: what averaging closes or clears.
        $alphas = [
            'bars' => array_map(static fn (int $i): int => intdiv($i, 128) % 8 === 3 ? 255 : 0, range(0, 128 * 128 - 1)),
            'holes' => array_map(static fn (int $i): int => hypot($i % 16 - 8, intdiv($i, 128) % 16 - 8) < 4.5 ? 0 : 255, range(0, 128 * 128 - 1)),
            'specks' => array_map(static fn (): int => mt_rand(0, 255) ** 2 >> 8, range(0, 128 * 128 - 1)),
        ];
        foreach ($alphas as $name => $alpha) {
            $maps = (new TestMaps())
                ->add('colour', ['base-colour' => new Image(128, 128, 4, array_map(static fn (int $a): int => 0x808080 | $a << 24, $alpha))])
                ->add('map', ['base-colour' => new Image(128, 128, 4, array_fill(0, 128 * 128, 0xFF808080)), 'opacity' => new Image(128, 128, 1, $alpha)])
                ->add('packed', ['packed' => new Image(128, 128, 4, array_map(static fn (int $a): int => 0xFF800080 | $a << 8, $alpha))], packed: [[Role::Opacity, 'y', false]])
                ->add('plain', ['roughness' => new Image(128, 128, 1, $alpha)]);
            foreach ([50.0, 25.0] as $threshold) {
                yield "$name in the alpha of the colour, $threshold %" => [['set' => 'colour'], $threshold, $maps];
                yield "$name in a map, $threshold %" => [['set' => 'map'], $threshold, $maps];
                yield "$name in a channel, $threshold %" => [['set' => 'packed'], $threshold, $maps];
                yield "$name in a mask, $threshold %" => [['mask' => [['kind' => 'map', 'values' => ['map' => 'plain/roughness']]]], $threshold, $maps];
            }
        }
    }

    /** @param array<string, mixed> $layer */
    #[DataProvider('holes')]
    public function testHolesKeepTheirShareFromOneMetreToTwoHundred(array $layer, float $threshold, TestMaps $maps): void
    {
        $lane = Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => 0.5]));
        $layers = isset($layer['mask'])
            // A hole by a mask: a layer that is not there, over one that is.
            ? [Documents::layer('low', 'a', 'plain', ['finish' => ['values' => ['opacityFactor' => 0]]]), Documents::layer('high', 'a', 'plain', $layer)]
            : [Documents::layer('low', 'a', \is_string($layer['set'] ?? null) ? $layer['set'] : '')];
        $lowered = Lowering::lower(Documents::reader()->read(Documents::whole([$lane], $layers) + ['surface' => ['values' => ['kind' => 'cut-out', 'threshold' => $threshold]]]), $maps);
        $kernel = Kernels::compiler()->compile($lowered->graph, ['there' => $lowered->channels['coverage']], array_map(static fn (Type $t): Binding => match ($t->width()) {
            1 => Binding::Scalars, 2 => Binding::Pairs, default => Binding::Triples,
        }, Surface::types()));
        $shares = [];
        foreach ([1.0, 3.0, 10.0, 30.0, 100.0, 200.0] as $distance) {
            // A picture of 120 x 80 pixels, each a thousandth of the distance.
            $inputs = array_fill_keys(array_keys(Surface::types()), []);
            for ($i = 0; $i < 9600; ++$i) {
                $point = FloorLane::at(0.137 + 0.001 * $distance * ($i % 120), 0.071 + 0.001 * $distance * intdiv($i, 120), 0.001 * $distance, distance: $distance);
                foreach ($point->inputs as $name => $values) {
                    array_push($inputs[$name], ...$values);
                }
            }
            $found = $kernel->points(9600, $lowered->uniforms(), $lowered->texels($maps), $inputs)['there'][0];
            $shares[] = array_sum($found) / 9600;
        }
        // What is there in a picture at one metre is some of the map only; the truth is the share of the map itself.
        foreach ($shares as $n => $share) {
            self::assertEqualsWithDelta($shares[5], $share, $n === 0 ? 0.06 : 0.03, implode(' ', array_map(static fn (float $s): string => \sprintf('%.3f', $s), $shares)));
        }
        self::assertGreaterThan(0.05, $shares[5]);
        self::assertLessThan(0.95, $shares[5]);
    }

    public function testTheBackHasAThresholdOfItsOwn(): void
    {
        $cut = self::lowered([Documents::layer('low', 'a', 'lamp')], ['kind' => 'cut-out', 'sides' => 'both', 'threshold' => 30, 'thresholdBack' => 60]);
        self::assertSame([[1.0], [0.0]], [self::channel($cut, 'coverage', 1.0), self::channel($cut, 'coverage', -1.0)]);
        self::assertSame([1.0], self::channel($cut, 'coverage', -1.0, ['surface_thresholdBack' => 39.0]), 'it is a uniform');
    }

    public function testALayerMaskedToTheBackGivesItMapsOfItsOwn(): void
    {
        $sides = self::lowered(
            [Documents::layer('front', 'a', 'stone'), Documents::layer('back', 'a', 'lamp', ['mask' => [['kind' => 'side']], 'finish' => ['values' => ['tint' => [0.5, 0.5, 0.5]]]])],
            ['kind' => 'translucent', 'sides' => 'both'],
        );
        self::assertEqualsWithDelta([1.0], self::channel($sides, 'opacity', 1.0), 1e-6);
        self::assertEqualsWithDelta([0.4], self::channel($sides, 'opacity', -1.0), 1e-6);
        $grey = Srgb::table()[100];
        self::assertEqualsWithDelta([$grey, $grey, $grey], self::channel($sides, 'baseColour', 1.0), 1e-6);
        $dim = Srgb::toLinear(0.5) * $grey;
        self::assertEqualsWithDelta([$dim, $dim, $dim], self::channel($sides, 'baseColour', -1.0), 1e-6);
        $front = self::lowered([Documents::layer('low', 'a', 'stone'), Documents::layer('high', 'a', 'lamp', ['mask' => [['kind' => 'side', 'values' => ['side' => 'front']]]])], ['kind' => 'translucent', 'sides' => 'both']);
        self::assertEqualsWithDelta([0.4], self::channel($front, 'opacity', 1.0), 1e-6);
    }

    public function testWhatGlowsIsTheMapTimesColourTimesStrength(): void
    {
        $light = array_map(static fn (int $b): float => Srgb::table()[$b], self::GLOW);
        self::assertEqualsWithDelta($light, self::channel(self::lowered([Documents::layer('low', 'a', 'lamp')]), 'emission'), 1e-9);
        $finished = self::lowered([Documents::layer('low', 'a', 'lamp', ['finish' => ['values' => ['glow' => [1, 0.5, 0], 'glowStrength' => 400]]])]);
        self::assertEqualsWithDelta([4 * $light[0], 4 * Srgb::toLinear(0.5) * $light[1], 0.0], self::channel($finished, 'emission'), 1e-9, 'also above 1');
        $all = self::lowered([Documents::layer('low', 'a', 'stone', ['finish' => ['values' => ['glow' => [0.2, 0.4, 0.6], 'glowStrength' => 50]]])]);
        self::assertEqualsWithDelta(array_map(static fn (float $c): float => Srgb::toLinear($c) / 2, [0.2, 0.4, 0.6]), self::channel($all, 'emission'), 1e-9, 'without a map all of it');
        // Laid half over something dark it is half as bright; as an addition, it is added.
        foreach (['mix' => 0.5, 'add' => 0.5] as $mode => $share) {
            $laid = self::lowered([Documents::layer('low', 'a', 'stone'), Documents::layer('high', 'a', 'lamp', ['mode' => $mode, 'opacity' => 50])]);
            self::assertEqualsWithDelta(array_map(static fn (float $l): float => $share * $l, $light), self::channel($laid, 'emission'), 1e-9, $mode);
        }
        $silent = self::lowered([Documents::layer('low', 'a', 'stone'), Documents::layer('high', 'a', 'lamp', ['channels' => ['colour']])]);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], self::channel($silent, 'emission'), 1e-9, 'it does not write it');
    }

    public function testWhereNoLayerLiesThereIsNothing(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'y']), Documents::step('place', ['u' => 0.3, 'v' => 0.4, 'width' => 0.2, 'height' => 0.2]))], [Documents::layer('low', 'a', 'stone')]);
        $lowered = Lowering::lower(Documents::reader()->read($document + ['surface' => ['values' => ['kind' => 'cut-out']]]), self::maps(0));
        $at = static fn (float $u): float => (float) Kernels::value($lowered->graph, $lowered->channels['coverage'], FloorLane::at($u, 0.4)->inputs, $lowered->uniforms(), $lowered->texels(self::maps(0)))[0];
        self::assertSame([1.0, 0.0], [$at(0.3), $at(0.9)]);
    }

    public function testOpacityHasAFinishToo(): void
    {
        $turned = self::lowered([Documents::layer('low', 'a', 'lamp', ['finish' => ['values' => ['opacityInvert' => true, 'opacityFactor' => 50]]])], ['kind' => 'translucent']);
        self::assertEqualsWithDelta([0.3], self::channel($turned, 'opacity'), 1e-9);
    }

    public function testOnlyWhatIsSaidIsWritten(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a')]);
        self::assertStringNotContainsString('surface', Writer::json(Documents::reader()->read($document)));
        $json = Writer::json(Documents::reader()->read($document + ['surface' => ['values' => ['kind' => 'cut-out', 'threshold' => 35, 'sides' => 'front']]]));
        self::assertStringContainsString('"surface":{"values":{"kind":"cut-out","threshold":35}}', $json);
        self::assertSame($json, Writer::json(Documents::reader()->readJson($json)));
        $this->expectException(InvalidDocument::class);
        $this->expectExceptionMessage('/surface/values/kind: expected one of opaque, cut-out, translucent, found "glass"');
        Documents::reader()->read($document + ['surface' => ['values' => ['kind' => 'glass']]]);
    }
}
