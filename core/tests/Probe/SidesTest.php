<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Probe;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Trails of lanes with sides and of more than one layer. */
final class SidesTest extends TestCase
{
    public function testSidesAreToldAsPeopleNameThemAndEachLayerHasItsReads(): void
    {
        $maps = TestMaps::noise();
        $document = Documents::whole(
            [Documents::lane('a', Documents::step('origin', ['faces' => 'six', 'seam' => 60.0]), Documents::step('hex-blend')), Documents::lane('b', Documents::step('origin', ['faces' => 'y']))],
            [Documents::layer('low', 'a'), Documents::layer('high', 'b', 'set', ['opacity' => 30.0])],
        );
        $text = (new Probe(Kernels::compiler(), $maps))->trail(Lowering::lower(Documents::reader()->read($document), $maps), SurfaceSample::at([0.3, 0.7, 1.9], [0.5, -0.6, 0.62]))->text();
        foreach (['Weight of face -y', 'Coordinate on +x 2', 'Coordinate on -y 3'] as $name) {
            self::assertStringContainsString($name, $text);
        }
        self::assertStringNotContainsString('Coordinate on +y', $text, 'the side that is not seen counts nothing');
        self::assertStringContainsString('Map set/normal  /layers/0', $text);
        self::assertStringContainsString('Map set/normal  /layers/1', $text);
    }
}
