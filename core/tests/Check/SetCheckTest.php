<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Check;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Fix;
use Rilta\Core\Check\MapCheck;
use Rilta\Core\Check\Measures;
use Rilta\Core\Check\SetCheck;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Rilta\Core\Raster\Image;

final class SetCheckTest extends TestCase
{
    public function testMissingRolesAreToldWithWhatStandsForThem(): void
    {
        $found = SetCheck::of([1 => self::map(Role::BaseColour)], [Role::BaseColour]);
        self::assertSame([Role::Normal, Role::Roughness], array_column($found, 'missing'));
        self::assertSame('There is no normal: light sees a flat surface.', $found[0]['finding']->text);
        self::assertSame([], SetCheck::of([1 => self::map(Role::Packed)], [Role::BaseColour, Role::Normal, Role::Roughness]), 'roles in channels are not missing');
    }

    public function testTheMapOfAnotherSizeIsNamedAndTheBaseColourSetsIt(): void
    {
        $maps = [3 => self::map(Role::Normal, 512), 4 => self::map(Role::Roughness, 512), 5 => self::map(Role::BaseColour, 1024)];
        $sizes = array_values(array_filter(SetCheck::of($maps, [Role::BaseColour, Role::Normal, Role::Roughness]), static fn (array $f): bool => $f['finding']->code === 'size'));
        self::assertSame([3, 4], array_column($sizes, 'key'));
        self::assertSame('normal.png has 512 x 512 pixels; the set has 1024 x 1024.', $sizes[0]['finding']->text);
        self::assertSame([Fix::Resample], $sizes[0]['finding']->fixes);
        self::assertSame([512, 512], SetCheck::size([$maps[3], $maps[4], self::map(Role::Height, 256)]), 'else most of them');
        self::assertSame([512, 512], SetCheck::size([self::map(Role::Height, 256), $maps[3]]), 'else the larger');
    }

    public function testRoughnessThatFollowsTheOcclusionMayBeSmoothness(): void
    {
        $shade = static fn (int $sign): Measures => Measures::of(new Image(64, 64, 1, array_map(static fn (int $i): int => 128 + $sign * (int) round(90 * sin($i % 64 / 7) * cos(intdiv($i, 64) / 9)), range(0, 4095))));
        $codes = static fn (int $sign, bool $inverted): array => array_map(static fn (array $f): string => $f['finding']->code, SetCheck::of([
            1 => self::map(Role::Occlusion, 64, $shade(1)), 2 => self::map(Role::Roughness, 64, $shade($sign), $inverted),
        ], [Role::BaseColour, Role::Normal, Role::Roughness]));
        self::assertSame(['smoothness'], $codes(1, false));
        self::assertSame([], $codes(1, true), 'unless it is said to be');
        self::assertSame([], $codes(-1, false));
        self::assertSame(['smoothness'], $codes(-1, true));
        self::assertEqualsWithDelta(1.0, $shade(1)->likeness($shade(1)), 1e-9);
        self::assertEqualsWithDelta(-1.0, $shade(1)->likeness($shade(-1)), 1e-3);
    }

    public function testNoRoughnessOfTheDemoIsTakenForSmoothness(): void
    {
        $found = [];
        foreach (glob(\dirname(__DIR__, 3) . '/demo/maps/*', \GLOB_ONLYDIR) ?: [] as $folder) {
            $maps = [];
            foreach ([Role::Roughness, Role::Occlusion, Role::Height] as $i => $role) {
                $file = $folder . '/' . basename($folder) . "-$role->value.png";
                if (is_file($file)) {
                    $maps[$i] = self::map($role, 1024, Measures::of(ImageFile::open($file)->decode()));
                }
            }
            $codes = array_map(static fn (array $f): string => $f['finding']->code, SetCheck::of($maps, [Role::BaseColour, Role::Normal, Role::Roughness]));
            $found[basename($folder)] = array_values(array_filter($codes, static fn (string $code): bool => $code === 'smoothness'));
        }
        self::assertGreaterThan(8, \count($found));
        self::assertSame([], array_filter($found));
    }

    public function testAPaleColourMayHaveBeenEncodedTwice(): void
    {
        $pale = Measures::of(new Image(2, 2, 4, [0xFFC8C8C8, 0xFFE0E0D0, 0xFFF0F0F0, 0xFFC0C0A0]));
        $found = MapCheck::of(Role::BaseColour, Encoding::Colour, 1.0, $pale);
        self::assertSame(['gamma', false, [Fix::Decode]], [$found[0]->code, $found[0]->grave, $found[0]->fixes]);
        self::assertStringStartsWith('It is pale: nothing is darker than 0.63, the mean is 0.82', $found[0]->text);
        self::assertSame([], MapCheck::of(Role::BaseColour, Encoding::Colour, 1.0, Measures::of(new Image(2, 2, 4, [0xFF202020, 0xFFE0E0D0, 0xFFF0F0F0, 0xFFC0C0A0]))));
        $plaster = Measures::of(ImageFile::open(\dirname(__DIR__, 3) . '/demo/maps/lime-plaster/lime-plaster-base-colour.png')->decode());
        self::assertSame([], MapCheck::of(Role::BaseColour, Encoding::Colour, 1.0, $plaster), 'plaster is pale by itself');
    }

    /** @return array{role: Role, file: string, width: int, height: int, inverted: bool, measures: ?Measures} */
    private static function map(Role $role, int $size = 8, ?Measures $measures = null, bool $inverted = false): array
    {
        return ['role' => $role, 'file' => "$role->value.png", 'width' => $size, 'height' => $size, 'inverted' => $inverted, 'measures' => $measures];
    }
}
