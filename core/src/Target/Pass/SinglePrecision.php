<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Pass;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\Type;

/**
 * What targets need that compute in single precision, many times a picture.
 *
 * What is made of uniforms alone becomes a uniform, which the prelude computes once a picture in double precision.
 *
 * Where a world is large, places are handed as an origin, which is the same all over a picture, and what is left to the place itself, which is small. What grows
 * with the distance is kept apart from what differs from pixel to pixel for as long as operations are linear, and where whole numbers are
 * parted from the rest (floors, fractions, hashes, maps that repeat) the large part is taken in by its own whole numbers and its own rest.
 * All else takes the sum, in single precision, after what cancels has cancelled.
 */
final class SinglePrecision
{
    /** The uniforms that say where places are counted from, in whole metres in the world. */
    public const UNIFORMS = ['riltaOriginX', 'riltaOriginY', 'riltaOriginZ'];

    /** What is counted from there. */
    private const PLACES = ['position', 'objectOrigin'];

    private const LETTERS = 'xyzw';

    public readonly Graph $graph;

    /** @var array<int, Node> by ids of the source: fields of the target that are not far, and far ones in a sum */
    private array $plain = [];

    /** @var array<int, FarField> by ids of the source */
    private array $fars = [];

    /** @var array<int, ?Node> by ids of the target: the same without uniforms that the prelude fills, if it is made of uniforms alone */
    private array $exact = [];

    /** @var array<int, bool> by ids of the target: whether it is always a whole number */
    private array $whole = [];

    /** @var array<string, Node> by the uniform that each fills */
    private array $prepared = [];

    /** @var array<int, list<FarField>> by ids of the source: what is taken in a sum on the way there */
    private array $sums = [];

    /** @var array<string, Node> of the target */
    public readonly array $fields;

    /** What fills the uniforms that the fields read. */
    public readonly Prelude $prelude;

    /**
     * @param array<string, Node> $fields of the source
     * @param bool                $far    whether places are counted from an origin that differs from the world's
     */
    public function __construct(private readonly Graph $source, Prelude $prelude, array $fields, private readonly bool $far = false)
    {
        $this->graph = new Graph();
        $this->visit($prelude->fields);
        foreach ($prelude->fields as $name => $field) {
            $this->prepared[$name] = $this->plain[$field->id];
        }
        $this->visit($fields);
        $this->fields = array_map(fn (Node $field): Node => $this->hoisted($this->sum($field)), $fields);
        $this->prelude = new Prelude($this->prepared);
    }

    /**
     * How far from the world's origin some fields are as exact as near it: as far as no sum that goes into them is larger than what single
     * precision holds to a 4096th, or to the whole if it is whole.
     *
     * @param list<Node>               $fields   of the source
     * @param array<string, float|int> $uniforms the numbers of the document
     *
     * @return ?float metres; null if it is so anywhere in a world of that size
     */
    public function exactWithin(array $fields, array $uniforms, float $world = 100_000.0): ?float
    {
        $large = [];
        foreach (array_intersect_key($this->sums, Reachable::from($fields)) as $id => $sums) {
            foreach ($sums as $n => $far) {
                $whole = $this->isWhole($far->local);
                foreach (array_values($far->terms) as $t => [, $u]) {
                    foreach (str_split(substr(self::LETTERS, 0, $u->type->width())) as $letter) {
                        $large[$id . ' ' . $n . ' ' . $t . $letter] = $this->graph->mul($this->component($u, $letter), ($whole ? 2 ** -24 : 2 ** -12) / $world);
                    }
                }
            }
        }
        $most = max(0.0, 0.0, ...array_map(static fn (float|int $share): float => abs((float) $share), array_values((new Prelude($large))->values($uniforms + array_fill_keys(self::UNIFORMS, $world)))));

        return $most * $world <= 1.0 ? null : 1 / $most;
    }

    /** @param array<array-key, Node> $fields */
    private function visit(array $fields): void
    {
        foreach (Reachable::from($fields) as $id => $node) {
            if (isset($this->plain[$id]) || isset($this->fars[$id])) {
                continue;
            }
            $found = $this->one($node);
            if ($found instanceof FarField && $found->terms === []) {
                $found = $found->local;
            }
            $hint = $this->source->hint($node);
            if ($hint !== null) {
                $this->graph->named($hint, $found instanceof FarField ? $found->local : $found);
            }
            if ($found instanceof FarField) {
                $this->fars[$id] = $found;
            } else {
                $this->plain[$id] = $found;
            }
        }
    }

