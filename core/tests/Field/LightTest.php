<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Math\Vec;
use Rilta\Core\Target\Glsl\LightCode;
use Rilta\Core\Tests\Kernels;

final class LightTest extends TestCase
{
    public function testAMattSurfaceIsLitByTheSunAndTheStudio(): void
    {
        $n = Vec::unit([0.2, 0.9, 0.1]);
        $lit = self::lit(['baseColour' => [0.6, 0.3, 0.1], 'normal' => $n, 'roughness' => [1.0], 'metallic' => [0.0], 'occlusion' => [1.0]], $n);
        $dark = self::lit(['baseColour' => [0.0, 0.0, 0.0], 'normal' => $n, 'roughness' => [1.0], 'metallic' => [0.0], 'occlusion' => [1.0]], $n);
        $around = 0.30 + (0.5 + 0.5 * $n[1]) * 0.46;
        // Of a rough surface that is looked at straight on, Karis' fit mirrors so much of an f0 of 0.04; the rest comes to the colour.
        $mirrored = 0.04 * (-1.04 * 0.015 + 0.468) + 1.04 * 0.015 - 0.018;
        $sun = 3.0 * Vec::dot($n, Light::direction()) / \M_PI;
        self::assertEqualsWithDelta(array_map(static fn (float $c): float => $c * ($around * (1 - $mirrored) + $sun), [0.6, 0.3, 0.1]), Vec::sub($lit, $dark), 1e-9);
    }

    public function testShadeTakesTheSunAndOcclusionTheStudioAndNeitherTakesEmission(): void
    {
        $channels = ['baseColour' => [0.6, 0.3, 0.1], 'normal' => [0.0, 1.0, 0.0], 'roughness' => [0.4], 'metallic' => [0.5], 'occlusion' => [1.0], 'emission' => [0.0, 0.2, 0.0]];
        $view = Vec::unit([0.3, 0.8, 0.5]);
        $all = self::lit($channels, $view);
        $shade = self::lit($channels, $view, 0.0);
        $closed = self::lit(['occlusion' => [0.0]] + $channels, $view);
        $none = self::lit(['occlusion' => [0.0]] + $channels, $view, 0.0);
        self::assertEqualsWithDelta([0.0, 0.2, 0.0], $none, 1e-12);
        self::assertEqualsWithDelta(Vec::sub($all, $none), Vec::add(Vec::sub($shade, $none), Vec::sub($closed, $none)), 1e-9);
        self::assertGreaterThan(0.1, Vec::length(Vec::sub($all, $shade)));
    }

    /** By the formula as it is published, pixel by pixel. */
    public function testBrightPartsRollOff(): void
    {
        foreach ([[0.0, 0.0, 0.0], [0.05, 0.02, 0.01], [0.5, 0.4, 0.3], [0.95, 0.9, 0.85], [3.0, 1.0, 0.5], [20.0, 20.0, 20.0]] as $light) {
            $c = Vec::scale($light, 0.88);
            $least = min($c);
            $offset = $least < 0.08 ? $least - 6.25 * $least * $least : 0.04;
            $c = array_map(static fn (float $v): float => $v - $offset, $c);
            $peak = max($c);
            if ($peak >= 0.8 - 0.04) {
                $d = 1.0 - (0.8 - 0.04);
                $newPeak = 1.0 - $d * $d / ($peak + $d - (0.8 - 0.04));
                $c = array_map(static fn (float $v): float => $v * $newPeak / $peak, $c);
                $grey = 1.0 - 1.0 / (0.15 * ($peak - $newPeak) + 1.0);
                $c = array_map(static fn (float $v): float => $v * (1 - $grey) + $newPeak * $grey, $c);
            }
            $found = self::value(static fn (Graph $g): Node => Light::toned($g, $g->input('light', Type::Vec3)), ['light' => $light]);
            self::assertEqualsWithDelta($c, $found, 1e-9);
        }
    }

    public function testItsCodeIsTwoFunctionsThatNeedNothingElse(): void
    {
        preg_match_all('/^\w+ (\w+)\(/m', LightCode::functions(), $functions);
        self::assertSame(['litSurface', 'tonedLight'], $functions[1]);
    }

    /**
     * @param array<string, list<float>> $channels
     * @param array{float, float, float} $view
     *
     * @return array{float, float, float}
     */
    private static function lit(array $channels, array $view, float $share = 1.0): array
    {
        $found = self::value(static function (Graph $g) use ($channels): Node {
            $fields = [];
            foreach ($channels as $name => $numbers) {
                $fields[$name] = $g->input($name, \count($numbers) === 3 ? Type::Vec3 : Type::Float);
            }

            return Light::lit($g, $fields, $g->input('view', Type::Vec3), Light::sun($g), $g->input('share', Type::Float));
        }, $channels + ['view' => $view, 'share' => [$share]]);

        return [$found[0], $found[1], $found[2]];
    }

    /**
     * @param \Closure(Graph): Node      $field
     * @param array<string, list<float>> $inputs
     *
     * @return list<float>
     */
    private static function value(\Closure $field, array $inputs): array
    {
        $g = new Graph();

        return Kernels::value($g, $field($g), $inputs);
    }
}
