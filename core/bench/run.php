<?php

declare(strict_types=1);

/*
 * Speed as ratios taken in one run: every material of the demo by the PHP kernel and by the C program that is printed from the same
 * fields, and a tri-planar lane by the same text on Node. All do the same arithmetic in double precision on one
 * thread; what they find is compared before their times are. Then what each step costs a lane, and what lowering takes.
 */

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\Texels;
use Rilta\Core\Judge\Cost;
use Rilta\Core\Judge\Patch;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapSet;
use Rilta\Core\Material\MapSets;
use Rilta\Core\Material\Reader;
use Rilta\Core\Step\Steps;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\C\CEngine;
use Rilta\Core\Target\C\CTarget;
use Rilta\Core\Target\C\Printer as CPrinter;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Php\Kernel;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Parity\CRun;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;

require dirname(__DIR__, 2) . '/vendor/autoload.php';

const PIXELS = 512;
const PIXELS_OF_STEPS = 192;
const PIXELS_OF_DEMO = 192;
const PIXELS_OF_BAKES = 512;
const REPEAT = 1.6;
const SEAM = 90.0;
const RUNS = 5;
const ROLES = ['base-colour', 'normal', 'roughness', 'occlusion'];

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
$compiler = new Compiler("$work/kernels");

/** @param list<array{string, array<string, mixed>}> $steps name and values */
function lowered(array $steps, MapSets $maps): Lowered
{
    return Lowering::lower((new Reader(Steps::all()))->read([
        'format' => 'rilta-material/2',
        'name' => 'Bench',
        'lanes' => [['id' => 'main', 'name' => 'Main', 'steps' => array_map(static fn (array $s): array => ['step' => $s[0], 'values' => $s[1]], $steps)]],
        'layers' => [['id' => 'ground', 'name' => 'Ground', 'lane' => 'main', 'set' => 'lime-plaster']],
    ]), $maps);
}

/**
 * The channels on a plane that is seen square on.
 *
 * @param array{float, float, float} $right
 * @param array{float, float, float} $down
 * @param array{float, float, float} $normal
 */
function onPlane(Lowered $lowered, Compiler $compiler, array $right, array $down, array $normal): Kernel
{
    $g = new Graph();

    return $compiler->compile($g, fieldsOnPlane($lowered, $g, $g->uniform('step'), $right, $down, $normal), ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY]);
}

/**
 * @param array{float, float, float} $right
 * @param array{float, float, float} $down
 * @param array{float, float, float} $normal
 *
 * @return array<string, Node>
 */
function fieldsOnPlane(Lowered $lowered, Graph $g, Node $step, array $right, array $down, array $normal): array
{
    [$px, $py] = [$g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float)];
    [$x, $y] = [$g->mul($px, $step), $g->mul($py, $step)];
    [$r, $d] = [$g->vec(...$right), $g->vec(...$down)];
    $rewriter = new Rewriter($lowered->graph, $g, Surface::fields($g, [
        'position' => $g->add($g->mul($r, $x), $g->mul($d, $y)),
        'normal' => $g->vec(...$normal),
        'dpdx' => $g->mul($r, $step),
        'dpdy' => $g->mul($d, $step),
        ...Surface::sets($g->vec($x, $y), $g->vec($step, 0.0), $g->vec(0.0, $step), $r, $d),
        'objectValue' => $g->float(0.3),
        'viewDistance' => $g->float(12),
    ]));
    $channel = static fn (string $name): Node => $rewriter->rewrite($lowered->channels[$name]);

    return [
        'colour' => Pixels::colour($g, $channel('baseColour')),
        'normal' => Pixels::rgb($g, $g->add($g->mul($channel('normal'), 0.5), 0.5)),
        'roughness' => Pixels::data($g, $channel('roughness')),
        'occlusion' => Pixels::data($g, $channel('occlusion')),
    ];
}

/** @return list<float> seconds of each run */
function timed(string ...$command): array
{
    exec(implode(' ', array_map(escapeshellarg(...), $command)) . ' 2>&1', $lines, $code);
    if ($code !== 0) {
        fwrite(\STDERR, implode("\n", $lines) . "\n");
        exit(1);
    }

    return array_map(static fn (mixed $line): float => is_numeric($line) ? (float) $line : 0.0, array_values($lines));
}

/**
 * @param array<int, float|int> $mine
 * @param array<int, int>       $others
 */
