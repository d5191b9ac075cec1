<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Mesh\PaintRaster;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Stage\MeshEdits;
use Rilta\Core\Tests\Kernels;

final class PaintRasterTest extends TestCase
{
    public function testARampOverASheetIsARampInThePicture(): void
    {
        $mesh = ReadyMade::Card->mesh();
        $uvs = $mesh->attributes['TEXCOORD_0'];
        $paint = '';
        for ($v = 0; $v < $uvs->count(); ++$v) {
            [$u, $w] = $uvs->at($v);
            $paint .= pack('C4', (int) round(255 * $u), 7, (int) round(255 * $w), 0);
        }
        foreach ([0 => static fn (int $x, int $y): float => 255 * ($x + 0.5) / 32, 2 => static fn (int $x, int $y): float => 255 * ($y + 0.5) / 32, 1 => static fn (int $x, int $y): float => 7.0] as $channel => $expected) {
            $picture = PaintRaster::of($mesh, $paint, $channel, 0, 32);
            for ($i = 0; $i < 32 * 32; ++$i) {
                self::assertEqualsWithDelta($expected($i % 32, intdiv($i, 32)), \ord($picture[$i]), 1.01, "channel $channel, texel $i");
            }
        }
    }

    public function testWhatIsPaintedIsDrawnOutIntoTheGuttersAndNoFurther(): void
    {
        // In the middle quarter of the square, with room around it.
        $mesh = MeshEdits::read(['edit' => 'move', 'set' => 1, 'scale' => [0.25, 0.25]], Kernels::compiler())->of(ReadyMade::Card->mesh());
        $paint = str_repeat("\xC8\0\0\0", $mesh->positions->count());
        $picture = PaintRaster::of($mesh, $paint, 0, 0, 256);
        foreach ([128 => 200, 96 => 200, 95 => 200, 80 => 200, 79 => 0, 160 => 200, 175 => 200, 177 => 0] as $row => $value) {
            self::assertSame([$value, $value], [\ord($picture[$row * 256 + 128]), \ord($picture[128 * 256 + $row])], "row and column $row");
        }
    }

    public function testWhatIsOfAnotherMeshOrSetIsRefused(): void
    {
        $mesh = ReadyMade::Cube->mesh();
        try {
            $floor = ReadyMade::Floor->mesh();
            PaintRaster::of($floor, str_repeat('abcd', $floor->positions->count()), 0, 0, 16);
            self::fail('It was drawn.');
        } catch (\LengthException $e) {
            self::assertStringContainsString('over 120 squares', $e->getMessage());
        }
        foreach ([['abcd', 0, 'other vertices'], [str_repeat("\0", 4 * $mesh->positions->count()), 5, 'no UV set 6']] as [$paint, $set, $message]) {
            try {
                PaintRaster::of($mesh, $paint, 0, $set, 16);
                self::fail('It was drawn.');
            } catch (\LengthException $e) {
                self::assertStringContainsString($message, $e->getMessage());
            }
        }
    }
}
