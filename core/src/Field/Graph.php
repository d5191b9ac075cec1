<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * Builds fields. Equal fields become one node (hash-consing), constants are folded and neutral
 * elements vanish on the way in, so that what is composed freely comes out small.
 *
 * @phpstan-type Operand Node|float|int
 */
final class Graph
{
    /** @var \WeakMap<FieldFunction, array{self, list<Node>, Node}>|null */
    private static ?\WeakMap $bodies = null;

    /** @var array<string, Node> */
    private array $nodes = [];

    /** @var array<int, string> names that printers may use, by node id */
    private array $hints = [];

    /** How many different fields there are. */
    public function size(): int
    {
        return \count($this->nodes);
    }

    // ---- leaves -------------------------------------------------------------------------------

    public function float(float|int $value): Node
    {
        return $this->make(Op::Constant, Type::Float, [], [(float) $value]);
    }

    public function uint(int $value): Node
    {
        return $this->make(Op::Constant, Type::Uint, [], [$value & 0xFFFFFFFF]);
    }

    public function bool(bool $value): Node
    {
        return $this->make(Op::Constant, Type::Bool, [], [$value]);
    }

    /** A value that differs from point to point and that the target supplies. */
    public function input(string $name, Type $type): Node
    {
        return $this->make(Op::Input, $type, [], $name);
    }

    /** A value that is the same for a whole picture and can change between pictures. */
    public function uniform(string $name, Type $type = Type::Float): Node
    {
        return $this->make(Op::Uniform, $type, [], $name);
    }

    public function param(string $name, Type $type): Node
    {
        return $this->make(Op::Param, $type, [], $name);
    }

    // ---- arithmetic ---------------------------------------------------------------------------

    public function add(Node|float|int $a, Node|float|int ...$rest): Node
    {
        $sum = $this->node($a, $rest[0] ?? null);
        foreach ($rest as $b) {
            $sum = $this->pair(Op::Add, $sum, $this->node($b, $sum));
        }

        return $sum;
    }

    public function sub(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->binary(Op::Sub, $a, $b);
    }

    public function mul(Node|float|int $a, Node|float|int ...$rest): Node
    {
        $product = $this->node($a, $rest[0] ?? null);
        foreach ($rest as $b) {
            $product = $this->pair(Op::Mul, $product, $this->node($b, $product));
        }

        return $product;
    }

    public function div(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->binary(Op::Div, $a, $b);
    }

    public function min(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->binary(Op::Min, $a, $b);
    }

    public function max(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->binary(Op::Max, $a, $b);
    }

    public function pow(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->binary(Op::Pow, $a, $b);
    }

    public function atan2(Node|float|int $y, Node|float|int $x): Node
    {
        return $this->binary(Op::Atan2, $y, $x);
    }

    public function neg(Node $a): Node
    {
        return $this->componentwise(Op::Neg, $a);
    }

    public function abs(Node $a): Node
    {
        return $this->componentwise(Op::Abs, $a);
    }

    public function floor(Node $a): Node
    {
        return $this->componentwise(Op::Floor, $a);
    }

    public function fract(Node $a): Node
    {
        return $this->componentwise(Op::Fract, $a);
    }

    public function sqrt(Node $a): Node
    {
        return $this->componentwise(Op::Sqrt, $a);
    }

    public function exp2(Node $a): Node
    {
        return $this->componentwise(Op::Exp2, $a);
    }

    public function log2(Node $a): Node
    {
        return $this->componentwise(Op::Log2, $a);
    }

    public function sin(Node $a): Node
    {
        return $this->componentwise(Op::Sin, $a);
    }

    public function cos(Node $a): Node
    {
        return $this->componentwise(Op::Cos, $a);
    }

    /** a at t = 0, b at t = 1. */
    public function mix(Node|float|int $a, Node|float|int $b, Node|float|int $t): Node
    {
        $a = $this->node($a);
        $b = $this->node($b);
        $t = $this->node($t);
        if ($t->is(0)) {
            return $a;
        }
        if ($t->is(1)) {
            return $b;
        }

        return $a === $b ? $a : $this->componentwise(Op::Mix, $a, $b, $t);
    }

    public function clamp(Node $x, Node|float|int $low = 0.0, Node|float|int $high = 1.0): Node
    {
        return $this->componentwise(Op::Clamp, $x, $this->node($low), $this->node($high));
    }

