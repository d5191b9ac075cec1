<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\BlendMode;
use Rilta\Core\Field\Library\Colour;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Library\Levels;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Library\Normals;
use Rilta\Core\Field\Node;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\MaskTerm;
use Rilta\Core\Material\Role;
use Rilta\Core\Surface\Surface;

/** A term of a layer's mask as a field: float 0…1. */
final readonly class Masking
{
    private Graph $graph;
    private Surface $surface;

    /** Cells after which noises that have a period begin anew: further than anybody looks. */
    private const PERIOD = 16384;

    /** How wide cracks are, in cells. */
    private const CRACK = 0.12;

    /**
     * @param list<Tap>                 $taps   of the lane that the term is read along
     * @param array<string, LayerBelow> $others the layers below, by id
     */
    public function __construct(private MaskTerm $term, private StepContext $context, private array $taps, private array $others = [])
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

        return $g->clamp(BlendMode::from($this->context->choice('how'))->apply($g, $before, $value));
    }

    private function shaped(Node $value): Node
    {
        $g = $this->graph;
        $span = $g->sub($this->context->number('high'), $this->context->number('low'));
        $placed = $g->clamp($g->div($g->sub($value, $this->context->number('low')), $g->select($g->less($g->abs($span), 1e-5), 1e-5, $span)));
        $bright = Levels::middle($g, $placed, $this->context->number('gamma'));

        $pivot = $this->context->number('pivot');
        $driven = $g->clamp($g->add($g->mul($g->sub($bright, $pivot), $g->mul($this->context->number('contrast'), 0.01)), $pivot));

        return $this->context->either('invert', static fn (): Node => $g->sub(1.0, $driven), static fn (): Node => $driven);
    }

    /** @param array<string, Node> $below */
    private function value(array $below): Node
    {
        $g = $this->graph;

        return match ($this->term->kind) {
            MaskKind::Noise => $this->noise(),
            MaskKind::Map => $this->map(),
            MaskKind::Slope => $this->slope($below['slope']),
            MaskKind::Level => $this->level(),
            MaskKind::Below => $g->sub(1.0, $below['height']),
            MaskKind::Distance => $this->ramp($this->surface->input('viewDistance'), $this->context->number('near'), $this->context->number('far')),
            MaskKind::Object => $this->context->choice('per') === 'piece' ? $this->piece() : $this->die($g->toUint($this->surface->input('objectSeed'))),
            MaskKind::Layer => $this->layer(),
            MaskKind::Joint => $this->joint(),
            MaskKind::Place => $this->place(),
            MaskKind::Side => $g->select($g->less($this->surface->input('facing'), 0.0), $this->context->choice('side') === 'back' ? 1.0 : 0.0, $this->context->choice('side') === 'back' ? 0.0 : 1.0),
            MaskKind::Painted => $g->pick($this->surface->input('painted'), ['1' => 'x', '2' => 'y', '3' => 'z', '4' => 'w'][$this->context->choice('channel')] ?? 'x'),
            MaskKind::Section => $g->select($g->less($g->abs($g->sub($this->surface->input('section'), $g->sub($this->context->number('number'), 1.0))), 0.5), 1.0, 0.0),
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
        $blur = $g->mul($this->context->number('blur'), 0.01);
        // A longer footprint is read from smaller mip levels.
        $long = static fn (Node $d): Node => $g->mul($d, $g->max($g->div($blur, $g->max($g->length($d), 1e-7)), 1.0));
        $sum = $g->float(0);
        foreach ($this->taps as $tap) {
            if (!$tap->reads->includes($reading->role)) {
                continue;
            }
            $texel = $g->sample($slot, $g->div($tap->at->uv, $times), $long($g->div($tap->at->dx, $times)), $long($g->div($tap->at->dy, $times)), $tap->weight);
            $value = $reading->of($g, $texel);
            $value = $reading->isScalar() ? $g->x($value) : match ($this->context->choice('reads')) {
                'red' => $g->x($value),
                'green' => $g->y($value),
                'blue' => $g->z($value),
                'alpha' => $g->w($texel),
                default => Colour::luminance($g, $g->pick($value, 'xyz')),
            };
            $sum = $g->add($sum, $g->mul($value, $g->mul($tap->weight, $tap->cover->share($g))));
        }

        return TapAccumulator::total($this->taps, $sum);
    }

    /**
     * The weighted sum of what each tap has; those that read no colour have no say.
     *
     * @param \Closure(Tap): Node $of float
     */
    private function each(\Closure $of): Node
    {
        $g = $this->graph;
        $sum = $g->float(0);
        foreach ($this->taps as $tap) {
            if ($tap->reads->includes(Role::BaseColour)) {
                $sum = $g->add($sum, $g->mul($of($tap), $tap->weight));
            }
        }

        return TapAccumulator::total($this->taps, $sum);
    }

    /**
     * @template T of object
     *
     * @param ?T     $part of a tap, which the term is made of
     * @param string $step that makes it
     *
     * @return T
     *
     * @throws InvalidDocument if no step of the lane has made it
     */
    private function made(?object $part, string $step): object
    {
        return $part ?? throw InvalidDocument::at($this->term->path, "the lane has no $step, which this term is made of; add one, or choose another lane for the term");
    }

    /** The joints between pieces, or their bevels, over one pixel or as far as they are blurred. */
    private function joint(): Node
    {
        $g = $this->graph;

        return $this->each(function (Tap $tap) use ($g): Node {
            $rim = $this->made($tap->rim, 'Bond');
            $over = $g->max($tap->at->pixel($g), $this->context->number('blur'));
            // 1 below a distance, 0 above.
            $below = static fn (Node|float $edge): Node => $g->clamp($g->add($g->div($g->sub($edge, $rim->inside), $over), 0.5));
            $joint = $g->mul($below(0.0), $g->select($g->less(1e-7, $rim->joint), 1.0, 0.0));
            $all = $g->select($g->less(1e-7, $rim->bevel), $below($rim->bevel), $joint);

            return match ($this->context->choice('part')) {
                'bevel' => $g->max($g->sub($all, $joint), 0.0),
                'both' => $g->max($all, $joint),
                default => $joint,
            };
        });
    }

    /** Inside of the rectangles that taps were placed on. */
    private function place(): Node
    {
        $g = $this->graph;

        return $this->each(fn (Tap $tap): Node => $g->clamp($g->add($g->div($this->made($tap->cover->region, 'Place'), $g->max($tap->at->pixel($g), $this->context->number('blur'))), 0.5)));
    }

    /** A grey for every piece or cell of the lane. */
    private function piece(): Node
    {
        $g = $this->graph;

        return $this->each(fn (Tap $tap): Node => $this->die($g->x(Hash::pcg2d($g, $this->made($tap->cell, 'Bond, Cell, Scatter, Breakup or Hex blend')))));
    }

    /** Float, 0…1, random for a whole number and the seed. */
    private function die(Node $number): Node
    {
        $g = $this->graph;

        return Hash::unit($g, $g->x(Hash::pcg2d($g, $g->vec($number, $this->context->seed('seed')))));
    }

    private function layer(): Node
    {
        $id = $this->term->layer();
        if ($id === '') {
            return $this->graph->float(1);
        }
        $lay = $this->others[$id] ?? throw InvalidDocument::at("{$this->term->path}/values/layer", \sprintf('no layer "%s" lies below this one; there are %s', $id, implode(', ', array_keys($this->others)) ?: 'none'));

        return $this->context->choice('of') === 'mask' ? $lay->mask : $lay->height ?? $this->graph->float(0.5);
    }

    /** On the plane that the surface faces most, or along the lane: 0…1. */
    private function noise(): Node
    {
        $g = $this->graph;
        if ($this->context->choice('space') === 'lane') {
            return $this->each(fn (Tap $tap): Node => $this->patches($g->mul($tap->at->uv, $this->context->number('patches'))));
        }
        [$position, $normal] = $this->spot();

        return $this->patches($g->div($this->plane($position, $normal), $this->context->number('size')));
    }

    /**
     * The point and its normal in the world or in the rigid frame of the object, metres.
     *
     * @return array{Node, Node} vec3 each
     */
    private function spot(): array
    {
        $g = $this->graph;
        [$position, $normal] = [$this->surface->input('position'), $this->surface->input('normal')];
        if ($this->context->choice('space') !== 'object') {
            return [$position, $normal];
        }
        $axes = array_map(fn (string $axis): Node => $this->surface->input("object$axis"), ['X', 'Y', 'Z']);
        $within = static fn (Node $v): Node => $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($v, $axis), $axes));

        return [$within($g->sub($position, $this->surface->input('objectOrigin'))), $within($normal)];
    }

    /**
     * Octaves of a noise, each half as strong as the one before: 0…1; of the smooth one mostly within 1/4 and 3/4.
     *
     * @param Node $p vec2, in patches
     */
    private function patches(Node $p): Node
    {
        $g = $this->graph;
        $sum = $g->float(0);
        $total = 0.0;
        for ($o = 0; $o < (int) $this->context->choice('octaves'); ++$o) {
            $weight = 0.5 ** $o;
            $sum = $g->add($sum, $g->mul($this->patch($g->mul($p, 2.0 ** $o), $g->add($this->context->seed('seed'), $g->uint(7919 * $o))), $weight));
            $total += $weight;
        }

        return $g->mul($sum, 1.0 / $total);
    }

    /** One octave, 0…1. */
    private function patch(Node $p, Node $seed): Node
    {
        $g = $this->graph;
        $period = $g->vec(self::PERIOD, self::PERIOD);

        return match ($this->context->choice('form')) {
            'ridges' => Noise::crests($g, $p, $period, $seed),
            'blotches' => Noise::value($g, $p, $period, $seed),
            'cells' => $g->min($g->x(Noise::cellular($g, $p, $period, $seed)), 1.0),
            'cracks' => $this->crack(Noise::cellular($g, $p, $period, $seed)),
            'plates' => $g->z(Noise::cellular($g, $p, $period, $seed)),
            default => $g->add(0.5, $g->mul(Noise::endless($g, $p, $seed), 0.5)),
        };
    }

    /** White where the two nearest points are as near. */
    private function crack(Node $cellular): Node
    {
        $g = $this->graph;

        return $g->sub(1.0, $g->clamp($g->div($g->sub($g->y($cellular), $g->x($cellular)), self::CRACK)));
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
        if (!$relief->is(0)) {
            $normal = $this->context->either('detailed', static fn (): Node => Normals::perturb($g, $normal, $relief), static fn (): Node => $normal);
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
        [$position] = $this->spot();
        // The edge runs along walls: both directions of the ground move it.
        $along = $g->div($g->vec($g->add($g->x($position), $g->mul($g->z($position), 0.61)), $g->sub($g->z($position), $g->mul($g->x($position), 0.61))), $this->context->number('size'));
        $edge = $g->add($this->context->number('at'), $g->mul(Noise::endless($g, $along, $this->context->seed('seed')), $this->context->number('breaks')));

        $half = $g->mul($this->context->number('fade'), 0.5);
        $below = fn (Node $at): Node => $g->sub(1.0, $this->ramp($g->y($position), $g->sub($at, $half), $g->add($at, $half)));
        $band = $this->context->number('band');

        return $g->mul($below($edge), $g->select($g->less(0.0, $band), $g->sub(1.0, $below($g->sub($edge, $band))), 1.0));
    }

    /** From 0 at one value to 1 at another; an edge where they are the same. */
    private function ramp(Node $value, Node $from, Node $to): Node
    {
        $g = $this->graph;

        return $g->clamp($g->div($g->sub($value, $from), $g->max($g->sub($to, $from), 1e-5)));
    }
}
