<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\SwitchControl;

/** What a parameter holds, which is also what can follow it. */
enum ParameterKind: string
{
    case Number = 'number';
    case Colour = 'colour';
    case Switch = 'switch';
    case Map = 'map';
    case Set = 'set';

    public function label(): string
    {
        return match ($this) {
            self::Number => 'Number',
            self::Colour => 'Colour',
            self::Switch => 'Switch',
            self::Map => 'Map',
            self::Set => 'Map set',
        };
    }

    /** The control by which its value is checked and changed. */
    public function control(): Control
    {
        $face = Parameter::controls()['value']->face();

        return match ($this) {
            self::Number => Parameter::controls()['value'],
            self::Colour => new ColourControl($face, [1.0, 1.0, 1.0]),
            self::Switch => new SwitchControl($face, false),
            self::Map => ReferenceControl::map($face),
            self::Set => ReferenceControl::set($face),
        };
    }

    /** @return list<string> the types of controls whose values can follow it */
    public function followers(): array
    {
        return match ($this) {
            self::Number => ['number', 'seed'],
            // A sheet is a map set that is cut.
            self::Set => ['set', 'sheet'],
            default => [$this->value],
        };
    }

    /** The kind that a control's value can follow; null if it follows none. */
    public static function of(Control $control): ?self
    {
        $type = $control->describe()['type'] ?? null;
        foreach (self::cases() as $kind) {
            if (\in_array($type, $kind->followers(), true)) {
                return $kind;
            }
        }

        return null;
    }
}
