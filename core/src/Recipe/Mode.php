<?php

declare(strict_types=1);

namespace Rilta\Core\Recipe;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Blending;
use Rilta\Core\Field\Node;

/** How one picture is laid over another. Values are 0…1, single or of a colour in linear light. */
enum Mode: string
{
    case Mix = 'mix';
    case Add = 'add';
    case Subtract = 'subtract';
    case Multiply = 'multiply';
    case Least = 'least';
    case Most = 'most';
    case Difference = 'difference';
    case Overlay = 'overlay';

    public function label(): string
    {
        return match ($this) {
            self::Mix => 'Lay over',
            self::Least => 'The darker',
            self::Most => 'The lighter',
            default => ucfirst($this->value),
        };
    }

    /** @return array<string, string> labels by value */
    public static function labels(): array
    {
        return array_combine(array_column(self::cases(), 'value'), array_map(static fn (self $m): string => $m->label(), self::cases()));
    }

    /**
     * What comes of it where the upper one counts in full.
     *
     * @param Node $below float or vec3
     * @param Node $above of the same type
     */
    public function apply(Graph $g, Node $below, Node $above): Node
    {
        return match ($this) {
            self::Mix => $above,
            self::Add => $g->add($below, $above),
            self::Subtract => $g->sub($below, $above),
            self::Multiply => $g->mul($below, $above),
            self::Least => $g->min($below, $above),
            self::Most => $g->max($below, $above),
            self::Difference => $g->abs($g->sub($below, $above)),
            self::Overlay => Blending::overlay($g, $below, $above),
        };
    }
}
