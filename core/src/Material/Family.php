<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** Alternates of one material, in an order: sets of which the step Choose reads one here and another there. */
final readonly class Family
{
    public const FEWEST = 2;
    public const MOST = 8;

    /** @param non-empty-list<string> $sets names of map sets */
    public function __construct(public string $name, public array $sets)
    {
    }

    /**
     * Alternates that go by one name and a number or a letter: salt-1, salt-2.
     *
     * @param list<string> $sets
     *
     * @return array<string, list<string>> sets by the name that they share, those with at least two; in order of number or letter
     */
    public static function byName(array $sets): array
    {
        $groups = [];
        foreach ($sets as $set) {
            if (preg_match('/^(.*[^-])-([a-h]|\d{1,3})$/D', $set, $m) === 1) {
                $groups[$m[1]][$set] = $m[2];
            }
        }
        // The one without a number comes first.
        foreach (array_intersect(array_keys($groups), $sets) as $plain) {
            $groups[$plain] = [$plain => ''] + $groups[$plain];
        }
        $families = [];
        foreach ($groups as $name => $members) {
            if (\count($members) >= self::FEWEST) {
                uasort($members, strnatcmp(...));
                $families[(string) $name] = \array_slice(array_map(strval(...), array_keys($members)), 0, self::MOST);
            }
        }
        ksort($families);

        return $families;
    }

    /**
     * Why a list of sets is none.
     *
     * @param list<string> $sets
     */
    public static function objection(array $sets): ?string
    {
        return match (true) {
            \count($sets) < self::FEWEST || \count($sets) > self::MOST => \sprintf('expected %d to %d map sets', self::FEWEST, self::MOST),
            \count(array_unique($sets)) < \count($sets) => 'expected every map set once',
            default => null,
        };
    }
}
