<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Finish;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** A layer's finish on maps of one value, against closed forms. */
final class FinishTest extends TestCase
{
    /** sRGB bytes 200, 100, 50 */
    private const COLOUR = [200, 100, 50];

    /** @param array<string, mixed> $finish */
    private static function lowered(array $finish): Lowered
    {
        [$r, $g, $b] = self::COLOUR;
        $maps = (new TestMaps())->add('set', [
            'base-colour' => new Image(1, 1, 4, [$r | $g << 8 | $b << 16 | 0xFF000000]),
            'normal' => new Image(1, 1, 4, [158 | 128 << 8 | 251 << 16 | 0xFF000000]),
            'roughness' => new Image(1, 1, 1, [102]),
            'metallic' => new Image(1, 1, 1, [51]),
            'occlusion' => new Image(1, 1, 1, [204]),
        ]);
        $steps = [Documents::step('origin', ['space' => 'mesh'])];
        $document = Documents::whole([Documents::lane('a', ...$steps)], [Documents::layer('low', 'a', 'set', $finish === [] ? [] : ['finish' => ['values' => $finish]])]);

        return Lowering::lower(Documents::reader()->read($document), $maps);
    }

    /**
     * @param array<string, mixed> $finish
     *
     * @return list<float>
     */
    private static function channel(string $channel, array $finish): array
    {
        $lowered = self::lowered($finish);
        $inputs = [];
        foreach (Surface::types() as $name => $type) {
            $inputs[$name] = match ($name) {
                'normal' => [0.0, 0.0, 1.0], 'uvT' => [1.0, 0.0, 0.0], 'uvB' => [0.0, -1.0, 0.0],
                default => array_fill(0, max(1, $type->width()), 0.01),
            };
        }
        [$r, $g, $b] = self::COLOUR;
        $texels = ['set/base-colour' => [$r | $g << 8 | $b << 16 | 0xFF000000], 'set/normal' => [158 | 128 << 8 | 251 << 16 | 0xFF000000], 'set/roughness' => [102], 'set/metallic' => [51], 'set/occlusion' => [204]];
        $found = Kernels::compiler()->compile($lowered->graph, ['it' => $lowered->channels[$channel]], array_map(static fn (): Binding => Binding::Constant, $inputs))->points(1, $lowered->uniforms(), $texels, $inputs);

        return array_map(static fn (array $one): float => (float) $one[0], $found['it']);
    }

    /** @return list<float> */
    private static function linear(): array
    {
        return array_map(static fn (int $byte): float => Srgb::table()[$byte], self::COLOUR);
    }

    public function testWhatIsNotSaidCostsNothing(): void
    {
        $plain = self::lowered([]);
        self::assertSame([], array_filter($plain->slots, static fn ($slot): bool => str_contains($slot->path, 'finish')));
        $tinted = self::lowered(['tint' => [1, 0.5, 0]]);
        self::assertSame(['/layers/0/finish/values/tint/0', '/layers/0/finish/values/tint/1', '/layers/0/finish/values/tint/2'], array_values(array_filter(array_column($tinted->slots, 'path'), static fn (string $p): bool => str_contains($p, 'finish'))));
    }

    public function testDefaultsChangeNothing(): void
    {
        $all = [];
        foreach (Finish::controls() as $control) {
            $all[$control->name()] = $control->default();
        }
        foreach (['baseColour', 'roughness', 'metallic', 'occlusion', 'slope'] as $channel) {
            self::assertEqualsWithDelta(self::channel($channel, []), self::channel($channel, $all), 2e-5, $channel);
        }
    }

    public function testColoursAreTintedInLinearLight(): void
    {
        $tint = array_map(static fn (float $c): float => $c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4, [0.5, 1.0, 0.0]);
        self::assertEqualsWithDelta(array_map(static fn (float $a, float $b): float => $a * $b, self::linear(), $tint), self::channel('baseColour', ['tint' => [0.5, 1, 0]]), 1e-6);
    }

