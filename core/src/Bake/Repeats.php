<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Pass\Scalariser;

/**
 * After how many metres fields on a flat plane come back to what they were: read from the graph itself, not from samples of it.
 *
 * Every scalar is taken as `slope · p + q(p)`, where q repeats. Along each of the two directions of the plane it is known by its slope,
 * a unit a metre, and by the frequencies of q, cycles a metre: q comes back after T metres if each frequency times T is a whole
 * number. A map that is read at a coordinate repeats by the coordinate's slope, a fraction likewise; sums add slopes, and what bends
 * a value (a root, a comparison) needs one without a slope. Where it gets one with a slope (hashes of cells do), nothing comes back.
 */
final class Repeats
{
    /** Slopes below this, a unit a metre, are rounding. */
    private const FLAT = 1e-10;
    /** Two slopes that differ by less than this share are the same. */
    private const SAME = 1e-9;
    /** How far from whole a number of repeats may be; over a whole tile that is far less than a texel. */
    private const WHOLE = 1e-5;
    /** Multiples of the longest repeat that are tried. */
    private const MOST_TRIED = 4096;

    private readonly Scalariser $scalariser;

    /** @var array<int, Repeat> by the id of the scalar */
    private array $known = [];

    private readonly Rewriter $rewriter;

    /**
     * @param Graph                    $from     of the fields that are asked about
     * @param list<Node>               $fields   all of them
     * @param array<string, float|int> $uniforms
     */
    public function __construct(Graph $from, array $fields, Plane $plane, array $uniforms)
    {
        $g = new Graph();
        $inputs = $plane->inputs($g, $g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float), $g->float(1), $g->float(1));
        $numbers = [];
        foreach (Reachable::from($fields) as $node) {
            if ($node->op === Op::Uniform && isset($uniforms[$node->name()])) {
                $numbers[$node->id] = $node->type === Type::Uint ? $g->uint((int) $uniforms[$node->name()]) : $g->float($uniforms[$node->name()]);
            }
        }
        $this->rewriter = new Rewriter($from, $g, $inputs, false, $numbers);
        $this->scalariser = new Scalariser($g);
    }

    /** What is known of a field: of all its components at once. */
    public function of(Node $field): Repeat
    {
        $all = null;
        foreach ($this->components($field) as $one) {
            $all = $all === null ? $one : $all->beside($one);
        }

        return $all ?? Repeat::constant();
    }

    /** @return list<Repeat> one a component */
    public function components(Node $field): array
    {
        $scalars = $this->scalariser->scalarise($this->rewriter->rewrite($field));
        foreach (Reachable::from($scalars) as $id => $node) {
            $this->known[$id] ??= $this->one($node);
        }

        return array_map(fn (Node $scalar): Repeat => $this->known[$scalar->id], $scalars);
    }

    /** Whether a scalar is the number, whatever the place. */
    public function is(Node $field, float $number): bool
    {
        $scalars = $this->scalariser->scalarise($this->rewriter->rewrite($field));

        return \count($scalars) === 1 && $scalars[0]->is($number);
    }

    /**
     * The shortest length after which all of some frequencies have turned whole times.
     *
     * @param list<float> $frequencies cycles a metre, above 0
     * @param float       $most        metres
     *
     * @return ?float metres; null if there is none up to the most; 0 if anything will do
     */
    public static function common(array $frequencies, float $most): ?float
    {
        if ($frequencies === []) {
            return 0.0;
        }
        $longest = 1 / min($frequencies);
        for ($n = 1; $n <= self::MOST_TRIED && $n * $longest <= $most * (1 + self::WHOLE); ++$n) {
            $length = $n * $longest;
            $whole = true;
            foreach ($frequencies as $f) {
                if (abs($f * $length - round($f * $length)) > self::WHOLE * max(1.0, $n)) {
                    $whole = false;
                    break;
                }
            }
            if ($whole) {
                return $length;
            }
        }

        return null;
    }

    private function one(Node $node): Repeat
    {
        $args = array_map(fn (Node $arg): Repeat => $this->known[$arg->id], $node->args);
        [$a, $b] = [$args[0] ?? Repeat::constant(), $args[1] ?? Repeat::constant()];
        $number = static fn (Node $n): ?float => $n->isConstant() && !\is_bool($n->constants()[0]) ? (float) $n->constants()[0] : null;

        return match ($node->op) {
            Op::Constant, Op::Uniform, Op::Param => Repeat::constant(),
            Op::Input => match ($node->name()) {
                'pixelX' => Repeat::along(1.0, 0.0),
                'pixelY' => Repeat::along(0.0, 1.0),
                default => Repeat::constant(),
            },
            Op::Add => $a->sum($b, 1.0),
            Op::Sub => $a->sum($b, -1.0),
            Op::Neg => $a->times(-1.0),
            Op::Mul => match (true) {
                $number($node->args[0]) !== null => $b->times($number($node->args[0])),
                $number($node->args[1]) !== null => $a->times($number($node->args[1])),
                default => $a->bent()->beside($b->bent()),
            },
            Op::Div => $number($node->args[1]) !== null && $number($node->args[1]) !== 0.0 ? $a->times(1 / $number($node->args[1])) : $a->bent()->beside($b->bent()),
            Op::Floor => $a->floored(),
            Op::ToUint, Op::ToFloat, Op::Pick => $a,
            Op::Sin, Op::Cos => $a->turning(1 / (2 * \M_PI)),
            Op::Less, Op::LessEqual => $a->sum($b, -1.0)->bent(),
            Op::Min, Op::Max => $a->either($b),
            Op::Select => $args[1]->either($args[2])->with($a->bent()),
            Op::BitAnd => self::masked($node, $a, $b),
            Op::SampleLevel => $this->read($node->map(), $a, $b)->beside($args[2]->bent())->beside($args[3]->bent()),
            default => array_reduce($args, static fn (Repeat $all, Repeat $one): Repeat => $all->beside($one->bent()), Repeat::constant()),
        };
    }

    /** The lowest bits of a whole number come back after as many steps as they can tell apart. */
    private static function masked(Node $node, Repeat $a, Repeat $b): Repeat
    {
        $mask = $node->args[1]->isConstant() ? (int) $node->args[1]->constants()[0] : -1;

        return $mask >= 0 && ($mask & ($mask + 1)) === 0 ? $a->turning(1 / ($mask + 1)) : $a->bent()->beside($b->bent());
    }

    private function read(TextureBinding $map, Repeat $u, Repeat $v): Repeat
    {
        $axis = static fn (Repeat $at, string $wrap): Repeat => match ($wrap) {
            'edge' => $at->bent(),
            'mirror' => $at->turning(0.5),
            default => $at->turning(1.0),
        };

        return $axis($u, $map->sampling->wrapU)->beside($axis($v, $map->sampling->wrapV));
    }

    public static function isFlat(float $slope): bool
    {
        return abs($slope) < self::FLAT;
    }

    public static function isSame(float $a, float $b): bool
    {
        return abs($a - $b) <= max(self::FLAT, self::SAME * max(abs($a), abs($b)));
    }
}
