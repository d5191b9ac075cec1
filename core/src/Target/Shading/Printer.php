<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\FieldFunction;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Pass\CommonBranches;
use Rilta\Core\Target\Pass\Turning;
use Rilta\Core\Target\Pass\UseCounts;
use Rilta\Core\Target\Precedence;

/**
 * Prints fields as code of a shading language that a person can read: named steps, library fields as functions.
 * One printer prints the bodies that share a set of functions and uniforms.
 */
final class Printer
{
    private const LONGEST_INLINE = 90;

    /** What the parameter is called that has what is ready. */
    public const READY = 'ready';

    /** @var array<string, string> printed functions by name, callees first */
    private array $functions = [];

    /** @var array<string, Type> */
    private array $uniforms = [];

    /**
     * @param array<string, array{string, ?int}> $arrays for each map slot, the texture and the layer it lies in, if it has any
     * @param array<string, string>              $locals inputs that are not the surface's: the variables that hold them, by name
     * @param list<string>                       $ready  uniforms that are handed over as members of what is ready
     */
    public function __construct(private readonly ShadingDialect $dialect, private readonly array $arrays = [], private readonly array $locals = [], private readonly array $ready = [])
    {
    }

    /** What a parameter of a function is called. */
    private function param(string $name): string
    {
        return Identifier::of($name, $this->dialect->reserved());
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
        $uses = UseCounts::of($nodes, $outputs);
        $inside = Turning::of($nodes, $turning);
        $this->uniformsOf($nodes);
        $code = [];
        $names = [];
        $before = $this->statements($graph, array_diff_key($nodes, $inside), $uses, $code, $names, '    ');
        $lines = $this->statements($graph, $inside, $uses, $code, $names, '    ');

        return [implode("\n", $before), implode("\n", $lines), array_map(static fn (Node $output): string => $code[$output->id]->text, $outputs)];
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
        $uses = UseCounts::of($nodes, $fields);
        $branches = CommonBranches::of($nodes, $fields);
        $numbers = array_flip(array_keys($fields));
        $this->uniformsOf($nodes);
        $code = [];
        $names = [];
        $lines = [];
        foreach ($branches->order as $place => $name) {
            ['common' => $common, 'own' => $own] = $branches->groups[$place] ?? ['common' => [], 'own' => []];
            array_push($lines, ...$this->statements($graph, $common, $uses, $code, $names, '    '));
            $lines[] = "    if ($which == {$numbers[$name]}) { // {$notes[$name]}";
            array_push($lines, ...$this->statements($graph, $own, $uses, $code, $names, '        '));
            $lines[] = '        return ' . $code[$fields[$name]->id]->text . ';';
            $lines[] = '    }';
        }

        return implode("\n", $lines);
    }

    /**
     * @param array<int, Node>       $nodes ascending ids; what they use is among them or in the code
     * @param array<int, int>        $uses  how often each is used
     * @param array<int, Expression> $code  the expressions so far, by id
     * @param array<string, true>    $names those that are taken
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
                || ($hint === null && (($uses[$id] ?? 0) <= 1 || $node->op === Op::Pick) && \strlen($expression->text) < self::LONGEST_INLINE);
            if (!$inline) {
                $name = $this->unique($hint ?? 'v' . $id, $names);
                $lines[] = $indent . $this->dialect->value($node->type, $name, $expression->text);
                $expression = new Expression($name);
            }
            $code[$id] = $expression;
        }

        return $lines;
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

    /** @param array<int, Expression> $code */
    private function expression(Node $node, array $code): Expression
    {
        $a = array_map(static fn (Node $arg): Expression => $code[$arg->id], $node->args);
        if (!$this->dialect->isLenient() && \in_array($node->op, [Op::Xor, Op::BitAnd, Op::ShiftRight], true)) {
            $a = $this->wide($node, $a, [0, 1]);
        }
        $binary = Precedence::binary($node->op);
        if ($binary !== null) {
            return Expression::binary($binary[0], $binary[1], $a[0], $a[1]);
        }

        return match ($node->op) {
            Op::Constant => $this->constant($node),
            Op::Input => new Expression($this->locals[$node->name()] ?? 's.' . $node->name()),
            Op::Param => new Expression($this->param($node->name())),
            Op::Uniform => \in_array($node->name(), $this->ready, true) ? new Expression(self::READY . ".{$this->uniform($node)}") : $this->dialect->uniform($this->uniform($node), $node->type),
            Op::Neg => Expression::unary('-', $a[0]),
            Op::Not => Expression::unary('!', $a[0]),
            Op::Min, Op::Max, Op::Pow => $this->called($node, $a, [0, 1]),
            Op::Clamp => $this->called($node, $a, $this->dialect->isLenient() ? [0] : [0, 1, 2]),
            Op::Mix => $this->called($node, $a, [0, 1]),
            Op::Smoothstep => $this->called($node, $a, $this->dialect->isLenient() ? [] : [0, 1, 2]),
            Op::Sin => $this->sine($node, $a[0]),
            Op::Cos => $this->sine($node, Expression::binary('+', Precedence::Sum, $a[0], new Expression('1.57079633'))),
            Op::Select => $this->dialect->select($a[0], $a[1], $a[2]),
            Op::Vec => \count($a) === 1 ? $this->dialect->splat($node->type, $a[0]) : Expression::call($this->type($node), ...$a),
            Op::ToFloat => Expression::call($this->type($node), ...$a),
            Op::Pick => Expression::member($a[0], $node->name()),
            Op::ToUint => Expression::call($this->type($node), Expression::call($this->dialect->signed($node->type->width()), Expression::call($this->dialect->call(Op::Floor), $a[0]))),
            Op::Sample => $this->read($node->map(), $a, $node->args[3]->is(1)),
            Op::SampleLevel => throw new \LogicException('Shaders read maps with derivatives.'),
            Op::Call => $this->call($node->callee(), $a),
            default => $this->called($node, $a, []),
        };
    }