    private function one(Node $node): Node|FarField
    {
        $g = $this->graph;
        if ($this->far && $node->op === Op::Input && \in_array($node->name(), self::PLACES, true)) {
            return new FarField(['' => [null, $g->vec(...array_map($g->uniform(...), self::UNIFORMS))]], $g->rebuild($node, []));
        }
        $near = [];
        foreach ($node->args as $arg) {
            if (isset($this->fars[$arg->id])) {
                return $this->grown($node);
            }
            $near[] = $this->plain[$arg->id];
        }

        return $this->made($node, $near);
    }

    /** What an operation makes of fields of which one at least is far. */
    private function grown(Node $node): Node|FarField
    {
        $g = $this->graph;
        $args = $node->args;
        $width = $node->type->width();

        return match ($node->op) {
            Op::Add => $this->added($this->lift($args[0]), $this->lift($args[1]), $width),
            Op::Sub => $this->less($this->lift($args[0]), $this->lift($args[1]), $width),
            Op::Neg => $this->each($this->fars[$args[0]->id], static fn (Node $u): Node => $g->neg($u), static fn (Node $local): Node => $g->neg($local)),
            Op::Mul => $this->product($node, $args[0], $args[1], $width),
            Op::Div => $this->scaled($node, $args[0], $args[1], $width),
            Op::Mix => $this->mixed($node, $args[0], $args[1], $args[2], $width),
            Op::Select => $this->chosen($args[0], $args[1], $args[2], $width),
            Op::Less, Op::LessEqual => $g->rebuild($node, [$this->total($this->less($this->lift($args[0]), $this->lift($args[1]), 1)), $g->float(0)]),
            Op::Vec => $this->vector($args),
            Op::Pick => $this->picked($this->fars[$args[0]->id], $node->name()),
            Op::Dot => $this->dot($node, $args[0], $args[1]),
            Op::Floor => new FarField(
                array_map(fn (array $term): array => [$term[0], $this->floor($term[1])], $this->fars[$args[0]->id]->terms),
                $g->floor($this->rest($this->fars[$args[0]->id])),
            ),
            Op::Fract => $g->fract($this->rest($this->fars[$args[0]->id])),
            Op::ToUint => $this->hashed($this->fars[$args[0]->id]),
            Op::Sample => $this->made($node, [isset($this->fars[$args[0]->id]) ? $this->repeated($this->fars[$args[0]->id], $node->map()->sampling) : $this->sum($args[0]), ...array_map($this->sum(...), \array_slice($args, 1))]),
            Op::Call => $this->called($node),
            default => $this->sums($node),
        };
    }

    /** With the sums of what it is made of. */
    private function sums(Node $node): Node
    {
        foreach ($node->args as $arg) {
            $this->noteSum($node, $this->fars[$arg->id] ?? null);
        }

        return $this->made($node, array_map($this->sum(...), $node->args));
    }

    /**
     * What an operation makes of fields of the target; what is the same for all of a picture is ready for those that are not.
     *
     * @param list<Node> $args
     */
    private function made(Node $node, array $args): Node
    {
        $same = !Prelude::never($node->op);
        foreach ($args as $arg) {
            $same = $same && $this->exact($arg) !== null;
        }
        if (!$same) {
            foreach ($args as $i => $arg) {
                $args[$i] = $this->hoisted($arg);
            }
        }

        return $this->graph->rebuild($node, $args);
    }

    /** A field of the target; a uniform in its place, if it is the same all over a picture. */
    private function hoisted(Node $node): Node
    {
        $exact = $node->op === Op::Constant || $node->op === Op::Uniform ? null : $this->exact($node);

        return $exact === null ? $node : $this->prepare($exact);
    }

    /** A field of the source as one number. */
    private function sum(Node $node): Node
    {
        return $this->plain[$node->id] ??= $this->total($this->fars[$node->id]);
    }

    private function noteSum(Node $node, ?FarField $far): void
    {
        if ($far !== null) {
            $this->sums[$node->id][] = $far;
        }
    }

    private function total(FarField $far): Node
    {
        $g = $this->graph;
        $sum = $far->local;
        foreach ($far->terms as [$times, $u]) {
            $value = $this->prepare($u);
            $sum = $g->add($sum, $times === null ? $value : $g->mul($times, $value));
        }

        return $sum;
    }

