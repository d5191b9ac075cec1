<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\Face;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;

/** What a term of a mask is made of. */
enum MaskKind: string
{
    case Noise = 'noise';
    case Map = 'map';
    case Slope = 'slope';
    case Level = 'level';
    case Below = 'below';
    case Distance = 'distance';
    case Object = 'object';
    case Side = 'side';
    case Constant = 'constant';

    private const HOW = ['multiply' => 'Multiply', 'add' => 'Add', 'subtract' => 'Subtract', 'least' => 'The darker', 'most' => 'The lighter', 'difference' => 'Difference'];

    public function label(): string
    {
        return match ($this) {
            self::Noise => 'Noise',
            self::Map => 'A map',
            self::Slope => 'Slope',
            self::Level => 'Height in the world',
            self::Below => 'Relief below',
            self::Distance => 'Distance',
            self::Object => 'Object by object',
            self::Side => 'Side',
            self::Constant => 'A constant',
        };
    }

    public function help(): string
    {
        return match ($this) {
            self::Noise => 'Patches of a size of their own, far larger than the maps if wanted.',
            self::Map => 'A channel of a map of the library, read along the lane of the layer, as much larger as is wanted.',
            self::Slope => 'White where the surface faces an axis, black where it looks away by more than the angle.',
            self::Level => 'White below a height over the ground, black above; noise breaks the edge.',
            self::Below => 'White in the hollows of what lies below this layer, black on its tops.',
            self::Distance => 'Black near the eye, white far off.',
            self::Object => 'A grey for every object, by its seed.',
            self::Side => 'White on one side of a surface that has two.',
            self::Constant => 'The same everywhere.',
        };
    }

    /** @return list<Control> its own, and those that every term has */
    public function controls(): array
    {
        return [new ChoiceControl(new Face('how', 'How', 'What becomes of it and the terms before it.'), self::HOW, 'multiply'), ...$this->own(), ...self::shape()];
    }

    /** @return list<Control> */
    private function own(): array
    {
        return match ($this) {
            self::Noise => [
                self::metres('size', 'Size', 'Metres from one patch to the next.', 2.0, [0.05, 40.0], 0.001),
                new ChoiceControl(new Face('octaves', 'Octaves', 'How many sizes are summed, each half the one before.'), ['1' => '1', '2' => '2', '3' => '3', '4' => '4', '5' => '5'], '3'),
                new ChoiceControl(new Face('space', 'In', 'Whether it stays in the world or travels with the object.'), ['world' => 'World', 'object' => 'Object'], 'world'),
                new SeedControl(new Face('seed', 'Seed', 'Another seed, other patches.')),
            ],
            self::Map => [
                ReferenceControl::map(new Face('map', 'Map', 'What is read; without one it is white.')),
                new ChoiceControl(new Face('reads', 'Reads', 'Which of its channels. A map of one value has only that.'), ['luminance' => 'Luminance', 'red' => 'Red', 'green' => 'Green', 'blue' => 'Blue', 'alpha' => 'Alpha'], 'luminance'),
                self::number('times', 'Larger', 'How many times as large it is as the maps of the layer.', Unit::None, 1.0, [0.1, 100.0], [0.001, 10000.0], 0.1, true),
            ],
            self::Slope => [
                new ChoiceControl(new Face('axis', 'Faces', 'The direction of the world.'), ['y' => 'Up', '-y' => 'Down', 'x' => 'Along X', 'z' => 'Along Z'], 'y'),
                self::number('angle', 'Angle', 'How far it may look away.', Unit::Degrees, 45.0, [0.0, 180.0], [0.0, 180.0], 1.0),
                self::number('softness', 'Softness', 'Over how many degrees it fades.', Unit::Degrees, 20.0, [0.0, 90.0], [0.0, 180.0], 1.0),
                new SwitchControl(new Face('detailed', 'With the relief below', 'Takes the slopes of the layers below into account, not the mesh alone.'), false),
            ],
            self::Level => [
                self::number('at', 'At', 'Height over the ground at which it ends.', Unit::Metres, 0.6, [-1.0, 4.0], [-100000.0, 100000.0], 0.02),
                self::metres('fade', 'Fade', 'Over how many metres it ends.', 0.3, [0.0, 2.0], 0.0),
                self::metres('breaks', 'Broken by', 'How far noise moves the edge up and down.', 0.2, [0.0, 2.0], 0.0),
                self::metres('size', 'Size', 'Metres from one bay of the edge to the next.', 0.8, [0.05, 10.0], 0.001),
                new SeedControl(new Face('seed', 'Seed', 'Another seed, another edge.')),
            ],
            self::Distance => [self::metres('near', 'Near', 'Black up to here.', 5.0, [0.0, 50.0], 0.0), self::metres('far', 'Far', 'White from here on.', 40.0, [0.0, 500.0], 0.0)],
            self::Object => [new SeedControl(new Face('seed', 'Seed', 'Another seed, other greys.'))],
            self::Constant => [self::number('value', 'Value', 'How white it is.', Unit::Percent, 50.0, [0.0, 100.0], [0.0, 100.0], 1.0)],
            self::Side => [new ChoiceControl(new Face('side', 'On', 'The side that is white.'), ['back' => 'The back', 'front' => 'The front'], 'back')],
            self::Below => [],
        };
    }

    /** @return list<Control> */
    private static function shape(): array
    {
        return [
            self::number('low', 'Black at', 'The value that becomes black.', Unit::None, 0.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
            self::number('high', 'White at', 'The value that becomes white.', Unit::None, 1.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
            self::number('gamma', 'Middle', 'Above 1 the middle is lighter, below it darker.', Unit::None, 1.0, [0.2, 5.0], [0.05, 20.0], 0.05, true),
            self::number('contrast', 'Contrast', 'How far greys are driven apart; 0 makes one grey of all.', Unit::Percent, 100.0, [0.0, 400.0], [0.0, 10000.0], 5.0),
            self::number('pivot', 'About', 'The grey that contrast leaves as it is.', Unit::None, 0.5, [0.0, 1.0], [0.0, 1.0], 0.01),
            new SwitchControl(new Face('invert', 'Turn over', 'Black for white, after all else.'), false),
        ];
    }

    /** @param array{float, float} $soft */
    private static function metres(string $name, string $label, string $help, float $default, array $soft, float $low): NumberControl
    {
        return self::number($name, $label, $help, Unit::Metres, $default, $soft, [$low, 100000.0], 0.05, $low > 0);
    }

    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     */
    private static function number(string $name, string $label, string $help, Unit $unit, float $default, array $soft, array $hard, float $step, bool $ratio = false): NumberControl
    {
        return new NumberControl(new Face($name, $label, $help), $unit, $default, $soft, $hard, $step, $ratio);
    }
}
