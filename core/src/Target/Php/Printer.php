<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\IllTyped;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Type;

/**
 * Prints scalar fields as one PHP function with the pixel loops inside. What does not change along a row,
 * or at all, is computed outside the loops; what is used once is written where it is used; maps that are
 * read at the same place share their addresses and weights.
 */
final class Printer
{
    /** How often a value changes: never in a run, from row to row, from pixel to pixel. */
    private const ONCE = 0;
    private const ROW = 1;
    private const PIXEL = 2;

    private const LONGEST_INLINE = 400;

    /** @var array<int, Node> reachable nodes by id, ascending */
    private array $nodes = [];

    /** @var array<int, int> */
    private array $rate = [];

    /** @var array<int, int> */
    private array $uses = [];

    /** @var array<int, true> nodes that must be a variable */
    private array $pinned = [];

    /** @var array<int, string> the expression or variable that stands for a node */
    private array $code = [];

    /** @var array<int, list<string>> by rate */
    private array $lines = [[], [], []];

    /** @var array<string, true> */
    private array $printedGroups = [];

    /** @var array<int, list<string>> the components that are used of a sample, by node id */
    private array $channels = [];

    private readonly MapReadPrinter $reads;

    /**
     * @param array<string, Binding> $bindings where each input comes from, by name
     */
    public function __construct(private readonly array $bindings)
    {
        $this->reads = new MapReadPrinter();
    }

    /**
     * @param list<Node> $outputs scalar nodes of one graph
     */
    public function print(array $outputs): string
    {
        $this->collect($outputs);
        foreach ($this->nodes as $node) {
            $this->emit($node);
        }
        $stores = [];
        foreach ($outputs as $i => $output) {
            $stores[] = \sprintf('$o%d[] = %s;', $i, $this->code[$output->id]);
        }

        return $this->assemble($stores, \count($outputs));
    }

    /** @param list<Node> $outputs */
    private function collect(array $outputs): void
    {
        $stack = $outputs;
        while ($stack !== []) {
            $node = array_pop($stack);
            if (isset($this->nodes[$node->id])) {
                continue;
            }
            $this->nodes[$node->id] = $node;
            array_push($stack, ...$node->args);
        }
        ksort($this->nodes);
        foreach ($this->nodes as $id => $node) {
            $rate = $this->ownRate($node);
            foreach ($node->args as $arg) {
                $rate = max($rate, $this->rate[$arg->id]);
                $this->uses[$arg->id] = ($this->uses[$arg->id] ?? 0) + ($this->repeats($node, $arg) ? 2 : 1);
            }
            $this->rate[$id] = $rate;
            if ($node->op === Op::Pick) {
                $this->channels[$node->args[0]->id][] = $node->name();
            }
        }
        foreach ($this->nodes as $id => $node) {
            foreach ($node->args as $arg) {
                if ($this->rate[$arg->id] < $this->rate[$id] || $node->op === Op::SampleLevel) {
                    $this->pinned[$arg->id] = true;
                }
            }
        }
    }

    private function ownRate(Node $node): int
    {
        if ($node->op === Op::Input) {
            return match ($this->binding($node->name())) {
                Binding::Constant => self::ONCE,
                Binding::PixelY => self::ROW,
                default => self::PIXEL,
            };
        }

        return $node->op === Op::SampleLevel ? self::PIXEL : self::ONCE;
    }

    /** Whether the printed form of the node writes the argument more than once. */
    private function repeats(Node $node, Node $arg): bool
    {
        return match ($node->op) {
            Op::Min, Op::Max, Op::Abs, Op::Floor => true,
            Op::Mul, Op::Add, Op::Sub => $arg->type === Type::Uint,
            default => false,
        };
    }

    private function binding(string $component): Binding
    {
        $name = explode('.', $component)[0];

        return $this->bindings[$component] ?? $this->bindings[$name] ?? throw IllTyped::unbound($component);
    }

