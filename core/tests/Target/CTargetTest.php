<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\C\CTarget;
use Rilta\Core\Target\Targets;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\Parity\CRun;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

/** Materials as C; the parity suite runs it over all of its documents. */
final class CTargetTest extends TestCase
{
    public function testTargetsAreKnownByName(): void
    {
        self::assertSame(['glsl', 'glsl450', 'hlsl', 'wgsl', 'c'], array_keys(Targets::all()));
    }

    public function testWhatDiffersIsSeen(): void
    {
        $folder = \dirname(__DIR__, 3) . '/var/test/c';
        $maps = TestMaps::whole();
        $lowered = Documents::lower([Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['u' => 0.7])], $maps);
        $points = [];
        foreach (Surface::types() as $name => $type) {
            $points[$name] = array_fill(0, $type->width(), 0.25);
        }
        $run = new CRun($folder, "$folder/points");
        CRun::points($points, 1, "$folder/points");
        $run->start('right', $lowered, ['metallic' => $lowered->channels['metallic']], ['metallic' => [[0.0]]], 1, 0.0, $maps);
        $run->finish();
        self::assertSame([[], 1, 0], [$run->failed, $run->values, $run->off]);
        $run->start('wrong', $lowered, ['metallic' => $lowered->channels['metallic']], ['metallic' => [[1e-8]]], 1, 0.0, $maps);
        $run->finish();
        self::assertSame(1, $run->off);
    }

    public function testAMaterialWithMapsComesToWhatTheKernelFinds(): void
    {
        $folder = \dirname(__DIR__, 3) . '/var/test/c';
        $maps = TestMaps::whole();
        $lowered = Documents::lower([Documents::step('origin', ['seam' => 30.0]), Documents::step('size', ['u' => 0.7]), Documents::step('breakup', ['hue' => 20.0]), Documents::step('pan', ['u' => 0.013])], $maps);
        $channels = array_diff_key($lowered->channels, ['slope' => true]);
        $random = new RandomDocuments(3);
        $points = $found = [];
        for ($i = 0; $i < 20; ++$i) {
            $point = $random->footprint()->inputs;
            foreach ($point as $name => $values) {
                $points[$name] = [...($points[$name] ?? []), ...$values];
            }
            foreach (Kernels::values($lowered->graph, $channels, $point, $lowered->uniforms(98765.4), $maps->everything()) as $channel => $components) {
                foreach ($components as $c => $component) {
                    $found[$channel][$c][] = $component;
                }
            }
        }
        $run = new CRun($folder, "$folder/many");
        CRun::points($points, 20, "$folder/many");
        $run->start('with maps', $lowered, $channels, array_map(array_values(...), $found), 20, 98765.4, $maps);
        $run->finish();
        self::assertSame([[], 20 * 9, 0], [$run->failed, $run->values, $run->off]);
        self::assertGreaterThan(3, \count(array_unique($found['roughness'][0])), 'and maps were read');
    }

    public function testEveryMaterialOfTheDemoIsCleanC(): void
    {
        $root = \dirname(__DIR__, 3);
        $maps = new MapFolder("$root/demo/maps", "$root/var/test/packs");
        $file = "$root/var/test/demo.c";
        foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
            file_put_contents($file, (new CTarget())->program(Lowering::lower(Documents::reader()->readJson((string) file_get_contents($path)), $maps)));
            exec("gcc -std=c99 -fsyntax-only -pedantic -Wall -Wextra -Werror $file 2>&1", $lines, $code);
            self::assertSame(0, $code, basename($path) . ': ' . implode("\n", $lines));
        }
    }
}
