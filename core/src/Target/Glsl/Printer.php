<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;

/**
 * Prints fields as GLSL ES 3.00 that a person can read: named steps, library fields as functions.
 * One printer prints the bodies that share a set of functions and uniforms.
 */
final class Printer
{
    private const LONGEST_INLINE = 90;

    private readonly GlslDialect $dialect;

    /** @var array<string, string> printed functions by name, callees first */
    private array $functions = [];

    /** @var array<string, Type> */
    private array $uniforms = [];

    /**
     * @param array<string, array{string, int}> $arrays for each map slot, the array texture and the layer it lies in
     * @param array<string, string>             $locals inputs that are not the surface's: the variables that hold them, by name
     */
    public function __construct(private readonly array $arrays = [], private readonly array $locals = [])
    {
        $this->dialect = new GlslDialect();
    }

    private function type(Node $node): string
    {
        return $this->dialect->type($node->type);
    }

    /** @return array<string, string> the functions that the bodies printed so far call, callees first */
    public function functions(): array
    {
        return $this->functions;
    }

    /** @return array<string, Type> the uniforms that the bodies printed so far use */
    public function uniforms(): array
    {
        return $this->uniforms;
    }

    /**
     * The statements that compute the outputs, and the expression that each comes to.
     *
     * @param array<string, Node> $outputs
     *
     * @return array{string, array<string, string>}
     */
    public function body(Graph $graph, array $outputs): array
    {
        [$lines, , $results] = $this->loop($graph, $outputs, []);

        return [$lines, $results];
    }

    /**
     * The same for a loop: the statements before it, those that are in it since they come down to what differs from turn to turn, and the
     * expressions.
     *
     * @param array<string, Node> $outputs
     * @param list<string>        $turning inputs that differ
     *
     * @return array{string, string, array<string, string>}
     */
    public function loop(Graph $graph, array $outputs, array $turning): array
    {
        $nodes = Reachable::from($outputs);
        $uses = self::uses($nodes, $outputs);
        $inside = [];
        foreach ($nodes as $id => $node) {
            $turns = $node->op === Op::Input && \in_array($node->name(), $turning, true);
            foreach ($node->args as $arg) {
                $turns = $turns || isset($inside[$arg->id]);
            }
            if ($turns) {
                $inside[$id] = $node;
            }
        }
        $this->uniformsOf($nodes);
        $code = [];
        $names = [];
        $before = $this->statements($graph, array_diff_key($nodes, $inside), $uses, $code, $names, '    ');
        $lines = $this->statements($graph, $inside, $uses, $code, $names, '    ');

        return [implode("\n", $before), implode("\n", $lines), array_map(static fn (Node $output): string => Expression::bare($code[$output->id]), $outputs)];
    }

    /**
     * Statements that return one of several fields, whichever is asked for. What more than one of them needs is computed
     * once, as late as possible; what only one needs, only for that one.
     *
     * @param string                $which  the expression that tells which
     * @param array<string, Node>   $fields by name; they are numbered in this order
     * @param array<string, string> $notes  a comment for each
     */
    public function branches(Graph $graph, string $which, array $fields, array $notes): string
    {
        $nodes = Reachable::from($fields);
        $uses = self::uses($nodes, $fields);
        $shared = self::shared($nodes, array_values($fields));
        $last = self::lastShared($nodes, $shared);
        $order = array_keys($fields);
        usort($order, static fn (string $a, string $b): int => $last[$fields[$a]->id] <=> $last[$fields[$b]->id]);
        $groups = self::byFirst($nodes, array_map(static fn (string $name): Node => $fields[$name], $order));
        $numbers = array_flip(array_keys($fields));
        $this->uniformsOf($nodes);
        $code = [];
        $names = [];
        $lines = [];
        foreach ($order as $place => $name) {
            $common = $own = [];
            foreach ($groups[$place] ?? [] as $id => $node) {
                if (isset($shared[$id])) {
                    $common[$id] = $node;
                } else {
                    $own[$id] = $node;
                }
            }
            array_push($lines, ...$this->statements($graph, $common, $uses, $code, $names, '    '));
            $lines[] = "    if ($which == {$numbers[$name]}) { // {$notes[$name]}";
            array_push($lines, ...$this->statements($graph, $own, $uses, $code, $names, '        '));
            $lines[] = '        return ' . Expression::bare($code[$fields[$name]->id]) . ';';
            $lines[] = '    }';
        }

        return implode("\n", $lines);
    }

