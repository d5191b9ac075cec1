<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Mesh\MeshOptions;

/** The numbers of what objects are painted and shaped with. */
final class Tools
{
    /** @return list<NumberControl> */
    public static function brush(): array
    {
        return [
            self::number('value', 'Value', 'What it paints.', Unit::None, 1.0, [0.0, 1.0], [0.0, 1.0], 0.05),
            self::number('radius', 'Radius', 'How far it reaches.', Unit::Metres, 0.3, [0.02, 5.0], [0.001, 1000.0], 0.05, true),
            self::number('hardness', 'Hardness', 'The share of the radius within which it paints with all its strength.', Unit::None, 0.4, [0.0, 1.0], [0.0, 1.0], 0.05),
            self::number('strength', 'Strength', 'How much of the value one stroke gives.', Unit::None, 1.0, [0.0, 1.0], [0.0, 1.0], 0.05),
            self::number('spacing', 'Spacing', 'How far it moves from dab to dab, as a share of its radius.', Unit::None, 0.2, [0.05, 1.0], [0.02, 4.0], 0.05),
        ];
    }

    /** @return list<NumberControl> */
    public static function fill(): array
    {
        return [
            self::number('slope', 'Degrees from level', 'Where it begins, and where it is whole: 0 looks up, 90 is upright, 180 looks down.', Unit::Degrees, 45.0, [0.0, 180.0], [0.0, 180.0], 5.0),
            self::number('height', 'Metres up', 'Where it begins, and where it is whole, above the ground of the world.', Unit::Metres, 0.5, [0.0, 10.0], [-100000.0, 100000.0], 0.1),
            self::number('noise', 'Of the noise', 'Where it begins, and where it is whole.', Unit::None, 0.5, [0.0, 1.0], [0.0, 1.0], 0.05),
            self::number('size', 'Size of patches', 'How far apart the hills of the noise are.', Unit::Metres, 1.0, [0.1, 10.0], [0.001, 10000.0], 0.1, true),
        ];
    }

    /** @return list<NumberControl> */
    public static function shaping(): array
    {
        return [
            self::number('edge', 'Longest edge', 'Triangles are split until none has a longer one.', Unit::Metres, 0.1, [0.01, 2.0], MeshEdits::EDGES, 0.01, true),
            self::number('unwrap', 'Folds up to', 'How far a face may be turned from its piece before a new piece begins.', Unit::Degrees, 50.0, MeshEdits::UNWRAP, MeshEdits::UNWRAP, 5.0),
            self::number('smooth', 'Bent by up to', 'How far neighbours may be turned against each other.', Unit::Degrees, 30.0, [0.0, 90.0], MeshEdits::ANGLES, 5.0),
            self::number('facing', 'Turned by up to', 'How far faces may be turned from that direction.', Unit::Degrees, 45.0, [0.0, 90.0], MeshEdits::ANGLES, 5.0),
            self::number('reach', 'Reach', 'Faces whose middle is no further from the pointer are taken; 0 for the one under it.', Unit::Metres, 0.0, [0.0, 2.0], [0.0, 1000.0], 0.05),
            self::number('turn', 'Turn', 'About the middle of what is chosen.', Unit::Degrees, 0.0, [-180.0, 180.0], MeshEdits::AMOUNT, 5.0),
            self::number('scale', 'Scale', 'About the middle of what is chosen.', Unit::None, 1.0, [0.1, 4.0], [0.001, 1000.0], 0.1, true),
            self::number('shift', 'Shift', 'In UV units: 1 is a whole map.', Unit::None, 0.0, [-1.0, 1.0], MeshEdits::AMOUNT, 0.05),
        ];
    }

    /** Of how a file is read. */
    public static function crease(): NumberControl
    {
        return self::number('crease', 'Smooth up to', 'Faces that are turned less against each other are smooth, where the file has no normals.', Unit::Degrees, MeshOptions::CREASE, [0.0, 90.0], [0.0, 180.0], 5.0);
    }

    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     */
    private static function number(string $name, string $label, string $help, Unit $unit, float $value, array $soft, array $hard, float $step, bool $ratio = false): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help), $unit, $value, $soft, $hard, $step, $ratio);
    }
}
