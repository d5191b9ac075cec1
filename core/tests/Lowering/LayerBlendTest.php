<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\LayerMode;
use Rilta\Core\Material\Writer;
use Rilta\Core\Raster\Image;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** How layers lie over one another, on maps of one value, against closed forms. */
final class LayerBlendTest extends TestCase
{
    /** Bytes of the two sets: colour, slope to the right, roughness, metallic, occlusion, height. */
    private const LOW = ['colour' => [40, 120, 200], 'normal' => 158, 'roughness' => 102, 'metallic' => 51, 'occlusion' => 204, 'height' => 90];
    private const HIGH = ['colour' => [220, 60, 128], 'normal' => 108, 'roughness' => 179, 'metallic' => 230, 'occlusion' => 128, 'height' => 150];

    /**
     * @param array{colour: array{int, int, int}, normal: int, roughness: int, metallic: int, occlusion: int, height: int} $bytes
     *
     * @return array<string, list<int>>
     */
    private static function texels(array $bytes): array
    {
        [$r, $g, $b] = $bytes['colour'];
        $x = ($bytes['normal'] - 127.5) / 127.5;
        $z = (int) round(127.5 + 127.5 * sqrt(1 - $x * $x));

        return [
            'base-colour' => [$r | $g << 8 | $b << 16 | 0xFF000000], 'normal' => [$bytes['normal'] | 128 << 8 | $z << 16 | 0xFF000000],
            'roughness' => [$bytes['roughness']], 'metallic' => [$bytes['metallic']], 'occlusion' => [$bytes['occlusion']], 'height' => [$bytes['height']],
        ];
    }

