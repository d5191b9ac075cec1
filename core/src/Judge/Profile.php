<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

/** A class of devices, and what a material may cost there. */
final readonly class Profile
{
    private const MIB = 1024 * 1024;

    /**
     * @param int $fetches    map reads a pixel
     * @param int $textures   maps
     * @param int $memory     bytes of maps in blocks, with all mip levels
     * @param int $arithmetic operations a pixel, as many as all kinds of them take as long as
     */
    public function __construct(public string $name, public string $label, public string $help, public int $fetches, public int $textures, public int $memory, public int $arithmetic)
    {
    }

    /** @return array<string, self> by name */
    public static function ready(): array
    {
        $all = [
            new self('small', 'Small', 'Phones and headsets that stand alone: 16 texture units, and a millisecond or two for all that is opaque.', 16, 8, 24 * self::MIB, 600),
            new self('middle', 'Middle', 'Laptops, consoles of some years ago: half a frame for what is opaque, 4 GiB for all textures.', 32, 12, 96 * self::MIB, 2000),
            new self('large', 'Large', 'Desktops and consoles of today: more than 64 reads a pixel are seen in the time of a frame at any resolution.', 64, 24, 256 * self::MIB, 6000),
        ];

        return array_column($all, null, 'name');
    }

    /**
     * What of a cost is over.
     *
     * @return array<string, array{int, int}> what it is, and what it may be, by what
     */
    public function over(Cost $cost): array
    {
        return array_filter([
            'map reads' => [$cost->fetches, $this->fetches],
            'maps' => [$cost->textures, $this->textures],
            'MiB of maps' => [(int) ceil($cost->compressed / self::MIB), intdiv($this->memory, self::MIB)],
            'operations' => [$cost->operations, $this->arithmetic],
        ], static fn (array $pair): bool => $pair[0] > $pair[1]);
    }
}
