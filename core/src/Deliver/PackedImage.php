<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Material\Checks;
use Rilta\Core\Raster\MipFilter;

/** An image of a delivery that has several channels of a bake side by side. */
final readonly class PackedImage
{
    public const MOST = 8;
    private const NAME = '/^[a-z0-9][a-z0-9-]{0,39}$/D';

    /**
     * @param string                     $name  what stands for the role in its file's name
     * @param non-empty-list<PackedPart> $parts three or four
     */
    private function __construct(public string $name, public array $parts)
    {
    }

    /** As a profile has it; null where it has a mistake, which is noted. */
    public static function read(Checks $checks, mixed $said, string $path): ?self
    {
        $data = $checks->object($said, $path, ['name', 'channels']);
        $name = $data['name'] ?? null;
        if (!\is_string($name) || preg_match(self::NAME, $name) !== 1 || Channel::tryFrom($name) !== null) {
            $checks->problem("$path/name", \sprintf('expected small letters, digits and dashes, and no channel’s own name, found %s', Checks::show($name)));
        }
        $parts = [];
        foreach ($checks->items($data['channels'] ?? null, "$path/channels", 3, 4) as $i => $one) {
            $parts[] = self::part($checks, $one, "$path/channels/$i");
        }
        $found = array_values(array_filter($parts));
        $first = array_map(static fn (PackedPart $one): array => [$one->role, $one->part, $one->inverted], \array_slice($found, 0, 3));
        foreach ($found as $i => $one) {
            // Colours are stored as sRGB, which a file says of its red, green and blue together.
            if ($one->role?->filter() === MipFilter::Colour && ($i > 2 || $first !== [[$one->role, 0, false], [$one->role, 1, false], [$one->role, 2, false]])) {
                $checks->problem("$path/channels/$i", "expected red, green and blue of {$one->role->value} as the first three, as they are: colours are encoded together");
                break;
            }
        }

        return \is_string($name) && \count($found) === \count($parts) && \count($found) > 2 ? new self($name, $found) : null;
    }

    private static function part(Checks $checks, mixed $said, string $path): ?PackedPart
    {
        $data = $checks->object($said, $path, ['role', 'channel', 'inverted', 'value']);
        if (isset($data['value'])) {
            $value = $data['value'];
            if ((!\is_int($value) && !\is_float($value)) || $value < 0 || $value > 1 || isset($data['role'])) {
                $checks->problem("$path/value", \sprintf('expected 0 to 1, and no role beside it, found %s', Checks::show($value)));

                return null;
            }

            return new PackedPart(null, 0, false, (int) round(255 * $value));
        }
        $role = \is_string($data['role'] ?? null) ? Channel::tryFrom($data['role']) : null;
        if ($role === null) {
            $checks->problem("$path/role", \sprintf('expected one of %s, or a value, found %s', implode(', ', array_column(Channel::cases(), 'value')), Checks::show($data['role'] ?? null)));

            return null;
        }
        $names = $role->parts();
        $part = \count($names) === 1 && !isset($data['channel']) ? 0 : array_search($data['channel'] ?? null, $names, true);
        if (!\is_int($part)) {
            $checks->problem("$path/channel", \sprintf('expected one of %s, found %s', implode(', ', $names), Checks::show($data['channel'] ?? null)));

            return null;
        }
        $inverted = $data['inverted'] ?? false;
        if (!\is_bool($inverted)) {
            $checks->problem("$path/inverted", \sprintf('expected true or false, found %s', Checks::show($inverted)));
        }

        return new PackedPart($role, $part, $inverted === true, match ($role) {
            Channel::Opacity => 255,
            Channel::Height => 128,
            default => 0,
        });
    }

    /** What averaging means for it. */
    public function filter(): MipFilter
    {
        $whole = array_map(static fn (PackedPart $one): array => [$one->role, $one->part, $one->inverted], \array_slice($this->parts, 0, 3));
        $role = $this->parts[0]->role;

        return $role !== null && $role->samples() === 3 && $whole === [[$role, 0, false], [$role, 1, false], [$role, 2, false]] ? $role->filter() : MipFilter::Data;
    }

    /** @return list<Channel> what it takes from */
    public function roles(): array
    {
        $roles = [];
        foreach ($this->parts as $one) {
            if ($one->role !== null && !\in_array($one->role, $roles, true)) {
                $roles[] = $one->role;
            }
        }

        return $roles;
    }

    /**
     * Its pixels, from the top, parts side by side.
     *
     * @param array<string, string> $rows of each channel that there is, of 8 bits; others are filled
     * @param int                   $many pixels that they have
     */
    public function pixels(array $rows, int $many): string
    {
        return Beside::of(array_map(static function (PackedPart $one) use ($rows, $many): array {
            $from = $rows[$one->role->value ?? ''] ?? null;

            return $one->role === null || $from === null ? [str_repeat(\chr($one->value), $many), 1, 0] : [$one->inverted ? ~$from : $from, $one->role->samples(), $one->part];
        }, $this->parts));
    }

    /**
     * What it holds, in words.
     *
     * @param array<string, mixed> $rows of each channel that there is
     */
    public function text(array $rows): string
    {
        $letters = ['R', 'G', 'B', 'A'];
        $told = [];
        foreach ($this->parts as $i => $one) {
            $told[] = "$letters[$i]: {$one->text()}" . ($one->role !== null && !isset($rows[$one->role->value]) ? ' (it has none)' : '');
        }

        return implode(', ', $told);
    }
}