    /**
     * The nodes that more than one of the fields needs.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param list<Node>       $fields
     *
     * @return array<int, true> by id
     */
    private static function shared(array $nodes, array $fields): array
    {
        $owner = $shared = [];
        foreach ($fields as $n => $field) {
            if (isset($owner[$field->id])) {
                $shared[$field->id] = true;
            }
            $owner[$field->id] = $n;
        }
        foreach (array_reverse($nodes, true) as $id => $node) {
            $mine = isset($shared[$id]) ? -1 : $owner[$id];
            foreach ($node->args as $arg) {
                if (($owner[$arg->id] ??= $mine) !== $mine || $mine === -1) {
                    $shared[$arg->id] = true;
                }
            }
        }

        return $shared;
    }

    /**
     * The last of the shared nodes that each node needs, itself among them.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param array<int, true> $shared
     *
     * @return array<int, int> ids by id; -1 for none
     */
    private static function lastShared(array $nodes, array $shared): array
    {
        $last = [];
        foreach ($nodes as $id => $node) {
            $last[$id] = -1;
            if (isset($shared[$id])) {
                $last[$id] = $id;
                continue;
            }
            foreach ($node->args as $arg) {
                if ($last[$arg->id] > $last[$id]) {
                    $last[$id] = $last[$arg->id];
                }
            }
        }

        return $last;
    }

    /**
     * The nodes by the first field that needs them.
     *
     * @param array<int, Node> $nodes  ascending ids
     * @param list<Node>       $fields
     *
     * @return array<int, array<int, Node>> ascending ids, by the places of fields
     */
    private static function byFirst(array $nodes, array $fields): array
    {
        $first = [];
        foreach ($fields as $place => $field) {
            $first[$field->id] ??= $place;
        }
        foreach (array_reverse($nodes, true) as $id => $node) {
            foreach ($node->args as $arg) {
                if (!isset($first[$arg->id]) || $first[$arg->id] > $first[$id]) {
                    $first[$arg->id] = $first[$id];
                }
            }
        }
        $groups = [];
        foreach ($nodes as $id => $node) {
            $groups[$first[$id]][$id] = $node;
        }

        return $groups;
    }

    /**
     * @param array<int, Node>    $nodes ascending ids; what they use is among them or in the code
     * @param array<int, int>     $uses  how often each is used
     * @param array<int, string>  $code  the expressions so far, by id
     * @param array<string, true> $names those that are taken
     *
     * @return list<string>
     */
    private function statements(Graph $graph, array $nodes, array $uses, array &$code, array &$names, string $indent): array
    {
        $lines = [];
        foreach ($nodes as $id => $node) {
            $expression = $this->expression($node, $code);
            $hint = $graph->hint($node);
            $inline = \in_array($node->op, [Op::Constant, Op::Input, Op::Uniform, Op::Param], true)
                || ($hint === null && (($uses[$id] ?? 0) <= 1 || $node->op === Op::Pick) && \strlen($expression) < self::LONGEST_INLINE);
            if (!$inline) {
                $name = $this->unique($hint ?? 'v' . $id, $names);
                $lines[] = "$indent{$this->type($node)} $name = " . Expression::bare($expression) . ';';
                $expression = $name;
            }
            $code[$id] = $expression;
        }

        return $lines;
    }