    private function emit(Node $node): void
    {
        if ($node->op === Op::SampleLevel) {
            $this->emitReads($node);

            return;
        }
        if ($node->op === Op::Pick) {
            $this->code[$node->id] = MapReadPrinter::variable($node->args[0], $node->name());

            return;
        }
        if ($node->op === Op::Floor) {
            // The built-in floor() is a call; truncating and stepping down is not.
            $x = $this->code[$node->args[0]->id];
            $this->lines[$this->rate[$node->id]][] = \sprintf('$t%1$d = (float) (int) %2$s; if ($t%1$d > %2$s) { $t%1$d -= 1.0; }', $node->id, $x);
            $this->code[$node->id] = '$t' . $node->id;

            return;
        }
        $expression = $this->expression($node);
        $atom = $node->op === Op::Constant || preg_match('/^\$\w+$/', $expression) === 1;
        $isVariable = !$atom && (($this->uses[$node->id] ?? 1) > 1
            || isset($this->pinned[$node->id]) || \strlen($expression) > self::LONGEST_INLINE);
        if ($isVariable) {
            $this->lines[$this->rate[$node->id]][] = \sprintf('$t%d = %s;', $node->id, $expression);
            $expression = '$t' . $node->id;
        }
        $this->code[$node->id] = $expression;
    }

    private function expression(Node $node): string
    {
        $a = array_map(fn (Node $arg): string => $this->code[$arg->id], $node->args);
        $uint = $node->type === Type::Uint;

        return match ($node->op) {
            Op::Constant => self::literal($node->constants()[0]),
            Op::Input => $this->inputExpression($node),
            Op::Uniform => \sprintf($uint ? '(int) $u[%s]' : '(float) $u[%s]', var_export($node->name(), true)),
            Op::Add => $uint ? "(($a[0] + $a[1]) & 0xFFFFFFFF)" : "($a[0] + $a[1])",
            Op::Sub => $uint ? "(($a[0] - $a[1]) & 0xFFFFFFFF)" : "($a[0] - $a[1])",
            Op::Mul => $uint ? self::product($node, $a) : "($a[0] * $a[1])",
            Op::Div => "($a[0] / $a[1])",
            Op::Min => "($a[1] < $a[0] ? $a[1] : $a[0])",
            Op::Max => "($a[0] < $a[1] ? $a[1] : $a[0])",
            Op::Pow => "\\pow($a[0], $a[1])",
            Op::Atan2 => "\\atan2($a[0], $a[1])",
            Op::Neg => "(-$a[0])",
            Op::Abs => "($a[0] < 0.0 ? -$a[0] : $a[0])",
            Op::Sqrt => "\\sqrt($a[0])",
            Op::Exp2 => "\\pow(2.0, $a[0])",
            Op::Log2 => "(\\log($a[0]) * 1.4426950408889634)",
            Op::Sin => "\\sin($a[0])",
            Op::Cos => "\\cos($a[0])",
            Op::Less => "($a[0] < $a[1])",
            Op::LessEqual => "($a[0] <= $a[1])",
            Op::And => "($a[0] && $a[1])",
            Op::Or => "($a[0] || $a[1])",
            Op::Not => "(!$a[0])",
            Op::Select => "($a[0] ? $a[1] : $a[2])",
            Op::Xor => "($a[0] ^ $a[1])",
            Op::BitAnd => "($a[0] & $a[1])",
            Op::ShiftRight => "($a[0] >> $a[1])",
            Op::ToUint => self::neverNegative($node->args[0]) ? "((int) $a[0] & 0xFFFFFFFF)" : "((int) \\floor($a[0]) & 0xFFFFFFFF)",
            Op::ToFloat => "((float) $a[0])",
            default => throw new \LogicException($node->op->name . ' is not a scalar operation.'),
        };
    }

    /** Whether a field cannot be below 0, as far as its own operations tell. There, cutting off is rounding down. */
    private static function neverNegative(Node $node): bool
    {
        return match ($node->op) {
            Op::Constant => $node->constants()[0] >= 0,
            Op::Max => self::neverNegative($node->args[0]) || self::neverNegative($node->args[1]),
            Op::Add, Op::Mul, Op::Min => self::neverNegative($node->args[0]) && self::neverNegative($node->args[1]),
            Op::Abs, Op::Sqrt, Op::Exp2, Op::ToFloat => true,
            default => false,
        };
    }

