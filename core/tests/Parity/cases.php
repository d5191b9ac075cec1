<?php

declare(strict_types=1);

/*
 * Writes what the parity suite compares: documents as GLSL, and the values that the PHP kernel computes.
 * Usage: php core/tests/Parity/cases.php FILE
 */

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Lowering\NotMultipassable;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Role;
use Rilta\Core\Mend\Channel;
use Rilta\Core\Mend\Packing;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Recipe\CodedRecipeBake;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\MultipassShader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\Parity\CRun;
use Rilta\Core\Tests\Parity\HlslRun;
use Rilta\Core\Tests\Parity\Lanes;
use Rilta\Core\Tests\Parity\ParityCase;
use Rilta\Core\Tests\RandomDocuments;
use Rilta\Core\Tests\TestMaps;
use Rilta\Demo\LimePlaster;
use Rilta\Demo\PatinatedCopper;

require dirname(__DIR__, 3) . '/vendor/autoload.php';

const POINTS = 256;
const POINTS_OF_RANDOM = 64;
const RANDOM = 60;
/** The same and more of them, with RILTA_PARITY=long. */
const RANDOM_LONG = 300;
/** Kilometres from the world's origin. */
const FAR = [1.0, 20.0, 100.0];
/** A day and a bit. */
const SECONDS = 87654.321;
const EARLY = 12.345;
/** Of the demo's maps, in pixels. */
const SIDE = 64;

$cook = new CodedRecipeBake(Kernels::compiler());
$maps = (new TestMaps())->add('set', $cook->maps(new PatinatedCopper(), 64), 1.2)->add('other', $cook->maps(new LimePlaster(), 64), 2.0)->group('both', 'set', 'other');
$copper = $cook->maps(new PatinatedCopper(), 64);
$maps->add('packed', [
    'base-colour' => $copper['base-colour'],
    'packed' => Packing::pack([Channel::of($copper['normal'], 0), Channel::of($copper['normal'], 1), Channel::of($copper['roughness'], 0, true), Channel::of($copper['metallic'], 0)], 64, 64),
], 1.2, [[Role::Normal, 'xy', false], [Role::Roughness, 'z', true], [Role::Metallic, 'w', false]]);
$samplings = [
    'sharp' => new Sampling('sharp'),
    'flat' => new Sampling(mips: false),
    'mirrored' => new Sampling(wrapU: 'mirror', wrapV: 'edge'),
    'odd' => new Sampling(wrapU: 'edge', wrapV: 'mirror'),
];
foreach ($samplings as $name => $sampling) {
    $maps->add($name, $cook->maps(new LimePlaster(), $name === 'odd' ? 48 : 64), 2.0, [], $sampling);
}
$maps->add('sheet', $cook->maps(new LimePlaster(), 32), 1.0, cut: Cut::of(['rectangles' => [['name' => 'A', 'x' => 0, 'y' => 0, 'width' => 30, 'height' => 40], ['name' => 'B', 'x' => 40, 'y' => 10, 'width' => 60, 'height' => 20]]]));
$random = new RandomDocuments(2026);

$points = array_fill_keys(array_keys(Surface::types()), []);
for ($i = 0; $i < POINTS; ++$i) {
    foreach ($random->footprint()->inputs as $name => $values) {
        array_push($points[$name], ...$values);
    }
}

