<?php

declare(strict_types=1);

namespace Rilta\Core\Step;

use Rilta\Core\Field\Node;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Face;
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
        'xz' => 'Walls only (X and Z)',
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

        return [
            new ChoiceControl(new Face(
                'space',
                'Space',
                'Mesh UV follows the unwrapping and stretches with the object. World stays in place, so neighbours line up. Object travels with the object and ignores its scale.',
            ), ['mesh' => 'Mesh UV', 'world' => 'World', 'object' => 'Object'], 'world'),
            new ChoiceControl(new Face(
                'faces',
                'Faces',
                'Which directions project. Surfaces that face another way are reached by the nearest one, stretched.',
                $projected,
            ), self::FACES, 'xyz'),
            new NumberControl(new Face(
                'seam',
                'Seam width',
                'The angle over which two faces blend, centred on the edge between them. 0 is a hard edge.',
                $projected + ['faces' => ['xyz', 'xz']],
            ), Unit::Degrees, 24.0, [0.0, 60.0], [0.0, 90.0], 1.0),
        ];
    }

    public function mainControl(Values $values): ?string
    {
        return $this->blends($values) ? 'seam' : null;
    }

    public function phrase(Values $values): string
    {
        if ($values->choice('space') === 'mesh') {
            return 'mesh UV';
        }
        $space = $values->choice('space') . ' position';

        return match ($values->choice('faces')) {
            'xyz' => "$space, tri-planar",
            'xz' => "$space, projected on walls",
            default => "$space, projected along " . strtoupper($values->choice('faces')),
        };
    }

    public function lower(StepContext $context, ?array $taps): array
    {
        $g = $context->graph;
        $s = $context->surface;
        if ($context->choice('space') === 'mesh') {
            return [new Tap($s->input('uv'), $s->input('uvDx'), $s->input('uvDy'), $s->input('uvT'), $s->input('uvB'), $g->vec(1, 1), $g->float(1), 'uv', 'uv')];
        }
        $p = $s->position();
        $axes = [$g->vec(1, 0, 0), $g->vec(0, 1, 0), $g->vec(0, 0, 1)];
        if ($context->choice('space') === 'object') {
            [$origin, $axes] = $s->objectFrame();
            $p = $g->sub($p, $origin);
        }
        $into = static fn (Node $v): Node => $g->vec(...array_map(static fn (Node $axis): Node => $g->dot($v, $axis), $axes));
        $q = $g->named($context->name . '_position', $into($p));
        $n = $g->named($context->name . '_normal', $into($s->normal()));
        $qdx = $into($s->input('dpdx'));
        $qdy = $into($s->input('dpdy'));

        /** @var non-empty-list<string> $faces */
        $faces = str_split($context->choice('faces'));
        $weights = self::weights($context, $n, $faces);
        $tap = static function (string $face) use ($g, $n, $q, $qdx, $qdy, $axes, $weights): Tap {
            [$u, $v, $sign] = self::plane($face);
            $flip = $g->select($g->less($g->pick($n, $face), 0), -1.0, 1.0);
            $uSign = $g->mul($flip, $sign[0]);
            $project = static fn (Node $vector): Node => $g->vec(
                $g->mul($g->pick($vector, $u), $uSign),
                $g->mul($g->pick($vector, $v), $sign[1]),
            );
            $axis = static fn (string $letter): Node => $axes[(int) strpos('xyz', $letter)];

            return new Tap(
                $project($q),
                $project($qdx),
                $project($qdy),
                $g->mul($axis($u), $uSign),
                $g->mul($axis($v), $sign[1]),
                $g->vec(1, 1),
                $weights[$face],
                $face,
                $face,
            );
        };

        return array_map($tap, $faces);
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
     * @param non-empty-list<string> $faces
     *
     * @return array<string, Node>
     */
    private static function weights(StepContext $context, Node $n, array $faces): array
    {
        $g = $context->graph;
        if (\count($faces) === 1) {
            return [$faces[0] => $g->float(1)];
        }
        $size = [];
        foreach ($faces as $face) {
            $size[$face] = $g->abs($g->pick($n, $face));
        }
        $reach = $g->mul($g->sin($g->mul($context->angle('seam'), 0.5)), \M_SQRT2);
        $weights = array_combine($faces, Contest::weights($g, array_values($size), $reach));
        foreach ($weights as $face => $weight) {
            $g->named($context->name . '_weight_' . $face, $weight);
        }

        return $weights;
    }

    private function blends(Values $values): bool
    {
        return $values->choice('space') !== 'mesh' && \strlen($values->choice('faces')) > 1;
    }
}