    private function inputExpression(Node $node): string
    {
        [$name, $component] = explode('.', $node->name()) + [1 => null];
        $offset = $component === null ? 0 : (int) strpos('xyzw', $component);

        return match ($this->binding($node->name())) {
            Binding::PixelX => '$px',
            Binding::PixelY => '$py',
            Binding::Constant => \sprintf('(%s) $in[%s][%d]', $node->type === Type::Uint ? 'int' : 'float', var_export($name, true), $offset),
            Binding::Scalars => \sprintf('(float) $in[%s][$i]', var_export($name, true)),
            Binding::Pairs => \sprintf('(float) $in[%s][2 * $i + %d]', var_export($name, true), $offset),
            Binding::Triples => \sprintf('(float) $in[%s][3 * $i + %d]', var_export($name, true), $offset),
            Binding::Quads => \sprintf('(float) $in[%s][4 * $i + %d]', var_export($name, true), $offset),
        };
    }

    /**
     * A product modulo 2^32. A constant below 2^31 leaves room in 63 bits; else the multiplication is split.
     *
     * @param list<string> $a
     */
    private static function product(Node $node, array $a): string
    {
        foreach ($node->args as $arg) {
            if ($arg->isConstant() && $arg->constants()[0] < 0x80000000) {
                return "(($a[0] * $a[1]) & 0xFFFFFFFF)";
            }
        }

        return "((($a[0] & 0xFFFF) * $a[1] + (((($a[0] >> 16) * $a[1]) & 0xFFFF) << 16)) & 0xFFFFFFFF)";
    }

    private function emitReads(Node $node): void
    {
        $key = $this->groupKey($node);
        if (isset($this->printedGroups[$key])) {
            return;
        }
        $this->printedGroups[$key] = true;
        $group = [];
        foreach ($this->nodes as $other) {
            if ($other->op === Op::SampleLevel && isset($this->channels[$other->id]) && $this->groupKey($other) === $key) {
                $group[] = [$other, $this->channels[$other->id]];
            }
        }
        [$u, $v, $level, $guard] = array_map(fn (Node $arg): string => $this->code[$arg->id], $node->args);
        array_push($this->lines[self::PIXEL], ...$this->reads->print($group, $u, $v, $level, $node->args[3]->is(1) ? null : $guard));
    }

    private function groupKey(Node $node): string
    {
        $ids = array_map(static fn (Node $arg): int => $arg->id, $node->args);

        return implode(',', $ids) . '@' . $node->map()->width . 'x' . $node->map()->height . $node->map()->sampling->key();
    }

    /** @param list<string> $stores */
    private function assemble(array $stores, int $outputs): string
    {
        $names = array_map(static fn (int $i): string => '$o' . $i, array_keys(array_fill(0, $outputs, 0)));
        preg_match_all('/\$\w+/', implode("\n", [...$this->lines[self::ONCE], ...$this->lines[self::ROW]]), $outside);
        $pixel = VariableReuse::apply([...$this->lines[self::PIXEL], ...$stores], $this->kinds(), array_fill_keys($outside[0], true));

        return "<?php\n\ndeclare(strict_types=1);\n\n"
            . "return static function (array \$u, array \$m, array \$in, array \$srgb, int \$x0, int \$y0, int \$x1, int \$y1): array {\n"
            . self::indent($this->reads->prologue(), 1)
            . self::indent($this->lines[self::ONCE], 1)
            . self::indent(array_map(static fn (string $o): string => "$o = [];", $names), 1)
            . "    \$i = 0;\n"
            . "    for (\$y = \$y0; \$y < \$y1; ++\$y) {\n        \$py = \$y + 0.5;\n"
            . self::indent($this->lines[self::ROW], 2)
            . "        for (\$x = \$x0; \$x < \$x1; ++\$x) {\n            \$px = \$x + 0.5;\n"
            . self::indent($pixel, 3)
            . "            ++\$i;\n        }\n    }\n\n"
            . '    return [' . implode(', ', $names) . "];\n};\n";
    }

    /** @return array<string, string> a letter for what each variable holds */
    private function kinds(): array
    {
        $kinds = [];
        foreach ($this->nodes as $id => $node) {
            $kinds["\$t$id"] = match ($node->type) {
                Type::Uint => 'n',
                Type::Bool => 'b',
                default => 'f',
            };
        }

        return $kinds;
    }

    /** @param list<string> $lines */
    private static function indent(array $lines, int $depth): string
    {
        return implode('', array_map(static fn (string $line): string => str_repeat('    ', $depth) . $line . "\n", $lines));
    }

    private static function literal(float|int|bool $value): string
    {
        if (\is_float($value) && $value < 0.0) {
            return '(' . var_export($value, true) . ')';
        }

        return var_export($value, true);
    }
}
