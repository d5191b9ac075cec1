<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Rewriter;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;

/**
 * Takes vectors apart into scalars, calls into bodies and derivatives into mip levels: what is left
 * is arithmetic on single numbers, which every language with numbers has.
 */
final class Scalariser
{
    private const LETTERS = ['x', 'y', 'z', 'w'];

    private readonly Graph $flat;

    /** @var array<int, list<Node>> scalars by the id of the flat vector node */
    private array $done = [];

    public readonly Graph $scalars;

    private readonly Rewriter $inliner;

    public function __construct(Graph $source)
    {
        $this->flat = new Graph();
        $this->scalars = new Graph();
        $this->inliner = new Rewriter($source, $this->flat, [], true);
    }

    /**
     * The components of a field as scalar nodes of the graph `scalars`.
     *
     * @return list<Node>
     */
    public function scalarise(Node $field): array
    {
        $root = $this->inliner->rewrite($field);
        $pending = [];
        $stack = [$root];
        while ($stack !== []) {
            $node = array_pop($stack);
            if (isset($this->done[$node->id]) || isset($pending[$node->id])) {
                continue;
            }
            $pending[$node->id] = $node;
            array_push($stack, ...$node->args);
        }
        ksort($pending);
        foreach ($pending as $id => $node) {
            $this->done[$id] = $this->components($node);
        }

        return $this->done[$root->id];
    }

    /** @return list<Node> */
    private function components(Node $node): array
    {
        $g = $this->scalars;
        $args = array_map(fn (Node $arg): array => $this->done[$arg->id], $node->args);
        switch ($node->op) {
            case Op::Constant:
                return array_map(static fn (float|int|bool $v): Node => match (true) {
                    \is_float($v) => $g->float($v),
                    \is_int($v) => $g->uint($v),
                    default => $g->bool($v),
                }, $node->constants());
            case Op::Input:
            case Op::Uniform:
                return $this->leaf($node);
            case Op::Vec:
                return array_merge(...$args);
            case Op::Pick:
                return array_map(static fn (string $l): Node => $args[0][(int) strpos('xyzw', $l)], str_split($node->name()));
            case Op::Dot:
                return [$this->dot($args[0], $args[1])];
            case Op::Length:
                return [$g->sqrt($this->dot($args[0], $args[0]))];
            case Op::Normalize:
                $scale = $g->div(1.0, $g->sqrt($this->dot($args[0], $args[0])));

                return array_map(static fn (Node $c): Node => $g->mul($c, $scale), $args[0]);
            case Op::Cross:
                [[$ax, $ay, $az], [$bx, $by, $bz]] = $args;

                return [
                    $g->sub($g->mul($ay, $bz), $g->mul($az, $by)),
                    $g->sub($g->mul($az, $bx), $g->mul($ax, $bz)),
                    $g->sub($g->mul($ax, $by), $g->mul($ay, $bx)),
                ];
            case Op::Select:
                return array_map(static fn (Node $a, Node $b): Node => $g->select($args[0][0], $a, $b), $args[1], $args[2]);
            case Op::Sample:
                return $this->sample($node->map(), $args);
            default:
                $out = [];
                for ($c = 0; $c < $node->type->width(); ++$c) {
                    $parts = array_map(static fn (array $a): Node => $a[\count($a) === 1 ? 0 : $c], $args);
                    $out[] = $this->scalar($node->op, $parts);
                }

                return $out;
        }
    }

    /**
     * Mixes and ramps become plain arithmetic, so that common parts of them are shared.
     *
     * @param list<Node> $a
     */
    private function scalar(Op $op, array $a): Node
    {
        $g = $this->scalars;
        if ($op === Op::Mix) {
            return $g->add($a[0], $g->mul($g->sub($a[1], $a[0]), $a[2]));
        }
        if ($op === Op::Smoothstep) {
            $t = $this->scalar(Op::Clamp, [$g->div($g->sub($a[2], $a[0]), $g->sub($a[1], $a[0])), $g->float(0), $g->float(1)]);

            return $g->mul($g->mul($t, $t), $g->sub(3.0, $g->mul(2.0, $t)));
        }
        if ($op === Op::Clamp) {
            return $g->min($g->max($a[0], $a[1]), $a[2]);
        }
        if ($op === Op::Fract) {
            return $g->sub($a[0], $g->floor($a[0]));
        }

        return $g->rebuild(new Node(-1, $op, $this->typeOf($op, $a), $a), $a);
    }

    /** @param list<Node> $a */
    private function typeOf(Op $op, array $a): Type
    {
        return match ($op) {
            Op::Less, Op::LessEqual, Op::And, Op::Or, Op::Not => Type::Bool,
            Op::ToUint => Type::Uint,
            Op::ToFloat => Type::Float,
            default => $a[0]->type,
        };
    }

    /** @return list<Node> */
    private function leaf(Node $node): array
    {
        $width = $node->type->width();
        $out = [];
        for ($c = 0; $c < $width; ++$c) {
            $name = $width === 1 ? $node->name() : $node->name() . '.' . self::LETTERS[$c];
            $out[] = $node->op === Op::Input
                ? $this->scalars->input($name, $node->type->scalar())
                : $this->scalars->uniform($name, $node->type->scalar());
        }

        return $out;
    }

    /**
     * @param list<Node> $a
     * @param list<Node> $b
     */
    private function dot(array $a, array $b): Node
    {
        $g = $this->scalars;

        return $g->add(...array_map(static fn (Node $x, Node $y): Node => $g->mul($x, $y), $a, $b));
    }

    /**
     * The mip level by the usual rule (OpenGL ES 3.0.6, section 3.8.10): the base-2 logarithm of the longer
     * of the two derivatives in texels.
     *
     * @param list<list<Node>> $args
     *
     * @return list<Node>
     */
    private function sample(TextureBinding $map, array $args): array
    {
        $g = $this->scalars;
        [[$u, $v], [$dxu, $dxv], [$dyu, $dyv], [$guard]] = $args;
        $squared = static function (Node $du, Node $dv) use ($g, $map): Node {
            $tu = $g->mul($du, $map->width);
            $tv = $g->mul($dv, $map->height);

            return $g->add($g->mul($tu, $tu), $g->mul($tv, $tv));
        };
        $level = $g->mul($g->log2($g->max($g->max($squared($dxu, $dxv), $squared($dyu, $dyv)), 1.0)), 0.5);
        $read = $g->sampleLevel($map, $u, $v, $level, $guard);

        return [$g->x($read), $g->y($read), $g->z($read), $g->w($read)];
    }
}