CRun::points($points, POINTS, $argv[1] . '.points');
$c = getenv('RILTA_PARITY') === 'glsl' ? null : new CRun(dirname($argv[1]) . '/c', $argv[1] . '.points');
$hlsl = $c === null ? null : new HlslRun(dirname($argv[1]) . '/hlsl');
$cases = [];
foreach (Lanes::all() as $name => $steps) {
    array_push($cases, ...(new ParityCase($name, Documents::lower($steps, $maps), SECONDS))->describe($points, POINTS, $maps, $c, FAR, $hlsl));
}
foreach ([0.001, 0.01] as $size) {
    array_push($cases, ...(new ParityCase("size $size m", Documents::lower([Documents::step('origin', ['seam' => 40.0]), Documents::step('size', ['u' => $size]), Documents::step('turn', ['angle' => 20.0])], $maps), SECONDS))->describe($points, POINTS, $maps, $c, FAR, $hlsl));
}
foreach (['tri-planar' => ['space' => 'world', 'seam' => 40.0], 'hex blend' => []] as $name => $values) {
    $steps = $name === 'hex blend' ? [Documents::step('origin', ['space' => 'mesh']), Documents::step('hex-blend')] : [Documents::step('origin', $values), Documents::step('size', ['u' => 0.8])];
    array_push($cases, ...(new ParityCase("packed channels, $name", Lowering::lower(Documents::reader()->read(Documents::of($steps, 'packed')), $maps), SECONDS))->describe($points, POINTS, $maps, $c, [], $hlsl));
}
foreach (array_keys($samplings) as $name) {
    foreach ([0.8, 0.02] as $size) {
        $steps = [Documents::step('origin', ['space' => 'mesh']), Documents::step('size', ['u' => $size, 'v' => $size]), Documents::step('shift', ['u' => 0.013, 'v' => 0.007])];
        array_push($cases, ...(new ParityCase("sampling, $name, $size", Lowering::lower(Documents::reader()->read(Documents::of($steps, $name)), $maps), SECONDS))->describe($points, POINTS, $maps, $c, [max(FAR)], $hlsl));
    }
}
foreach (Lanes::documents() as $name => $document) {
    $case = new ParityCase($name, Lowering::lower(Documents::reader()->read($document), $maps), SECONDS);
    array_push($cases, ...$case->describe($points, POINTS, $maps, $c, [], $hlsl), ...[$case->pictures($points, POINTS_OF_RANDOM, $maps)]);
}
// The demo's own materials, with small levels of its maps.
$maps->small(new MapFolder(dirname(__DIR__, 3) . '/demo/maps', dirname($argv[1]) . '/maps'), SIDE);
foreach (glob(dirname(__DIR__, 3) . '/demo/materials/*.json') ?: [] as $path) {
    $lowered = Lowering::lower(Documents::reader()->readJson((string) file_get_contents($path)), $maps);
    array_push($cases, ...(new ParityCase('demo ' . basename($path, '.json'), $lowered, EARLY))->describe($points, POINTS_OF_RANDOM, $maps, $c, [], $hlsl));
}
$varying = 0;
$many = getenv('RILTA_PARITY') === 'long' ? RANDOM_LONG : RANDOM;
for ($i = 0; $i < $many; ++$i) {
    $document = $random->layered();
    foreach ($document['lanes'][0]['steps'] as $s => $use) {
        if ($use['step'] === 'warp' && ((array) $use['values'])['by'] === 'map') {
            $document['lanes'][0]['steps'][$s]['values'] = Lanes::UNMIXED + (array) $use['values'];
        }
    }
    $material = Documents::reader()->read($document);
    $lowered = Lowering::lower($material, $maps);
    // Up to 30 days. A rate that differs from place to place is known to single precision alone: it is compared early.
    $seconds = $i * 8639.7 + 0.0137;
    $varies = in_array(Clock::UNIFORM, Reachable::names(Op::Uniform, [...$lowered->channels, ...array_map(static fn (Tap $tap): Node => $tap->at->uv, $lowered->taps())]), true);
    $case = new ParityCase("random $i, " . count($material->layers) . ' layers: ' . $material->lanes[0]?->sentence(), $lowered, $varies ? fmod($seconds, 60.0) : $seconds);
    array_push($cases, ...$case->describe($points, POINTS_OF_RANDOM, $maps, $c, $i % 6 === 0 ? [max(FAR)] : [], $hlsl));
    if ($i % 10 === 0) {
        $cases[] = $case->pictures($points, POINTS_OF_RANDOM, $maps);
    }
    $varying += (int) $varies;
}

$passes = [];
foreach (Lanes::all() as $name => $steps) {
    try {
        foreach (MultipassShader::of(Lowering::multipass(Documents::reader()->read(Documents::of($steps)), $maps))->passes as $hash => $stepPass) {
            $passes[$hash] ??= ['name' => $name, 'code' => $stepPass['code'], 'origin' => $stepPass['origin']];
        }
    } catch (NotMultipassable) {
        // RelayTest counts these.
    }
}

$packs = [];
foreach ($maps->names() as $name) {
    foreach ($maps->find($name)?->images() ?? [] as $map) {
        $size = $map->slot()->texelBytes();
        $packs[$map->name] = base64_encode('RTP1' . pack('V3', $map->width, $map->height, $size) . Rilta\Core\Format\Texels::pack($maps->all($map), $size));
    }
}
$made = $hlsl?->finish() ?? [];
if ($hlsl !== null) {
    printf("As HLSL: %d programs, and %d that are refused\n", count($made), count($hlsl->failed));
}
if ($hlsl !== null && $hlsl->failed !== []) {
    fwrite(\STDERR, implode("\n", $hlsl->failed) . "\n");
    exit(1);
}
file_put_contents($argv[1], json_encode([
    'points' => ShaderCheck::texture($points, POINTS),
    'packs' => $packs,
    'cases' => $cases,
    'passes' => array_values($passes),
    'hlsl' => $made,
], \JSON_THROW_ON_ERROR));
if ($c === null) {
    exit;
}
$c->finish();
printf("As C: %d values, %d differ by more than 1e-9 of themselves, by %g at worst\n", $c->values, $c->off, $c->worst);
if ($c->failed !== [] || $c->off > $c->values * 1e-6) {
    fwrite(\STDERR, "C and the kernel differ, or C does not compile:\n" . implode("\n", $c->failed) . "\n");
    exit(1);
}
printf("%d cases at %d points; of the random ones %d have rates that differ from place to place\n", count($cases), POINTS, $varying);