    /**
     * @param list<Expression> $a
     * @param list<int>        $wide those that have to be as wide as the result
     */
    private function called(Node $node, array $a, array $wide): Expression
    {
        return Expression::call($this->dialect->call($node->op), ...$this->wide($node, $a, $wide));
    }

    /**
     * Not every language lets one number meet many.
     *
     * @param list<Expression> $a
     * @param list<int>        $which
     *
     * @return list<Expression>
     */
    private function wide(Node $node, array $a, array $which): array
    {
        foreach ($which as $i) {
            if ($node->args[$i]->type !== $node->type) {
                $a[$i] = $this->dialect->splat($node->type, $a[$i]);
            }
        }

        return array_values($a);
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

    /** @param list<Expression> $a */
    private function read(TextureBinding $map, array $a, bool $always): Expression
    {
        [$array, $layer] = $this->arrays[$map->name] ?? throw new \LogicException("The map {$map->name} has no array texture.");
        [$read, $functions] = $this->dialect->read($array, $layer, $a[0], $a[1], $a[2], $always ? null : $a[3]);
        $this->functions += $functions;

        return $read;
    }

    /** @param list<Expression> $a */
    private function call(FieldFunction $function, array $a): Expression
    {
        if (!isset($this->functions[$function->name])) {
            [$graph, , $result] = Graph::body($function);
            $inner = new self($this->dialect, $this->arrays);
            [$lines, $results] = $inner->body($graph, ['result' => $result]);
            foreach ($inner->functions as $name => $code) {
                $this->functions[$name] ??= $code;
            }
            $this->functions[$function->name] = "// {$function->doc}\n" . $this->dialect->head($function->name, $result->type, array_combine(array_map($this->param(...), array_keys($function->params)), $function->params)) . " {\n"
                . ($lines === '' ? '' : "$lines\n") . "    return {$results['result']};\n}\n";
        }

        return Expression::call($function->name, ...$a);
    }

    /**
     * Devices may be off by 2^-11 in their own sin (Vulkan 1.3, "Precision and Operation of SPIR-V Instructions"),
     * which moves a turned coordinate by more than a texel. This one is good to 2e-7: the argument reduced by
     * multiples of pi in two parts (Cody & Waite 1980), then the series up to the 11th power.
     */
    private function sine(Node $node, Expression $argument): Expression
    {
        $name = 'sine' . ($node->type->width() === 1 ? '' : $node->type->width());
        $values = '';
        foreach ([
            'k' => $this->dialect->call(Op::Floor) . '(x * 0.318309886 + 0.5)',
            'r' => '(x - k * 3.140625) - k * 0.000967653590',
            'q' => 'r * r',
            'p' => 'r * (1.0 + q * (-0.166666667 + q * (0.00833333333 + q * (-0.000198412698 + q * (2.75573192e-6 - q * 2.50521084e-8)))))',
        ] as $value => $is) {
            $values .= '    ' . $this->dialect->value($node->type, $value, $is) . "\n";
        }
        $this->functions[$name] = "// The sine, to 2e-7 on every device.\n" . $this->dialect->head($name, $node->type, ['x' => $node->type])
            . " {\n{$values}    return p * (1.0 - 4.0 * {$this->dialect->call(Op::Fract)}(k * 0.5));\n}\n";

        return Expression::call($name, $argument);
    }

    private function constant(Node $node): Expression
    {
        $parts = array_map(static fn (float|int|bool $v): string => match (true) {
            \is_bool($v) => $v ? 'true' : 'false',
            \is_int($v) => $v . 'u',
            default => self::float($v),
        }, $node->constants());
        if (\count($parts) === 1) {
            return Expression::number($parts[0]);
        }

        return \count(array_unique($parts)) === 1 ? $this->dialect->splat($node->type, Expression::number($parts[0])) : Expression::call($this->type($node), ...array_map(Expression::number(...), $parts));
    }

    private static function float(float $value): string
    {
        $text = rtrim(\sprintf('%.9g', $value), ' ');

        return preg_match('/[.e]/', $text) === 1 ? $text : $text . '.0';
    }
}
