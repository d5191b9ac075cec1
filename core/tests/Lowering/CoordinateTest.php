<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Lowering;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Coordinate;
use Rilta\Core\Tests\Kernels;

final class CoordinateTest extends TestCase
{
    /**
     * @param list<float> $dx
     * @param list<float> $dy
     */
    #[DataProvider('pixels')]
    public function testAPixelIsAsLongAsTheLongerOfItsSidesInMetres(array $dx, array $dy, float $metres): void
    {
        $g = new Graph();
        $at = new Coordinate($g->vec(0.0, 0.0), $g->input('dx', Type::Vec2), $g->input('dy', Type::Vec2), $g->vec(1.0, 0.0, 0.0), $g->vec(0.0, 1.0, 0.0), $g->vec(2.0, 5.0));
        self::assertEqualsWithDelta($metres, Kernels::value($g, $at->pixel($g), ['dx' => $dx, 'dy' => $dy])[0], 1e-12);
    }

    /** @return iterable<string, array{list<float>, list<float>, float}> */
    public static function pixels(): iterable
    {
        yield 'to the right' => [[0.2, 0.0], [0.0, 0.06], 0.4];
        yield 'below' => [[0.1, 0.0], [0.0, 0.06], 0.3];
        yield 'below, slanted' => [[0.1, 0.0], [0.15, 0.08], 0.5];
        yield 'of no size' => [[0.0, 0.0], [0.0, 0.0], 1e-6];
    }
}
