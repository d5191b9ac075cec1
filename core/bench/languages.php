<?php

declare(strict_types=1);

/*
 * Writes materials of the demo in all languages, for the browser to run (e2e/bench/languages.spec.ts), and what a point takes in C.
 * Usage: php core/bench/languages.php FILE
 */

use Rilta\Core\Field\Node;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\Texels;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\C\CEngine;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Parity\HlslRun;
use Rilta\Core\Tests\Parity\LanguageRun;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

require dirname(__DIR__, 2) . '/vendor/autoload.php';

const POINTS = 256;
const SIDE = 64;
/** Rows of points that C computes at once, and how often. */
const ROWS = 256;
const RUNS = 5;

$root = dirname(__DIR__, 2);
$random = new RandomDocuments(2026);
$points = array_fill_keys(array_keys(Surface::types()), []);
for ($i = 0; $i < POINTS; ++$i) {
    foreach ($random->footprint()->inputs as $name => $values) {
        array_push($points[$name], ...$values);
    }
}
$folder = dirname($argv[1]);
$maps = (new TestMaps())->small(new MapFolder("$root/demo/maps", "$folder/maps"), SIDE);
$hlsl = new HlslRun("$folder/hlsl");
$c = new CEngine("$folder/engine");
$cases = [];
foreach (['long-wall', 'quay', 'damp-plaster', 'roof'] as $name) {
    $lowered = Lowering::lower(Documents::reader()->readJson((string) file_get_contents("$root/demo/materials/$name.json")), $maps);
    /** @var array<string, Node> $channels */
    $channels = array_diff_key($lowered->channels, ['slope' => 0]);
    $run = new LanguageRun($lowered, $channels);
    $hlsl->start($name, $run->hlsl()['code']);
    $program = $c->compile($lowered->graph, $channels, ShaderCheck::bindings());
    $many = array_map(static fn (array $values): array => array_merge(...array_fill(0, ROWS, $values)), $points);
    $took = \INF;
    for ($i = 0; $i < RUNS; ++$i) {
        $start = hrtime(true);
        $program->run($lowered->uniforms(), $lowered->texels($maps), $many, 0, 0, POINTS, ROWS);
        $took = min($took, (hrtime(true) - $start) / 1e6);
    }
    $start = hrtime(true);
    $program->run($lowered->uniforms(), $lowered->texels($maps), $points, 0, 0, POINTS, 1);
    $cases[] = ['name' => $name, 'c' => ($took - (hrtime(true) - $start) / 1e6) / (ROWS - 1) / POINTS, 'languages' => ['count' => POINTS, 'outputs' => [], 'uniforms' => $lowered->uniforms(), 'expected' => '', 'borders' => [], 'glsl' => $run->glsl(), 'hlsl' => $run->hlsl(), 'wgsl' => $run->wgsl(POINTS)]];
}
$made = $hlsl->finish();
foreach ($cases as $i => $one) {
    $cases[$i]['languages']['hlsl']['code'] = $made[$one['name']] ?? throw new RuntimeException(implode("\n", $hlsl->failed));
}
$packs = [];
foreach ($maps->names() as $name) {
    foreach ($maps->find($name)?->images() ?? [] as $map) {
        $size = $map->slot()->texelBytes();
        $packs[$map->name] = base64_encode('RTP1' . pack('V3', $map->width, $map->height, $size) . Texels::pack($maps->all($map), $size));
    }
}
file_put_contents($argv[1], json_encode(['points' => ShaderCheck::texture($points, POINTS), 'packs' => $packs, 'cases' => $cases], \JSON_THROW_ON_ERROR));
