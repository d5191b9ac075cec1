<?php

declare(strict_types=1);

/*
 * Writes materials as MaterialX, and what they have to look like.
 * Usage: php core/tests/Parity/materialx.php FILE
 */

use Rilta\Core\Bake\Tile;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\Parity\Lanes;
use Rilta\Core\Tests\TestMaps;

require dirname(__DIR__, 3) . '/vendor/autoload.php';

/** Pixels a side of what is looked at. */
const SIDE = 24;
/** Metres a pixel: texels are larger. */
const STEP = 0.01;
/** Pixels a side of the baked tile. */
const TILE = 64;

/**
 * What a square of the plane looks like that a material is made for.
 *
 * @param list<string>               $channels of the material
 * @param array{float, float}        $from     metres along the plane
 * @param array{float, float, float} $normal   which way the mesh says that it looks
 *
 * @return array<string, mixed>
 */
function patch(Lowered $lowered, TestMaps $maps, array $channels, array $from, array $normal): array
{
    $plane = Tile::of($lowered)->plane;
    $g = new Graph();
    [$x, $y] = [$g->add($g->input('pixelX', Type::Float), $from[0] / STEP), $g->add($g->input('pixelY', Type::Float), $from[1] / STEP)];
    $inputs = ['normal' => $g->vec(...$normal)] + $plane->inputs($g, $x, $y, $g->float(STEP), $g->float(STEP));
    $rewriter = new Rewriter($lowered->graph, $g, $inputs);
    $fields = [];
    foreach ($channels as $name) {
        $fields[$name] = $rewriter->rewrite($lowered->channels[$name]);
    }
    $found = Kernels::compiler()->compile($g, $fields, ['pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY])->run($lowered->uniforms(), $lowered->texels($maps), [], 0, 0, SIDE, SIDE);
    $at = array_map(static fn (float $r, float $d): float => $r * $from[0] + $d * $from[1], $plane->right, $plane->down);

    return ['position' => $at, 'right' => $plane->right, 'down' => $plane->down, 'normal' => $normal, 'from' => $from, 'values' => $found];
}
$root = dirname(__DIR__, 3);
$demo = (new TestMaps())->small(new MapFolder("$root/demo/maps", dirname($argv[1]) . '/maps'), 64);
$documents = [];
foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
    $documents[basename($path, '.json')] = [json_decode((string) file_get_contents($path), true), $demo];
}
foreach (Lanes::all() as $name => $steps) {
    $documents["lane: $name"] = [Documents::of($steps), TestMaps::whole()];
}
$profile = DeliveryProfile::read(['format' => DeliveryProfile::FORMAT, 'name' => 'own', 'label' => 'Own', 'bake' => ['size' => TILE], 'materialx' => true]);
$cases = [];
foreach ($documents as $name => [$document, $maps]) {
    $read = Documents::reader()->salvage($document);
    $delivery = new Delivery($read, '', $profile, $maps, Kernels::compiler());
    [$said, $files] = ['', []];
    $delivered = $delivery->files(static function (): void {
    });
    foreach ($delivered as $path => [, $bytes]) {
        if (str_ends_with($path, '.mtlx')) {
            $said = $bytes;
        } elseif (str_starts_with($path, 'materialx/')) {
            $files[basename($path)] = base64_encode($bytes);
        }
    }
    $told = $delivered->getReturn()['notInMaterialX'] ?? [];
    $baked = [];
    foreach (is_array($told) ? $told : [] as $line) {
        if (is_string($line) && preg_match('/^baked, .*: (.*)$/D', $line, $m) === 1) {
            array_push($baked, ...explode(', ', $m[1]));
        }
    }
    $lowered = Lowering::lower($read->material, $maps, true);
    $names = array_filter(['base-colour' => 'baseColour', 'normal' => 'normal', 'roughness' => 'roughness', 'metallic' => 'metallic', 'occlusion' => 'occlusion', 'opacity' => 'opacity', 'emission' => 'emission'], static fn (string $field): bool => isset($lowered->channels[$field]));
    $alive = array_diff_key($names, array_flip($baked));
    $tile = Tile::of($lowered);
    $square = $tile->plane->normal;
    $byMesh = array_filter($lowered->taps(), static fn ($tap): bool => $tap->face === 'uv') !== [];
    $patches = [];
    foreach ($alive === [] ? [] : [[0.13, 0.27], [-1.61, 0.52], [2.37, -3.11]] as $i => $from) {
        $length = sqrt(0.3 ** 2 + 0.5 ** 2 + 1.0);
        // Between the faces, too; but what lies along the mesh goes by its directions.
        $patches[] = patch($lowered, $maps, array_values($alive), $from, $i === 0 || $byMesh ? $square : array_map(static fn (float $a): float => $a / $length, [$square[0] + 0.3 * (1 - abs($square[0])), $square[1] + 0.5 * (1 - abs($square[1])), $square[2] + 0.3 * (1 - abs($square[2]))]));
    }
    $cases[] = ['name' => $name, 'document' => $said, 'files' => $files, 'patches' => $patches, 'baked' => $baked, 'alive' => $alive, 'tile' => [$tile->width, $tile->height], 'plane' => ['right' => $tile->plane->right, 'down' => $tile->plane->down, 'normal' => $square]];
}
file_put_contents($argv[1], json_encode(['side' => SIDE, 'step' => STEP, 'size' => TILE, 'cases' => $cases], \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION));
