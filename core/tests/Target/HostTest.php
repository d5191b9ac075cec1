<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Host;

/** What carries a surface from the vertices of a mesh to lowered code. */
final class HostTest extends TestCase
{
    /** @return iterable<string, array{string, string}> an input, and where it comes from */
    public static function sources(): iterable
    {
        yield 'the place' => ['position', 'vRiltaPosition'];
        yield 'the normal looks to whoever sees it' => ['normal', 'side * normalize(vRiltaNormal)'];
        yield 'a pixel to the right' => ['dpdx', 'dFdx(vRiltaPosition)'];
        yield 'a pixel down: the device counts upwards' => ['dpdy', '-dFdy(vRiltaPosition)'];
        yield 'coordinates' => ['uv3', 'vRilta_uv3'];
        yield 'coordinates to the right' => ['uv3Dx', 'dFdx(vRilta_uv3)'];
        yield 'coordinates down' => ['uv3Dy', '-dFdy(vRilta_uv3)'];
        yield 'a direction' => ['uv2B', 'riltaUnit(vRilta_uv2B)'];
        yield 'a section' => ['section', 'vRilta_section'];
        yield 'an axis' => ['objectY', 'normalize(riltaObject[1].xyz)'];
        yield 'where the object stands' => ['objectOrigin', 'riltaObject[3].xyz'];
        yield 'a number of the object' => ['objectValue', 'riltaValue'];
        yield 'the eye' => ['viewDistance', 'distance(riltaEye, vRiltaPosition)'];
        yield 'front or back' => ['facing', 'side'];
    }

    #[DataProvider('sources')]
    public function testAnInputComesFromWhereItIsDeclaredTo(string $input, string $source): void
    {
        self::assertStringContainsString("    s.$input = $source;\n", Host::of([$input])->fragment);
    }

    public function testOnlyWhatIsReadIsCarried(): void
    {
        $host = Host::of(['uv2Dx', 'section']);
        self::assertSame(['in vec2 rilta_TEXCOORD_1', 'in float rilta_SECTION'], \array_slice(explode(";\n", $host->vertex), 0, 2));
        self::assertStringContainsString('vRilta_uv2 = rilta_TEXCOORD_1;', $host->vertex);
        self::assertStringContainsString("flat in float vRilta_section;\n", $host->fragment);
        self::assertStringContainsString("    s.uv = vec2(0.0);\n", $host->fragment);
        self::assertStringNotContainsString('TEXCOORD_0', $host->vertex);
        // Whatever is read, all of the struct is filled.
        foreach (array_keys(Surface::types()) as $name) {
            self::assertSame(1, substr_count($host->fragment, "    s.$name = "), $name);
        }
    }

    public function testDirectionsTurnAndStretchWithTheObject(): void
    {
        self::assertStringContainsString('vRilta_uvT = m * rilta_TEXCOORD_0_U;', Host::of(['uvT'])->vertex);
        self::assertStringContainsString('vRilta_uvB = m * rilta_TEXCOORD_0_V;', Host::of(['uvB'])->vertex);
    }
}
