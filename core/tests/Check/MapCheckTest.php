<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Finding;
use Rilta\Core\Check\Fix;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Check\Measures;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\EdgeSeam;
use Rilta\Core\Raster\Image;

final class MapCheckTest extends TestCase
{
    public function testTheGreenChannelOfAnalyticNormals(): void
    {
        [$up, $down] = [Measures::of(self::bumps(1)), Measures::of(self::bumps(-1))];
        // Bytes round the slopes; of the wrong way the curl is twice the mixed derivative.
        self::assertLessThan(0.006, $up->curlUp);
        self::assertEqualsWithDelta($up->curlUp, $down->curlDown, 0.002);
        self::assertEqualsWithDelta(self::wrongCurl(), $up->curlDown, 0.03 * self::wrongCurl());
        self::assertSame([], self::codes(Role::Normal, Encoding::Data, $up));
        self::assertSame(['green'], self::codes(Role::Normal, Encoding::Data, $down));
    }

    public function testEveryNormalMapOfTheDemoPointsUpAndIsWhole(): void
    {
        $files = glob(\dirname(__DIR__, 3) . '/demo/maps/*/*-normal.png') ?: [];
        self::assertGreaterThan(5, \count($files));
        foreach ($files as $file) {
            $image = ImageFile::open($file)->decode();
            self::assertSame([], array_diff(self::codes(Role::Normal, Encoding::Data, Measures::of($image)), ['seam']), $file);
            $flipped = new Image($image->width, $image->height, 4, array_map(static fn (int $t): int => ($t & ~0xFF00) | (255 - ($t >> 8 & 255)) << 8, $image->texels));
            self::assertSame(['green'], self::codes(Role::Normal, Encoding::Data, Measures::of($flipped)), $file);
        }
    }

    public function testColourReadAsNormalsIsNoticedAndNormalsReadAsColour(): void
    {
        $folder = \dirname(__DIR__, 3) . '/demo/maps/basalt-cladding';
        $colour = Measures::of(ImageFile::open("$folder/basalt-cladding-base-colour.png")->decode());
        self::assertSame(['normals'], self::codes(Role::Normal, Encoding::Data, $colour));
        self::assertSame([], self::codes(Role::BaseColour, Encoding::Colour, $colour));
        $normal = Measures::of(ImageFile::open("$folder/basalt-cladding-normal.png")->decode());
        $found = MapCheck::of(Role::BaseColour, Encoding::Colour, 1.0, $normal);
        self::assertSame([['role', Role::Normal, Encoding::Data]], array_map(static fn (Finding $f): array => [$f->code, $f->role, $f->encoding], $found));
    }

    public function testAnEncodingThatDoesNotFitTheRoleNamesTheOther(): void
    {
        foreach (Role::cases() as $role) {
            self::assertSame([], MapCheck::of($role, $role->encoding(), 1.0, null));
            $wrong = $role->encoding() === Encoding::Data ? Encoding::Colour : Encoding::Data;
            $found = MapCheck::of($role, $wrong, 1.0, null);
            self::assertSame(['encoding', true, $role->encoding()], [$found[0]->code, $found[0]->grave, $found[0]->encoding]);
        }
    }

    public function testAMapOfOneValueSaysSoWithTheValue(): void
    {
        $flat = Measures::of(new Image(8, 8, 1, array_fill(0, 64, 51)));
        $found = MapCheck::of(Role::Roughness, Encoding::Data, 1.0, $flat);
        self::assertSame('Every texel is the same: 0.2.', $found[0]->text);
    }

    public function testAPictureInColoursIsNoDataMap(): void
    {
        $colours = Measures::of(new Image(32, 32, 4, array_map(static fn (int $i): int => (40 + $i % 32) | (90 + intdiv($i, 32)) << 8 | 200 << 16 | 0xFF000000, range(0, 1023))));
        $greys = Measures::of(new Image(32, 32, 4, array_map(static fn (int $i): int => (40 + $i % 32) * 0x010101 | 0xFF000000, range(0, 1023))));
        foreach ([Role::Roughness, Role::Height, Role::Occlusion] as $role) {
            $found = array_values(array_filter(MapCheck::of($role, Encoding::Data, 1.0, $colours, true), static fn (Finding $f): bool => $f->code === 'coloured'));
            self::assertSame([Role::BaseColour, true], [$found[0]->role ?? null, $found[0]->grave ?? null]);
            self::assertNotContains('coloured', array_map(static fn (Finding $f): string => $f->code, MapCheck::of($role, Encoding::Data, 1.0, $greys, true)), 'grey in three channels is data');
        }
        self::assertNotContains('coloured', array_map(static fn (Finding $f): string => $f->code, MapCheck::of(Role::BaseColour, Encoding::Colour, 1.0, $colours)));
    }

    public function testABorderThatJumpsIsNoticed(): void
    {
        $ramp = new Image(32, 32, 1, array_map(static fn (int $i): int => 8 * ($i % 32), range(0, 1023)));
        $seam = EdgeSeam::of($ramp)->worst();
        self::assertEqualsWithDelta(31.0, $seam, 1e-9);
        self::assertSame(['depth', 'seam'], self::codes(Role::Height, Encoding::Data, Measures::of($ramp), $seam));
        self::assertSame([Fix::CrossFade, Fix::MinCut], MapCheck::of(Role::Height, Encoding::Data, $seam, Measures::of($ramp), true)[0]->fixes, 'and what can be done about it; 16 bits are enough');
    }

    public function testMeasuresSurviveBeingStored(): void
    {
        $measures = Measures::of(self::bumps(1));
        $data = json_decode(json_encode($measures->toArray(), \JSON_THROW_ON_ERROR), true, 8, \JSON_THROW_ON_ERROR);
        self::assertIsArray($data);
        self::assertEquals($measures, Measures::fromArray($data));
        self::assertNull(Measures::fromArray([]));
    }

    /** @return list<string> */
    private static function codes(Role $role, Encoding $encoding, Measures $measures, float $seam = 1.0): array
    {
        return array_map(static fn (Finding $f): string => $f->code, MapCheck::of($role, $encoding, $seam, $measures));
    }

    private const SIDE = 128;
    private const HEIGHT = 3.0;

    /** Normals of h = H sin(ax) sin(ay), a = 2 pi 2 / side, in texels; green up or down. */
    private static function bumps(int $green): Image
    {
        $a = 4 * \M_PI / self::SIDE;
        $texels = [];
        for ($y = 0; $y < self::SIDE; ++$y) {
            for ($x = 0; $x < self::SIDE; ++$x) {
                [$dx, $dy] = [self::HEIGHT * $a * cos($a * $x) * sin($a * $y), self::HEIGHT * $a * sin($a * $x) * cos($a * $y)];
                $long = sqrt($dx * $dx + $dy * $dy + 1);
                $byte = static fn (float $c): int => (int) round(($c / $long + 1) * 127.5);
                // Rising downwards tilts the normal up.
                $texels[] = $byte(-$dx) | $byte($green * $dy) << 8 | $byte(1.0) << 16 | 0xFF000000;
            }
        }

        return new Image(self::SIDE, self::SIDE, 4, $texels);
    }

    /** Twice the root mean square of the mixed derivative H a² cos(ax) cos(ay). */
    private static function wrongCurl(): float
    {
        $a = 4 * \M_PI / self::SIDE;

        return 2 * self::HEIGHT * $a * $a * 0.5;
    }
}
