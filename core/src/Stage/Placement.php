<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/** The numbers that place an object, each of them once an axis, and its value: their units and ranges. */
final class Placement
{
    /** A number of the object's own that a material's lanes may be driven by. */
    public static function value(): NumberControl
    {
        return new NumberControl(new ControlMeta('value', 'Value', 'A number of this object that a reach can follow.'), Unit::None, 0.0, [0.0, 1.0], [0.0, 1.0], 0.05);
    }

    /** @return array{position: NumberControl, turn: NumberControl, scale: NumberControl} */
    public static function controls(): array
    {
        return [
            'position' => new NumberControl(new ControlMeta('position', 'Position', 'Where the object stands.'), Unit::Metres, 0.0, [-10.0, 10.0], [-100000.0, 100000.0], 0.1),
            'turn' => new NumberControl(new ControlMeta('turn', 'Turn', 'Turns about X, Y and Z.'), Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 5.0),
            'scale' => new NumberControl(new ControlMeta('scale', 'Scale', 'Factors along X, Y and Z.'), Unit::None, 1.0, [0.0, 4.0], [0.01, 1000.0], 0.1),
        ];
    }
}
