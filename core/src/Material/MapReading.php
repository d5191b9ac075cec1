<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;

/**
 * How one role is read from an image: from which of its channels, and whether they say the opposite (smoothness for roughness).
 * Several roles can be read from one image; it is fetched once.
 *
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type PackedChannelJson array{role: RoleJson, channels: string, inverted: bool}
 */
final readonly class MapReading
{
    /** Letters of channels that each number of values can be read from. */
    private const LETTERS = '/^(?:|[xyzw]|xy|zw|xyz)$/D';

    /** @param string $channels letters of "xyzw"; "" is the image as its role stores it */
    public function __construct(public MapFacts $map, public Role $role, public string $channels = '', public bool $inverted = false)
    {
        if (self::objection($role, $channels, $inverted) !== null) {
            throw new \InvalidArgumentException(self::objection($role, $channels, $inverted));
        }
    }

    public static function whole(MapFacts $map): self
    {
        return new self($map, $map->role, '', $map->inverted);
    }

    /** Why a role cannot be read from channels, or null. */
    public static function objection(Role $role, string $channels, bool $inverted): ?string
    {
        $wanted = match (true) {
            $role === Role::Packed => '',
            $role === Role::Normal => ['xy', 'zw', 'xyz'],
            $role->isScalar() => ['x', 'y', 'z', 'w'],
            default => ['xyz'],
        };

        return match (true) {
            preg_match(self::LETTERS, $channels) !== 1 || ($channels !== '' && (!\is_array($wanted) || !\in_array($channels, $wanted, true))) => \sprintf(
                'expected %s for %s',
                \is_array($wanted) ? implode(', ', array_map(static fn (string $letters): string => strtr($letters, 'xyzw', 'RGBA'), $wanted)) : 'no channels',
                lcfirst($role->label()),
            ),
            $inverted && !$role->isScalar() => \sprintf('%s cannot be inverted', lcfirst($role->label())),
            default => null,
        };
    }

    /** Whether one number says it all: not of colours, nor of a map with a mask in each channel. */
    public function isScalar(): bool
    {
        return $this->role->isScalar() && !($this->channels === '' && $this->map->isSeveral());
    }

    /** How many values it has: 1, or 3. */
    public function values(): int
    {
        return $this->isScalar() ? 1 : 3;
    }

    /**
     * The texel as if the image held this role alone. Of a normal in two channels the third is rebuilt.
     *
     * @param Node $texel vec4 read from the image
     */
    public function of(Graph $g, Node $texel): Node
    {
        if ($this->isScalar()) {
            $value = $g->pick($texel, $this->channels === '' ? 'x' : $this->channels);

            return $g->vec($this->inverted ? $g->sub(1.0, $value) : $value, 0.0, 0.0, 1.0);
        }
        if (\strlen($this->channels) !== 2) {
            // Of a mask in each channel; alpha stays what it is.
            return $this->inverted ? $g->vec($g->sub($g->vec(1.0, 1.0, 1.0), $g->pick($texel, 'xyz')), $g->w($texel)) : $texel;
        }
        $xy = $g->pick($texel, $this->channels);
        $n = $g->sub($g->mul($xy, 2.0), 1.0);
        $z = $g->sqrt($g->max($g->sub(1.0, $g->dot($n, $n)), 0.0));

        return $g->vec($xy, $g->add($g->mul($z, 0.5), 0.5), 1.0);
    }
}
