<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

use Rilta\Core\Json\JsonObject;

/**
 * What depends on uniforms alone, and is computed once a picture, in double precision, instead of once a pixel: each field fills a
 * uniform of its own.
 *
 * @phpstan-type PreludeJson array{
 *     operations: list<array{string, list<int>, list<float|int|bool>|string|null}>, // each uses only earlier ones: its name, the places of its arguments, and what belongs to it
 *     results: JsonObject<int>, // which operation fills each uniform
 * }
 */
final readonly class Prelude
{
    /** @param array<string, Node> $fields by the uniform that each fills; scalars */
    public function __construct(public array $fields)
    {
    }

    /** What it cannot be made of: places, maps, functions. */
    public static function never(Op $op): bool
    {
        return match ($op) {
            Op::Input, Op::Param, Op::Sample, Op::SampleLevel, Op::Call, Op::Normalize, Op::Cross => true,
            default => false,
        };
    }

    /** Whether a field is the same all over a picture. */
    public static function holds(Node $field): bool
    {
        return $field->type->width() === 1 && array_filter(Reachable::from([$field]), static fn (Node $node): bool => self::never($node->op)) === [];
    }

    /** Whether any of it reads a uniform. */
    public function reads(string $uniform): bool
    {
        return \in_array($uniform, Reachable::names(Op::Uniform, $this->fields), true);
    }

    /**
     * @param array<string, float|int> $uniforms
     *
     * @return array<string, float|int> by uniform
     */
    public function values(array $uniforms): array
    {
        $known = [];
        foreach (Reachable::from($this->fields) as $id => $node) {
            $known[$id] = self::value($node, array_map(static fn (Node $arg): array => $known[$arg->id], $node->args), $uniforms);
        }

        return array_map(static function (Node $field) use ($known): float|int {
            $value = $known[$field->id][0];

            return \is_bool($value) ? (int) $value : $value;
        }, $this->fields);
    }

    /** @return PreludeJson */
    public function json(): array
    {
        ['operations' => $operations, 'results' => $results] = $this->program();

        return ['operations' => $operations, 'results' => new JsonObject($results)];
    }

    /**
     * As data, for a host that has no PHP: operations in an order in which each uses only earlier ones. An operation is its name, the
     * places of its arguments, and what belongs to it: constants, the name of a uniform, the places of components. Names of operations
     * on unsigned integers of 32 bits begin with "u".
     *
     * @return array{operations: list<array{string, list<int>, list<float|int|bool>|string|null}>, results: array<string, int>} results: which operation fills each uniform
     */
    public function program(): array
    {
        $places = [];
        $operations = [];
        foreach (Reachable::from($this->fields) as $id => $node) {
            $places[$id] = \count($operations);
            $whole = $node->type->scalar() === Type::Uint && \in_array($node->op, [Op::Add, Op::Sub, Op::Mul], true);
            $operations[] = [
                ($whole ? 'u' : '') . $node->op->value,
                array_map(static fn (Node $arg): int => $places[$arg->id], $node->args),
                match ($node->op) {
                    Op::Constant => $node->constants(),
                    Op::Uniform => $node->name(),
                    Op::Pick => array_map(static fn (string $letter): int => (int) strpos('xyzw', $letter), str_split($node->name())),
                    default => null,
                },
            ];
        }

        return ['operations' => $operations, 'results' => array_map(static fn (Node $field): int => $places[$field->id], $this->fields)];
    }

    /**
     * @param list<list<float|int|bool>> $args
     * @param array<string, float|int>   $uniforms
     *
     * @return list<float|int|bool> one a component
     */
    private static function value(Node $node, array $args, array $uniforms): array
    {
        switch ($node->op) {
            case Op::Constant:
                return $node->constants();
            case Op::Uniform:
                return [$uniforms[$node->name()] ?? throw new \InvalidArgumentException("There is no number for the uniform {$node->name()}.")];
            case Op::Vec:
                return array_merge(...$args);
            case Op::Pick:
                return array_map(static fn (string $letter): float|int|bool => $args[0][(int) strpos('xyzw', $letter)], str_split($node->name()));
            case Op::Length:
                return [sqrt(array_sum(array_map(static fn (float|int|bool $x): float => (float) $x * (float) $x, $args[0])))];
            case Op::Dot:
                return [array_sum(array_map(static fn (float|int|bool $a, float|int|bool $b): float => (float) $a * (float) $b, $args[0], $args[1]))];
            default:
                $out = [];
                for ($c = 0; $c < $node->type->width(); ++$c) {
                    $out[] = Arithmetic::scalar($node->op, array_map(static fn (array $arg): float|int|bool => $arg[\count($arg) === 1 ? 0 : $c], $args));
                }

                return $out;
        }
    }
}
