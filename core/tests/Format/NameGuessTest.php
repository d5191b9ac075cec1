<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Format;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Format\NameGuess;

final class NameGuessTest extends TestCase
{
    /** @return iterable<string, array{string, string, string}> */
    public static function names(): iterable
    {
        foreach ([
            ['lime-plaster-base-colour.png', 'base-colour', 'lime-plaster'],
            ['LimePlaster_BaseColor_2K.png', 'base-colour', 'lime-plaster'],
            ['lime plaster albedo.jpg', 'base-colour', 'lime-plaster'],
            ['quay_wall_diff_4k.jpg', 'base-colour', 'quay-wall'],
            ['Quay_Wall_Col.png', 'base-colour', 'quay-wall'],
            ['quay_wall_nor_gl_1k.png', 'normal', 'quay-wall-gl'],
            ['QuayWall_NormalDX.png', 'normal', 'quay-wall'],
            ['quay_wall_nrm.png', 'normal', 'quay-wall'],
            ['metal-plate-normal.png', 'normal', 'metal-plate'],
            ['metal-plate-metalness.png', 'metallic', 'metal-plate'],
            ['rough_stone_roughness.png', 'roughness', 'rough-stone'],
            ['rough_stone_rough_1024x1024.png', 'roughness', 'rough-stone'],
            ['Slate_AmbientOcclusion.png', 'occlusion', 'slate'],
            ['slate_ao_1024.png', 'occlusion', 'slate'],
            ['slate occ.jpeg', 'occlusion', 'slate'],
            ['slate_disp_8bit.png', 'height', 'slate'],
            ['slate.height.png', 'height', 'slate'],
            ['screen_opacity.png', 'opacity', 'screen'],
            ['dial-emissive.png', 'emission', 'dial'],
            ['shell-01_basecolor.png', 'base-colour', 'shell-01'],
            ['pebbles.png', 'base-colour', 'pebbles'],
            ['Küstenstein_Normal.png', 'normal', 'kustenstein'],
            ['_.png', 'base-colour', 'maps'],
        ] as $row) {
            yield $row[0] => $row;
        }
    }

    #[DataProvider('names')]
    public function testRoleAndSetAreGuessedFromTheName(string $file, string $role, string $set): void
    {
        $guess = NameGuess::of($file);
        self::assertSame([$role, $set], [$guess->role->value, $guess->set]);
        self::assertNotSame('', $guess->reason);
    }

    public function testTheGuessGivesItsReason(): void
    {
        self::assertSame('"ao" in the name', NameGuess::of('slate_ao.png')->reason);
        self::assertSame('no word for a role in the name', NameGuess::of('pebbles.png')->reason);
    }

    public function testNamesBecomeShortPlainWords(): void
    {
        self::assertSame('maps', NameGuess::slug('***'));
        self::assertMatchesRegularExpression('/^[a-z0-9](?:[a-z0-9-]{0,78}[a-z0-9])?$/D', NameGuess::slug(str_repeat('Ab-', 60)));
    }
}
