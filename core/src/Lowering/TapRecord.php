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
            $in['uv'],
            $in['dx'],
            $in['dy'],
            $in['t'],
            $in['b'],
            $in['metres'],
            $in['weight'],
            'tap',
            'uv',
            drift: $in['drift'],
            gain: $in['gain'],
            cell: $in['cell'],
            inside: $in['inside'],
            slope: $in['slope'],
            joint: $in['joint'],
            index: $in['index'],
            region: $in['region'],
            tally: $tally,
            bend: $in['bend'],
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
        if ($tap->leans !== [] || $tap->alternate !== null || $tap->within !== null || $tap->reads !== Reads::All) {
            throw new NotMultipassable('Heights, families, colours around places and relief of its own size are not handed on.');
        }
        $parts = [];
        foreach (self::PARTS as $part => $type) {
            $parts[$part] = $tap->{$part} ?? match ($part) {
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
