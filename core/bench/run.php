<?php

declare(strict_types=1);

/*
 * Speed as ratios taken in one run: a tri-planar material with four maps of 1024², evaluated on a plane that all
 * three faces reach, by the PHP kernel, by a C program and by JavaScript on Node. All three do the same arithmetic
 * in double precision on one thread; their pictures are compared before their times are.
 */

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\Texels;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Reader;
use Rilta\Core\Step\Steps;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;

require dirname(__DIR__, 2) . '/vendor/autoload.php';

const PIXELS = 512;
const REPEAT = 1.6;
const SEAM = 90.0;
const RUNS = 5;

$root = dirname(__DIR__, 2);
$work = sys_get_temp_dir() . '/rilta-bench-' . getmypid();
mkdir($work);
register_shutdown_function(static function () use ($work): void {
    array_map(unlink(...), glob("$work/*/*") ?: []);
    array_map(rmdir(...), array_filter(glob("$work/*") ?: [], is_dir(...)));
    array_map(unlink(...), array_filter(glob("$work/*") ?: [], is_file(...)));
    rmdir($work);
});

$maps = new MapFolder("$root/demo/maps", "$work/packs");
$document = [
    'format' => 'rilta-material/1',
    'name' => 'Bench',
    'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => [
        ['step' => 'origin', 'values' => ['seam' => SEAM]],
        ['step' => 'size', 'values' => ['u' => REPEAT]],
    ]]],
    'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => 'lime-plaster']],
];
$lowered = Lowering::lower((new Reader(Steps::all()))->read($document), $maps);
$texels = [];
$bytes = '';
foreach (['base-colour', 'normal', 'roughness', 'occlusion'] as $role) {
    $map = $lowered->layers[0]->sets['']->maps[$role];
    $texels[$map->name] = $maps->all($map);
    $bytes .= Texels::pack($texels[$map->name], $map->slot()->samples);
}

$g = new Graph();
[$px, $py, $step] = [$g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float), $g->uniform('step')];
$right = $g->vec(\M_SQRT1_2, 0.0, -\M_SQRT1_2);
$down = $g->vec(1 / sqrt(6), -2 / sqrt(6), 1 / sqrt(6));
$rewriter = new Rewriter($lowered->graph, $g, [
    'position' => $g->add($g->mul($right, $g->mul($px, $step)), $g->mul($down, $g->mul($py, $step))),
    'normal' => $g->vec(1 / sqrt(3), 1 / sqrt(3), 1 / sqrt(3)),
    'dpdx' => $g->mul($right, $step),
    'dpdy' => $g->mul($down, $step),
]);
$channel = static fn (string $name) => $rewriter->rewrite($lowered->channels[$name]);
$kernel = (new Compiler("$work/kernels"))->compile($g, [
    'colour' => Pixels::colour($g, $channel('baseColour')),
    'normal' => Pixels::rgb($g, $g->add($g->mul($channel('normal'), 0.5), 0.5)),
    'roughness' => Pixels::data($g, $channel('roughness')),
    'occlusion' => Pixels::data($g, $channel('occlusion')),
], ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);

/**
 * @return list<float> seconds of each run
 */
$timed = static function (string ...$command): array {
    exec(implode(' ', array_map(escapeshellarg(...), $command)) . ' 2>&1', $lines, $code);
    if ($code !== 0) {
        fwrite(\STDERR, implode("\n", $lines) . "\n");
        exit(1);
    }

    return array_map(static fn (mixed $line): float => is_numeric($line) ? (float) $line : 0.0, array_values($lines));
};
$timed('gcc', '-O2', '-o', "$work/triplanar", __DIR__ . '/triplanar.c', '-lm');

printf("Tri-planar, 4 maps of 1024², %d x %d px, best of %d runs\n", PIXELS, PIXELS, RUNS);
foreach (['as large as life' => REPEAT / 1024 * 0.9, 'seen from afar' => REPEAT / 1024 * 2.9] as $name => $pixel) {
    file_put_contents("$work/input", pack('e4', PIXELS, $pixel, REPEAT, SEAM) . $bytes);
    $php = [];
    for ($i = 0; $i < RUNS; ++$i) {
        $start = hrtime(true);
        $found = $kernel->run($lowered->uniforms() + ['step' => $pixel], $texels, [], 0, 0, PIXELS, PIXELS);
        $php[] = (hrtime(true) - $start) / 1e9;
    }
    $c = $timed("$work/triplanar", "$work/input", "$work/c", (string) RUNS);
    $node = $timed('node', __DIR__ . '/triplanar.mjs', "$work/input", "$work/node", (string) RUNS);

    $differences = ['C' => 0, 'Node' => 0];
    foreach (['C' => 'c', 'Node' => 'node'] as $who => $file) {
        $other = (string) file_get_contents("$work/$file");
        for ($i = 0; $i < PIXELS * PIXELS; ++$i) {
            [$rgb, $n] = [(int) $found['colour'][0][$i], (int) $found['normal'][0][$i]];
            $mine = [$rgb & 255, $rgb >> 8 & 255, $rgb >> 16 & 255, $n & 255, $n >> 8 & 255, $n >> 16 & 255, (int) $found['roughness'][0][$i], (int) $found['occlusion'][0][$i]];
            foreach ($mine as $k => $value) {
                $differences[$who] += abs($value - ord($other[8 * $i + $k])) > 1 ? 1 : 0;
            }
        }
    }
    if ($differences !== ['C' => 0, 'Node' => 0]) {
        fwrite(\STDERR, sprintf("The pictures differ: %d bytes from C, %d from Node.\n", $differences['C'], $differences['Node']));
        exit(1);
    }
    $best = array_map(static fn (array $seconds): float => $seconds === [] ? 0.0 : min($seconds), ['PHP' => $php, 'C' => $c, 'Node' => $node]);
    printf('  %-17s', $name);
    foreach ($best as $who => $seconds) {
        printf(' %s %.2f bakes/s', $who, 1 / $seconds);
    }
    printf("   PHP : C = 1 : %.2f   PHP : Node = 1 : %.2f\n", $best['PHP'] / $best['C'], $best['PHP'] / $best['Node']);
}
