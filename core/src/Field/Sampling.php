<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/** How a map is read between and beyond its texels. */
final readonly class Sampling
{
    public const FILTERS = ['smooth' => 'Smooth', 'sharp' => 'Sharp texels'];
    public const WRAPS = ['repeat' => 'Repeat', 'mirror' => 'Mirror', 'edge' => 'Hold the edge'];
    public const ANISOTROPIES = [1, 2, 4, 8, 16];

    /**
     * @param string $filter     of FILTERS: texels are mixed with their neighbours, or the nearest is taken
     * @param bool   $mips       whether smaller levels are read where texels get smaller than pixels
     * @param int    $anisotropy of ANISOTROPIES: the most reads along a slanted footprint; the picture on the stage alone has it,
     *                           since a bake looks straight at the surface
     * @param string $wrapU      of WRAPS
     * @param string $wrapV      of WRAPS
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

        $usual = new self();
        $text = static fn (string $name, string $else): string => \is_string($data[$name] ?? null) ? $data[$name] : $else;

        return new self(
            $text('filter', $usual->filter),
            ($data['mips'] ?? $usual->mips) === true,
            \is_int($data['anisotropy'] ?? null) ? $data['anisotropy'] : $usual->anisotropy,
            $text('wrapU', $usual->wrapU),
            $text('wrapV', $usual->wrapV),
        );
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

    /** @return array{filter: string, mips: bool, anisotropy: int, wrapU: string, wrapV: string} */
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