    /** Hermite ramp from 0 at $from to 1 at $to. */
    public function smoothstep(Node|float|int $from, Node|float|int $to, Node $x): Node
    {
        return $this->componentwise(Op::Smoothstep, $this->node($from), $this->node($to), $x);
    }

    // ---- comparison and choice ----------------------------------------------------------------

    public function less(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->compare(Op::Less, $a, $b);
    }

    public function lessEqual(Node|float|int $a, Node|float|int $b): Node
    {
        return $this->compare(Op::LessEqual, $a, $b);
    }

    public function and(Node $a, Node $b): Node
    {
        if ($a->isConstant()) {
            return $a->constants()[0] === true ? $b : $a;
        }
        if ($b->isConstant()) {
            return $b->constants()[0] === true ? $a : $b;
        }

        return $this->fold(Op::And, Type::Bool, [$a, $b]);
    }

    public function or(Node $a, Node $b): Node
    {
        if ($a->isConstant()) {
            return $a->constants()[0] === true ? $a : $b;
        }
        if ($b->isConstant()) {
            return $b->constants()[0] === true ? $b : $a;
        }

        return $this->fold(Op::Or, Type::Bool, [$a, $b]);
    }

    public function not(Node $a): Node
    {
        return $this->fold(Op::Not, Type::Bool, [$a]);
    }

    public function select(Node $condition, Node|float|int $then, Node|float|int $else): Node
    {
        $then = $this->node($then, $else);
        $else = $this->node($else, $then);
        if ($condition->type !== Type::Bool || $then->type !== $else->type) {
            throw self::illTyped(Op::Select, [$condition, $then, $else]);
        }
        if ($condition->isConstant()) {
            return $condition->constants()[0] === true ? $then : $else;
        }

        return $then === $else ? $then : $this->make(Op::Select, $then->type, [$condition, $then, $else]);
    }

    // ---- vectors ------------------------------------------------------------------------------

    /** A vector of the parts laid end to end. */
    public function vec(Node|float|int ...$parts): Node
    {
        $nodes = [];
        foreach ($parts as $part) {
            $node = $this->node($part);
            if ($node->op === Op::Vec) {
                array_push($nodes, ...$node->args);
            } else {
                $nodes[] = $node;
            }
        }
        $width = array_sum(array_map(static fn (Node $n): int => $n->type->width(), $nodes));
        $type = $nodes[0]->type->ofWidth($width);
        if (\count($nodes) === 1) {
            return $nodes[0];
        }
        $whole = Simplifier::wholeOf($nodes, $type);
        if ($whole !== null) {
            return $whole;
        }
        if (Simplifier::areConstant($nodes)) {
            return $this->make(Op::Constant, $type, [], array_merge(...array_map(static fn (Node $n): array => $n->constants(), $nodes)));
        }

        return $this->make(Op::Vec, $type, $nodes);
    }

    /** A swizzle: some of the components x, y, z, w in any order. */
    public function pick(Node $a, string $letters): Node
    {
        $type = $a->type->ofWidth(\strlen($letters));
        if ($letters === substr('xyzw', 0, $a->type->width())) {
            return $a;
        }
        $indices = array_map(static fn (string $l): int => (int) strpos('xyzw', $l), str_split($letters));
        if ($a->isConstant()) {
            return $this->make(Op::Constant, $type, [], array_map(static fn (int $i): float|int|bool => $a->constants()[$i], $indices));
        }
        if ($a->op === Op::Vec && \count($a->args) === $a->type->width()) {
            return $this->vec(...array_map(static fn (int $i): Node => $a->args[$i], $indices));
        }
        if ($a->op === Op::Pick) {
            return $this->pick($a->args[0], implode('', array_map(static fn (int $i): string => $a->name()[$i], $indices)));
        }

        return $this->make(Op::Pick, $type, [$a], $letters);
    }

    public function x(Node $a): Node
    {
        return $this->pick($a, 'x');
    }

    public function y(Node $a): Node
    {
        return $this->pick($a, 'y');
    }

    public function z(Node $a): Node
    {
        return $this->pick($a, 'z');
    }

    public function w(Node $a): Node
    {
        return $this->pick($a, 'w');
    }

    public function dot(Node $a, Node $b): Node
    {
        if ($a->type !== $b->type) {
            throw self::illTyped(Op::Dot, [$a, $b]);
        }
        if ($a->is(0) || $b->is(0)) {
            return $this->float(0);
        }
        foreach ([[$a, $b], [$b, $a]] as [$vector, $axis]) {
            $letter = $axis->isConstant() ? Simplifier::axisLetter($axis) : null;
            if ($letter !== null) {
                return $this->pick($vector, $letter);
            }
        }

        return $this->make(Op::Dot, Type::Float, [$a, $b]);
    }

