<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;

/**
 * What kind of surface a material makes: closed, with holes cut into it, or seen through; and whether it has a back.
 *
 * @phpstan-import-type ValueJson from Values
 */
final readonly class SurfaceKind
{
    public const OPAQUE = 'opaque';
    public const CUT_OUT = 'cut-out';
    public const TRANSLUCENT = 'translucent';

    /** Texels a metre that are wanted where nothing else is said. */
    public const DENSITY = 512.0;

    public function __construct(public Values $values)
    {
    }

    public static function plain(): self
    {
        return new self((new ValueReader(new Checks()))->read(self::controls(), [], '/surface/values'));
    }

    /** @return list<Control> */
    public static function controls(): array
    {
        $threshold = static fn (ControlMeta $face): NumberControl => new NumberControl($face, Unit::Percent, 50.0, [1.0, 99.0], [0.0, 100.0], 1.0);

        return [
            new ChoiceControl(new ControlMeta('kind', 'Surface', 'Closed; with holes where opacity is low; or seen through.'), [self::OPAQUE => 'Opaque', self::CUT_OUT => 'Cut out', self::TRANSLUCENT => 'Translucent'], self::OPAQUE),
            $threshold(new ControlMeta('threshold', 'Cut below', 'Where opacity is lower than this, there is nothing.', ['kind' => [self::CUT_OUT]])),
            new ChoiceControl(new ControlMeta('sides', 'Seen from', 'Whether it can be seen from behind. Layers with a mask of one side give the back maps, lanes and a finish of its own.'), ['front' => 'The front', 'both' => 'Both sides'], 'front'),
            $threshold(new ControlMeta('thresholdBack', 'Cut below, from behind', 'The same for what is seen from behind.', ['kind' => [self::CUT_OUT], 'sides' => ['both']])),
            self::heightRange('Metres from the lowest to the highest that heights of this material can tell. A layer whose maps span more or less says so in its finish.'),
            new NumberControl(new ControlMeta('density', 'Wanted density', 'Texels of a map that are wanted on a metre of the surface. The view Density shows where there are more or fewer.'), Unit::PerMetre, self::DENSITY, [64.0, 4096.0], [1.0, 65536.0], 64.0, true),
        ];
    }

    /** Metres between the black and the white of heights. */
    public static function heightRange(string $help): NumberControl
    {
        return new NumberControl(new ControlMeta('heightRange', 'Height range', $help), Unit::Metres, 0.05, [0.001, 0.5], [0.0001, 1000.0], 0.005, true);
    }

    /** @return 'opaque'|'cut-out'|'translucent' */
    public function kind(): string
    {
        /** @var 'opaque'|'cut-out'|'translucent' $kind */
        $kind = $this->values->choice('kind');

        return $kind;
    }

    public function isTwoSided(): bool
    {
        return $this->values->choice('sides') === 'both';
    }

    /** @return array{values: array<string, ValueJson>}|null as it stands in documents; null if nothing is said */
    public function document(): ?array
    {
        $said = array_filter($this->values->document(), static fn (mixed $value, string $name): bool => $value !== self::defaults()[$name], \ARRAY_FILTER_USE_BOTH);

        return $said === [] ? null : ['values' => $said];
    }

    /** @return array<string, mixed> */
    private static function defaults(): array
    {
        return array_combine(array_map(static fn (Control $c): string => $c->name(), self::controls()), array_map(static fn (Control $c): mixed => $c->default(), self::controls()));
    }
}
