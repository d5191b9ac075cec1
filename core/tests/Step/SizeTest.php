<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\LaneReading;

final class SizeTest extends TestCase
{
    public function testALargerSizeMakesFewerRepeats(): void
    {
        self::assertSame([1.5, 0.5], $this->uv(['u' => 2.0]));
        self::assertSame([0.75, 0.25], $this->uv(['u' => 4.0]));
    }

    public function testUAndVCanDiffer(): void
    {
        self::assertSame([1.5, 0.25], $this->uv(['linked' => false, 'u' => 2.0, 'v' => 4.0]));
        self::assertSame([1.5, 0.5], $this->uv(['linked' => true, 'u' => 2.0, 'v' => 4.0]), 'linked, V is not looked at');
    }

    public function testASwitchedOffStepIsNothing(): void
    {
        $steps = [Documents::step('origin', ['faces' => 'y']), ['on' => false] + Documents::step('size', ['u' => 2.0])];
        self::assertSame([3.0, 1.0], LaneReading::heaviest($steps, SurfaceSample::at([3.0, 0.0, 1.0], [0.0, 1.0, 0.0]))['uv']);
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return list<float>
     */
    private function uv(array $values): array
    {
        $steps = [Documents::step('origin', ['faces' => 'y']), Documents::step('size', $values)];

        return LaneReading::heaviest($steps, SurfaceSample::at([3.0, 0.0, 1.0], [0.0, 1.0, 0.0]))['uv'];
    }
}
