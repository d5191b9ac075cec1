<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Library\Normals;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Step\StepContext;
use Rilta\Core\Step\Surface;
use Rilta\Core\Step\Tap;

/** A term of a layer's mask as a field: float 0…1. */
final readonly class Masking
{
    private Graph $graph;
    private Surface $surface;

    /** Rec. 709, of linear light. */
    private const LUMINANCE = [0.2126, 0.7152, 0.0722];

    /** @param list<Tap> $taps of the layer's lane */
    public function __construct(private MaskKind $kind, private StepContext $context, private array $taps)
    {
        $this->graph = $context->graph;
        $this->surface = $context->surface;
    }

    /**
     * With the terms before it.
     *
     * @param ?Node               $before float 0…1; null for the first term
     * @param array<string, Node> $below  the channels of the layers below
     */
    public function over(?Node $before, array $below): Node
    {
        $g = $this->graph;
        $value = $this->shaped($this->value($below));
        if ($before === null) {
            return $value;
        }

        return $g->clamp(match ($this->context->choice('how')) {
            'add' => $g->add($before, $value),
            'subtract' => $g->sub($before, $value),
            'least' => $g->min($before, $value),
            'most' => $g->max($before, $value),
            'difference' => $g->abs($g->sub($before, $value)),
            default => $g->mul($before, $value),
        });
    }

    private function shaped(Node $value): Node
    {
        $g = $this->graph;
        $span = $g->sub($this->context->number('high'), $this->context->number('low'));
        $placed = $g->clamp($g->div($g->sub($value, $this->context->number('low')), $g->select($g->less($g->abs($span), 1e-5), 1e-5, $span)));
        $bright = $g->pow($g->max($placed, 1e-7), $g->div(1.0, $this->context->number('gamma')));

        $pivot = $this->context->number('pivot');
        $driven = $g->clamp($g->add($g->mul($g->sub($bright, $pivot), $g->mul($this->context->number('contrast'), 0.01)), $pivot));

        return $this->context->flag('invert') ? $g->sub(1.0, $driven) : $driven;
    }

    /** @param array<string, Node> $below */
    private function value(array $below): Node
    {
        $g = $this->graph;

        return match ($this->kind) {
            MaskKind::Noise => $this->noise(),
            MaskKind::Map => $this->map(),
            MaskKind::Slope => $this->slope($below['slope']),
            MaskKind::Level => $this->level(),
            MaskKind::Below => $g->sub(1.0, $below['height']),
            MaskKind::Distance => $this->ramp($this->surface->input('viewDistance'), $this->context->number('near'), $this->context->number('far')),
            MaskKind::Object => Hash::unit($g, $g->x(Hash::pcg2d($g, $g->vec($g->toUint($this->surface->input('objectSeed')), $this->context->seed('seed'))))),
            MaskKind::Side => $g->select($g->less($this->surface->input('facing'), 0.0), $this->context->choice('side') === 'back' ? 1.0 : 0.0, $this->context->choice('side') === 'back' ? 0.0 : 1.0),
            MaskKind::Constant => $g->mul($this->context->number('value'), 0.01),
        };
    }

    /** Read along the lane; where a place has nothing around it, that is black. */
    private function map(): Node
    {
        $g = $this->graph;
        $reading = $this->context->map('map');
        if ($reading === null) {
            return $g->float(1);
        }
        $slot = $this->context->slot($reading->map);
        $times = $this->context->number('times');
        $sum = $g->float(0);
        foreach ($this->taps as $tap) {
            if (!$tap->reads->includes($reading->role)) {
                continue;
            }
            $texel = $g->sample($slot, $g->div($tap->uv, $times), $g->div($tap->dx, $times), $g->div($tap->dy, $times), $tap->weight);
            $value = $reading->of($g, $texel);
            $value = $reading->role->isScalar() ? $g->x($value) : match ($this->context->choice('reads')) {
                'red' => $g->x($value),
                'green' => $g->y($value),
                'blue' => $g->z($value),
                'alpha' => $g->w($texel),
                default => $g->dot($g->pick($value, 'xyz'), $g->vec(...self::LUMINANCE)),
            };
            $sum = $g->add($sum, $g->mul($value, $g->mul($tap->weight, $g->mul($tap->inside ?? 1.0, $tap->within ?? 1.0))));
        }

        return $sum;
    }

    /** On the plane that the surface faces most: 0…1, mostly within 1/4 and 3/4. */
    private function noise(): Node
    {
        $g = $this->graph;
        [$position, $normal] = [$this->surface->input('position'), $this->surface->input('normal')];
        if ($this->context->choice('space') === 'object') {
            $axes = array_map(fn (string $axis): Node => $this->surface->input("object$axis"), ['X', 'Y', 'Z']);
            $from = $g->sub($position, $this->surface->input('objectOrigin'));
            $position = $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($from, $axis), $axes));
            $normal = $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($normal, $axis), $axes));
        }
        $p = $g->div($this->plane($position, $normal), $this->context->number('size'));
        $sum = $g->float(0);
        $total = 0.0;
        for ($o = 0; $o < (int) $this->context->choice('octaves'); ++$o) {
            $weight = 0.5 ** $o;
            $sum = $g->add($sum, $g->mul(Noise::endless($g, $g->mul($p, 2.0 ** $o), $g->add($this->context->seed('seed'), $g->uint(7919 * $o))), $weight));
            $total += $weight;
        }

        return $g->add(0.5, $g->mul($sum, 0.5 / $total));
    }

    /** vec2, metres. */
    private function plane(Node $position, Node $normal): Node
    {
        $g = $this->graph;
        [$x, $y, $z] = array_map(static fn (string $c): Node => $g->abs($g->pick($normal, $c)), ['x', 'y', 'z']);
        $flat = $g->and($g->lessEqual($x, $y), $g->lessEqual($z, $y));

        return $g->select($flat, $g->pick($position, 'xz'), $g->select($g->lessEqual($z, $x), $g->pick($position, 'zy'), $g->pick($position, 'xy')));
    }

    private function slope(Node $relief): Node
    {
        $g = $this->graph;
        $normal = $this->surface->normal();
        if ($this->context->flag('detailed') && !$relief->is(0)) {
            $normal = Normals::perturb($g, $normal, $relief);
        }
        $axis = match ($this->context->choice('axis')) {
            'y' => $g->vec(0.0, 1.0, 0.0), '-y' => $g->vec(0.0, -1.0, 0.0), 'x' => $g->vec(1.0, 0.0, 0.0), default => $g->vec(0.0, 0.0, 1.0),
        };
        $cosine = $g->clamp($g->dot($normal, $axis), -1.0, 1.0);
        $angle = $g->atan2($g->sqrt($g->max($g->sub(1.0, $g->mul($cosine, $cosine)), 0.0)), $cosine);
        $half = $g->mul($this->context->angle('softness'), 0.5);

        return $g->sub(1.0, $this->ramp($angle, $g->sub($this->context->angle('angle'), $half), $g->add($this->context->angle('angle'), $half)));
    }

    private function level(): Node
    {
        $g = $this->graph;
        $position = $this->surface->input('position');
        // The edge runs along walls: both directions of the ground move it.
        $along = $g->div($g->vec($g->add($g->x($position), $g->mul($g->z($position), 0.61)), $g->sub($g->z($position), $g->mul($g->x($position), 0.61))), $this->context->number('size'));
        $edge = $g->add($this->context->number('at'), $g->mul(Noise::endless($g, $along, $this->context->seed('seed')), $this->context->number('breaks')));

        return $g->sub(1.0, $this->ramp($g->y($position), $g->sub($edge, $g->mul($this->context->number('fade'), 0.5)), $g->add($edge, $g->mul($this->context->number('fade'), 0.5))));
    }

    /** From 0 at one value to 1 at another; an edge where they are the same. */
    private function ramp(Node $value, Node $from, Node $to): Node
    {
        $g = $this->graph;

        return $g->clamp($g->div($g->sub($value, $from), $g->max($g->sub($to, $from), 1e-5)));
    }
}
