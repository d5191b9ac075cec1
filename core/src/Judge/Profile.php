<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Material\Checks;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\InvalidDocument;

/**
 * A class of devices, and what a material may cost there.
 *
 * @phpstan-type BudgetJson array{
 *     format: 'rilta-budget/1',
 *     name: string, // small letters, digits and dashes, at most 40
 *     label: string,
 *     help: string,
 *     mapReads: int,
 *     maps: int,
 *     mebibytes: int, // of maps in blocks; this and the others 1 or more
 *     operations: int,
 * }
 */
final readonly class Profile
{
    public const FORMAT = 'rilta-budget/1';
    /** Of a project. */
    public const MOST = 24;
    private const MIB = 1024 * 1024;
    private const NAME = '/^[a-z0-9][a-z0-9-]{0,39}$/D';

    /**
     * @param int $fetches    map reads a pixel
     * @param int $textures   maps
     * @param int $memory     bytes of maps in blocks, with all mip levels
     * @param int $arithmetic operations a pixel, as many as all kinds of them take as long as
     */
    public function __construct(public string $name, public string $label, public string $help, public int $fetches, public int $textures, public int $memory, public int $arithmetic)
    {
    }

    /** @return list<NumberControl> */
    public static function controls(): array
    {
        $number = static fn (string $name, string $label, string $help, Unit $unit, float $default, float $most, float $limit): NumberControl => new NumberControl(new ControlMeta($name, $label, $help), $unit, $default, [1.0, $most], [1.0, $limit], 1.0, true, true);

        return [
            $number('mapReads', 'Map reads', 'The most that a pixel may cost.', Unit::None, 32.0, 256.0, 4096.0),
            $number('maps', 'Maps', 'That may be read.', Unit::None, 12.0, 64.0, 1024.0),
            $number('mebibytes', 'MiB of maps', 'In blocks, with all mip levels.', Unit::None, 96.0, 2048.0, 65536.0),
            $number('operations', 'Operations', 'That a pixel may cost.', Unit::None, 2000.0, 20000.0, 1000000.0),
        ];
    }

    /**
     * One as a file has it.
     *
     * @throws InvalidDocument that says where something else was expected
     */
    public static function read(mixed $said): self
    {
        $checks = new Checks();
        $data = $checks->object($said, '', ['format', 'name', 'label', 'help', ...array_map(static fn (NumberControl $one): string => $one->name(), self::controls())]);
        if (($data['format'] ?? null) !== self::FORMAT) {
            throw InvalidDocument::at('/format', \sprintf('expected "%s", found %s', self::FORMAT, Checks::show($data['format'] ?? null)));
        }
        $name = $data['name'] ?? null;
        if (!\is_string($name) || preg_match(self::NAME, $name) !== 1 || isset(self::ready()[$name])) {
            $checks->problem('/name', 'expected small letters, digits and dashes, and none of ' . implode(', ', array_keys(self::ready())));
        }
        $label = $checks->name($data['label'] ?? null, '/label');
        $help = $data['help'] ?? '';
        if (!\is_string($help) || mb_strlen($help) > Checks::LONGEST_NAME) {
            $checks->problem('/help', \sprintf('expected at most %d characters', Checks::LONGEST_NAME));
        }
        $limits = [];
        foreach (self::controls() as $control) {
            $value = $data[$control->name()] ?? null;
            $objection = $control->objection($value);
            if ($objection !== null) {
                $checks->problem('/' . $control->name(), $objection);
            }
            $limits[] = is_numeric($value) ? (int) $value : 1;
        }
        if ($checks->problems() !== []) {
            throw new InvalidDocument($checks->problems());
        }
        [$fetches, $textures, $memory, $arithmetic] = $limits;

        return new self(\is_string($name) ? $name : '', $label, \is_string($help) ? $help : '', $fetches, $textures, $memory * self::MIB, $arithmetic);
    }

    /** @return BudgetJson as a file has it */
    public function document(): array
    {
        return ['format' => self::FORMAT, 'name' => $this->name, 'label' => $this->label, 'help' => $this->help, 'mapReads' => $this->fetches, 'maps' => $this->textures, 'mebibytes' => intdiv($this->memory, self::MIB), 'operations' => $this->arithmetic];
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
