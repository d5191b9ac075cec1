<?php

declare(strict_types=1);

namespace Rilta\Core\Target\C;

use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Target\Expression;

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
        $uses = [];
        foreach ($nodes as $node) {
            foreach ($node->args as $arg) {
                $uses[$arg->id] = ($uses[$arg->id] ?? 0) + 1;
            }
        }
        foreach ($outputs as $output) {
            $uses[$output->id] = ($uses[$output->id] ?? 0) + 1;
        }
        [$code, $lines] = [[], []];
        foreach ($nodes as $id => $node) {
            $expression = $this->expression($node, array_map(static fn (Node $arg): string => $code[$arg->id], $node->args));
            $leaf = \in_array($node->op, [Op::Constant, Op::Input, Op::Uniform, Op::Pick], true);
            if (!$leaf && ($node->op === Op::SampleLevel || $uses[$id] > 1 || \strlen($expression) >= self::LONGEST_INLINE)) {
                $type = $node->op === Op::SampleLevel ? 'rilta_texel' : $this->dialect->type($node->type);
                $lines[] = "const $type v$id = " . Expression::bare($expression) . ';';
                $expression = "v$id";
            }
            $code[$id] = $expression;
        }

        return [$lines, array_map(static fn (Node $output): string => Expression::bare($code[$output->id]), $outputs)];
    }

    /** @param list<string> $a */
    private function expression(Node $node, array $a): string
    {
        return match ($node->op) {
            Op::Constant => self::literal($node->constants()[0]),
            Op::Input => self::input($node->name()),
            Op::Uniform => 'u->' . $node->name(),
            Op::Add => "($a[0] + $a[1])",
            Op::Sub => "($a[0] - $a[1])",
            Op::Mul => "($a[0] * $a[1])",
            Op::Div => "($a[0] / $a[1])",
            Op::Neg => "(-$a[0])",
            Op::Min, Op::Max => $this->helper($node->op === Op::Min ? 'rilta_min' : 'rilta_max', $a),
            Op::Pow => self::call('pow', $a),
            Op::Atan2 => self::call('atan2', $a),
            Op::Abs => self::call('fabs', $a),
            Op::Floor => self::call('floor', $a),
            Op::Sqrt => self::call('sqrt', $a),
            Op::Exp2 => self::call('exp2', $a),
            Op::Log2 => self::call('log2', $a),
            Op::Sin => self::call('sin', $a),
            Op::Cos => self::call('cos', $a),
            Op::Less => "($a[0] < $a[1])",
            Op::LessEqual => "($a[0] <= $a[1])",
            Op::And => "($a[0] && $a[1])",
            Op::Or => "($a[0] || $a[1])",
            Op::Not => "(!$a[0])",
            Op::Select => "($a[0] ? $a[1] : $a[2])",
            Op::Xor => "($a[0] ^ $a[1])",
            Op::BitAnd => "($a[0] & $a[1])",
            Op::ShiftRight => "($a[0] >> $a[1])",
            Op::ToUint => "((uint32_t) (int64_t) floor($a[0]))",
            Op::ToFloat => "((double) $a[0])",
            Op::Pick => "$a[0].{$node->name()}",
            Op::SampleLevel => $this->read($node->map(), $a, $node->args[3]->is(1)),
            default => throw new \LogicException($node->op->name . ' is not a scalar operation.'),
        };
    }

    /** @param list<string> $a */
    private function read(TextureBinding $slot, array $a, bool $always): string
    {
        $texels = self::texels($slot);
        $this->maps[$texels] = $slot;
        $this->helpers['rilta_read'] = true;
        $sampling = $slot->sampling;
        $wraps = ['repeat' => 'RILTA_REPEAT', 'mirror' => 'RILTA_MIRROR', 'edge' => 'RILTA_EDGE'];
        $kind = $slot->samples === 1 ? ($slot->deep ? 'RILTA_GREY16' : 'RILTA_GREY8') : ($slot->srgb ? 'RILTA_SRGB8' : 'RILTA_RGBA8');
        $read = \sprintf(
            'rilta_read(m->%s, %d, %d, %s, %s, %s, %s, %s, %s, %s, %s)',
            $texels,
            $slot->width,
            $slot->height,
            $kind,
            $sampling->filter === 'sharp' ? 'true' : 'false',
            $sampling->mips ? 'true' : 'false',
            $wraps[$sampling->wrapU],
            $wraps[$sampling->wrapV],
            Expression::bare($a[0]),
            Expression::bare($a[1]),
            Expression::bare($a[2]),
        );

        return $always ? $read : "($a[3] > 0.0 ? $read : rilta_nothing)";
    }

    /** @param list<string> $a */
    private function helper(string $name, array $a): string
    {
        $this->helpers[$name] = true;

        return self::call($name, $a);
    }

    /** @param list<string> $a */
    private static function call(string $name, array $a): string
    {
        return "$name(" . implode(', ', array_map(Expression::bare(...), $a)) . ')';
    }

    /** A component of the surface point: of a struct, or of an array in it. */
    private static function input(string $name): string
    {
        [$field, $letter] = explode('.', $name) + [1 => null];

        return "s->$field" . ($letter === null ? '' : '[' . strpos('xyzw', $letter) . ']');
    }

    private static function literal(float|int|bool $value): string
    {
        if (!\is_float($value)) {
            return \is_bool($value) ? ($value ? 'true' : 'false') : "{$value}u";
        }
        // As many digits as tell it apart.
        $text = json_encode($value, \JSON_THROW_ON_ERROR | \JSON_PRESERVE_ZERO_FRACTION);

        return $value < 0 ? "($text)" : $text;
    }
}