function differing(array $mine, array $others): int
{
    $off = 0;
    foreach ($others as $i => $other) {
        $off += (int) $mine[$i] === $other ? 0 : 1;
    }

    return $off;
}

/** The text of a kernel as JavaScript: the same lines, with what the two languages call otherwise. Whole numbers above 2^31 would differ, so hashes do. */
function asJavaScript(string $kernel): string
{
    $body = substr($kernel, (int) strpos($kernel, "array {\n") + 8);
    preg_match_all('/\$\w+/', $body, $names);
    $given = ['$u', '$m', '$in', '$srgb', '$x0', '$y0', '$x1', '$y1'];
    $calls = ['\\sqrt(', '\\pow(', '\\sin(', '\\cos(', '\\log(', '\\atan2(', '\\floor('];
    $body = strtr($body, ['(float) ' => '', '(int) ' => '~~'] + array_combine($calls, array_map(static fn (string $call): string => 'Math.' . substr($call, 1), $calls)));

    return 'export default (' . implode(', ', $given) . ") => {\nlet " . implode(', ', array_diff(array_unique($names[0]), $given)) . ";\n" . preg_replace('/^( *\$o\d+)\[\] = (.*);$/m', '$1.push($2);', $body);
}

/**
 * Runs the text of a kernel on Node.
 *
 * @param array<string, float|int>                       $uniforms
 * @param array<string, array{file: string, bytes: int}> $maps     packed texels
 *
 * @return array{float, array<int, int>} seconds of the best run, and the values of all members, one member after another
 */
function onNode(string $kernel, array $uniforms, array $maps, int $size, string $work): array
{
    file_put_contents("$work/kernel.mjs", asJavaScript($kernel));
    file_put_contents("$work/input.json", json_encode(['uniforms' => $uniforms, 'maps' => $maps, 'srgb' => Srgb::table(), 'size' => $size, 'runs' => RUNS], \JSON_THROW_ON_ERROR));
    copy(__DIR__ . '/node.mjs', "$work/run.mjs");
    $seconds = min(timed('node', "$work/run.mjs") ?: [\NAN]);

    /** @var array<int, int> $values */
    $values = unpack('V*', (string) file_get_contents("$work/output")) ?: [];

    return [$seconds, array_values($values)];
}

$texels = [];
$files = [];
foreach ([...ROLES, 'height'] as $role) {
    $map = lowered([['origin', []]], $maps)->layers[0]->sets['']->readings[$role]->map;
    $texels[$map->name] = $maps->all($map);
    $files[$map->name] = ['file' => "$work/$role.texels", 'bytes' => $map->slot()->texelBytes()];
    file_put_contents("$work/$role.texels", Texels::pack($texels[$map->name], $map->slot()->texelBytes()));
}

$diagonal = [[\M_SQRT1_2, 0.0, -\M_SQRT1_2], [1 / sqrt(6), -2 / sqrt(6), 1 / sqrt(6)], [1 / sqrt(3), 1 / sqrt(3), 1 / sqrt(3)]];
$floor = [[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.0, 1.0, 0.0]];
$size = ['size', ['u' => REPEAT]];
$lowered = lowered([['origin', ['seam' => SEAM]], $size], $maps);
$run = onPlane($lowered, new Compiler("$work/node"), ...$diagonal);
$text = (string) file_get_contents((glob("$work/node/*.php") ?: [''])[0]);
printf("Tri-planar, 4 maps of 1024², %d x %d px, best of %d runs, by the kernel and by the same text on Node\n", PIXELS, PIXELS, RUNS);
foreach (['as large as life' => REPEAT / 1024 * 0.9, 'seen from afar' => REPEAT / 1024 * 2.9] as $name => $pixel) {
    $uniforms = $lowered->uniforms() + ['step' => $pixel];
    $php = \INF;
    $found = [];
    for ($i = 0; $i < RUNS; ++$i) {
        $start = hrtime(true);
        $found = $run->run($uniforms, $texels, [], 0, 0, PIXELS, PIXELS);
        $php = min($php, (hrtime(true) - $start) / 1e9);
    }
    [$node, $others] = onNode($text, $uniforms, $files, PIXELS, $work);
    $mine = array_merge(...array_map(static fn (array $parts): array => array_merge(...$parts), array_values($found)));
    $off = differing($mine, $others);
    // The last digits of powers differ.
    if ($off > count($mine) / 100000 || count($others) !== count($mine)) {
        fwrite(\STDERR, "The pictures differ in $off of " . count($mine) . " values.\n");
        exit(1);
    }
    printf("  %-17s PHP %.2f/s Node %.2f/s   PHP : Node = 1 : %.2f\n", $name, 1 / $php, 1 / $node, $php / $node);
}

