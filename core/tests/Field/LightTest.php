<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Field;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\LightPart;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Math\Vec;
use Rilta\Core\Target\Glsl\LightCode;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;

final class LightTest extends TestCase
{
    private const ROUGHNESSES = [0.05, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0];

    /** By importance sampling of the same formula of the sky, written again here. */
    public function testWhatIsMirroredOfTheSkiesIsWithinThreePercentOfTheIntegral(): void
    {
        $all = [];
        foreach (SkyKind::cases() as $kind) {
            mt_srand(20261127);
            $rows = [];
            foreach (self::ROUGHNESSES as $rough) {
                for ($i = 0; $i < 14; ++$i) {
                    $n = self::direction();
                    do {
                        $view = self::direction();
                    } while (Vec::dot($n, $view) < 0.05);
                    $rows[] = ['n' => $n, 'view' => $view, 'rough' => [$rough]];
                }
            }
            $g = new Graph();
            [$n, $view] = [$g->input('n', Type::Vec3), $g->input('view', Type::Vec3)];
            $found = self::points($g, Sky::of($g, $kind)->mirrored($n, $view, $g->max($g->dot($n, $view), 0.02), $g->input('rough', Type::Float)), $rows);
            $sky = Sky::numbers($kind);
            [$apart, $sum] = [0.0, 0.0];
            foreach ($rows as $i => ['n' => $n, 'view' => $view, 'rough' => [$rough]]) {
                $expected = self::mirroredOf($sky, $n, $view, $rough ** 2);
                foreach ([0, 1, 2] as $c) {
                    $apart += abs($found[$c][$i] - $expected[$c]);
                    $sum += $expected[$c];
                }
            }
            $all[$kind->value] = 100 * $apart / $sum;
        }
        self::assertLessThan(3.0, max($all), json_encode($all) ?: '');
        self::assertGreaterThan(0.5, min($all), 'Sampling alone is that far off: this compares something else.');
    }

    /** Of all directions on the side of the plane, by their cosines. */
    public function testWhatFallsOnAPlaneIsTheIntegralOfTheSky(): void
    {
        $apart = [];
        foreach (SkyKind::cases() as $kind) {
            $sky = Sky::numbers($kind);
            foreach ([[0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, -1.0, 0.0], Vec::unit([-0.6, 0.5, 0.4])] as $n) {
                $sum = [0.0, 0.0, 0.0];
                for ($i = 0; $i < 4000; ++$i) {
                    $z = 1 - 2 * ($i + 0.5) / 4000;
                    $turn = $i * \M_PI * (3 - sqrt(5));
                    $from = [sqrt(1 - $z * $z) * cos($turn), $z, sqrt(1 - $z * $z) * sin($turn)];
                    $sum = Vec::add($sum, Vec::scale(self::radiance($sky, $from), 4 * max(0.0, Vec::dot($n, $from)) / 4000));
                }
                $g = new Graph();
                $found = Kernels::value($g, Sky::of($g, $kind)->around($g->input('n', Type::Vec3)), ['n' => $n]);
                self::assertEqualsWithDelta($sum, $found, 0.05 * max($sum), $kind->value . json_encode($n));
                $apart[] = max(array_map(static fn (float $a, float|int $b): float => abs($a - $b), $sum, $found)) / max($sum);
            }
        }
        self::assertLessThan(0.02, array_sum($apart) / \count($apart));
    }

    public function testTheSkyIsWhatTheFormulaSays(): void
    {
        foreach (SkyKind::cases() as $kind) {
            foreach ([[0.0, 1.0, 0.0], Vec::unit([0.5, 0.02, -0.8]), [0.0, -1.0, 0.0], Sky::direction($kind->sun()['turn'], $kind->sun()['height'])] as $from) {
                $g = new Graph();
                $found = Kernels::value($g, Sky::of($g, $kind)->radiance($g->input('from', Type::Vec3)), ['from' => $from]);
                self::assertEqualsWithDelta(self::radiance(Sky::numbers($kind), $from), $found, 1e-9);
            }
        }
    }

