<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\Glsl\GlslDialect;
use Rilta\Core\Target\Hlsl\HlslDialect;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Shading\Printer;
use Rilta\Core\Target\Shading\ShadingDialect;
use Rilta\Core\Target\Targets;
use Rilta\Core\Target\Wgsl\WgslDialect;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\TestMaps;

/** The same fields in every shading language: what each calls things, and what it does not let meet. */
final class ShadingTest extends TestCase
{
    public function testEachLanguageHasItsOwnWords(): void
    {
        $mixed = static function (Graph $g): Node {
            $uv = $g->input('uv', Type::Vec2);

            return $g->mix($g->fract($uv), $g->select($g->less($g->x($uv), 0.5), $uv, $g->vec(1, 1)), 0.25);
        };
        self::assertSame('mix(fract(s.uv), s.uv.x < 0.5 ? s.uv : vec2(1.0), 0.25)', self::printed(new GlslDialect(), $mixed));
        self::assertSame('lerp(frac(s.uv), s.uv.x < 0.5 ? s.uv : ((float2) 1.0), 0.25)', self::printed(new HlslDialect(), $mixed));
        self::assertSame('mix(fract(s.uv), select(vec2f(1.0), s.uv, s.uv.x < 0.5), 0.25)', self::printed(new WgslDialect(), $mixed));
        $angle = static fn (Graph $g): Node => $g->atan2($g->input('section', Type::Float), $g->uniform('k'));
        self::assertSame(['atan(s.section, k)', 'atan2(s.section, k)', 'atan2(s.section, u.k)'], array_map(static fn (ShadingDialect $one): string => self::printed($one, $angle), [new GlslDialect(), new HlslDialect(), new WgslDialect()]));
        $most = static fn (Graph $g): Node => $g->max($g->input('uv', Type::Vec2), $g->uniform('k'));
        self::assertSame(['max(s.uv, vec2(k))', 'max(s.uv, ((float2) k))', 'max(s.uv, vec2f(u.k))'], array_map(static fn (ShadingDialect $one): string => self::printed($one, $most), [new GlslDialect(), new HlslDialect(), new WgslDialect()]));
    }

    public function testWhatDoesNotMeetIsMadeAsWide(): void
    {
        $clamped = static fn (Graph $g): Node => $g->clamp($g->input('uv', Type::Vec2), $g->uniform('k'), 2.0);
        self::assertSame('clamp(s.uv, k, 2.0)', self::printed(new GlslDialect(), $clamped));
        self::assertSame('clamp(s.uv, vec2f(u.k), vec2f(2.0))', self::printed(new WgslDialect(), $clamped));
        $shifted = static fn (Graph $g): Node => $g->toFloat($g->shiftRight($g->toUint($g->input('uv', Type::Vec2)), 8));
        self::assertSame('vec2(uvec2(ivec2(floor(s.uv))) >> 8u)', self::printed(new GlslDialect(), $shifted));
        self::assertSame('vec2f(vec2u(vec2i(floor(s.uv))) >> vec2u(8u))', self::printed(new WgslDialect(), $shifted));
    }

    public function testSwitchesAreNumbersWhereUniformsCannotBeTrue(): void
    {
        $chosen = static fn (Graph $g): Node => $g->select($g->uniform('on', Type::Bool), $g->input('section', Type::Float), 0.0);
        self::assertSame('on ? s.section : 0.0', self::printed(new HlslDialect(), $chosen));
        self::assertSame('select(0.0, s.section, (u.on != 0u))', self::printed(new WgslDialect(), $chosen));
    }

    public function testWordsOfTheLanguageAreNoNamesOfParameters(): void
    {
        $function = new FieldFunction('blended', 'A blend.', ['from' => Type::Float, 'linear' => Type::Float], static fn (Graph $g, array $a): Node => $g->add($a[0], $a[1]));
        foreach ([[new GlslDialect(), 'float blended(float from, float linear)', 'from + linear'], [new HlslDialect(), 'float blended(float from, float the_linear)', 'from + the_linear'], [new WgslDialect(), 'fn blended(the_from: f32, linear: f32) -> f32', 'the_from + linear']] as [$dialect, $head, $sum]) {
            $g = new Graph();
            $printer = new Printer($dialect);
            $printer->body($g, ['it' => $g->call($function, $g->input('section', Type::Float), $g->input('facing', Type::Float))]);
            self::assertStringContainsString("$head {\n    return $sum;", $printer->functions()['blended']);
        }
    }

