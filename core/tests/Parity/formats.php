<?php

declare(strict_types=1);

/*
 * Writes files that foreign readers open, and what they have to find in them.
 * Usage: php core/tests/Parity/formats.php FILE
 */

use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Deliver\BakedLook;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Deliver\GltfStage;
use Rilta\Core\Format\Ktx2;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\Texels;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Role;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Raster\Blocks;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\MipLayout;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

require dirname(__DIR__, 3) . '/vendor/autoload.php';

/** Of a map that is put into blocks, in texels. */
const CORNER = 256;

$dice = new Random\Randomizer(new Random\Engine\Mt19937(8));
$image = static fn (int $width, int $height, int $samples, bool $deep = false): Image => new Image($width, $height, $samples, array_map(static fn (): int => $dice->getInt(0, $samples === 4 ? 0xFFFFFFFF : ($deep ? 65535 : 255)), range(1, $width * $height)), $deep);
$files = [];
foreach ([
    ['colour', [$image(20, 12, 4)], MipFilter::Colour],
    ['normal', [$image(16, 16, 4)], MipFilter::Normal],
    ['two', [$image(12, 20, 4)], MipFilter::Normal, true],
    ['grey', [$image(9, 7, 1)], MipFilter::Data],
    ['deep', [$image(8, 8, 1, true)], MipFilter::Data],
    ['array', [$image(8, 4, 4), $image(8, 4, 4), $image(8, 4, 4)], MipFilter::Colour],
] as $case) {
    [$name, $images, $filter] = $case;
    $two = $case[3] ?? false;
    $layout = new MipLayout($images[0]->width, $images[0]->height);
    $levels = [];
    foreach ($layout->offsets as $level => $offset) {
        $levels[] = base64_encode(implode('', array_map(static fn (Image $one): string => Texels::pack(array_slice(Mips::build($one, $filter), $offset, $layout->widths[$level] * $layout->heights[$level]), $one->deep || $two ? 2 : $one->samples), $images)));
    }
    foreach ([true, false] as $packed) {
        $files[] = ['name' => $name . ($packed ? '' : ', not packed'), 'file' => base64_encode(Ktx2::bytes($images, $filter, $packed, two: $two)), 'width' => $layout->widths[0], 'height' => $layout->heights[0], 'layers' => count($images) > 1 ? count($images) : 0, 'srgb' => $filter === MipFilter::Colour, 'levels' => $levels];
    }
}
// The demo's materials as baked tiles on a mesh, with small levels of their maps.
$root = dirname(__DIR__, 3);
$maps = (new TestMaps())->small(new MapFolder("$root/demo/maps", dirname($argv[1]) . '/maps'), 64);
$profile = DeliveryProfile::read(['format' => DeliveryProfile::FORMAT, 'name' => 'own', 'label' => 'Own', 'bake' => ['size' => 64], 'glb' => ['mesh' => 'rounded-block', 'variants' => true]]);
$scenes = [];
foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
    $read = Documents::reader()->salvage(json_decode((string) file_get_contents($path), true));
    foreach ((new Delivery($read, '', $profile, $maps, Kernels::compiler(), Delivery::variants(Documents::reader(), $read->material, '', $profile, $maps)))->files(static function (): void {
    }) as $name => [, $bytes]) {
        if (str_ends_with($name, '.glb')) {
            $scenes[] = ['name' => basename($path, '.json'), 'file' => base64_encode($bytes), 'kind' => $read->material->cover->kind()];
        }
    }
}
// What the demo is handed over as under each of the ready profiles, with small maps and pictures.
$deliveries = [];
foreach (glob("$root/demo/profiles/*.json") ?: [] as $ready) {
    $said = json_decode((string) file_get_contents($ready), true);
    if (!is_array($said)) {
        continue;
    }
    $said = array_replace_recursive($said, isset($said['bake']) ? ['bake' => ['size' => 64]] : [], isset($said['grid']) ? ['grid' => ['samples' => 5]] : []);
    foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
        $read = Documents::reader()->salvage(json_decode((string) file_get_contents($path), true));
        $profile = DeliveryProfile::read($said);
        $delivery = new Delivery($read, '', $profile, $maps, Kernels::compiler(), Delivery::variants(Documents::reader(), $read->material, '', $profile, $maps));
        $delivered = $delivery->files(static function (): void {
        });
        [$listed, $contents] = [[], []];
        foreach ($delivered as $name => $one) {
            $listed[] = ['path' => $name, 'sha256' => hash('sha256', $one[1]), 'bytes' => strlen($one[1]), 'meaning' => $one[0]] + (isset($one[2]) ? ['picture' => $one[2]] : []);
            $contents[$name] = base64_encode($one[1]);
        }
        $deliveries[] = ['name' => basename($ready, '.json') . ': ' . basename($path, '.json'), 'manifest' => $delivery->manifest($listed, $delivered->getReturn(), $delivery->source()), 'files' => $contents];
    }
}
// Each ready-made mesh where it stands, with what one of the demo's materials is on it, in its second set of UVs.
$objects = [];
$documents = glob("$root/demo/materials/*.json") ?: [];
foreach (ReadyMade::cases() as $i => $made) {
    $lowered = Lowering::lower(Documents::reader()->read(json_decode((string) file_get_contents($documents[2 * $i]), true)), $maps, true);
    $target = new MeshTarget(new Placed('a', $made->label(), $made->value, [1.0, 2.0, 3.0], [10.0, 20.0, 30.0], [1.0, 2.0, 0.5]), 1);
    $job = new MeshBake($lowered, $target, $made->mesh(), '', 64, Kernels::compiler());
    $bands = array_map(static fn (array $rows): array => $job->region($maps, ...$rows), MeshBake::regions(64, 1));
    $images = [];
    $told = $job->complete(static fn (string $name): string => implode('', array_column($bands, $name)), static function (Channel $channel, string $rows) use (&$images): void {
        $images[$channel->value] = $rows;
    });
    $file = new GltfStage();
    $file->add($target->object, $made->mesh(), 1, [new BakedLook('Test', 64, $images, $lowered->cover)]);
    $objects[] = ['name' => $made->value, 'file' => base64_encode($file->bytes()), 'triangles' => $made->mesh()->triangles, 'covered' => $told['covered'], 'doubled' => $told['doubled']];
}
// The demo's maps in blocks, as a device unpacks them.
$blocks = [];
$folder = new MapFolder("$root/demo/maps", dirname($argv[1]) . '/folder');
foreach ($folder->names() as $name) {
    foreach ($folder->find($name)?->images() ?? [] as $map) {
        if (!in_array($map->role, [Role::BaseColour, Role::Normal, Role::Roughness], true)) {
            continue;
        }
        // A corner of it, as large as it is drawn.
        $all = $folder->all($map);
        $texels = [];
        for ($y = 0; $y < CORNER; ++$y) {
            array_push($texels, ...array_slice($all, $y * $map->width, CORNER));
        }
        $image = new Image(CORNER, CORNER, $map->slot()->samples, $texels);
        $kind = Blocks::for($image->samples, $map->filter());
        $blocks[] = ['name' => $map->name, 'kind' => strtolower($kind->name), 'file' => base64_encode(Ktx2::bytes([$image], $map->filter(), blocks: $kind)), 'width' => $image->width, 'height' => $image->height, 'srgb' => $map->filter() === MipFilter::Colour, 'texels' => base64_encode(Texels::pack($image->texels, $image->samples))];
    }
}
file_put_contents($argv[1], json_encode(['pictures' => $files, 'scenes' => $scenes, 'objects' => $objects, 'blocks' => $blocks, 'deliveries' => $deliveries], \JSON_THROW_ON_ERROR));