/*
 * Every material of the demo, on the same slanted plane, by the kernel and by its own C.
 */
printf("\nThe demo, %d x %d px, one thread (C by gcc -O2)\n", PIXELS_OF_DEMO, PIXELS_OF_DEMO);
$host = <<<'C'

    #include <stdio.h>
    #include <stdlib.h>
    #include <string.h>
    #include <time.h>
    %5$s
    static double now(void) { struct timespec t; clock_gettime(CLOCK_MONOTONIC, &t); return (double) t.tv_sec + 1e-9 * (double) t.tv_nsec; }
    int main(void) {
        static rilta_result out[%1$d * %1$d];
        rilta_uniforms u;
        rilta_maps m;
        memset(&u, 0, sizeof u);
        memset(&m, 0, sizeof m);
        (void) texels;
        %2$s
        for (int run = 0; run < 3; ++run) {
            const double start = now();
            rilta_prepare(&u);
            for (int i = 0; i < %1$d * %1$d; ++i) {
                rilta_surface s;
                s.pixelX = i %% %1$d + 0.5; s.pixelY = i / %1$d + 0.5; s.step = %3$s;
                rilta_material(&u, &m, &s, &out[i]);
            }
            printf("%%.9f\n", now() - start);
        }
        FILE *to = fopen("%4$s", "wb");
        fwrite(out, sizeof out, 1, to);
        return fclose(to);
    }

    C;
$ratios = [];
foreach (glob("$root/demo/materials/*.json") ?: [] as $file) {
    $material = (new Reader(Steps::all()))->readJson((string) file_get_contents($file));
    $lowered = Lowering::lower($material, $maps);
    $g = new Graph();
    $step = 0.0013;
    $code = (new CTarget())->of($lowered, $g, fieldsOnPlane($lowered, $g, $g->input('step', Type::Float), ...$diagonal), ['pixelX' => Type::Float, 'pixelY' => Type::Float, 'step' => Type::Float]);
    $set = '';
    $own = [];
    foreach ($lowered->slots as $slot) {
        $set .= sprintf("u.%s = %s;\n", $slot->uniform, json_encode($slot->value, \JSON_PRESERVE_ZERO_FRACTION));
    }
    foreach ($lowered->facts as $name => $map) {
        $own[$name] = $maps->all($map);
        if (str_contains($code, 'm->' . CPrinter::texels($map->slot()) . ',')) {
            $path = "$work/" . md5($name);
            is_file($path) || file_put_contents($path, pack('V*', ...$own[$name]));
            $set .= 'm.' . CPrinter::texels($map->slot()) . " = texels(\"$path\");\n";
        }
    }
    file_put_contents("$work/demo.c", $code . sprintf($host, PIXELS_OF_DEMO, $set, var_export($step, true), "$work/demo.out", CRun::TEXELS));
    timed('gcc', '-O2', '-o', "$work/demo", "$work/demo.c", '-lm');
    $c = min(\INF, ...timed("$work/demo"));
    $folder = "$work/of-" . md5($material->name);
    $kernel = onPlane($lowered, new Compiler($folder), ...$diagonal);
    $php = \INF;
    $found = [];
    for ($i = 0; $i < 2; ++$i) {
        $start = hrtime(true);
        $found = $kernel->run($lowered->uniforms() + ['step' => $step], $own, [], 0, 0, PIXELS_OF_DEMO, PIXELS_OF_DEMO);
        $php = min($php, (hrtime(true) - $start) / 1e9);
    }
    $members = unpack('V*', (string) file_get_contents("$work/demo.out")) ?: [];
    $off = 0;
    foreach (['colour', 'normal', 'roughness', 'occlusion'] as $k => $name) {
        for ($i = 0; $i < PIXELS_OF_DEMO ** 2; ++$i) {
            $off += (int) ($found[$name][0][$i] !== $members[4 * $i + $k + 1]);
        }
    }
    if ($off > PIXELS_OF_DEMO ** 2 * 4 / 10000) {
        fwrite(\STDERR, "$material->name: C and the kernel differ in $off values.\n");
        exit(1);
    }
    $ratios[] = $php / $c;
    // JavaScript has no whole numbers of 64 bits: kernels that hash come to something else there, and are no measure.
    $packed = array_map(static fn (string $name): array => ['file' => "$work/" . md5($name), 'bytes' => 4], array_combine(array_keys($own), array_keys($own)));
    foreach ($packed as $name => ['file' => $path]) {
        is_file($path) || file_put_contents($path, pack('V*', ...$own[$name]));
    }
    [$node, $others] = onNode((string) file_get_contents((glob("$folder/*.php") ?: [''])[0]), $lowered->uniforms() + ['step' => $step], $packed, PIXELS_OF_DEMO, $work);
    $mine = array_merge(...array_map(static fn (array $parts): array => array_merge(...$parts), array_values($found)));
    $same = differing($mine, $others) <= count($mine) / 10000;
    printf("  %-22s PHP %6.2f Mpx/s   C %6.2f Mpx/s   1 : %.2f   Node %s\n", $material->name, PIXELS_OF_DEMO ** 2 / $php / 1e6, PIXELS_OF_DEMO ** 2 / $c / 1e6, $php / $c, $same ? sprintf('%6.2f Mpx/s   1 : %.2f', PIXELS_OF_DEMO ** 2 / $node / 1e6, $php / $node) : '     –, it hashes');
}
sort($ratios);
printf("  in the middle 1 : %.2f, at most 1 : %.2f\n\n", $ratios[intdiv(count($ratios), 2)], max(0.0, ...$ratios));