    /**
     * @param array<string, mixed> $high of the upper layer
     *
     * @return array<string, list<float>> by channel
     */
    private static function channels(array $high): array
    {
        $maps = new TestMaps();
        $all = [];
        foreach (['low' => self::LOW, 'high' => self::HIGH] as $set => $bytes) {
            $texels = self::texels($bytes);
            $images = [];
            foreach ($texels as $role => $list) {
                $images[$role] = new Image(1, 1, \in_array($role, ['base-colour', 'normal'], true) ? 4 : 1, $list);
            }
            $maps->add($set, $images);
            foreach ($texels as $role => $list) {
                $all["$set/$role"] = $list;
            }
        }
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['space' => 'mesh']))], [Documents::layer('low', 'a', 'low', ['mode' => 'multiply', 'channels' => ['colour', 'normal', 'roughness', 'metallic', 'occlusion', 'height']]), Documents::layer('high', 'a', 'high', $high)]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps, true);
        $inputs = [];
        foreach (Surface::types() as $name => $type) {
            $inputs[$name] = match ($name) {
                'normal' => [0.0, 0.0, 1.0], 'uvT' => [1.0, 0.0, 0.0], 'uvB' => [0.0, -1.0, 0.0],
                default => array_fill(0, max(1, $type->width()), 0.01),
            };
        }
        $found = Kernels::compiler()->compile($lowered->graph, $lowered->channels, array_map(static fn (): Binding => Binding::Constant, $inputs))->points(1, $lowered->uniforms(), $all, $inputs);

        return array_map(static fn (array $parts): array => array_map(static fn (array $one): float => (float) $one[0], $parts), $found);
    }

    /**
     * What the maps say.
     *
     * @param array{colour: array{int, int, int}, normal: int, roughness: int, metallic: int, occlusion: int, height: int} $bytes
     *
     * @return array<string, list<float>>
     */
    private static function said(array $bytes): array
    {
        $slopes = self::texels($bytes)['normal'][0];
        // A stored normal n is the slope -n.x/n.z to the right.
        [$x, $z] = [($slopes & 255) / 127.5 - 1, ($slopes >> 16 & 255) / 127.5 - 1];

        return ['baseColour' => array_map(static fn (int $b): float => Srgb::table()[$b], $bytes['colour']), 'slope' => [-$x / $z]]
            + array_map(static fn (int $b): array => [$b / 255], array_intersect_key($bytes, ['roughness' => 1, 'metallic' => 1, 'occlusion' => 1, 'height' => 1]));
    }

    /** @return iterable<string, array{string, float}> */
    public static function modes(): iterable
    {
        foreach (LayerMode::cases() as $mode) {
            foreach ([100.0, 60.0, 0.0] as $opacity) {
                yield "$mode->value at $opacity %" => [$mode->value, $opacity];
            }
        }
    }

    #[DataProvider('modes')]
    public function testEveryModeOnEveryChannelIsItsClosedForm(string $mode, float $opacity): void
    {
        $found = self::channels(['mode' => $mode, 'opacity' => $opacity, 'width' => 80]);
        [$low, $high] = [self::said(self::LOW), self::said(self::HIGH)];
        $share = $opacity / 100;
        if ($mode === 'height') {
            $moved = $share * 1.8 - 0.4;
            [$a, $b] = [90 / 255 + 1 - $moved, 150 / 255 + $moved];
            $floor = max($a, $b) - 0.8;
            [$a, $b] = [max(0.0, $a - $floor), max(0.0, $b - $floor)];
            $share = $b / ($a + $b);
        }
        foreach ($low as $channel => $values) {
            foreach ($values as $i => $below) {
                $above = $high[$channel][$i];
                $expected = match (true) {
                    $mode === 'mix', $mode === 'height' => $below + ($above - $below) * $share,
                    $channel === 'slope' => $below + $above * $share,
                    default => $below + (match ($mode) {
                        'add' => $below + $above,
                        'multiply' => $below * $above,
                        default => $below < 0.5 ? 2 * $below * $above : 1 - 2 * (1 - $below) * (1 - $above),
                    } - $below) * $share,
                };
                $expected = $channel === 'slope' ? $expected : max(0.0, $channel === 'baseColour' ? $expected : min(1.0, $expected));
                self::assertEqualsWithDelta($expected, $found[$channel][$i], 2e-5, "$channel $i");
            }
        }
    }

    public function testHeightsDecideByTheirDifferenceAndNothingDecidesAtTheEnds(): void
    {
        $share = static function (float $below, float $above, float $share, float $width): float {
            $g = new Graph();

            return (float) Kernels::value($g, Blending::byHeight($g, $g->uniform('a'), $g->uniform('b'), $g->uniform('s'), $g->uniform('w')), [], ['a' => $below, 'b' => $above, 's' => $share, 'w' => $width])[0];
        };
        self::assertEqualsWithDelta(0.5, $share(0.4, 0.4, 0.5, 0.1), 1e-9, 'level');
        self::assertEqualsWithDelta(1.0, $share(0.3, 0.5, 0.5, 0.1), 1e-9, 'higher by more than the width');
        self::assertEqualsWithDelta(0.0, $share(0.5, 0.3, 0.5, 0.1), 1e-9);
        // 0.05 higher: it stands 0.1 over the floor, the other 0.05.
        self::assertEqualsWithDelta(2 / 3, $share(0.4, 0.45, 0.5, 0.1), 1e-6);
        self::assertSame([0.0, 1.0], [$share(0.0, 1.0, 0.0, 0.5), $share(1.0, 0.0, 1.0, 0.5)], 'nothing is nothing, all is all');
        self::assertEqualsWithDelta(1.0, $share(0.4, 0.41, 0.5, 0.0), 1e-9, 'a width of 0 is a hard edge');
        // Towards the ends it comes to nothing and to all, and never by a jump.
        foreach ([[0.0, 1.0], [1.0, 0.0], [0.5, 0.5]] as [$below, $above]) {
            $steps = array_map(static fn (int $i): float => $share($below, $above, $i / 400, 0.3), range(0, 400));
            self::assertEqualsWithDelta([0.0, 1.0], [$steps[0], $steps[400]], 1e-9);
            for ($i = 1; $i <= 400; ++$i) {
                self::assertGreaterThanOrEqual($steps[$i - 1] - 1e-12, $steps[$i]);
                self::assertLessThan(0.03, $steps[$i] - $steps[$i - 1], "from $below to $above at $i");
            }
        }
    }

    public function testChannelsThatALayerDoesNotWriteStayAsTheyAre(): void
    {
        $low = self::said(self::LOW);
        foreach (['mix', 'height', 'add'] as $mode) {
            $found = self::channels(['mode' => $mode, 'channels' => ['roughness']]);
            foreach ($low as $channel => $values) {
                foreach ($values as $i => $below) {
                    if ($channel === 'roughness') {
                        self::assertGreaterThan($below + 0.1, $found[$channel][$i]);
                    } else {
                        self::assertEqualsWithDelta($below, $found[$channel][$i], 1e-6, "$mode, $channel");
                    }
                }
            }
        }
    }

    public function testOnlyWhatIsSaidIsWrittenAndMistakesHavePlaces(): void
    {
        $plain = Writer::json(Documents::reader()->read(self::document(['mode' => 'mix', 'channels' => ['emission', 'height', 'colour', 'normal', 'roughness', 'metallic', 'occlusion', 'opacity']])));
        self::assertStringNotContainsString('mode', $plain);
        self::assertStringNotContainsString('channels', $plain);
        self::assertStringContainsString('"mode":"height","width":25', Writer::json(Documents::reader()->read(self::document(['mode' => 'height', 'width' => 25]))));
        $problems = Documents::reader()->salvage(self::document(['mode' => 'screen', 'width' => -1, 'channels' => ['colour', 'taste']]))->problems;
        self::assertSame(['/layers/0/mode', '/layers/0/width', '/layers/0/channels/1'], array_column($problems, 'path'));
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function document(array $more): array
    {
        return Documents::whole([Documents::lane('a', Documents::step('origin'))], [Documents::layer('low', 'a', 'set', $more)]);
    }
}