    public function testHowMuchIsMirroredIsTheIntegralOfGgx(): void
    {
        $rows = [];
        foreach (self::ROUGHNESSES as $rough) {
            foreach ([0.05, 0.15, 0.3, 0.5, 0.7, 0.85, 1.0] as $nv) {
                $rows[] = ['nv' => [$nv], 'rough' => [$rough]];
            }
        }
        $g = new Graph();
        $found = self::points($g, Light::mirrored($g, $g->input('nv', Type::Float), $g->input('rough', Type::Float)), $rows);
        $apart = [0.0, 0.0];
        foreach ($rows as $i => ['nv' => [$nv], 'rough' => [$rough]]) {
            [$white, $edge] = [0.0, 0.0];
            foreach (self::lobe([sqrt(1 - $nv * $nv), 0.0, $nv], $rough ** 2, 1500) as [, $vh, $share]) {
                $white += $share;
                $edge += $share * (1 - $vh) ** 5;
            }
            self::assertEqualsWithDelta([$white / 1500, $edge / 1500], [$found[0][$i], $found[1][$i]], 0.025, "at a cosine of $nv and a roughness of $rough");
            $apart = [$apart[0] + abs($white / 1500 - $found[0][$i]), $apart[1] + abs($edge / 1500 - $found[1][$i])];
        }
        self::assertLessThan(0.006, $apart[0] / \count($rows));
        self::assertLessThan(0.004, $apart[1] / \count($rows));
    }

    /** In an even white sky nothing that is white can be told from it: what bounces between microfacets is not lost. */
    public function testNothingIsLostInAnEvenSky(): void
    {
        $even = ['sunStrength' => [0.0], 'brightness' => [1.0], 'band0' => [1.0, 1.0, 1.0], 'sun' => [0.0, 1.0, 0.0]];
        foreach (['level0', 'level1', 'level2', 'level3', 'level4'] as $level) {
            $even[$level] = [1.0, 1.0, 1.0];
        }
        $even += array_map(static fn (array $numbers): array => array_fill(0, \count($numbers), 0.0), array_diff_key(Sky::numbers(SkyKind::ClearDay), array_flip(['edges', 'softness', 'widths', 'toward0', 'toward1', 'toward2']))) + Sky::numbers(SkyKind::ClearDay);
        foreach (self::ROUGHNESSES as $rough) {
            foreach ([0.1, 0.5, 1.0] as $nv) {
                foreach ([0.0, 1.0] as $metal) {
                    $lit = self::lit(['baseColour' => [1.0, 1.0, 1.0], 'normal' => [0.0, 1.0, 0.0], 'roughness' => [$rough], 'metallic' => [$metal], 'occlusion' => [1.0]], [sqrt(1 - $nv * $nv), $nv, 0.0], 1.0, $even);
                    self::assertEqualsWithDelta([1.0, 1.0, 1.0], $lit, 0.001, "a roughness of $rough, a cosine of $nv, metallic $metal");
                }
            }
        }
    }

    /** What the sun adds is Lambert and GGX, as glTF 2.0 has them in its appendix B. */
    public function testTheSunIsLambertAndGgx(): void
    {
        $sky = Sky::numbers(SkyKind::ClearDay);
        $n = Vec::unit([0.2, 0.9, 0.1]);
        $view = Vec::unit([0.1, 0.7, 0.6]);
        $rough = 0.45;
        $channels = ['baseColour' => [0.6, 0.3, 0.1], 'normal' => $n, 'roughness' => [$rough], 'metallic' => [0.0], 'occlusion' => [1.0]];
        $sun = Vec::sub(self::lit($channels, $view), self::lit($channels, $view, 0.0));
        $black = ['baseColour' => [0.0, 0.0, 0.0]] + $channels;
        $specular = Vec::sub(self::lit($black, $view), self::lit($black, $view, 0.0));

        $l = Sky::direction(SkyKind::ClearDay->sun()['turn'], SkyKind::ClearDay->sun()['height']);
        $h = Vec::unit(Vec::add($l, $view));
        [$nl, $nv, $nh, $vh] = [Vec::dot($n, $l), Vec::dot($n, $view), Vec::dot($n, $h), Vec::dot($view, $h)];
        $a2 = $rough ** 4;
        $d = $a2 / (\M_PI * ($nh * $nh * ($a2 - 1) + 1) ** 2);
        $v = 0.5 / ($nl * sqrt($nv * $nv * (1 - $a2) + $a2) + $nv * sqrt($nl * $nl * (1 - $a2) + $a2));
        $f = 0.04 + 0.96 * (1 - $vh) ** 5;
        $g = new Graph();
        [$white, $edge] = Kernels::value($g, Light::mirrored($g, $g->float($nv), $g->float($rough)));
        foreach ([0, 1, 2] as $c) {
            $falls = $sky['sunStrength'][0] * $sky['sunColour'][$c] * $nl;
            self::assertEqualsWithDelta($d * $v * $f * (1 + 0.04 * (1 / $white - 1)) * $falls, $specular[$c], 1e-5);
            // What is mirrored does not come to the colour below; at an f0 of 0.04 hardly anything bounces twice.
            $once = 0.04 * ($white - $edge) + $edge;
            self::assertEqualsWithDelta($channels['baseColour'][$c] / \M_PI * (1 - $once) * $falls, $sun[$c] - $specular[$c], 2e-3);
        }
    }