    /**
     * @param array<int, Node>       $nodes
     * @param array<array-key, Node> $outputs
     *
     * @return array<int, int> by id
     */
    private static function uses(array $nodes, array $outputs): array
    {
        $uses = [];
        foreach ($nodes as $node) {
            foreach ($node->args as $arg) {
                $uses[$arg->id] = ($uses[$arg->id] ?? 0) + ($node->op === Op::Sample && $arg === $node->args[3] ? 2 : 1);
            }
        }
        foreach ($outputs as $output) {
            $uses[$output->id] = ($uses[$output->id] ?? 0) + 1;
        }

        return $uses;
    }

    /** @param array<string, true> $names */
    private function unique(string $wanted, array &$names): string
    {
        $base = Identifier::of($wanted, $this->dialect->reserved());
        $name = $base;
        for ($n = 2; isset($names[$name]) || isset($this->uniforms[$name]); ++$n) {
            $name = $base . '_' . $n;
        }
        $names[$name] = true;

        return $name;
    }

    /** @param array<int, string> $code */
    private function expression(Node $node, array $code): string
    {
        $a = [];
        foreach ($node->args as $arg) {
            $a[] = $code[$arg->id];
        }

        return match ($node->op) {
            Op::Constant => $this->constant($node),
            Op::Input => $this->locals[$node->name()] ?? 's.' . $node->name(),
            Op::Param => $node->name(),
            Op::Uniform => $this->uniform($node),
            Op::Add => "($a[0] + $a[1])",
            Op::Sub => "($a[0] - $a[1])",
            Op::Mul => "($a[0] * $a[1])",
            Op::Div => "($a[0] / $a[1])",
            Op::Neg => "(-$a[0])",
            Op::Min, Op::Max, Op::Pow => $this->widened($node, $a),
            Op::Clamp => "clamp({$this->wide($node, 0, $a)}, $a[1], $a[2])",
            Op::Mix => "mix({$this->wide($node, 0, $a)}, {$this->wide($node, 1, $a)}, " . Expression::bare($a[2]) . ')',
            Op::Smoothstep => "smoothstep($a[0], $a[1], " . Expression::bare($a[2]) . ')',
            Op::Atan2 => "atan($a[0], $a[1])",
            Op::Sin => $this->sine($node, Expression::bare($a[0])),
            Op::Cos => $this->sine($node, "$a[0] + 1.57079633"),
            Op::Less => "($a[0] < $a[1])",
            Op::LessEqual => "($a[0] <= $a[1])",
            Op::And => "($a[0] && $a[1])",
            Op::Or => "($a[0] || $a[1])",
            Op::Not => "(!$a[0])",
            Op::Select => "($a[0] ? $a[1] : $a[2])",
            Op::Vec => $this->type($node) . '(' . implode(', ', array_map(Expression::bare(...), $a)) . ')',
            Op::Pick => $a[0] . '.' . $node->name(),
            Op::Xor => "($a[0] ^ $a[1])",
            Op::BitAnd => "($a[0] & $a[1])",
            Op::ShiftRight => "($a[0] >> $a[1])",
            Op::ToUint => $this->type($node) . '(i' . ($node->type->width() === 1 ? 'nt' : 'vec' . $node->type->width()) . "(floor($a[0])))",
            Op::ToFloat => "{$this->type($node)}($a[0])",
            Op::Sample => $this->read($node->map(), $a, $node->args[3]->is(1)),
            Op::SampleLevel => throw new \LogicException('Shaders read maps with derivatives.'),
            Op::Call => $this->call($node->callee(), $a),
            default => $node->op->value . '(' . implode(', ', array_map(Expression::bare(...), $a)) . ')',
        };
    }

    /**
     * min and max take a scalar second; elsewhere both sides must have the same type.
     *
     * @param list<string> $a
     */
    private function widened(Node $node, array $a): string
    {
        return \sprintf('%s(%s, %s)', $node->op->value, $this->wide($node, 0, $a), $this->wide($node, 1, $a));
    }

