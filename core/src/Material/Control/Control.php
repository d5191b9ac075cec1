<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * A value of a step that people can change. The declaration is the only place of its range, unit, default
 * and help: the reader checks by it and the browser builds its fields from it.
 *
 * @phpstan-type Row   array<string, float|string>
 * @phpstan-type Value float|int|string|bool|list<Row>|array{float, float, float}
 *
 * @phpstan-import-type ChoiceControlJson from ChoiceControl
 * @phpstan-import-type ColourControlJson from ColourControl
 * @phpstan-import-type NumberControlJson from NumberControl
 * @phpstan-import-type ReferenceControlJson from ReferenceControl
 * @phpstan-import-type RowsControlJson from RowsControl
 * @phpstan-import-type SeedControlJson from SeedControl
 * @phpstan-import-type SwitchControlJson from SwitchControl
 *
 * @phpstan-type ControlJson NumberControlJson|ChoiceControlJson|SwitchControlJson|SeedControlJson|ColourControlJson|RowsControlJson|ReferenceControlJson
 */
interface Control
{
    public function name(): string;

    /** @return Value */
    public function default(): float|int|string|bool|array;

    /** What is wrong with a value, or null. */
    public function objection(mixed $value): ?string;

    /**
     * The value in the type that lowering uses; it has no objection.
     *
     * @return Value
     */
    public function normalise(mixed $value): float|int|string|bool|array;

    /**
     * The numbers that a value is made of: code stays the same while they change within what is allowed.
     *
     * @param mixed $value without objection
     *
     * @return array<string, array{float, float, bool}> least, most, and whether it has to be whole, by JSON Pointer from the value on
     */
    public function numbers(mixed $value): array;

    /** @return ControlJson */
    public function describe(): array;

    /** @return array<string, mixed> JSON Schema of the value */
    public function schema(): array;
}