    /** A field of the source as a far one, near as it may be. */
    private function lift(Node $node): FarField
    {
        $known = $this->fars[$node->id] ?? null;
        if ($known !== null) {
            return $known;
        }
        $exact = $this->exact($this->plain[$node->id]);

        return $exact === null ? new FarField([], $this->plain[$node->id]) : new FarField($exact->is(0) ? [] : ['' => [null, $exact]], $this->zero($node->type));
    }

    private function zero(Type $type): Node
    {
        return $this->graph->vec(...array_fill(0, $type->width(), 0.0));
    }

    private function added(FarField $a, FarField $b, int $width): FarField
    {
        $g = $this->graph;
        $terms = array_map(fn (array $term): array => [$term[0], $this->wide($term[1], $width)], $a->terms);
        foreach ($b->terms as [$times, $u]) {
            $terms = $this->with($terms, $times, $this->wide($u, $width));
        }

        return new FarField($terms, $g->add($this->wide($a->local, $width), $this->wide($b->local, $width)));
    }

    private function less(FarField $a, FarField $b, int $width): FarField
    {
        return $this->added($a, $this->each($b, fn (Node $u): Node => $this->graph->neg($u), fn (Node $local): Node => $this->graph->neg($local)), $width);
    }

    /**
     * One term more; what cancels is gone.
     *
     * @param array<string, array{?Node, Node}> $terms
     *
     * @return array<string, array{?Node, Node}>
     */
    private function with(array $terms, ?Node $times, Node $u): array
    {
        $g = $this->graph;
        $key = $times === null ? '' : "t$times->id";
        $before = $terms[$key][1] ?? null;
        $cancels = $before !== null && ($before === $g->neg($u) || $g->neg($before) === $u);
        $sum = match (true) {
            $cancels => null,
            $before !== null => $g->add($before, $u),
            default => $u,
        };
        unset($terms[$key]);
        if ($sum !== null && !$sum->is(0)) {
            $terms[$key] = [$times, $sum];
        }

        return $terms;
    }

    /**
     * @param \Closure(Node): Node $u
     * @param \Closure(Node): Node $local
     */
    private function each(FarField $far, \Closure $u, \Closure $local): FarField
    {
        return new FarField(array_map(static fn (array $term): array => [$term[0], $u($term[1])], $far->terms), $local($far->local));
    }

    private function product(Node $node, Node $a, Node $b, int $width): Node|FarField
    {
        if (isset($this->fars[$a->id], $this->fars[$b->id])) {
            return $this->sums($node);
        }
        [$far, $by] = isset($this->fars[$a->id]) ? [$this->fars[$a->id], $this->plain[$b->id]] : [$this->fars[$b->id], $this->plain[$a->id]];
        $g = $this->graph;
        $exact = $this->exact($by);
        if ($exact !== null) {
            return $this->each($far, fn (Node $u): Node => $g->mul($this->wide($u, $width), $exact), fn (Node $local): Node => $g->mul($this->wide($local, $width), $this->hoisted($by)));
        }

        return $this->isWhole($by) ? $this->multiplied($far, $by, $width) : $this->sums($node);
    }

    /** @param Node $by a whole number, which differs from place to place */
    private function multiplied(FarField $far, Node $by, int $width): FarField
    {
        $g = $this->graph;
        $terms = [];
        foreach ($far->terms as [$times, $u]) {
            $terms = $this->with($terms, $times === null ? $by : $g->mul($times, $by), $this->wide($u, $width));
        }

        return new FarField($terms, $g->mul($this->wide($far->local, $width), $by));
    }

    private function scaled(Node $node, Node $a, Node $by, int $width): Node|FarField
    {
        $g = $this->graph;
        $exact = isset($this->fars[$by->id]) ? null : $this->exact($this->plain[$by->id]);

        return $exact === null ? $this->sums($node) : $this->each($this->fars[$a->id], fn (Node $u): Node => $g->div($this->wide($u, $width), $exact), fn (Node $local): Node => $g->div($this->wide($local, $width), $this->hoisted($this->plain[$by->id])));
    }

    /** From the one to the other, by how far they are apart. */
    private function mixed(Node $node, Node $a, Node $b, Node $t, int $width): FarField
    {
        $g = $this->graph;
        $apart = $this->less($this->lift($b), $this->lift($a), $width);
        $by = $this->sum($t);
        $exact = isset($this->fars[$t->id]) ? null : $this->exact($by);
        if ($exact === null && !$this->isWhole($by)) {
            $this->noteSum($node, $apart);
        }
        $moved = match (true) {
            $exact !== null => $this->each($apart, static fn (Node $u): Node => $g->mul($u, $exact), fn (Node $local): Node => $g->mul($local, $this->hoisted($by))),
            $this->isWhole($by) => $this->multiplied($apart, $by, $width),
            default => new FarField([], $g->mul($this->total($apart), $by)),
        };

        return $this->added($this->lift($a), $moved, $width);
    }

