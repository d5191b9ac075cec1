<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * How a map is read between and beyond its texels.
 *
 * @phpstan-type SamplingJson array{
 *     filter: 'smooth'|'sharp',
 *     mips: bool,
 *     anisotropy: 1|2|4|8|16,
 *     wrapU: 'repeat'|'mirror'|'edge',
 *     wrapV: 'repeat'|'mirror'|'edge',
 * }
 */
final readonly class Sampling
{
    public const FILTERS = ['smooth' => 'Smooth', 'sharp' => 'Sharp texels'];
    public const WRAPS = ['repeat' => 'Repeat', 'mirror' => 'Mirror', 'edge' => 'Hold the edge'];
    public const ANISOTROPIES = [1, 2, 4, 8, 16];

    /**
     * @param key-of<self::FILTERS>        $filter     texels are mixed with their neighbours, or the nearest is taken
     * @param bool                         $mips       whether smaller levels are read where texels get smaller than pixels
     * @param value-of<self::ANISOTROPIES> $anisotropy the most reads along a slanted footprint; the picture on the stage alone has it,
     *                                                 since a bake looks straight at the surface
     * @param key-of<self::WRAPS>          $wrapU
     * @param key-of<self::WRAPS>          $wrapV
     */
    public function __construct(
        public string $filter = 'smooth',
        public bool $mips = true,
        public int $anisotropy = 1,
        public string $wrapU = 'repeat',
        public string $wrapV = 'repeat',
    ) {
        $objection = self::objection($this->describe());
        if ($objection !== null) {
            throw new \InvalidArgumentException($objection['message']);
        }
    }

    /** @param array<array-key, mixed> $data what is not said is as usual */
    public static function of(array $data): self
    {
        $objection = self::objection($data);
        if ($objection !== null) {
            throw new \InvalidArgumentException("{$objection['name']}: {$objection['message']}");
        }

        /** @var array{filter?: key-of<self::FILTERS>, mips?: bool, anisotropy?: value-of<self::ANISOTROPIES>, wrapU?: key-of<self::WRAPS>, wrapV?: key-of<self::WRAPS>} $data to which there is no objection */

        return new self(...$data);
    }

    /**
     * What is wrong with it, or null.
     *
     * @param array<array-key, mixed> $data
     *
     * @return array{name: string, message: string}|null
     */
    public static function objection(array $data): ?array
    {
        $choices = ['filter' => array_keys(self::FILTERS), 'mips' => [true, false], 'anisotropy' => self::ANISOTROPIES, 'wrapU' => array_keys(self::WRAPS), 'wrapV' => array_keys(self::WRAPS)];
        foreach ($data as $name => $value) {
            $all = $choices[$name] ?? null;
            if ($all === null || !\in_array($value, $all, true)) {
                return ['name' => (string) $name, 'message' => $all === null ? 'expected ' . implode(', ', array_keys($choices)) : 'expected ' . implode(', ', array_map(static fn (mixed $one): string => json_encode($one, \JSON_THROW_ON_ERROR), $all))];
            }
        }

        return null;
    }

    /** @return SamplingJson */
    public function describe(): array
    {
        return ['filter' => $this->filter, 'mips' => $this->mips, 'anisotropy' => $this->anisotropy, 'wrapU' => $this->wrapU, 'wrapV' => $this->wrapV];
    }

    /** Maps that differ in it cannot lie in one array texture; empty as usual. */
    public function key(): string
    {
        return implode('-', array_filter([
            $this->filter === 'smooth' ? '' : $this->filter,
            $this->mips ? '' : 'flat',
            $this->anisotropy === 1 ? '' : "slant$this->anisotropy",
            $this->wrapU === 'repeat' ? '' : "u$this->wrapU",
            $this->wrapV === 'repeat' ? '' : "v$this->wrapV",
        ]));
    }
}