    public function testShadeTakesTheSunAndOcclusionTheSkyAndNeitherTakesEmission(): void
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
            $g = new Graph();
            self::assertEqualsWithDelta($c, Kernels::value($g, Light::toned($g, $g->input('light', Type::Vec3)), ['light' => $light]), 1e-9);
        }
    }

    public function testWhatIsSeenIsTheSumOfItsParts(): void
    {
        $channels = ['baseColour' => [0.6, 0.3, 0.1], 'normal' => [0.0, 1.0, 0.0], 'roughness' => [0.35], 'metallic' => [0.4], 'occlusion' => [0.8], 'emission' => [0.1, 0.2, 0.3]];
        $view = Vec::unit([0.3, 0.8, 0.2]);
        $parts = array_map(static fn (array $shown): array => self::lit($channels, $view, 0.7, null, $shown), [LightPart::Diffuse->shown(), LightPart::Specular->shown(), [0.0, 0.0, 1.0]]);
        self::assertEqualsWithDelta(self::lit($channels, $view, 0.7), array_map(static fn (float ...$c): float => array_sum($c), ...$parts), 1e-12);
        self::assertEqualsWithDelta([0.1, 0.2, 0.3], $parts[2], 1e-12);
        $metal = ['metallic' => [1.0]] + $channels;
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], self::lit($metal, $view, 1.0, null, LightPart::Diffuse->shown()), 1e-12, 'metal scatters nothing');
        $black = ['baseColour' => [0.0, 0.0, 0.0], 'metallic' => [0.0]] + $channels;
        $mirrored = self::lit($black, $view, 1.0, null, LightPart::Specular->shown());
        self::assertGreaterThan(0.01, min($mirrored), 'what is black mirrors all the same');
    }

    public function testItsCodeNeedsNothingElse(): void
    {
        foreach ([LightCode::live(), LightCode::fixed()] as $code) {
            preg_match_all('/^\w+ (\w+)\(/m', $code, $functions);
            self::assertSame(['riltaLit', 'riltaSky', 'riltaToned'], \array_slice($functions[1], -3));
            preg_match_all('/^(?:uniform|const) \w+ (\w+)/m', $code, $declared);
            self::assertSame([...array_map(static fn (string $name): string => LightCode::PREFIX . $name, array_keys(Sky::FIELDS)), LightCode::EXPOSURE, LightCode::PARTS], $declared[1]);
        }
    }

    /**
     * @param array<string, list<float>>      $channels
     * @param array{float, float, float}      $view
     * @param array<string, list<float>>|null $numbers  of the sky
     * @param list<float>|null                $parts
     *
     * @return array{float, float, float}
     */
    private static function lit(array $channels, array $view, float $share = 1.0, ?array $numbers = null, ?array $parts = null): array
    {
        $g = new Graph();
        $fields = [];
        foreach ($channels as $name => $values) {
            $fields[$name] = $g->input($name, \count($values) === 3 ? Type::Vec3 : Type::Float);
        }
        $sky = new Sky($g, array_map(static fn (array $values): Node => \count($values) === 1 ? $g->float($values[0]) : $g->vec(...$values), array_replace(Sky::numbers(SkyKind::ClearDay), $numbers ?? [])));
        $found = Kernels::value($g, Light::lit($g, $fields, $g->input('view', Type::Vec3), $sky, $g->input('share', Type::Float), $parts === null ? null : $g->vec(...$parts)), $channels + ['view' => $view, 'share' => [$share]]);

        return [$found[0], $found[1], $found[2]];
    }

    /**
     * @param non-empty-list<array<string, list<float>>> $rows
     *
     * @return list<array<int, float|int>> by component and row
     */
    private static function points(Graph $g, Node $field, array $rows): array
    {
        $inputs = array_map(static fn (string $name): array => array_merge(...array_column($rows, $name)), array_combine(array_keys($rows[0]), array_keys($rows[0])));
        $bindings = array_map(static fn (array $one): Binding => \count($one) === 3 ? Binding::Triples : Binding::Scalars, $rows[0]);

        return Kernels::compiler()->compile($g, ['it' => $field], $bindings)->points(\count($rows), [], [], $inputs)['it'];
    }

    /** @return array{float, float, float} */
    private static function direction(): array
    {
        $z = 2 * mt_rand() / mt_getrandmax() - 1;
        $turn = 2 * \M_PI * mt_rand() / mt_getrandmax();

        return [sqrt(1 - $z * $z) * cos($turn), $z, sqrt(1 - $z * $z) * sin($turn)];
    }

    /**
     * @param array<string, list<float>> $sky
     * @param array{float, float, float} $from
     *
     * @return array{float, float, float}
     */
    private static function radiance(array $sky, array $from): array
    {
        $light = [$sky['level0'][0], $sky['level0'][1], $sky['level0'][2]];
        foreach ([0, 1, 2, 3] as $i) {
            $s = static fn (float $y): float => ($y - $sky['edges'][$i]) / sqrt(($y - $sky['edges'][$i]) ** 2 + $sky['softness'][$i]);
            $share = ($s($from[1]) - $s(-1.0)) / ($s(1.0) - $s(-1.0));
            $toward = $i === 3 ? $sky['sun'] : $sky["toward$i"];
            $q = $sky['widths'][$i];
            $lobe = ($q / ($q + 2 - 2 * ($toward[0] * $from[0] + $toward[1] * $from[1] + $toward[2] * $from[2]))) ** 2;
            foreach ([0, 1, 2] as $c) {
                $light[$c] += ($sky['level' . ($i + 1)][$c] - $sky["level$i"][$c]) * $share + $sky["glow$i"][$c] * $lobe;
            }
        }

        return [$light[0], $light[1], $light[2]];
    }

    /**
     * @param array<string, list<float>> $sky
     * @param array{float, float, float} $n
     * @param array{float, float, float} $view
     *
     * @return array{float, float, float}
     */
    private static function mirroredOf(array $sky, array $n, array $view, float $alpha): array
    {
        $x = Vec::unit(Vec::cross(abs($n[1]) < 0.9 ? [0.0, 1.0, 0.0] : [1.0, 0.0, 0.0], $n));
        $y = Vec::cross($n, $x);
        [$light, $weight] = [[0.0, 0.0, 0.0], 0.0];
        foreach (self::lobe([Vec::dot($view, $x), Vec::dot($view, $y), Vec::dot($view, $n)], $alpha, 600) as [$l, , $share]) {
            $light = Vec::add($light, Vec::scale(self::radiance($sky, Vec::blend($x, $y, $n, $l)), $share));
            $weight += $share;
        }

        return Vec::scale($light, 1 / $weight);
    }

    /**
     * Directions that a GGX surface mirrors, by its visible normals (Heitz 2018), with Smith's height-correlated masking.
     *
     * @param array{float, float, float} $v towards the viewer, the normal being z
     *
     * @return list<array{array{float, float, float}, float, float}> the direction, its cosine to the half vector, and what it counts
     */
    private static function lobe(array $v, float $alpha, int $count): array
    {
        $mask = static fn (float $c): float => (sqrt(1 + $alpha ** 2 * (1 - $c * $c) / ($c * $c)) - 1) / 2;
        $vh = Vec::unit([$alpha * $v[0], $alpha * $v[1], $v[2]]);
        $t1 = $vh[0] ** 2 + $vh[1] ** 2 > 1e-12 ? Vec::unit([-$vh[1], $vh[0], 0.0]) : [1.0, 0.0, 0.0];
        $t2 = Vec::cross($vh, $t1);
        $found = [];
        for ($i = 0; $i < $count; ++$i) {
            $r = sqrt(($i + 0.5) / $count);
            $turn = 2 * \M_PI * fmod(($i + 0.5) * 0.6180339887498949, 1.0);
            $p1 = $r * cos($turn);
            $p2 = (1 - 0.5 * (1 + $vh[2])) * sqrt(1 - $p1 * $p1) + 0.5 * (1 + $vh[2]) * $r * sin($turn);
            $m = Vec::blend($t1, $t2, $vh, [$p1, $p2, sqrt(max(0.0, 1 - $p1 * $p1 - $p2 * $p2))]);
            $h = Vec::unit([$alpha * $m[0], $alpha * $m[1], max(1e-9, $m[2])]);
            $cosine = Vec::dot($v, $h);
            $l = Vec::sub(Vec::scale($h, 2 * $cosine), $v);
            if ($l[2] > 0) {
                $found[] = [$l, $cosine, (1 + $mask($v[2])) / (1 + $mask($v[2]) + $mask($l[2]))];
            }
        }

        return $found;
    }
}