    /** @param list<string> $a */
    private function wide(Node $node, int $index, array $a): string
    {
        $text = Expression::bare($a[$index]);

        return $node->args[$index]->type === $node->type ? $text : "{$this->type($node)}($text)";
    }

    /**
     * Before anything else gets a name.
     *
     * @param array<int, Node> $nodes
     */
    private function uniformsOf(array $nodes): void
    {
        foreach ($nodes as $node) {
            if ($node->op === Op::Uniform) {
                $this->uniform($node);
            }
        }
    }

    private function uniform(Node $node): string
    {
        $this->uniforms[$node->name()] = $node->type;

        return $node->name();
    }

    /** @param list<string> $a */
    private function read(TextureBinding $map, array $a, bool $always): string
    {
        [$array, $layer] = $this->arrays[$map->name] ?? throw new \LogicException("The map {$map->name} has no array texture.");
        $read = \sprintf('textureGrad(%s, vec3(%s, %d.0), %s, %s)', $array, Expression::bare($a[0]), $layer, Expression::bare($a[1]), Expression::bare($a[2]));

        return $always ? $read : \sprintf('(%s > 0.0 ? %s : vec4(0.0))', $a[3], $read);
    }

    /** @param list<string> $a */
    private function call(FieldFunction $function, array $a): string
    {
        if (!isset($this->functions[$function->name])) {
            [$graph, , $result] = $function->body();
            $inner = new self($this->arrays);
            [$lines, $results] = $inner->body($graph, ['result' => $result]);
            foreach ($inner->functions as $name => $code) {
                $this->functions[$name] ??= $code;
            }
            $params = [];
            foreach ($function->params as $name => $type) {
                $params[] = "{$this->dialect->type($type)} $name";
            }
            $this->functions[$function->name] = "// {$function->doc}\n"
                . "{$this->type($result)} {$function->name}(" . implode(', ', $params) . ") {\n"
                . ($lines === '' ? '' : "$lines\n") . "    return {$results['result']};\n}\n";
        }

        return $function->name . '(' . implode(', ', array_map(Expression::bare(...), $a)) . ')';
    }

    /**
     * Devices may be off by 2^-11 in their own sin (Vulkan 1.3, "Precision and Operation of SPIR-V Instructions"),
     * which moves a turned coordinate by more than a texel. This one is good to 2e-7: the argument reduced by
     * multiples of pi in two parts (Cody & Waite 1980), then the series up to the 11th power.
     */
    private function sine(Node $node, string $argument): string
    {
        $type = $this->type($node);
        $this->functions["sine $type"] = <<<GLSL
            // The sine, to 2e-7 on every device.
            $type sine($type x) {
                $type k = floor(x * 0.318309886 + 0.5);
                $type r = (x - k * 3.140625) - k * 0.000967653590;
                $type q = r * r;
                $type p = r * (1.0 + q * (-0.166666667 + q * (0.00833333333 + q * (-0.000198412698 + q * (2.75573192e-6 - q * 2.50521084e-8)))));
                return p * (1.0 - 4.0 * fract(k * 0.5));
            }

            GLSL;

        return "sine($argument)";
    }

    private function constant(Node $node): string
    {
        $parts = array_map(static fn (float|int|bool $v): string => match (true) {
            \is_bool($v) => $v ? 'true' : 'false',
            \is_int($v) => $v . 'u',
            default => self::float($v),
        }, $node->constants());
        if (\count($parts) === 1) {
            return str_starts_with($parts[0], '-') ? "($parts[0])" : $parts[0];
        }

        return $this->type($node) . '(' . implode(', ', \count(array_unique($parts)) === 1 ? [$parts[0]] : $parts) . ')';
    }

    private static function float(float $value): string
    {
        $text = rtrim(\sprintf('%.9g', $value), ' ');

        return preg_match('/[.e]/', $text) === 1 ? $text : $text . '.0';
    }
}
