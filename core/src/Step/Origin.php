<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Coordinate;
use Rilta\Core\Lowering\HeightBlend;
use Rilta\Core\Lowering\HeightBlendCandidate;
use Rilta\Core\Lowering\Step;
use Rilta\Core\Lowering\StepContext;
use Rilta\Core\Lowering\Tap;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\Handle;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Values;

/**
 * Where a lane's coordinates come from: the mesh, or a projection along one to three axes of the world or of
 * the object's rigid frame, in metres.
 *
 * Seen from outside, u runs to the right and v down on every face, so that lettering can be read on all six.
 */
final readonly class Origin implements Step
{
    private const FACES = [
        'xyz' => 'All six faces',
        'six' => 'Six faces, each its own',
        'xz' => 'Walls only (X and Z)',
        'xy' => 'X and Y only',
        'yz' => 'Y and Z only',
        'x' => 'X only',
        'y' => 'Y only (floor)',
        'z' => 'Z only',
    ];

    public function name(): string
    {
        return 'origin';
    }

    public function label(): string
    {
        return 'Origin';
    }

    public function help(): string
    {
        return 'Where the coordinates come from. Projections measure metres, so maps keep their size however an object is scaled.';
    }

    public function isOrigin(): bool
    {
        return true;
    }

    public function controls(): array
    {
        $projected = ['space' => ['world', 'object']];

        $blended = $projected + ['faces' => ['xyz', 'six', 'xz', 'xy', 'yz']];
        $own = $projected + ['frame' => ['own']];
        $metres = static fn (string $axis): NumberControl => new NumberControl(new ControlMeta("position$axis", "Centre $axis", 'Where the projection has its middle, in the space. Move on the stage drags it.', $own, Handle::from("place$axis")), Unit::Metres, 0.0, [-10.0, 10.0], [-100000.0, 100000.0], 0.1);
        $angle = static fn (string $axis): NumberControl => new NumberControl(new ControlMeta("turn$axis", "Turn $axis", "Of the projection about $axis, counter-clockwise. Turn on the stage drags it.", $own, Handle::from("turn$axis")), Unit::Degrees, 0.0, [-180.0, 180.0], [-36000.0, 36000.0], 5.0);

        return [
            new ChoiceControl(new ControlMeta(
                'space',
                'Space',
                'Mesh UV follows the unwrapping and stretches with the object. World stays in place, so neighbours line up. Object travels with the object and ignores its scale.',
                handle: Handle::Space,
            ), ['mesh' => 'Mesh UV', 'world' => 'World', 'object' => 'Object'], 'world'),
            new ChoiceControl(new ControlMeta('uvSet', 'UV set', 'The second set covers the mesh once, without overlaps; the others are what the mesh was given.', ['space' => ['mesh']]), ['first' => 'First', 'second' => 'Second', 'third' => 'Third', 'fourth' => 'Fourth'], 'first'),
            new ChoiceControl(new ControlMeta(
                'faces',
                'Faces',
                'Which directions project. Surfaces that face another way are reached by the nearest one, stretched. With each its own, layers may read other map sets from some sides.',
                $projected,
            ), self::FACES, 'xyz'),
            new NumberControl(new ControlMeta(
                'seam',
                'Seam width',
                'The angle over which two faces blend, centred on the edge between them. 0 is a hard edge.',
                $blended,
            ), Unit::Degrees, 24.0, [0.0, 60.0], [0.0, 90.0], 1.0),
            ...HeightBlend::controls('Where faces blend', 'the angle', $blended),
            new ChoiceControl(new ControlMeta('frame', 'Frame', 'Projects along the axes of the space, or along axes that are moved and turned.', $projected), ['aligned' => 'As the space', 'own' => 'Moved and turned'], 'aligned'),
            ...array_map($metres, ['X', 'Y', 'Z']),
            ...array_map($angle, ['X', 'Y', 'Z']),
        ];
    }

    public function idle(): ?array
    {
        return null;
    }

    public function mainControl(Values $values): ?string
    {
        return $this->blends($values) ? 'seam' : null;
    }

    public function phrase(Values $values): string
    {
        if ($values->choice('space') === 'mesh') {
            return $values->choice('uvSet') === 'first' ? 'mesh UV' : $values->choice('uvSet') . ' mesh UV';
        }
        $space = $values->choice('space') . ' position';
        $phrase = match ($values->choice('faces')) {
            'xyz' => "$space, tri-planar",
            'six' => "$space, tri-planar from six sides",
            'xz' => "$space, projected on walls",
            'xy' => "$space, projected along X and Y",
            'yz' => "$space, projected along Y and Z",
            default => "$space, projected along " . strtoupper($values->choice('faces')),
        };

        return $phrase . ($values->choice('frame') === 'own' ? ', turned {turnX}°, {turnY}°, {turnZ}°' : '');
    }

    public function lower(StepContext $context, ?array $taps): array
    {
        $g = $context->graph;
        $s = $context->surface;
        if ($context->choice('space') === 'mesh') {
            $set = ['first' => 'uv', 'second' => 'uv2', 'third' => 'uv3', 'fourth' => 'uv4'][$context->choice('uvSet')];

            return [new Tap(new Coordinate($s->input($set), $s->input("{$set}Dx"), $s->input("{$set}Dy"), $s->input("{$set}T"), $s->input("{$set}B"), $g->vec(1, 1)), $g->float(1), 'uv', 'uv')];
        }
        [$origin, $axes] = $this->frame($context);
        $into = static fn (Node $v): Node => $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($v, $axis), $axes));
        $q = $g->named($context->name . '_position', $into($origin === null ? $s->position() : $g->sub($s->position(), $origin)));
        $n = $g->named($context->name . '_normal', $into($s->normal()));
        $qdx = $into($s->input('dpdx'));
        $qdy = $into($s->input('dpdy'));
        $tap = static function (string $face, string $side, Node $weight, ?HeightBlendCandidate $lean) use ($g, $n, $q, $qdx, $qdy, $axes): Tap {
            [$u, $v, $sign] = self::plane($face);
            $behind = $g->less($g->pick($n, $face), 0);
            $uSign = match ($side) {
                '+' => $g->float($sign[0]),
                '-' => $g->float(-$sign[0]),
                default => $g->mul($g->select($behind, -1.0, 1.0), $sign[0]),
            };
            $project = static fn (Node $vector): Node => $g->vec(
                $g->mul($g->pick($vector, $u), $uSign),
                $g->mul($g->pick($vector, $v), $sign[1]),
            );
            $axis = static fn (string $letter): Node => $axes[(int) strpos('xyz', $letter)];

            return new Tap(
                new Coordinate($project($q), $project($qdx), $project($qdy), $g->mul($axis($u), $uSign), $g->mul($axis($v), $sign[1]), $g->vec(1, 1), skew: $g->float(0)),
                match ($side) {
                    '+' => $g->select($behind, 0.0, $weight),
                    '-' => $g->select($behind, $weight, 0.0),
                    default => $weight,
                },
                $face . ['' => '', '+' => 'p', '-' => 'n'][$side],
                $face,
                side: $side,
                leans: $lean === null ? [] : [$lean],
            );
        };
        $six = $context->choice('faces') === 'six';
        $taps = [];
        foreach ($this->weights($context, $n, $six ? 'xyz' : $context->choice('faces')) as $face => [$weight, $lean]) {
            foreach ($six ? ['+', '-'] : [''] as $side) {
                $taps[] = $tap($face, $side, $weight, $lean);
            }
        }

        return $taps === [] ? throw new \LogicException('An origin without faces.') : $taps;
    }

    /**
     * The frame that is projected along: its origin in the world, null for the world's own, and its unit axes.
     *
     * @return array{?Node, array{Node, Node, Node}}
     */
    private function frame(StepContext $context): array
    {
        $g = $context->graph;
        $origin = null;
        $axes = [$g->vec(1, 0, 0), $g->vec(0, 1, 0), $g->vec(0, 0, 1)];
        if ($context->choice('space') === 'object') {
            [$origin, $axes] = $context->surface->objectFrame();
        }
        if ($context->choice('frame') === 'aligned') {
            return [$origin, $axes];
        }
        $sum = static fn (Node $x, Node $y, Node $z): Node => $g->add($g->mul($axes[0], $x), $g->mul($axes[1], $y), $g->mul($axes[2], $z));
        $moved = $sum($context->number('positionX'), $context->number('positionY'), $context->number('positionZ'));
        [$a, $b, $c] = [$context->angle('turnX'), $context->angle('turnY'), $context->angle('turnZ')];
        [$sa, $ca, $sb, $cb, $sc, $cc] = [$g->sin($a), $g->cos($a), $g->sin($b), $g->cos($b), $g->sin($c), $g->cos($c)];

        // The columns of Rx Ry Rz, as objects on the stage are turned.
        return [$origin === null ? $moved : $g->add($origin, $moved), [
            $sum($g->mul($cb, $cc), $g->add($g->mul($ca, $sc), $g->mul($sa, $sb, $cc)), $g->sub($g->mul($sa, $sc), $g->mul($ca, $sb, $cc))),
            $sum($g->neg($g->mul($cb, $sc)), $g->sub($g->mul($ca, $cc), $g->mul($sa, $sb, $sc)), $g->add($g->mul($sa, $cc), $g->mul($ca, $sb, $sc))),
            $sum($sb, $g->neg($g->mul($sa, $cb)), $g->mul($ca, $cb)),
        ]];
    }

    /**
     * The components that make u and v when looking at a face from outside, and their signs on its positive side.
     *
     * @return array{string, string, array{float, float}}
     */
    private static function plane(string $face): array
    {
        return match ($face) {
            'x' => ['z', 'y', [-1.0, -1.0]],
            'y' => ['x', 'z', [1.0, 1.0]],
            default => ['x', 'y', [1.0, -1.0]],
        };
    }

    /**
     * How much each face counts: max(0, |n_a| - max|n| + sqrt(2) sin(seam / 2)), normalised; the blend spans the
     * seam width around the 45 degree line.
     *
     * @param string $letters the axes, at least one
     *
     * @return array<string, array{Node, ?HeightBlendCandidate}>
     */
    private function weights(StepContext $context, Node $n, string $letters): array
    {
        $g = $context->graph;
        $faces = str_split($letters);
        if (\count($faces) < 2) {
            return [$faces[0] => [$g->float(1), null]];
        }
        $scores = [];
        foreach ($faces as $face) {
            $scores[$face] = $g->abs($g->pick($n, $face));
        }
        $reach = $g->mul($g->sin($g->mul($context->angle('seam'), 0.5)), \M_SQRT2);
        $shares = HeightBlend::weights($g, $scores, $reach);
        $leans = $context->flag('lean') ? HeightBlendCandidate::each($context, $context->name, $g->float(1), $shares, $scores, $reach) : [];
        $weights = [];
        foreach ($shares as $face => $weight) {
            $g->named($context->name . '_weight_' . $face, $weight);
            $weights[$face] = [$weight, $leans[$face] ?? null];
        }

        return $weights;
    }

    private function blends(Values $values): bool
    {
        return $values->choice('space') !== 'mesh' && \strlen($values->choice('faces')) > 1;
    }
}