    /** Of what is chosen, languages may compute both: a map is read by a function that asks first. */
    public function testWhatHasNoWeightIsNotRead(): void
    {
        $maps = TestMaps::noise();
        $document = Documents::of([Documents::step('origin', ['seam' => 20]), Documents::step('size', ['u' => 2]), Documents::step('turn', ['angle' => 20])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps);
        $wgsl = Targets::all()['wgsl']->program($lowered);
        self::assertStringContainsString('if (weight > 0.0) { return textureSampleGrad(maps0, maps0_sampler, uv, layer, dx, dy); }', $wgsl);
        self::assertMatchesRegularExpression('/riltaRead_maps0\(\w+, 0, \w+, \w+, \w+\)/', $wgsl);
        self::assertStringContainsString('@group(0) @binding(1) var maps0: texture_2d_array<f32>;', $wgsl);
        self::assertStringContainsString('fn riltaMaterial(s: RiltaSurface, ready: RiltaReady) -> RiltaMaterial {', $wgsl);
        $hlsl = Targets::all()['hlsl']->program($lowered);
        self::assertStringContainsString('if (weight > 0.0) { return maps0.SampleGrad(maps0_sampler, at, dx, dy); }', $hlsl);
        self::assertStringContainsString('Texture2DArray<float4> maps0 : register(t0);', $hlsl);
        self::assertStringContainsString('RiltaMaterial riltaMaterial(RiltaSurface s, RiltaReady ready) {', $hlsl);
    }

    /** One text for each language, whole: what a compiler is given. */
    public function testAnyCompilerTakesWhatHasAnEntry(): void
    {
        $folder = \dirname(__DIR__, 3) . '/var/test/shading';
        is_dir($folder) || mkdir($folder, 0o777, true);
        $steps = [Documents::step('origin', ['space' => 'object', 'faces' => 'xyz', 'seam' => 20]), Documents::step('size', ['u' => 2]), Documents::step('pan', ['u' => 0.1]), Documents::step('scatter', ['by' => 'object'])];
        $maps = TestMaps::noise();
        $whole = Lowering::lower(Documents::reader()->read(Documents::of($steps)), $maps);
        $bare = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin')], '')), $maps);
        foreach ([[$whole, new Options(harness: true)], [$whole, new Options('quay', false, true)], [$bare, new Options(harness: true)]] as [$lowered, $options]) {
            $options = new Options($options->prefix, $options->arrays, $options->harness, ['/lanes/0/steps/1/values/u' => 'Size\\'], "Name\n#error */ \\");
            foreach (['glsl' => '-S frag', 'glsl450' => '-V -S frag -o ' . escapeshellarg("$folder/spv"), 'hlsl' => '-D -V -S frag -e main -o ' . escapeshellarg("$folder/spv")] as $target => $how) {
                file_put_contents("$folder/code.$target", Targets::all()[$target]->program($lowered, $options));
                exec("glslangValidator $how " . escapeshellarg("$folder/code.$target") . ' 2>&1', $said, $failed);
                self::assertSame(0, $failed, "$target: " . implode("\n", $said));
                if ($target !== 'glsl') {
                    exec('spirv-val ' . escapeshellarg("$folder/spv") . ' 2>&1', $said, $failed);
                    self::assertSame(0, $failed, "$target: " . implode("\n", $said));
                }
            }
        }
    }

    /** Materials with other prefixes have room beside each other in one program. */
    public function testPrefixesKeepMaterialsApart(): void
    {
        $folder = \dirname(__DIR__, 3) . '/var/test/shading';
        is_dir($folder) || mkdir($folder, 0o777, true);
        $lowered = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin', ['seam' => 20]), Documents::step('size', ['u' => 2]), Documents::step('turn', ['angle' => 20]), Documents::step('breakup')])), TestMaps::noise());
        $both = Targets::all()['glsl']->program($lowered, new Options('quay')) . Targets::all()['glsl']->program($lowered, new Options('roof', harness: true));
        // A version stands first.
        $both = "#version 300 es\nprecision highp float; precision highp int;\n" . preg_replace('/^(?:#version.*|precision .*)$/m', '', $both);
        file_put_contents("$folder/both.glsl", $both);
        exec('glslangValidator -S frag ' . escapeshellarg("$folder/both.glsl") . ' 2>&1', $said, $failed);
        self::assertSame(0, $failed, implode("\n", $said));
        self::assertStringNotContainsString('uniform float main_', $both);
        foreach (['gl', '2nd', 'Quay', 'quay_wall', '', 'glass', str_repeat('q', 25)] as $wrong) {
            try {
                new Options($wrong);
                self::fail($wrong);
            } catch (\InvalidArgumentException $e) {
                self::assertStringContainsString("found \"$wrong\"", $e->getMessage());
            }
        }
    }

    /** @param \Closure(Graph): Node $field */
    private static function printed(ShadingDialect $dialect, \Closure $field): string
    {
        $g = new Graph();

        return (new Printer($dialect))->body($g, ['it' => $field($g)])[1]['it'];
    }
}
