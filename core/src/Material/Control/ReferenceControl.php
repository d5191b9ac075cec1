<?php

declare(strict_types=1);

namespace Rilta\Core\Material\Control;

/**
 * Something of the project's library, or of the document, by name; empty for nothing. Whether it is there is seen later.
 *
 * @phpstan-import-type ShownWhenJson from ControlMeta
 *
 * @phpstan-type Kind 'map'|'family'|'sheet'|'set'|'layer'|'ingredient'
 * @phpstan-type ReferenceControlJson array{
 *     type: Kind,
 *     name: string,
 *     label: string,
 *     help: string,
 *     handle?: value-of<Handle>,
 *     shownWhen?: ShownWhenJson,
 *     default: string,
 *     structural: bool,
 *     none?: ?string, // what it means that none is named; null if one has to be
 * }
 */
final readonly class ReferenceControl implements Control
{
    private const NAME = '[a-z0-9][a-z0-9._-]{0,79}';

    /** @param Kind $type */
    private function __construct(private ControlMeta $face, private string $type, private string $pattern, private string $expected, private ?string $none = 'none')
    {
    }

    /** A map, as "set/role". */
    public static function map(ControlMeta $face): self
    {
        return new self($face, 'map', self::NAME . '/[a-z-]{1,20}', 'a map as set/role, for example "brine/normal"');
    }

    /** A family of map sets. */
    public static function family(ControlMeta $face): self
    {
        return new self($face, 'family', self::NAME, 'the name of a family');
    }

    /** A map set that is cut into a sheet. */
    public static function sheet(ControlMeta $face): self
    {
        return new self($face, 'sheet', self::NAME, 'the name of a map set');
    }

    /** A map set of the library. */
    public static function set(ControlMeta $face): self
    {
        return new self($face, 'set', self::NAME, 'the name of a map set');
    }

    /** Another layer of the same material. */
    public static function layer(ControlMeta $face): self
    {
        return new self($face, 'layer', self::NAME, 'the id of a layer');
    }

    /**
     * Another ingredient of the same recipe.
     *
     * @param ?string $none what it means that none is named; null if one has to be
     */
    public static function ingredient(ControlMeta $face, ?string $none): self
    {
        return new self($face, 'ingredient', self::NAME, 'the id of an ingredient', $none);
    }

    /** @return Kind */
    public function type(): string
    {
        return $this->type;
    }

    /** Whether something of the library is named, and not of the document. */
    public function isOfLibrary(): bool
    {
        return !\in_array($this->type, ['ingredient', 'layer'], true);
    }

    /** Whether a family is named, and not a map set or a map of it. */
    public function isFamily(): bool
    {
        return $this->type === 'family';
    }

    /** Whether one map of a set is named. */
    public function isMap(): bool
    {
        return $this->type === 'map';
    }

    public function name(): string
    {
        return $this->face->name;
    }

    public function default(): string
    {
        return '';
    }

    public function objection(mixed $value): ?string
    {
        return \is_string($value) && preg_match("~^(?:$this->pattern)?$~D", $value) === 1 ? null : "expected $this->expected, or an empty text";
    }

    public function normalise(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }

    public function numbers(mixed $value): array
    {
        return [];
    }

    /** @return ReferenceControlJson */
    public function describe(): array
    {
        return ['type' => $this->type] + $this->face->describe() + ['default' => '', 'structural' => true] + ($this->type === 'ingredient' ? ['none' => $this->none] : []);
    }

    public function schema(): array
    {
        return ['type' => 'string', 'pattern' => "^(?:$this->pattern)?$"];
    }
}