    private function chosen(Node $condition, Node $then, Node $else, int $width): FarField
    {
        $g = $this->graph;
        $if = $this->hoisted($this->sum($condition));
        [$a, $b] = [$this->lift($then), $this->lift($else)];
        $apart = $this->less(new FarField($a->terms, $this->zero($then->type)), new FarField($b->terms, $this->zero($then->type)), $width);
        $terms = $b->terms;
        foreach ($this->multiplied($apart, $g->select($if, 1.0, 0.0), $width)->terms as [$times, $u]) {
            $terms = $this->with($terms, $times, $u);
        }

        return new FarField($terms, $g->select($if, $a->local, $b->local));
    }

    private function called(Node $node): Node
    {
        $args = [];
        foreach (array_keys($node->callee()->params) as $i => $name) {
            $arg = $node->args[$i];
            $far = $this->fars[$arg->id] ?? null;
            $repeats = \in_array($name, $node->callee()->repeats, true);
            $this->noteSum($node, $repeats ? null : $far);
            $args[] = $repeats && $far !== null ? $this->rest($far) : $this->sum($arg);
        }

        return $this->made($node, $args);
    }

    /** @param list<Node> $args */
    private function vector(array $args): FarField
    {
        $g = $this->graph;
        $width = array_sum(array_map(static fn (Node $arg): int => $arg->type->width(), $args));
        $terms = $locals = [];
        $at = 0;
        foreach ($args as $arg) {
            $far = $this->lift($arg);
            $padded = static fn (Node $part, float $with): Node => $g->vec(...array_fill(0, $at, $with), ...[$part], ...array_fill(0, $width - $at - $part->type->width(), $with));
            foreach ($far->terms as [$times, $u]) {
                $terms = $this->with($terms, $times === null || $times->type->width() === 1 ? $times : $padded($times, 1.0), $padded($u, 0.0));
            }
            $locals[] = $far->local;
            $at += $arg->type->width();
        }

        return new FarField($terms, $g->vec(...$locals));
    }

    private function picked(FarField $far, string $letters): FarField
    {
        $g = $this->graph;
        $terms = [];
        foreach ($far->terms as [$times, $u]) {
            $terms = $this->with($terms, $times === null || $times->type->width() === 1 ? $times : $g->pick($times, $letters), $this->component($u, $letters));
        }

        return new FarField($terms, $g->pick($far->local, $letters));
    }

    private function dot(Node $node, Node $a, Node $b): Node|FarField
    {
        if (isset($this->fars[$a->id], $this->fars[$b->id])) {
            return $this->sums($node);
        }
        $g = $this->graph;
        [$far, $by] = isset($this->fars[$a->id]) ? [$this->fars[$a->id], $this->plain[$b->id]] : [$this->fars[$b->id], $this->plain[$a->id]];
        $exact = $this->exact($by);
        if ($exact === null) {
            return $this->sums($node);
        }
        $sum = new FarField([], $g->dot($far->local, $this->hoisted($by)));
        foreach (str_split(substr(self::LETTERS, 0, $by->type->width())) as $letter) {
            $part = $this->picked($far, $letter);
            $sum = $this->added($sum, new FarField(array_map(fn (array $term): array => [$term[0], $g->mul($term[1], $this->component($exact, $letter))], $part->terms), $g->float(0)), 1);
        }

        return $sum;
    }

    /** What is left after whole numbers were taken from the large parts: the same but for a whole number. */
    private function rest(FarField $far): Node
    {
        return $this->total(new FarField(array_map(fn (array $term): array => [$term[0], $this->fract($term[1])], $far->terms), $far->local));
    }

    /** A coordinate where a map reads the same: less whole repeats, or pairs of them where every other one is reversed. */
    private function repeated(FarField $uv, Sampling $sampling): Node
    {
        $g = $this->graph;
        $axes = [];
        foreach (['x' => $sampling->wrapU, 'y' => $sampling->wrapV] as $letter => $wrap) {
            $one = $this->picked($uv, $letter);
            $axes[] = match ($wrap) {
                'repeat' => $this->rest($one),
                'mirror' => $g->mul($this->rest($this->each($one, static fn (Node $u): Node => $g->mul($u, 0.5), static fn (Node $local): Node => $g->mul($local, 0.5))), 2.0),
                default => $this->total($one),
            };
        }

        return $g->vec(...$axes);
    }