/*
 * One lane with each step in turn, on a floor; how many times as long as the lane without it.
 */
$place = static fn (int $i): array => ['u' => 0.3 * $i, 'v' => 0.0, 'width' => 0.2, 'height' => 0.4, 'turn' => 5.0 * $i, 'cell' => (float) $i];
/** @var array<string, array<string, array<string, mixed>>> $heavy */
$heavy = [
    'frames' => ['cut' => [], 'faded' => ['change' => 'fade']],
    'place' => ['one' => [], 'thirteen' => ['more' => array_map($place, range(1, 12))]],
    'reach' => ['pad' => [], 'keys along a curve' => ['input' => 'keys', 'response' => 'curve']],
    'scales' => ['two by distance' => [], 'four by noise' => ['count' => 'four', 'by' => 'noise']],
    'bond' => ['running' => [], 'herringbone, per piece' => ['laid' => 'herringbone', 'coordinate' => 'piece'], 'hexagons' => ['laid' => 'hexagon']],
    'warp' => ['by noise' => [], 'by a map' => ['by' => 'map', 'map' => 'lime-plaster/normal']],
];
printf("\nEach step on a floor, 4 maps, %d x %d px, as multiples of the lane without it (PHP kernel)\n", PIXELS_OF_STEPS, PIXELS_OF_STEPS);
$speed = static function (Lowered $lowered) use ($compiler, $floor, $texels): array {
    $run = onPlane($lowered, $compiler, ...$floor);
    $best = \INF;
    for ($i = 0; $i < 3; ++$i) {
        $start = hrtime(true);
        $run->run($lowered->uniforms() + ['step' => REPEAT / 1024 * 0.9], $texels, [], 0, 0, PIXELS_OF_STEPS, PIXELS_OF_STEPS);
        $best = min($best, (hrtime(true) - $start) / 1e9);
    }

    return [$best, count($lowered->taps()), $lowered->fetches()];
};
$base = [['origin', ['faces' => 'y']], $size];
[$plain] = $speed(lowered($base, $maps));
$rows = [['origin, one face and a size', $base]];
foreach (['xyz' => 'origin, tri-planar', 'six' => 'origin, six sides by height'] as $faces => $name) {
    $rows[] = [$name, [['origin', ['faces' => $faces, 'lean' => $faces === 'six']], $size]];
}
foreach (Steps::all() as $step) {
    foreach ($step->isOrigin() ? [] : ($heavy[$step->name()] ?? ['' => []]) as $told => $values) {
        $rows[] = [$step->name() . ($told === '' ? '' : ", $told"), [...$base, [$step->name(), $values]]];
    }
}
foreach ($rows as [$name, $steps]) {
    [$seconds, $taps, $fetches] = $speed(lowered($steps, $maps));
    printf("  %-46s x %5.2f   %2d taps %3d fetches   %.2f Mpx/s\n", $name, $seconds / $plain, $taps, $fetches, PIXELS_OF_STEPS ** 2 / $seconds / 1e6);
}