    public function testSaturationZeroIsGreyAndBelowItColoursTurnToTheirOpposites(): void
    {
        [$r, $g, $b] = self::channel('baseColour', ['saturation' => 0]);
        self::assertEqualsWithDelta([$r, $r], [$g, $b], 1e-4);
        $opposite = self::channel('baseColour', ['saturation' => -100]);
        self::assertEqualsWithDelta($opposite, self::channel('baseColour', ['hue' => 180]), 1e-5, 'half round the circle');
        self::assertGreaterThan($opposite[0], $opposite[2], 'orange turned blue');
        self::assertEqualsWithDelta(self::linear(), self::channel('baseColour', ['hue' => 360]), 1e-5, 'once round is nothing');
        // Oklab's lightness is a cube root: 80 % of it on a grey is its light times 0.8 cubed.
        $grey = self::channel('baseColour', ['saturation' => 0, 'lightness' => 80]);
        self::assertEqualsWithDelta($r * 0.8 ** 3, $grey[0], 1e-5);
    }

    public function testLevelsAreInLinearLight(): void
    {
        $expected = array_map(static fn (float $c): float => max(0.0, min(1.0, ($c - 0.1) / 0.4)) ** (1 / 2.0), self::linear());
        self::assertEqualsWithDelta($expected, self::channel('baseColour', ['darkest' => 0.1, 'lightest' => 0.5, 'middle' => 2.0]), 1e-3);
    }

    /** @return iterable<string, array{string, array<string, mixed>, float}> */
    public static function scalars(): iterable
    {
        yield 'a factor' => ['roughness', ['roughnessFactor' => 150], 0.6];
        yield 'a factor that goes too far' => ['roughness', ['roughnessFactor' => 400], 1.0];
        yield 'another range' => ['roughness', ['roughnessFrom' => 0.5, 'roughnessTo' => 0.7], 0.58];
        yield 'turned over' => ['roughness', ['roughnessInvert' => true], 0.6];
        yield 'turned over, then another range, then a factor' => ['metallic', ['metallicInvert' => true, 'metallicFrom' => 0.2, 'metallicTo' => 1.0, 'metallicFactor' => 50], 0.42];
        yield 'occlusion half as strong' => ['occlusion', ['occlusionStrength' => 50], 0.9];
        yield 'occlusion twice as strong, in another range' => ['occlusion', ['occlusionFrom' => 0.5, 'occlusionStrength' => 200], 0.8];
    }

    /** @param array<string, mixed> $finish */
    #[DataProvider('scalars')]
    public function testValues(string $channel, array $finish, float $expected): void
    {
        self::assertEqualsWithDelta([$expected], self::channel($channel, $finish), 1e-6);
    }

    public function testReliefScalesSlopes(): void
    {
        $slope = self::channel('slope', []);
        self::assertGreaterThan(0.1, abs($slope[0]));
        foreach ([300.0, -50.0, 0.0] as $relief) {
            self::assertEqualsWithDelta(array_map(static fn (float $s): float => $s * $relief / 100, $slope), self::channel('slope', ['relief' => $relief]), 1e-9);
        }
    }

    public function testOnlyWhatWasSaidIsWritten(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a', 'set', ['finish' => ['values' => ['hue' => 12, 'roughnessInvert' => true]]]), Documents::layer('high', 'a', 'set')]);
        $written = json_decode(Writer::json(Documents::reader()->read($document)), true);
        self::assertIsArray($written);
        self::assertIsArray($written['layers']);
        self::assertSame([['values' => ['hue' => 12, 'roughnessInvert' => true]], null], array_map(static fn (mixed $l): mixed => \is_array($l) ? $l['finish'] ?? null : null, $written['layers']));
        $problems = Documents::reader()->salvage(['layers' => [Documents::layer('low', 'a', 'set', ['finish' => ['values' => ['hue' => 'red', 'gloss' => 1]]])]] + $document)->problems;
        self::assertSame(['/layers/0/finish/values/gloss', '/layers/0/finish/values/hue'], array_column($problems, 'path'));
    }

    public function testANumberOfAFinishFollowsAParameter(): void
    {
        $document = ['parameters' => [['id' => 'age', 'name' => 'Age', 'kind' => 'number', 'value' => 0.4]]] + Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a', 'set', ['finish' => ['values' => ['roughnessFactor' => ['parameter' => 'age', 'factor' => 100, 'offset' => 60]]]])]);
        $maps = (new TestMaps())->add('set', ['roughness' => new Image(1, 1, 1, [102])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
        self::assertContains('/parameters/0/value', array_column($lowered->slots, 'path'));
        self::assertContains('/layers/0/finish/values/roughnessFactor/factor', array_column($lowered->slots, 'path'));
    }
}
