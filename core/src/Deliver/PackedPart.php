<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

use Rilta\Core\Bake\Channel;
use Rilta\Core\Raster\MipFilter;

/**
 * What one of red, green, blue and alpha of a packed image holds: a part of what is baked, or a number.
 *
 * @phpstan-type PackedPartJson array{
 *     role?: string,
 *     channel?: string,
 *     inverted?: bool,
 *     value?: float,
 * }
 */
final readonly class PackedPart
{
    /**
     * @param ?Channel $role     null for a number
     * @param int      $part     which of its values, from 0
     * @param bool     $inverted whether it says the opposite: smoothness for roughness
     * @param int      $value    0…255: the number, or what stands for the role where a material has none
     */
    public function __construct(public ?Channel $role, public int $part, public bool $inverted, public int $value)
    {
    }

    /** @return list<array{part: PackedPartJson, label: string}> what may be chosen, as profiles have it */
    public static function offers(): array
    {
        $offers = [];
        foreach (Channel::cases() as $role) {
            foreach ($role->parts() as $i => $name) {
                $said = ['role' => $role->value] + ($role->samples() === 1 ? [] : ['channel' => $name]);
                $offers[] = ['part' => $said, 'label' => (new self($role, $i, false, 0))->text()];
                if ($role->filter() !== MipFilter::Colour) {
                    $offers[] = ['part' => $said + ['inverted' => true], 'label' => (new self($role, $i, true, 0))->text()];
                }
            }
        }
        foreach ([0.0, 0.5, 1.0] as $value) {
            $offers[] = ['part' => ['value' => $value], 'label' => (string) $value];
        }

        return $offers;
    }

    /** In words. */
    public function text(): string
    {
        return $this->role === null ? (string) round($this->value / 255, 3) : ($this->inverted ? '1 − ' : '') . $this->role->value . ($this->role->samples() === 1 ? '' : ' ' . $this->role->parts()[$this->part]);
    }
}