/*
 * What the server does between a click and its answer: reading, lowering, printing.
 */
$eight = [['origin', []], $size, ['turn', []], ['shift', []], ['bond', []], ['scatter', ['by' => 'piece']], ['breakup', []], ['pan', []]];
printf("\nBaked whole, %d x %d px, one thread: seconds by part\n", PIXELS_OF_BAKES, PIXELS_OF_BAKES);
$c = new CEngine("$work/c");
$hasC = $c->obstacle() === null;
echo "                          lower  read  kernel  encode  edges    all   kernel's share      MB" . ($hasC ? '   in C: compiled  kernel   apart by more than 1' : '') . "\n";
foreach (glob("$root/demo/materials/*.json") ?: [] as $file) {
    $material = (new Reader(Steps::all()))->readJson((string) file_get_contents($file));
    memory_reset_peak_usage();
    $times = ['lower' => 0.0, 'read' => 0.0, 'kernel' => 0.0, 'encode' => 0.0, 'edges' => 0.0];
    $from = hrtime(true);
    $lap = static function (string $part) use (&$times, &$from): void {
        $times[$part] += (hrtime(true) - $from) / 1e9;
        $from = hrtime(true);
    };
    $bake = new TileBake(Lowering::lower($material, $maps, true), PIXELS_OF_BAKES, $compiler);
    $lap('lower');
    $bake->read($maps);
    $lap('read');
    $rows = [];
    foreach (TileBake::regions(PIXELS_OF_BAKES) as [$first, $after]) {
        foreach ($bake->region($maps, $first, $after) as $channel => $band) {
            $rows[$channel] = ($rows[$channel] ?? '') . $band;
        }
    }
    $lap('kernel');
    $bake->complete(static fn (Channel $c): string => $rows[$c->value], static function (Channel $c, string $bytes) use ($lap): void {
        $lap('edges');
        Png::bytes(PIXELS_OF_BAKES, PIXELS_OF_BAKES, $c->samples(), $bytes, $c->isDeep());
        $lap('encode');
    });
    $lap('edges');
    $all = array_sum($times);
    printf('  %-22s %6.2f %6.2f  %6.2f  %6.2f %6.2f %6.2f   %3.0f %%           %5.0f', $material->name, $times['lower'], $times['read'], $times['kernel'], $times['encode'], $times['edges'], $all, 100 * $times['kernel'] / $all, memory_get_peak_usage() / 1e6);
    if ($hasC) {
        $from = hrtime(true);
        $compiled = new TileBake(Lowering::lower($material, $maps, true), PIXELS_OF_BAKES, $c);
        $compiled->read($maps);
        $compiling = (hrtime(true) - $from) / 1e9;
        $from = hrtime(true);
        $apart = $values = 0;
        $found = array_map(static fn (array $region): array => $compiled->region($maps, ...$region), TileBake::regions(PIXELS_OF_BAKES));
        $running = (hrtime(true) - $from) / 1e9;
        foreach ($rows as $channel => $bytes) {
            $other = implode('', array_column($found, $channel));
            for ($i = 0, $length = $bytes === $other ? 0 : strlen($bytes); $i < $length; ++$i) {
                $by = abs(ord($bytes[$i]) - ord($other[$i]));
                // The lower byte of a height wraps.
                $apart += (int) (min($by, 256 - $by) > 1);
            }
            $values += strlen($bytes);
        }
        printf('         %6.2f  %6.2f   %.4f %%', $compiling, $running, 100 * $apart / $values);
    }
    echo "\n";
}

