<?php

declare(strict_types=1);

namespace Rilta\Core\Field\Library;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/** How one thing is laid over another: layers, terms of masks, ingredients of recipes. Values are 0…1, single or of a colour in linear light. */
enum BlendMode: string
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

    /** @return array<string, string> labels by value, of these in their order; of all if none are named */
    public static function labels(self ...$modes): array
    {
        $modes = $modes === [] ? self::cases() : array_values($modes);

        return array_combine(array_column($modes, 'value'), array_map(static fn (self $m): string => $m->label(), $modes));
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
