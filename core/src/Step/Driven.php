<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\Tie;

/** A number of the document as a field: a uniform, or what follows from the parameter that it is tied to. */
final class Driven
{
    /**
     * @param string $path JSON Pointer to the number
     * @param string $name of its uniform
     */
    public static function number(Graph $g, Slots $slots, float|Tie $value, string $path, string $name): Node
    {
        $uniform = static fn (string $at, string $called, float $number): Node => $g->uniform($slots->at($at, $called, $number)->uniform);
        if (!$value instanceof Tie) {
            return $uniform($path, $name, $value);
        }
        $parameter = $uniform($value->parameter->path . '/value', 'parameter_' . Slots::identifier($value->parameter->id), $value->parameter->number());
        $scaled = $g->mul($parameter, $uniform("$path/factor", "{$name}_factor", $value->factor));

        return $value->control->holding($g, $g->add($scaled, $uniform("$path/offset", "{$name}_offset", $value->offset)));
    }
}