    public function cross(Node $a, Node $b): Node
    {
        if ($a->type !== Type::Vec3 || $b->type !== Type::Vec3) {
            throw self::illTyped(Op::Cross, [$a, $b]);
        }

        return $this->make(Op::Cross, Type::Vec3, [$a, $b]);
    }

    public function length(Node $a): Node
    {
        return $this->make(Op::Length, Type::Float, [$a]);
    }

    public function normalize(Node $a): Node
    {
        return $this->make(Op::Normalize, $a->type, [$a]);
    }

    // ---- unsigned integers --------------------------------------------------------------------

    public function xor(Node $a, Node $b): Node
    {
        return $this->integers(Op::Xor, $a, $b);
    }

    public function bitAnd(Node $a, Node $b): Node
    {
        return $this->integers(Op::BitAnd, $a, $b);
    }

    public function shiftRight(Node $a, int $bits): Node
    {
        return $this->integers(Op::ShiftRight, $a, $this->uint($bits));
    }

    /** The whole number below, as 32 bits of two's complement: lattice cells keep apart on both sides of 0. */
    public function toUint(Node $a): Node
    {
        return $this->fold(Op::ToUint, $a->type === Type::Float ? Type::Uint : Type::Uint->ofWidth($a->type->width()), [$a]);
    }

    public function toFloat(Node $a): Node
    {
        return $this->fold(Op::ToFloat, Type::Float->ofWidth($a->type->width()), [$a]);
    }

    // ---- maps and functions -------------------------------------------------------------------

    /**
     * Reads a map at a coordinate in repeats, with explicit derivatives for the mip level, trilinear.
     * Where the guard is not above 0 the result is 0 and nothing is fetched. Colour arrives in linear light.
     */
    public function sample(TextureBinding $map, Node $uv, Node $dx, Node $dy, ?Node $guard = null): Node
    {
        $guard ??= $this->float(1);
        if ([$uv->type, $dx->type, $dy->type, $guard->type] !== [Type::Vec2, Type::Vec2, Type::Vec2, Type::Float]) {
            throw self::illTyped(Op::Sample, [$uv, $dx, $dy, $guard]);
        }
        if ($guard->isConstant()) {
            $guard = $this->float($guard->constants()[0] > 0 ? 1 : 0);
            if ($guard->is(0)) {
                return $this->vec(0.0, 0.0, 0.0, 0.0);
            }
        }

        return $this->make(Op::Sample, Type::Vec4, [$uv, $dx, $dy, $guard], $map);
    }

    /**
     * Reads a map at a coordinate in repeats and a mip level of 0 or more: what a read with derivatives comes to.
     */
    public function sampleLevel(TextureBinding $map, Node $u, Node $v, Node $level, Node $guard): Node
    {
        return $this->make(Op::SampleLevel, Type::Vec4, [$u, $v, $level, $guard], $map);
    }

    public function call(FieldFunction $function, Node|float|int ...$args): Node
    {
        $nodes = [];
        foreach (array_values($args) as $i => $arg) {
            $node = $this->node($arg);
            $wanted = array_values($function->params)[$i] ?? null;
            if ($node->type !== $wanted) {
                throw IllTyped::call($function->name, $i, $node->type->value);
            }
            $nodes[] = $node;
        }

        return $this->make(Op::Call, self::body($function)[2]->type, $nodes, $function);
    }

    /**
     * A function on its own: its graph, its parameters and its result.
     *
     * @return array{self, list<Node>, Node}
     */
    public static function body(FieldFunction $function): array
    {
        self::$bodies ??= new \WeakMap();
        $body = self::$bodies[$function] ?? null;
        if ($body === null) {
            $graph = new self();
            $params = [];
            foreach ($function->params as $name => $type) {
                $params[] = $graph->param($name, $type);
            }
            self::$bodies[$function] = $body = [$graph, $params, ($function->build)($graph, $params)];
        }

        return $body;
    }

    /** Suggests a name for a field, so that printed code can be read. Returns the field. */
    public function named(string $hint, Node $node): Node
    {
        $this->hints[$node->id] ??= $hint;

        return $node;
    }

    public function hint(Node $node): ?string
    {
        return $this->hints[$node->id] ?? null;
    }

