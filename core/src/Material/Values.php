<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * The values of one step, complete and of the declared types.
 *
 * @phpstan-import-type Value from Control\Control
 * @phpstan-import-type TieJson from NumberBinding
 * @phpstan-import-type FollowJson from ParameterBinding
 *
 * @phpstan-type RowJson array<string, float|string|TieJson>
 * @phpstan-type ValueJson float|string|bool|TieJson|FollowJson|list<float|RowJson>
 */
final readonly class Values
{
    /** @param array<string, Value|NumberBinding|ParameterBinding|list<array<string, float|string|NumberBinding>>> $values */
    public function __construct(private array $values)
    {
    }

    public function number(string $name): float
    {
        $value = $this->values[$name] ?? null;

        return match (true) {
            \is_float($value) => $value,
            $value instanceof NumberBinding => $value->value,
            default => throw new \LogicException("No number $name."),
        };
    }

    /** As the document has it: a number, or what it follows. */
    public function said(string $name): float|NumberBinding
    {
        return $this->tie($name) ?? $this->number($name);
    }

    /** The parameter that a value other than a number is taken from, if any. */
    public function follows(string $name): ?Parameter
    {
        $value = $this->values[$name] ?? null;

        return $value instanceof ParameterBinding ? $value->parameter : null;
    }

    /** What the number follows, if anything. */
    public function tie(string $name): ?NumberBinding
    {
        $value = $this->values[$name] ?? null;

        return $value instanceof NumberBinding ? $value : null;
    }

    /** @return float|TieJson as it stands in documents */
    public function numberDocument(string $name): float|array
    {
        $said = $this->said($name);

        return $said instanceof NumberBinding ? $said->document() : $said;
    }

    public function seed(string $name): int
    {
        $parameter = $this->follows($name);
        if ($parameter !== null) {
            return (int) floor(max(0.0, $parameter->number()) + 0.5);
        }

        return \is_int($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No seed $name.");
    }

    public function choice(string $name): string
    {
        $value = $this->plain($name);

        return \is_string($value) ? $value : throw new \LogicException("No choice $name.");
    }

    public function flag(string $name): bool
    {
        $value = $this->plain($name);

        return \is_bool($value) ? $value : throw new \LogicException("No switch $name.");
    }

    /** @return list<array<string, float|string|NumberBinding>> */
    public function rows(string $name): array
    {
        $rows = [];
        foreach (\is_array($this->values[$name] ?? null) ? $this->values[$name] : throw new \LogicException("No rows $name.") as $row) {
            $rows[] = \is_array($row) ? $row : throw new \LogicException("$name has no rows.");
        }

        return $rows;
    }

    /** @return array{float, float, float} red, green, blue, 0…1, sRGB-encoded */
    public function colour(string $name): array
    {
        $value = $this->plain($name);
        if (!\is_array($value) || !\is_float($value[0] ?? null) || !\is_float($value[1] ?? null) || !\is_float($value[2] ?? null)) {
            throw new \LogicException("No colour $name.");
        }

        return [$value[0], $value[1], $value[2]];
    }

    /** @return array<string, ValueJson> as they stand in documents */
    public function document(): array
    {
        return array_map(self::written(...), $this->values);
    }

    /**
     * @param Value|NumberBinding|ParameterBinding|list<array<string, float|string|NumberBinding>> $value
     *
     * @return ValueJson
     */
    private static function written(float|int|string|bool|array|NumberBinding|ParameterBinding $value): float|int|string|bool|array
    {
        return match (true) {
            $value instanceof NumberBinding, $value instanceof ParameterBinding => $value->document(),
            \is_array($value) => array_map(self::row(...), $value),
            default => $value,
        };
    }

    /**
     * @param float|array<string, float|string|NumberBinding> $row one of a table, or a number of a colour
     *
     * @return float|RowJson
     */
    private static function row(float|array $row): float|array
    {
        return \is_array($row) ? array_map(static fn (float|string|NumberBinding $one): float|string|array => $one instanceof NumberBinding ? $one->document() : $one, $row) : $row;
    }

    /** @return Value|NumberBinding|list<array<string, float|string|NumberBinding>>|null what it is, whether it follows a parameter or not */
    private function plain(string $name): float|int|string|bool|array|NumberBinding|null
    {
        $value = $this->values[$name] ?? null;

        return $value instanceof ParameterBinding ? $value->parameter->value : $value;
    }
}
