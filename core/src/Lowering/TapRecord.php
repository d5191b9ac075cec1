<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;

/** A tap as one pass of a multipass plan hands it to the next: with all its parts, those that it lacks as what comes to the same. */
final class TapRecord
{
    /** What there is of a tap. */
    public const PARTS = [
        'uv' => Type::Vec2, 'dx' => Type::Vec2, 'dy' => Type::Vec2, 't' => Type::Vec3, 'b' => Type::Vec3, 'metres' => Type::Vec2, 'weight' => Type::Float,
        'drift' => Type::Vec3, 'gain' => Type::Float, 'cell' => Type::Uint2, 'inside' => Type::Float, 'slope' => Type::Vec2, 'joint' => Type::Float,
        'index' => Type::Float, 'region' => Type::Float, 'bend' => Type::Vec4,
    ];

    /** Metres into a rectangle, where there is none around. */
    private const FAR = 1e6;

    /** The input that stands for a part. */
    public static function input(string $part): string
    {
        return "tap_$part";
    }

    /** A tap whose parts are inputs. */
    public static function tap(Graph $g, ?TapAccumulator $tally = null): Tap
    {
        $in = [];
        foreach (self::PARTS as $part => $type) {
            $in[$part] = $g->input(self::input($part), $type);
        }

        return new Tap(
            new Coordinate($in['uv'], $in['dx'], $in['dy'], $in['t'], $in['b'], $in['metres'], slope: $in['slope'], bend: $in['bend']),
            $in['weight'],
            'tap',
            'uv',
            cover: new TapCover($in['inside'], region: $in['region']),
            drift: $in['drift'],
            gain: $in['gain'],
            cell: $in['cell'],
            index: $in['index'],
            joint: $in['joint'],
            tally: $tally,
        );
    }

    /**
     * The parts of a tap.
     *
     * @return array<string, Node>
     *
     * @throws NotMultipassable if there is more to it
     */
    public static function parts(Graph $g, Tap $tap): array
    {
        if ($tap->leans !== [] || $tap->alternate !== null || $tap->cover->within !== null || $tap->reads !== Reads::All) {
            throw new NotMultipassable('Heights, families, colours around places and relief of its own size are not handed on.');
        }
        [$at, $cover] = [$tap->at, $tap->cover];
        $there = [
            'uv' => $at->uv, 'dx' => $at->dx, 'dy' => $at->dy, 't' => $at->t, 'b' => $at->b, 'metres' => $at->metres, 'slope' => $at->slope, 'bend' => $at->bend,
            'inside' => $cover->inside, 'region' => $cover->region,
            'weight' => $tap->weight, 'drift' => $tap->drift, 'gain' => $tap->gain, 'cell' => $tap->cell, 'joint' => $tap->joint, 'index' => $tap->index,
        ];
        $parts = [];
        foreach (self::PARTS as $part => $type) {
            $parts[$part] = $there[$part] ?? match ($part) {
                'gain', 'inside' => $g->float(1),
                'region' => $g->float(self::FAR),
                'bend' => $g->vec(1.0, 0.0, 0.0, 1.0),
                'cell' => $g->vec($g->uint(0), $g->uint(0)),
                default => $type === Type::Float ? $g->float(0) : $g->vec(...array_fill(0, $type->width(), 0.0)),
            };
        }

        return $parts;
    }
}