    /**
     * The operation as such, for visitors that rebuild graphs.
     *
     * @param list<Node> $args
     */
    public function rebuild(Node $node, array $args): Node
    {
        return match ($node->op) {
            Op::Constant, Op::Input, Op::Uniform, Op::Param => $this->make($node->op, $node->type, [], $node->data),
            Op::Vec => $this->vec(...$args),
            Op::Pick => $this->pick($args[0], $node->name()),
            Op::Sample => $this->sample($node->map(), $args[0], $args[1], $args[2], $args[3]),
            Op::SampleLevel => $this->sampleLevel($node->map(), $args[0], $args[1], $args[2], $args[3]),
            Op::Call => $this->call($node->callee(), ...$args),
            Op::Select => $this->select($args[0], $args[1], $args[2]),
            Op::Mix => $this->mix($args[0], $args[1], $args[2]),
            Op::Dot => $this->dot($args[0], $args[1]),
            Op::Cross, Op::Length, Op::Normalize => $this->make($node->op, $node->type, $args),
            Op::Less, Op::LessEqual, Op::And, Op::Or, Op::Not, Op::ToUint, Op::ToFloat => $this->fold($node->op, $node->type, $args),
            default => $this->componentwise($node->op, ...$args),
        };
    }

    // ---- making -------------------------------------------------------------------------------

    /** A number where a field is expected; its type follows the field it meets. */
    private function node(Node|float|int $value, Node|float|int|null $partner = null): Node
    {
        if ($value instanceof Node) {
            return $value;
        }

        return $partner instanceof Node && $partner->type->scalar() === Type::Uint ? $this->uint((int) $value) : $this->float($value);
    }

    private function binary(Op $op, Node|float|int $a, Node|float|int $b): Node
    {
        return $this->pair($op, $this->node($a, $b), $this->node($b, $a));
    }

    private function integers(Op $op, Node $a, Node $b): Node
    {
        if ($a->type->scalar() !== Type::Uint) {
            throw self::illTyped($op, [$a, $b]);
        }

        return $this->componentwise($op, $a, $b);
    }

    private function compare(Op $op, Node|float|int $a, Node|float|int $b): Node
    {
        $a = $this->node($a, $b);
        $b = $this->node($b, $a);
        if ($a->type->width() !== 1 || $a->type !== $b->type) {
            throw self::illTyped($op, [$a, $b]);
        }

        return $this->fold($op, Type::Bool, [$a, $b]);
    }

    /** Most operations are of two fields of one type, and neither is constant. */
    private function pair(Op $op, Node $a, Node $b): Node
    {
        return $a->type === $b->type && $a->op !== Op::Constant && $b->op !== Op::Constant ? $this->make($op, $a->type, [$a, $b]) : $this->componentwise($op, $a, $b);
    }

    private function componentwise(Op $op, Node ...$args): Node
    {
        $args = array_values($args);
        $widest = $args[0]->type;
        foreach ($args as $arg) {
            if ($arg->type->scalar() !== $widest->scalar()
                || ($arg->type->width() > 1 && $widest->width() > 1 && $arg->type !== $widest)) {
                throw self::illTyped($op, $args);
            }
            if ($arg->type->width() > $widest->width()) {
                $widest = $arg->type;
            }
        }

        return Simplifier::unchanged($op, $widest, $args) ?? $this->fold($op, $widest, $args);
    }

    /** @param list<Node> $args */
    private function fold(Op $op, Type $type, array $args): Node
    {
        $values = Simplifier::constants($op, $type, $args);

        return $values === null ? $this->make($op, $type, $args) : $this->make(Op::Constant, $type, [], $values);
    }

    /** @param list<Node> $args */
    private static function illTyped(Op $op, array $args): IllTyped
    {
        return IllTyped::operands($op->name, ...array_map(static fn (Node $n): string => $n->type->value, $args));
    }

    /**
     * @param list<Node>                                                    $args
     * @param list<float|int|bool>|string|FieldFunction|TextureBinding|null $data
     */
    private function make(Op $op, Type $type, array $args = [], array|string|FieldFunction|TextureBinding|null $data = null): Node
    {
        $key = $op->value . ':' . $type->value;
        foreach ($args as $arg) {
            $key .= ',' . $arg->id;
        }
        if ($data !== null) {
            $key .= '|' . match (true) {
                \is_string($data) => $data,
                \is_array($data) => serialize($data),
                $data instanceof TextureBinding => $data->key(),
                default => $data->name,
            };
        }

        return $this->nodes[$key] ??= new Node(\count($this->nodes), $op, $type, $args, $data);
    }
}
