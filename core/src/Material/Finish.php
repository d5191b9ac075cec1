<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Field\Library\Gradient;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;

/**
 * What a layer does to what it read. What a document leaves out is left as it was read, and costs nothing.
 *
 * @phpstan-import-type ValueJson from Values
 */
final readonly class Finish
{
    private const MOST_STOPS = 16;

    /** @param list<string> $given names of the values that the document has */
    public function __construct(public Values $values, public array $given)
    {
    }

    public static function none(): self
    {
        return new self(new Values([]), []);
    }

    /** Whether any of these is to be changed. */
    public function changes(string ...$names): bool
    {
        return array_intersect($names, $this->given) !== [];
    }

    /** @return array<string, array{label: string, controls: list<Control>}> by what they change */
    public static function groups(): array
    {
        return [
            'colour' => ['label' => 'Base colour', 'controls' => [
                new ColourControl(new ControlMeta('tint', 'Tint', 'Multiplies the colour, in linear light. White leaves it as it is.'), [1.0, 1.0, 1.0]),
                self::number('saturation', 'Saturation', 'How strong colours are; 0 is grey, below it they turn into their opposites.', Unit::Percent, 100.0, [0.0, 200.0], [-400.0, 400.0], 1.0),
                self::number('hue', 'Hue', 'Turns all colours round the circle, at equal lightness.', Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 1.0),
                self::number('lightness', 'Lightness', 'How light it looks.', Unit::Percent, 100.0, [50.0, 150.0], [0.0, 400.0], 1.0),
                self::number('darkest', 'Darkest', 'The light that becomes black.', Unit::None, 0.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
                self::number('lightest', 'Lightest', 'The light that becomes white.', Unit::None, 1.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
                self::number('middle', 'Middle', 'Above 1 the middle is lighter, below it darker.', Unit::None, 1.0, [0.2, 5.0], [0.05, 20.0], 0.05, true),
            ]],
            'gradient' => ['label' => 'Gradient', 'controls' => self::gradient()],
            'roughness' => ['label' => 'Roughness', 'controls' => [...self::source('roughness'), ...self::scalar('roughness')]],
            'metallic' => ['label' => 'Metallic', 'controls' => [...self::source('metallic'), ...self::scalar('metallic')]],
            'occlusion' => ['label' => 'Occlusion', 'controls' => [
                ...self::source('occlusion'),
                self::number('occlusionStrength', 'Strength', 'How much darkness of the map is kept; 0 is none.', Unit::Percent, 100.0, [0.0, 200.0], [0.0, 1000.0], 1.0),
                self::number('occlusionFrom', 'Black becomes', 'The occlusion where the map is black.', Unit::None, 0.0, [0.0, 1.0], [0.0, 1.0], 0.01),
                self::number('occlusionTo', 'White becomes', 'The occlusion where the map is white.', Unit::None, 1.0, [0.0, 1.0], [0.0, 1.0], 0.01),
            ]],
            'emission' => ['label' => 'Emission', 'controls' => [
                new ColourControl(new ControlMeta('glow', 'Glow', 'Multiplies what the map emits, in linear light. Without such a map, all of the layer glows in this colour.'), [1.0, 1.0, 1.0]),
                self::number('glowStrength', 'Strength', 'How bright it glows; 100 % is as bright as a white wall in full light.', Unit::Percent, 100.0, [0.0, 1000.0], [0.0, 100000.0], 5.0),
            ]],
            'opacity' => ['label' => 'Opacity', 'controls' => self::scalar('opacity')],
            'height' => ['label' => 'Height', 'controls' => [
                SurfaceKind::heightRange('Metres from the black to the white of the layer\'s heights.'),
                ...self::source('height', ['luminance' => 'Luminance']),
                ...self::scalar('height'),
            ]],
            'relief' => ['label' => 'Relief', 'controls' => [
                new ChoiceControl(new ControlMeta('reliefSource', 'Slopes from', 'Where slopes come from. Those of heights are as steep as the height range says.'), ['map' => 'The normal map', 'height' => 'The heights', 'luminance' => 'Luminance', 'both' => 'Normal map and heights'], 'map'),
                self::number('relief', 'Relief', 'How steep slopes are; below 0 hills become hollows.', Unit::Percent, 100.0, [0.0, 200.0], [-2000.0, 2000.0], 1.0),
            ]],
        ];
    }

    /** @return list<Control> */
    public static function controls(): array
    {
        return array_merge(...array_column(self::groups(), 'controls'));
    }

    /** @return array{values: array<string, ValueJson>}|null as it stands in documents; null if nothing is changed */
    public function document(): ?array
    {
        return $this->given === [] ? null : ['values' => array_intersect_key($this->values->document(), array_flip($this->given))];
    }

    /**
     * How a channel is derived from another.
     *
     * @param array<string, string> $from what it can be derived from, besides its own map
     *
     * @return list<Control>
     */
    private static function source(string $name, array $from = ['luminance' => 'Luminance', 'height' => 'Height']): array
    {
        $from += ['channel' => 'A channel of a map'];
        $when = ["{$name}Source" => array_keys($from)];
        $stored = ["{$name}Source" => ['channel']];
        $maps = array_filter(Role::cases(), static fn (Role $role): bool => $role !== Role::Mask);
        $number = static fn (string $part, string $label, string $help, float $default, float $low, float $high, float $least, float $most): NumberControl => new NumberControl(new ControlMeta("$name$part", $label, $help, $when), Unit::Percent, $default, [$low, $high], [$least, $most], 1.0);

        return [
            new ChoiceControl(new ControlMeta("{$name}Source", 'Made from', 'Its own map, something else of the same layer, or any channel of any of its maps as the file has it.'), ['map' => 'Its map'] + $from, 'map'),
            new ChoiceControl(new ControlMeta("{$name}Of", 'Map', 'The map whose channel is read.', $stored), array_combine(array_column($maps, 'value'), array_map(static fn (Role $role): string => $role->label(), $maps)), Role::BaseColour->value),
            new ChoiceControl(new ControlMeta("{$name}Channel", 'Channel', 'Which of its numbers. Gloss that lies in an alpha channel becomes roughness by "Turn over" below.', $stored), ['red' => 'Red', 'green' => 'Green', 'blue' => 'Blue', 'alpha' => 'Alpha'], 'alpha'),
            $number('Brightness', 'Brightness', 'Added to what it is made from; luminance counts as it looks, from black 0 to white 100 %.', 0.0, -100.0, 100.0, -400.0, 400.0),
            $number('Contrast', 'Contrast', 'How far it is driven from the middle; below 0 dark and light change places.', 100.0, -200.0, 400.0, -10000.0, 10000.0),
            $number('Amount', 'Amount', 'How much of it there is; the rest is the constant.', 100.0, 0.0, 100.0, 0.0, 100.0),
            $number('Constant', 'Constant', 'What is mixed in.', 50.0, 0.0, 100.0, 0.0, 100.0),
        ];
    }

    /** @return list<Control> */
    private static function gradient(): array
    {
        $by = static fn (string ...$some): array => ['gradientBy' => array_values($some)];
        $shown = $by('luminance', 'height', 'mask', 'object', 'piece');
        $part = static fn (string $name, float $default): NumberControl => new NumberControl(new ControlMeta($name, ucfirst($name), 'Of the colour, as colours are written: sRGB.'), Unit::None, $default, [0.0, 1.0], [0.0, 1.0], 0.01);

        return [
            new ChoiceControl(new ControlMeta('gradientBy', 'By', 'Gives the layer the colours of a gradient; this says where on the gradient. Objects, and the pieces or cells of its lane, can each draw theirs by chance.'), [
                'off' => 'No gradient', 'luminance' => 'How light its colour is', 'height' => 'Its heights', 'mask' => 'Its mask', 'object' => 'Chance, for each object', 'piece' => 'Chance, for each piece or cell',
            ], 'off'),
            new RowsControl(new ControlMeta('gradientStops', 'Colours', 'Click the bar to add a colour, drag to move it, Delete takes it away.', $shown), [
                new NumberControl(new ControlMeta('at', 'At', 'Where on the gradient, from 0 to 1.'), Unit::None, 0.0, [0.0, 1.0], [0.0, 1.0], 0.01),
                $part('red', 0.0), $part('green', 0.0), $part('blue', 0.0),
            ], [['at' => 0.0, 'red' => 0.0, 'green' => 0.0, 'blue' => 0.0], ['at' => 1.0, 'red' => 1.0, 'green' => 1.0, 'blue' => 1.0]], [2, self::MOST_STOPS], look: 'gradient', rising: 'at', one: 'colour'),
            new ChoiceControl(new ControlMeta('gradientDraws', 'Draws', 'A place on the gradient; or red, green and blue each by itself, between the first colour and the last.', $by('object', 'piece')), ['along' => 'A place', 'channels' => 'Each channel'], 'along'),
            new SeedControl(new ControlMeta('gradientSeed', 'Seed', 'Another seed, other colours.', $by('object', 'piece'))),
            new ChoiceControl(new ControlMeta('gradientBetween', 'Between colours', 'How it goes from one colour to the next.', $shown), Gradient::BETWEEN, 'linear'),
            new ChoiceControl(new ControlMeta('gradientSpace', 'Mixed in', 'Oklab steps look even to the eye; linear light is how lights and paints on glass mix.', $shown), Gradient::SPACES, 'oklab'),
            new NumberControl(new ControlMeta('gradientAmount', 'Amount', 'How much of the gradient there is; the rest is the colour as it was read.', $shown), Unit::Percent, 100.0, [0.0, 100.0], [0.0, 100.0], 1.0),
        ];
    }

    /** @return list<Control> */
    private static function scalar(string $name): array
    {
        return [
            self::number("{$name}Factor", 'Factor', 'Multiplies what the map says.', Unit::Percent, 100.0, [0.0, 200.0], [0.0, 10000.0], 1.0),
            self::number("{$name}From", 'Black becomes', 'The value where the map is black.', Unit::None, 0.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
            self::number("{$name}To", 'White becomes', 'The value where the map is white.', Unit::None, 1.0, [0.0, 1.0], [-4.0, 4.0], 0.01),
            new SwitchControl(new ControlMeta("{$name}Invert", 'Turn over', 'Black for white, before all else.'), false),
        ];
    }

    /**
     * @param array{float, float} $soft
     * @param array{float, float} $hard
     */
    private static function number(string $name, string $label, string $help, Unit $unit, float $default, array $soft, array $hard, float $step, bool $ratio = false): NumberControl
    {
        return new NumberControl(new ControlMeta($name, $label, $help), $unit, $default, $soft, $hard, $step, $ratio);
    }
}
