<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Field\Library\BlendMode;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
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
    case Layer = 'layer';
    case Joint = 'joint';
    case Place = 'place';
    case Distance = 'distance';
    case Object = 'object';
    case Side = 'side';
    case Painted = 'painted';
    case Section = 'section';
    case Constant = 'constant';

    private const CHANNELS = ['1' => '1', '2' => '2', '3' => '3', '4' => '4'];
    private const FORMS = ['smooth' => 'Smooth', 'ridges' => 'Ridges', 'blotches' => 'Blotches', 'cells' => 'Cells', 'cracks' => 'Cracks', 'plates' => 'Plates'];

    /** @return array<string, string>|null the values under which it is read along a lane, the layer's or one of its own; null if it never is */
    public function along(): ?array
    {
        return match ($this) {
            self::Noise => ['space' => 'lane'],
            self::Map, self::Joint, self::Place, self::Object => [],
            default => null,
        };
    }

    /** Whether it is a pattern, which may be wanted far larger than the maps that it mixes. */
    public function isPattern(): bool
    {
        return $this === self::Noise || $this === self::Map;
    }

    public function label(): string
    {
        return match ($this) {
            self::Noise => 'Noise',
            self::Map => 'A map',
            self::Slope => 'Slope',
            self::Level => 'Height',
            self::Below => 'Relief below',
            self::Layer => 'Another layer',
            self::Joint => 'Joints and bevels',
            self::Place => 'A place',
            self::Distance => 'Distance',
            self::Object => 'Object or piece',
            self::Side => 'Side',
            self::Painted => 'Painted',
            self::Section => 'Section',
            self::Constant => 'A constant',
        };
    }

    public function help(): string
    {
        return match ($this) {
            self::Noise => 'Patches of a size of their own, far larger than the maps if wanted.',
            self::Map => 'A channel of a map of the library, read along a lane, as much larger as is wanted.',
            self::Slope => 'White where the surface faces an axis, black where it looks away by more than the angle.',
            self::Level => 'White below a height, or in a band below it, black elsewhere; noise breaks the edge.',
            self::Below => 'White in the hollows of what lies below this layer, black on its tops.',
            self::Layer => 'The mask or the height of a layer that lies below this one, shown or not.',
            self::Joint => 'White in the joints between the pieces of a Bond, or on their bevels.',
            self::Place => 'White on the rectangles of a Place, black around them.',
            self::Distance => 'Black near the eye, white far off.',
            self::Object => 'A grey for every object, by its seed, or for every piece or cell of the lane.',
            self::Side => 'White on one side of a surface that has two.',
            self::Section => 'White on one section of a mesh, black on the others.',
            self::Painted => 'What was painted on the objects of the stage, vertex by vertex. Where nothing was, it is black.',
            self::Constant => 'The same everywhere.',
        };
    }

    /** @return list<Control> its own, and those that every term has */
    public function controls(): array
    {
        return [new ChoiceControl(new ControlMeta('how', 'How', 'What becomes of it and the terms before it.'), BlendMode::labels(BlendMode::Multiply, BlendMode::Add, BlendMode::Subtract, BlendMode::Least, BlendMode::Most, BlendMode::Difference), BlendMode::Multiply->value), ...$this->own(), ...self::shape()];
    }

    /** @return list<Control> */
    private function own(): array
    {
        return match ($this) {
            self::Noise => [
                new ChoiceControl(new ControlMeta('form', 'Form', 'What its patches look like.'), self::FORMS, 'smooth'),
                new ChoiceControl(new ControlMeta('space', 'Space', 'Whether it stays in the world, travels with the object, or lies along a lane.'), ['world' => 'World', 'object' => 'Object', 'lane' => 'Lane'], 'world'),
                self::metres('size', 'Size', 'Metres from one patch to the next.', 2.0, [0.05, 40.0], 0.001, ['space' => ['world', 'object']]),
                self::number('patches', 'Patches', 'How many of them lie side by side in one repeat of the lane.', Unit::None, 4.0, [0.1, 32.0], [0.001, 1000.0], 0.1, true, ['space' => ['lane']]),
                new ChoiceControl(new ControlMeta('octaves', 'Octaves', 'How many sizes are summed, each half the one before.'), ['1' => '1', '2' => '2', '3' => '3', '4' => '4', '5' => '5'], '3'),
                new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, other patches.')),
            ],
            self::Map => [
                ReferenceControl::map(new ControlMeta('map', 'Map', 'What is read; without one it is white.')),
                new ChoiceControl(new ControlMeta('reads', 'Reads', 'Which of its channels. A map of one value has only that.'), ['luminance' => 'Luminance', 'red' => 'Red', 'green' => 'Green', 'blue' => 'Blue', 'alpha' => 'Alpha'], 'luminance'),
                self::number('times', 'Times larger', 'How many times as large it is as the maps of the lane.', Unit::None, 1.0, [0.1, 100.0], [0.001, 10000.0], 0.1, true),
                self::number('blur', 'Blur', 'Over what part of one repeat of it values run together.', Unit::Percent, 0.0, [0.0, 25.0], [0.0, 100.0], 0.5),
            ],
            self::Layer => [
                ReferenceControl::layer(new ControlMeta('layer', 'Layer', 'One that lies below this one. Without one it is white.')),
                new ChoiceControl(new ControlMeta('of', 'Reads', 'The mask of that layer: where it covers; or the heights of its maps.'), ['mask' => 'Mask', 'height' => 'Height'], 'mask'),
            ],
            self::Joint => [
                new ChoiceControl(new ControlMeta('part', 'Part', 'What of the edges of pieces is white.'), ['joint' => 'Joints', 'bevel' => 'Bevels', 'both' => 'Both'], 'joint'),
                self::metres('blur', 'Blur', 'Over how many metres it fades.', 0.0, [0.0, 0.2], 0.0),
            ],
            self::Place => [self::metres('blur', 'Blur', 'Over how many metres its edge fades.', 0.0, [0.0, 1.0], 0.0)],
            self::Slope => [
                new ChoiceControl(new ControlMeta('axis', 'Faces', 'The direction of the world.'), ['y' => 'Up', '-y' => 'Down', 'x' => 'Along X', 'z' => 'Along Z'], 'y'),
                self::number('angle', 'Angle', 'How far it may look away.', Unit::Degrees, 45.0, [0.0, 180.0], [0.0, 180.0], 1.0),
                self::number('softness', 'Softness', 'Over how many degrees it fades.', Unit::Degrees, 20.0, [0.0, 90.0], [0.0, 180.0], 1.0),
                new SwitchControl(new ControlMeta('detailed', 'With the relief below', 'Takes the slopes of the layers below into account, not the mesh alone.'), false),
            ],
            self::Level => [
                new ChoiceControl(new ControlMeta('space', 'Space', 'Heights over the ground of the world, or over the origin of the object.'), ['world' => 'World', 'object' => 'Object'], 'world'),
                self::number('at', 'At', 'Height at which it ends.', Unit::Metres, 0.6, [-1.0, 4.0], [-100000.0, 100000.0], 0.02),
                self::metres('band', 'Band', 'How far it reaches down from there; 0 is all the way.', 0.0, [0.0, 4.0], 0.0),
                self::metres('fade', 'Fade', 'Over how many metres it ends.', 0.3, [0.0, 2.0], 0.0),
                self::metres('breaks', 'Broken by', 'How far noise moves the edge up and down.', 0.2, [0.0, 2.0], 0.0),
                self::metres('size', 'Size', 'Metres from one bay of the edge to the next.', 0.8, [0.05, 10.0], 0.001),
                new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, another edge.')),
            ],
            self::Distance => [self::metres('near', 'Near', 'Black up to here.', 5.0, [0.0, 50.0], 0.0), self::metres('far', 'Far', 'White from here on.', 40.0, [0.0, 500.0], 0.0)],
            self::Object => [new ChoiceControl(new ControlMeta('per', 'A grey for', 'What has a grey of its own.'), ['object' => 'Each object', 'piece' => 'Each piece or cell'], 'object'), new SeedControl(new ControlMeta('seed', 'Seed', 'Another seed, other greys.'))],
            self::Constant => [self::number('value', 'Value', 'How white it is.', Unit::Percent, 50.0, [0.0, 100.0], [0.0, 100.0], 1.0)],
            self::Side => [new ChoiceControl(new ControlMeta('side', 'On', 'The side that is white.'), ['back' => 'The back', 'front' => 'The front'], 'back')],
            self::Painted => [new ChoiceControl(new ControlMeta('channel', 'Channel', 'Which of the four that can be painted.'), self::CHANNELS, '1')],
            self::Section => [new NumberControl(new ControlMeta('number', 'Section', 'Its number, counted from 1: the probe and the view Section tell it.'), Unit::None, 1.0, [1.0, 8.0], [1.0, 65536.0], 1.0, whole: true)],
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
            self::number('pivot', 'Pivot', 'The grey that contrast leaves as it is.', Unit::None, 0.5, [0.0, 1.0], [0.0, 1.0], 0.01),
            new SwitchControl(new ControlMeta('invert', 'Turn over', 'Black for white, after all else.'), false),
        ];
    }

    /**
     * @param array{float, float}         $soft
     * @param array<string, list<string>> $when
     */
    private static function metres(string $name, string $label, string $help, float $default, array $soft, float $low, array $when = []): NumberControl
    {
        return self::number($name, $label, $help, Unit::Metres, $default, $soft, [$low, 100000.0], 0.05, $low > 0, $when);
    }

    /**
     * @param array{float, float}         $soft
     * @param array{float, float}         $hard
     * @param array<string, list<string>> $when
     */
    private static function number(string $name, string $label, string $help, Unit $unit, float $default, array $soft, array $hard, float $step, bool $ratio = false, array $when = []): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help, $when), $unit, $default, $soft, $hard, $step, $ratio);
    }
}