    /** The whole number below, modulo 2^32. */
    private function hashed(FarField $far): Node
    {
        $g = $this->graph;
        $sum = $g->toUint($this->rest($far));
        foreach ($far->terms as [$times, $u]) {
            $value = $this->prepare($g->toUint($u));
            $sum = $g->add($sum, $times === null ? $value : $g->mul($g->toUint($times), $value));
        }

        return $sum;
    }

    private function floor(Node $u): Node
    {
        return $this->isWhole($u) ? $u : $this->graph->floor($u);
    }

    private function fract(Node $u): Node
    {
        return $this->isWhole($u) ? $this->zero($u->type) : $this->graph->fract($u);
    }

    private function wide(Node $node, int $width): Node
    {
        return $node->type->width() === $width ? $node : $this->graph->vec(...array_fill(0, $width, $node));
    }

    /** Components of what is the same all over a picture: of the parts, where it is made component by component. */
    private function component(Node $u, string $letters): Node
    {
        $g = $this->graph;
        if ($u->type->width() === 1) {
            return $u;
        }

        return match ($u->op) {
            Op::Div => $this->component($u->args[0], $letters)->is(0) ? $this->zero($u->type->ofWidth(\strlen($letters))) : $g->div($this->component($u->args[0], $letters), $this->component($u->args[1], $letters)),
            Op::Add, Op::Sub, Op::Mul, Op::Neg, Op::Floor, Op::Fract => $g->rebuild($u, array_map(fn (Node $arg): Node => $arg->type->width() === 1 ? $arg : $this->component($arg, $letters), $u->args)),
            default => $g->pick($u, $letters),
        };
    }

    /** What is the same all over a picture, as uniforms that the prelude fills. */
    private function prepare(Node $u): Node
    {
        $g = $this->graph;
        if ($u->type->width() > 1) {
            return $g->vec(...array_map(fn (string $letter): Node => $this->prepare($u->op === Op::ToUint ? $g->toUint($this->component($u->args[0], $letter)) : $this->component($u, $letter)), str_split(substr(self::LETTERS, 0, $u->type->width()))));
        }
        if ($u->isConstant() || $u->op === Op::Uniform) {
            return $u;
        }
        $name = array_search($u, $this->prepared, true);
        if ($name === false) {
            $name = 'riltaReady' . \count($this->prepared);
            $this->prepared[$name] = $u;
        }

        return $g->uniform($name, $u->type);
    }

    /** A field of the target without uniforms that the prelude fills, if it is the same all over a picture. */
    private function exact(Node $node): ?Node
    {
        if (\array_key_exists($node->id, $this->exact)) {
            return $this->exact[$node->id];
        }
        if (Prelude::never($node->op)) {
            return $this->exact[$node->id] = null;
        }
        $args = [];
        foreach ($node->args as $arg) {
            $exact = $this->exact($arg);
            if ($exact === null) {
                return $this->exact[$node->id] = null;
            }
            $args[] = $exact;
        }

        return $this->exact[$node->id] = match ($node->op) {
            Op::Constant => $node,
            Op::Uniform => $this->prepared[$node->name()] ?? $node,
            default => $this->graph->rebuild($node, $args),
        };
    }

    private function isWhole(Node $node): bool
    {
        return $this->whole[$node->id] ??= match ($node->op) {
            Op::Constant => array_filter($node->constants(), static fn (float|int|bool $value): bool => \is_bool($value) || floor((float) $value) !== (float) $value) === [],
            Op::Uniform => \in_array($node->name(), self::UNIFORMS, true) || (isset($this->prepared[$node->name()]) && $this->isWhole($this->prepared[$node->name()])),
            Op::Floor, Op::ToFloat, Op::ToUint => true,
            Op::Select => $this->isWhole($node->args[1]) && $this->isWhole($node->args[2]),
            Op::Add, Op::Sub, Op::Mul, Op::Neg, Op::Min, Op::Max, Op::Abs, Op::Vec, Op::Pick => array_filter($node->args, fn (Node $arg): bool => !$this->isWhole($arg)) === [],
            default => false,
        };
    }
}