// What is known of maps: the server has it in its database, and need not open their files for it.
$known = new class($maps) implements MapSets {
    /** @var array<string, ?MapSet> */
    private array $found = [];

    public function __construct(private readonly MapSets $sets)
    {
    }

    public function find(string $name): ?MapSet
    {
        return array_key_exists($name, $this->found) ? $this->found[$name] : $this->found[$name] = $this->sets->find($name);
    }

    public function names(): array
    {
        return $this->sets->names();
    }

    public function family(string $name): ?Family
    {
        return $this->sets->family($name);
    }

    public function families(): array
    {
        return $this->sets->families();
    }
};
$layers = static fn (int $count): Lowered => Lowering::lower((new Reader(Steps::all()))->read([
    'format' => 'rilta-material/2',
    'name' => 'Layers',
    'lanes' => [
        ['id' => 'a', 'name' => 'A', 'steps' => [['step' => 'origin', 'values' => ['faces' => 'y']], ['step' => 'size', 'values' => ['u' => 1.6]], ['step' => 'breakup', 'values' => []]]],
        ['id' => 'b', 'name' => 'B', 'steps' => [['step' => 'origin', 'values' => []], ['step' => 'size', 'values' => ['u' => 2.4]]]],
    ],
    'layers' => array_map(static fn (int $i): array => [
        'id' => "layer-$i", 'name' => "Layer $i", 'lane' => $i % 2 === 0 ? 'a' : 'b', 'set' => ['salt-crust', 'tidal-silt', 'lime-plaster', 'basalt-cladding'][$i % 4],
        'mode' => ['mix', 'height', 'multiply', 'overlay'][$i % 4], 'opacity' => 60,
        'mask' => [['kind' => 'noise', 'values' => ['size' => 3]], ['kind' => 'slope', 'values' => []]],
        'finish' => ['values' => ['lightness' => 90, 'saturation' => 110, 'roughnessFactor' => 80]],
    ], range(0, $count - 1)),
]), $known);
echo "\nRead, lowered and printed, in the middle of nine runs and in the first\n";
foreach (['a lane of eight steps' => static fn (): Lowered => lowered($eight, $known), 'one layer' => static fn (): Lowered => $layers(1), 'eight layers on two lanes' => static fn (): Lowered => $layers(8)] as $name => $made) {
    $times = [];
    $text = '';
    for ($i = 0; $i < 9; ++$i) {
        $start = hrtime(true);
        $shader = Shader::of($made());
        $text = json_encode([$shader->declarations, $shader->material, $shader->pictures], \JSON_THROW_ON_ERROR);
        $times[] = (hrtime(true) - $start) / 1e6;
    }
    $first = $times[0];
    sort($times);
    printf("  %-28s %6.1f ms %6.1f ms   %d KiB of code\n", $name, $times[4], $first, strlen($text) / 1024);
}

echo "\nHow much of a surface comes again, from six distances: in all, and in its kernel alone (aim: 600 ms)\n";
foreach (['long-wall', 'damp-plaster', 'salt-flat', 'silt-bank'] as $name) {
    $patch = new Patch(Lowering::lower((new Reader(Steps::all()))->readJson((string) file_get_contents("$root/demo/materials/$name.json")), $maps), $maps, $compiler);
    $patch->seen(1.0, 1.0, 8);
    $start = hrtime(true);
    foreach (RepetitionCurve::FEW as $distance) {
        $patch->seen(0.01 * $distance, $distance, RepetitionCurve::SIDE);
    }
    $kernel = (hrtime(true) - $start) / 1e6;
    $start = hrtime(true);
    RepetitionCurve::of($patch);
    printf("  %-28s %6.0f ms %6.0f ms\n", $name, (hrtime(true) - $start) / 1e6, $kernel);
}

// What is estimated of 60 random materials against what their kernels take.
$random = new RandomDocuments(60);
$points = [];
for ($i = 0; $i < 300; ++$i) {
    foreach ($random->footprint()->inputs as $name => $values) {
        $points[$name] = [...$points[$name] ?? [], ...$values];
    }
}
$whole = TestMaps::whole();
$estimates = $times = [];
for ($i = 0; $i < 60; ++$i) {
    $lowered = Lowering::lower(Documents::reader()->read($random->layered()), $whole);
    $kernel = $compiler->compile($lowered->graph, $lowered->channels, array_map(static fn (Type $type): Binding => Binding::wide($type->width()), Surface::types()));
    [$uniforms, $texels, $best] = [$lowered->uniforms(), $lowered->texels($whole), \INF];
    for ($run = 0; $run < RUNS; ++$run) {
        $start = hrtime(true);
        $kernel->points(300, $uniforms, $texels, $points);
        $best = min($best, (hrtime(true) - $start) / 1e6);
    }
    $estimates[] = Cost::of($lowered)->estimate;
    $times[] = $best;
}
$ranks = static function (array $values): array {
    asort($values);
    $ranks = array_flip(array_keys($values));
    ksort($ranks);

    return $ranks;
};
$apart = array_sum(array_map(static fn (int $a, int $b): int => ($a - $b) ** 2, $ranks($estimates), $ranks($times)));
printf("\nEstimated costs of 60 random materials and their kernels' times: rank correlation %.3f (aim: 0.9)\n", 1 - 6 * $apart / (60 * (60 ** 2 - 1)));
