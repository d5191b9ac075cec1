<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** How a layer lies over those below it. */
enum LayerMode: string
{
    case Mix = 'mix';
    case Add = 'add';
    case Multiply = 'multiply';
    case Overlay = 'overlay';
    case Height = 'height';

    public function label(): string
    {
        return match ($this) {
            self::Mix => 'Lies over it',
            self::Height => 'The higher one wins',
            default => ucfirst($this->value),
        };
    }
}
