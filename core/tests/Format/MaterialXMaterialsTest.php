<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Tile;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Deliver\MaterialXFile;
use Rilta\Core\Format\ForeignMaterialFile;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\Png;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Materials of MaterialX, as what they become here: what was written here comes back, what others write is computed. */
final class MaterialXMaterialsTest extends TestCase
{
    /** What stays alive in it, read again, is the same at every place. */
    public function testWhatIsAliveComesBack(): void
    {
        mt_srand(12);
        $random = static fn (float $low, float $high): float => $low + ($high - $low) * mt_rand() / mt_getrandmax();
        for ($i = 0; $i < 16; ++$i) {
            $maps = TestMaps::noise(seed: $i + 1);
            $document = Documents::of([
                Documents::step('origin', ['space' => 'mesh', 'uvSet' => ['first', 'second', 'third', 'fourth'][$i % 4]]),
                Documents::step('size', ['by' => 'repeats', 'linked' => false, 'countU' => $random(0.3, 5.0), 'countV' => $random(0.3, 5.0)]),
                ...($i % 3 === 1 ? [Documents::step('mirror', ['u' => 'all', 'v' => $i % 2 === 0 ? 'all' : 'off'])] : []),
                ...($i % 2 === 1 ? [Documents::step('turn', ['angle' => $random(-170, 170)])] : []),
                Documents::step('shift', ['in' => 'repeats', 'u' => $random(-2, 2), 'v' => $random(-2, 2)]),
            ]);
            $document['layers'][0]['finish'] = ['values' => ['tint' => [$random(0.2, 1.0), $random(0.2, 1.0), $random(0.2, 1.0)], 'roughnessFrom' => $random(0.0, 0.3), 'roughnessTo' => $random(0.5, 1.0), 'relief' => $random(30.0, 180.0), 'metallicFrom' => 0.4, 'metallicTo' => 0.4]];
            $lowered = Lowering::lower(Documents::reader()->read($document), $maps, true);
            $channels = [Channel::BaseColour, Channel::Normal, Channel::Roughness, Channel::Metallic, Channel::Occlusion];
            $file = MaterialXFile::of('Back & forth', 'back', $lowered, [], Tile::of($lowered), $channels, 1.0);
            self::assertSame([[], []], [$file->baked, $file->told]);
            $others = [];
            foreach ($file->maps as $map => $name) {
                $others[$name] = PictureFormat::Png->ofImages([$lowered->facts[$map]->image($maps)], MipFilter::Colour);
            }
            [$read] = ForeignMaterialFile::read($file->document, 'back.mtlx', $others);
            self::assertSame(['Back & forth', []], [$read->name, $read->left]);
            [$back, $backMaps] = ForeignDocuments::built($read);
            for ($k = 0; $k < 6; ++$k) {
                $point = SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [$random(-2, 2), $random(-2, 2)], 1.0)->inputs;
                $of = static fn (\Rilta\Core\Lowering\Lowered $one, TestMaps $with): array => Kernels::values($one->graph, array_intersect_key($one->channels, ['baseColour' => 1, 'normal' => 1, 'roughness' => 1, 'metallic' => 1, 'occlusion' => 1]), $point, $one->uniforms(), $with->everything());
                $wanted = $of($lowered, $maps);
                foreach ($of($back, $backMaps) as $channel => $values) {
                    self::assertEqualsWithDelta($wanted[$channel], $values, 2e-6, "$channel of $i");
                }
            }
        }
    }

    /** What was baked comes back as well, texel by texel: as a tile on the mesh's UVs in metres. */
    public function testWhatWasBakedComesBack(): void
    {
        $maps = TestMaps::noise();
        $read = Documents::reader()->salvage(Documents::of([Documents::step('origin', ['faces' => 'z']), Documents::step('size', ['linked' => false, 'u' => 2.5, 'v' => 0.75]), Documents::step('breakup')]));
        $profile = DeliveryProfile::read(['format' => DeliveryProfile::FORMAT, 'name' => 'own', 'label' => 'Own', 'bake' => ['size' => 64], 'materialx' => true]);
        [$said, $files] = ['', []];
        $tile = Tile::of(Lowering::lower($read->material, $maps, true));
        foreach ((new Delivery($read, '', $profile, $maps, Kernels::compiler()))->files(static function (): void {
        }) as $path => [, $bytes]) {
            $files[basename($path)] = $bytes;
            $said = str_ends_with($path, '.mtlx') ? $bytes : $said;
        }
        self::assertContains('back-base-colour.png', array_map(static fn (string $name): string => str_replace('material-', 'back-', (string) preg_replace('/^.*(?=-base-colour)/', 'back', $name)), ForeignMaterialFile::needs($said)));
        [$foreign] = ForeignMaterialFile::read($said, 'baked.mtlx', $files);
        [$lowered] = ForeignDocuments::built($foreign);
        foreach ([[0.0, 0.0], [1.25, 0.3], [3.0, -1.0]] as [$x, $y]) {
            $found = Kernels::values($lowered->graph, ['uv' => $lowered->layers[0]->taps[0]->at->uv], ['uv3' => [$x, $y]] + SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0])->inputs, $lowered->uniforms())['uv'];
            self::assertEqualsWithDelta([$x / $tile->width, $y / $tile->height], $found, 1e-9);
        }
        self::assertEqualsCanonicalizing(['base-colour', 'normal', 'roughness', 'occlusion'], array_map(static fn (object $map): string => $map->role->value, $foreign->sets[0]->maps));
    }

    /** place2d by its specification: about the pivot, divided by the scale, turned clockwise, minus the offset; or the other way round. */
    public function testImagesLieAsPlace2dSays(): void
    {
        mt_srand(3);
        $random = static fn (float $low, float $high): float => $low + ($high - $low) * mt_rand() / mt_getrandmax();
        for ($i = 0; $i < 20; ++$i) {
            [$pu, $pv, $x, $y, $turn, $du, $dv] = [$random(-1, 1), $random(-1, 1), $random(0.3, 4) * ($i % 5 === 1 ? -1 : 1), $random(0.3, 4), $i % 4 === 0 ? 0.0 : $random(-170, 170), $random(-2, 2), $random(-2, 2)];
            // The other order is a skew unless both scales are one, or it is not turned.
            $later = $i % 2 === 1;
            $y = $later ? abs($x) * ($y <=> 0) : $y;
            $set = $i % 4;
            $node = "<texcoord name='t' type='vector2'><input name='index' type='integer' value='$set'/></texcoord><place2d name='p' type='vector2'><input name='texcoord' type='vector2' nodename='t'/><input name='pivot' type='vector2' value='$pu, $pv'/><input name='scale' type='vector2' value='$x, $y'/><input name='rotate' type='float' value='$turn'/><input name='offset' type='vector2' value='$du, $dv'/><input name='operationorder' type='integer' value='" . (int) $later . "'/></place2d>";
            [$read] = ForeignMaterialFile::read(self::document("$node<image name='i' type='color3'><input name='file' type='filename' value='a.png'/><input name='texcoord' type='vector2' nodename='p'/></image>", "<input name='base_color' type='color3' nodename='i'/>"), 'a.mtlx', ['a.png' => self::png()]);
            self::assertSame([], $read->left, "case $i");
            [$lowered] = ForeignDocuments::built($read);
            for ($k = 0; $k < 4; ++$k) {
                [$s, $t] = [$random(-2, 2), $random(-2, 2)];
                $found = Kernels::values($lowered->graph, ['uv' => $lowered->layers[0]->taps[0]->at->uv], [['uv', 'uv2', 'uv3', 'uv4'][$set] => [$s, $t]] + SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0])->inputs, $lowered->uniforms())['uv'];
                [$c, $d] = [cos(deg2rad($turn)), sin(deg2rad($turn))];
                [$a, $b] = [$s - $pu, (1 - $t) - $pv];
                if ($later) {
                    [$a, $b] = [$a - $du, $b - $dv];
                    [$a, $b] = [($c * $a + $d * $b) / $x + $pu, ($c * $b - $d * $a) / $y + $pv];
                } else {
                    [$a, $b] = [$a / $x, $b / $y];
                    [$a, $b] = [$c * $a + $d * $b - $du + $pu, $c * $b - $d * $a - $dv + $pv];
                }
                self::assertEqualsWithDelta([$a, 1 - $b], $found, 1e-7, "case $i");
            }
        }
    }

    public function testSurfacesOfOtherKindsAndPackedImagesAreRead(): void
    {
        $image = "<image name='i' type='vector3'><input name='file' type='filename' value='orm.png'/></image>";
        foreach ([1 => 'y', 2 => 'z'] as $index => $letter) {
            $image .= "<extract name='e$index' type='float'><input name='in' type='vector3' nodename='i'/><input name='index' type='integer' value='$index'/></extract>";
        }
        $document = str_replace('gltf_pbr', 'standard_surface', self::document(
            "$image<multiply name='m' type='float'><input name='in1' type='float' nodename='e1'/><input name='in2' type='float' value='0.5'/></multiply>",
            "<input name='base_color' type='color3' value='0.2, 0.4, 0.6'/><input name='specular_roughness' type='float' nodename='m'/><input name='metalness' type='float' nodename='e2'/><input name='emission' type='float' value='2'/><input name='emission_color' type='color3' value='1, 0.5, 0'/><input name='coat' type='float' value='1'/>",
        ));
        [$read] = ForeignMaterialFile::read($document, 'a.mtlx', ['orm.png' => self::png()]);
        self::assertSame(['coat'], $read->left);
        self::assertSame([['metallic', 'z'], ['roughness', 'y']], array_map(static fn (array $one): array => [$one['role']->value, $one['channels']], $read->sets[0]->maps[0]->channels));
        [$lowered, $maps] = ForeignDocuments::built($read);
        $found = Kernels::values($lowered->graph, $lowered->channels, SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 0.0, 1.0], [0.3, 0.4], 1.0)->inputs, $lowered->uniforms(), $maps->everything());
        self::assertEqualsWithDelta([0.5 * 120 / 255, 200 / 255], [$found['roughness'][0], $found['metallic'][0]], 1e-6);
        self::assertEqualsWithDelta([2.0, 1.0, 0.0], $found['emission'], 1e-6);
    }

    /** @return iterable<string, array{string, string, string}> nodes, the input of the surface, what is said */
    public static function beyond(): iterable
    {
        $image = static fn (string $name, string $more = ''): string => "<image name='$name' type='color3'><input name='file' type='filename' value='a.png'/>$more</image>";
        $colour = "<input name='base_color' type='color3' nodename='n'/>";
        yield 'two images' => [$image('a') . $image('b') . "<mix name='n' type='color3'><input name='fg' type='color3' nodename='a'/><input name='bg' type='color3' nodename='b'/><input name='mix' type='float' value='0.5'/></mix>", $colour, 'colour: several images at once'];
        yield 'a bend' => [$image('a') . "<power name='n' type='color3'><input name='in1' type='color3' nodename='a'/><input name='in2' type='color3' value='2, 2, 2'/></power>", $colour, 'colour: an image that is bent by more than a factor and a sum'];
        yield 'noise' => ["<noise3d name='n' type='color3'/>", $colour, 'colour: "noise3d"'];
        yield 'places in the world' => ["<position name='p' type='vector3'/><convert name='c' type='vector2'><input name='in' type='vector3' nodename='p'/></convert>" . $image('n', "<input name='texcoord' type='vector2' nodename='c'/>"), $colour, 'colour: "position"'];
        yield 'nodes in a ring' => ["<absval name='n' type='color3'><input name='in' type='color3' nodename='m'/></absval><absval name='m' type='color3'><input name='in' type='color3' nodename='n'/></absval>", $colour, 'colour: nodes that read themselves'];
        yield 'no such node' => ['', $colour, 'colour: what "base_color" is connected to'];
    }

    #[DataProvider('beyond')]
    public function testWhatIsBeyondItIsNamed(string $nodes, string $input, string $said): void
    {
        [$read] = ForeignMaterialFile::read(self::document($nodes, $input), 'a.mtlx', ['a.png' => self::png()]);
        self::assertSame([$said], $read->left);
    }

    /** Whatever is said where: it is read, or refused by name. */
    public function testDamagedFilesAreRefusedOrRead(): void
    {
        mt_srand(21);
        $maps = TestMaps::noise();
        $document = Documents::of([Documents::step('origin', ['space' => 'mesh', 'uvSet' => 'first']), Documents::step('turn', ['angle' => 20])]);
        $lowered = Lowering::lower(Documents::reader()->read($document), $maps, true);
        $good = MaterialXFile::of('Good', 'good', $lowered, [], Tile::of($lowered), [Channel::BaseColour, Channel::Normal, Channel::Roughness], 1.0)->document;
        $words = ['float', 'vector2', 'vector3', 'color3', 'nodename', 'value', 'interfacename', '0.0', '1e300', '-1', 'nan', 'n1', 'n7', 'in1', 'texcoord', 'image', 'place2d', 'multiply', 'divide', 'extract', 'dotproduct', 'combine2', 'normalize', ''];
        $read = 0;
        for ($i = 0; $i < 300; ++$i) {
            $bad = $good;
            for ($k = mt_rand(1, 4); $k > 0; --$k) {
                preg_match_all('/[A-Za-z0-9_.-]+/', $bad, $found, \PREG_OFFSET_CAPTURE);
                [$word, $at] = $found[0][mt_rand(10, \count($found[0]) - 1)];
                $bad = substr_replace($bad, $words[mt_rand(0, \count($words) - 1)], $at, \strlen($word));
            }
            try {
                [$one] = ForeignMaterialFile::read($bad, 'bad.mtlx', ['set-base-colour.png' => self::png()]);
                self::assertSame([], Documents::reader()->salvage($one->document(array_fill_keys(array_column($one->sets, 'name'), 'set')))->problems, $bad);
                ++$read;
            } catch (UnreadableMesh $e) {
                self::assertStringContainsString('bad.mtlx', $e->getMessage());
            }
        }
        self::assertGreaterThan(100, $read);
    }

    public function testMistakesAreNamed(): void
    {
        $good = self::document('', "<input name='roughness' type='float' value='0.5'/>");
        foreach ([
            '<a/>' => 'MaterialX document', '<!DOCTYPE a [<!ENTITY b "c">]>' . $good => 'MaterialX document', str_replace('1.39', '1.2', $good) => '1.36 or later', str_replace('surfacematerial', 'nothing', $good) => '1 to 64 materials',
            str_replace('gltf_pbr', 'hair', $good) => 'found "hair"', substr($good, 0, -20) => 'MaterialX document',
        ] as $bytes => $said) {
            try {
                ForeignMaterialFile::read((string) $bytes, 'a.mtlx', []);
                self::fail("It was read: $said");
            } catch (UnreadableMesh $e) {
                self::assertStringContainsString($said, $e->getMessage());
            }
        }
        [$read] = ForeignMaterialFile::read(self::document("<image name='n' type='color3'><input name='file' type='filename' value='gone.png'/></image>", "<input name='base_color' type='color3' nodename='n'/>"), 'a.mtlx', []);
        self::assertSame(['gone.png: no such file came with it'], $read->left);
        self::assertSame(['gone.png'], ForeignMaterialFile::needs("<materialx version='1.39'><image name='n'><input name='file' type='filename' value='gone.png'/></image><image name='m'><input name='file' type='filename' value='../../etc/passwd'/></image></materialx>"));
    }

    private static function document(string $nodes, string $inputs): string
    {
        return "<?xml version='1.0'?><materialx version='1.39'>$nodes<gltf_pbr name='S' type='surfaceshader'>$inputs</gltf_pbr><surfacematerial name='M' type='material'><input name='surfaceshader' type='surfaceshader' nodename='S'/></surfacematerial></materialx>";
    }

    private static function png(): string
    {
        return Png::bytes(2, 2, 3, str_repeat("\x3C\x78\xC8", 4));
    }
}
