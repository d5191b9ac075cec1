<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Probe;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Probe\LayersAt;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\C\CTarget;
use Rilta\Core\Target\Options;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Which layers lie at points. */
final class LayersAtTest extends TestCase
{
    public function testEachLayerHasItsShareOfWhatIsSeen(): void
    {
        $points = array_map(static fn (float $y): SurfaceSample => SurfaceSample::at([3.0, $y, -2.0], [0.0, 0.0, 1.0]), [-5.0, 0.4, 0.6, 5.0]);
        $weights = self::at()->weights(self::lowered(), $points);
        // Silt lies up to 0.5 m with three quarters of its strength, and moss over a half of all.
        self::assertEqualsWithDelta([[0.125, 0.375, 0.5], [0.125, 0.375, 0.5], [0.5, 0.0, 0.5], [0.5, 0.0, 0.5]], $weights, 1e-12);
        self::assertSame(['ground', 'silt', 'moss'], array_column(LayersAt::layers(self::lowered()), 'id'));
        self::assertSame([], self::at()->weights(self::lowered(), []));
    }

    public function testALayerAloneIsAllThatIsSeen(): void
    {
        $lowered = Lowering::lower(Documents::reader()->read(Documents::of([Documents::step('origin')])), TestMaps::noise());
        self::assertSame([[1.0]], self::at()->weights($lowered, [SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 1.0, 0.0])]));
    }

    public function testItIsNotAskedForTooMany(): void
    {
        $this->expectExceptionMessage('At most 100000 points at once, found 100001.');
        self::at()->weights(self::lowered(), array_fill(0, LayersAt::MOST + 1, SurfaceSample::at([0.0, 0.0, 0.0], [0.0, 1.0, 0.0])));
    }

    /** The program in C answers the same question. */
    public function testCAnswersTheSame(): void
    {
        $folder = \dirname(__DIR__, 3) . '/var/test/layers';
        is_dir($folder) || mkdir($folder, 0o777, true);
        $lowered = self::lowered();
        $heights = [-2.0, 0.3, 0.499, 0.501, 0.7, 9.0];
        $set = '';
        foreach ($lowered->slots as $slot) {
            $set .= "    u.$slot->uniform = " . json_encode($slot->value) . ";\n";
        }
        $calls = '';
        foreach ($heights as $y) {
            $calls .= "    s.position[1] = $y;\n    quay_layers(&u, &m, &s, &out);\n    printf(\"%.17g %.17g %.17g\\n\", out.ground, out.silt, out.moss);\n";
        }
        file_put_contents("$folder/layers.c", (new CTarget())->program($lowered, new Options('quay')) . "\n#include <stdio.h>\n#include <string.h>\nint main(void) {\n    quay_uniforms u;\n    quay_maps m;\n    quay_surface s;\n    quay_shares out;\n    memset(&u, 0, sizeof u);\n    memset(&m, 0, sizeof m);\n    memset(&s, 0, sizeof s);\n    s.normal[2] = 1.0;\n$set    quay_prepare(&u);\n$calls    return 0;\n}\n");
        exec("gcc -std=c99 -O2 -Wall -Wextra -Werror -o $folder/layers $folder/layers.c -lm 2>&1 && $folder/layers", $lines, $failed);
        self::assertSame(0, $failed, implode("\n", $lines));
        $kernel = self::at()->weights($lowered, array_map(static fn (float $y): SurfaceSample => new SurfaceSample(['position' => [0.0, $y, 0.0], 'normal' => [0.0, 0.0, 1.0]] + Surface::nothing()), $heights));
        foreach ($lines as $i => $line) {
            self::assertEqualsWithDelta($kernel[$i], array_map(floatval(...), explode(' ', $line)), 1e-9);
        }
        self::assertNotEquals($kernel[2], $kernel[3]);
    }

    private static function at(): LayersAt
    {
        return new LayersAt(Kernels::compiler(), TestMaps::noise());
    }

    private static function lowered(): Lowered
    {
        $level = ['kind' => 'level', 'values' => ['at' => 0.5, 'band' => 0, 'fade' => 0, 'breaks' => 0]];
        $document = Documents::whole(
            [Documents::lane('main', Documents::step('origin'))],
            [Documents::layer('ground', 'main', ''), Documents::layer('silt', 'main', '', ['opacity' => 75, 'mask' => [$level]]), Documents::layer('moss', 'main', '', ['opacity' => 50])],
        );

        return Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
    }
}
