<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Step\Origin;
use Rilta\Core\Step\Place;
use Rilta\Core\Step\Reach;

/** What the catalogue tells of controls that are taken hold of on the stage. */
final class HandleTest extends TestCase
{
    public function testControlsTellWhichPartOfAHandleTheyAre(): void
    {
        $handles = [];
        foreach ([new Origin(), new Place(), new Reach()] as $step) {
            foreach ($step->controls() as $control) {
                $handles[$step->name()][$control->name()] = $control->describe()['handle'] ?? null;
            }
        }
        self::assertSame(['space' => 'space', 'positionX' => 'placeX', 'positionY' => 'placeY', 'positionZ' => 'placeZ', 'turnX' => 'turnX', 'turnY' => 'turnY', 'turnZ' => 'turnZ'], array_filter($handles['origin']));
        self::assertSame(['u' => 'areaU', 'v' => 'areaV', 'width' => 'areaWidth', 'height' => 'areaHeight', 'turn' => 'areaTurn'], array_filter($handles['place']));
        self::assertSame(['x' => 'x', 'y' => 'y'], array_filter($handles['reach']));
    }

    public function testRowsTellHowTheyGoOnAndUnderWhichChoiceTheyAreEased(): void
    {
        $keys = array_values(array_filter((new Reach())->controls(), static fn (Control $control): bool => $control instanceof RowsControl))[0];
        $said = json_decode(json_encode($keys->describe(), \JSON_THROW_ON_ERROR), true, 512, \JSON_THROW_ON_ERROR);
        self::assertIsArray($said);
        self::assertSame(['motion' => 'eased'], $said['eased']);
        self::assertSame('keys', $said['look']);
        self::assertIsArray($said['advance']);
        self::assertNotSame([], $said['advance']);
        self::assertInstanceOf(NumberControl::class, (new Place())->controls()[0]);
    }
}
