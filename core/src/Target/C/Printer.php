<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Pass\UseCounts;
use Rilta\Core\Target\Precedence;

/** Prints scalar fields as the statements of a C function: what is used more than once gets a name. */
final class Printer
{
    private const LONGEST_INLINE = 90;

    private readonly CDialect $dialect;

    /** @var array<string, true> helpers that the statements printed so far call */
    private array $helpers = [];

    /** @var array<string, TextureBinding> maps that they read, by the name of their texels */
    private array $maps = [];

    public function __construct()
    {
        $this->dialect = new CDialect();
    }

    /** @return list<string> names of helpers */
    public function helpers(): array
    {
        return array_keys($this->helpers);
    }

    /** @return array<string, TextureBinding> by the name of their texels */
    public function maps(): array
    {
        return $this->maps;
    }

    /** What the texels of a map are called. */
    public static function texels(TextureBinding $slot): string
    {
        return Identifier::of($slot->name, (new CDialect())->reserved());
    }

    /**
     * The statements, and the expression that each output comes to.
     *
     * @param array<array-key, Node> $outputs scalars of one graph
     *
     * @return array{list<string>, array<array-key, string>}
     */
    public function body(array $outputs): array
    {
        $nodes = Reachable::from($outputs);
        $uses = UseCounts::of($nodes, $outputs);
        [$code, $lines] = [[], []];
        foreach ($nodes as $id => $node) {
            $expression = $this->expression($node, array_map(static fn (Node $arg): Expression => $code[$arg->id], $node->args));
            $leaf = \in_array($node->op, [Op::Constant, Op::Input, Op::Uniform, Op::Pick], true);
            if (!$leaf && ($node->op === Op::SampleLevel || $uses[$id] > 1 || \strlen($expression->text) >= self::LONGEST_INLINE)) {
                $type = $node->op === Op::SampleLevel ? 'rilta_texel' : $this->dialect->type($node->type);
                $lines[] = "const $type v$id = $expression->text;";
                $expression = new Expression("v$id");
            }
            $code[$id] = $expression;
        }

        return [$lines, array_map(static fn (Node $output): string => $code[$output->id]->text, $outputs)];
    }

    /** @param list<Expression> $a */
    private function expression(Node $node, array $a): Expression
    {
        $binary = Precedence::binary($node->op);
        if ($binary !== null) {
            return Expression::binary($binary[0], $binary[1], $a[0], $a[1]);
        }

        return match ($node->op) {
            Op::Constant => self::literal($node->constants()[0]),
            Op::Input => new Expression(self::input($node->name())),
            Op::Uniform => new Expression('u->' . $node->name()),
            Op::Neg => Expression::unary('-', $a[0]),
            Op::Not => Expression::unary('!', $a[0]),
            Op::Min, Op::Max => $this->helper($node->op === Op::Min ? 'rilta_min' : 'rilta_max', $a),
            Op::Pow => Expression::call('pow', ...$a),
            Op::Atan2 => Expression::call('atan2', ...$a),
            Op::Abs => Expression::call('fabs', ...$a),
            Op::Floor => Expression::call('floor', ...$a),
            Op::Sqrt => Expression::call('sqrt', ...$a),
            Op::Exp2 => Expression::call('exp2', ...$a),
            Op::Log2 => Expression::call('log2', ...$a),
            Op::Sin => Expression::call('sin', ...$a),
            Op::Cos => Expression::call('cos', ...$a),
            Op::Select => Expression::choice($a[0], $a[1], $a[2]),
            Op::ToUint => new Expression('(uint32_t) (int64_t) ' . Expression::call('floor', $a[0])->text, Precedence::Unary),
            Op::ToFloat => new Expression('(double) ' . $a[0]->in(Precedence::Primary), Precedence::Unary),
            Op::Pick => Expression::member($a[0], $node->name()),
            Op::SampleLevel => $this->read($node->map(), $a, $node->args[3]->is(1)),
            default => throw new \LogicException($node->op->name . ' is not a scalar operation.'),
        };
    }

    /** @param list<Expression> $a */
    private function read(TextureBinding $slot, array $a, bool $always): Expression
    {
        $texels = self::texels($slot);
        $this->maps[$texels] = $slot;
        $this->helpers['rilta_read'] = true;
        $sampling = $slot->sampling;
        $wraps = ['repeat' => 'RILTA_REPEAT', 'mirror' => 'RILTA_MIRROR', 'edge' => 'RILTA_EDGE'];
        $kind = $slot->samples === 1 ? ($slot->deep ? 'RILTA_GREY16' : 'RILTA_GREY8') : ($slot->srgb ? 'RILTA_SRGB8' : 'RILTA_RGBA8');
        $what = array_map(static fn (string $text): Expression => new Expression($text), [
            "m->$texels",
            (string) $slot->width,
            (string) $slot->height,
            $kind,
            $sampling->filter === 'sharp' ? 'true' : 'false',
            $sampling->mips ? 'true' : 'false',
            $wraps[$sampling->wrapU],
            $wraps[$sampling->wrapV],
        ]);
        $read = Expression::call('rilta_read', ...$what, ...[$a[0], $a[1], $a[2]]);

        return $always ? $read : Expression::choice(Expression::binary('>', Precedence::Relation, $a[3], new Expression('0.0')), $read, new Expression('rilta_nothing'));
    }

    /** @param list<Expression> $a */
    private function helper(string $name, array $a): Expression
    {
        $this->helpers[$name] = true;

        return Expression::call($name, ...$a);
    }

    /** A component of the surface point: of a struct, or of an array in it. */
    private static function input(string $name): string
    {
        [$field, $letter] = explode('.', $name) + [1 => null];

        return "s->$field" . ($letter === null ? '' : '[' . strpos('xyzw', $letter) . ']');
    }

    private static function literal(float|int|bool $value): Expression
    {
        if (!\is_float($value)) {
            return new Expression(\is_bool($value) ? ($value ? 'true' : 'false') : "{$value}u");
        }
        // As many digits as tell it apart.
        $text = json_encode($value, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);

        return Expression::number($text);
    }
}
