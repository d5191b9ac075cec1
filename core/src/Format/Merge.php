<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/**
 * Brings together what two sides made of the same JSON, by what both started from. Objects are merged key by key; lists whose members have an
 * `id` or a `name` each of its own, and lists of different words, by those; lists of objects
 * that are each of another kind, by the words in them (steps of a lane); of those that stayed what they were, place by place.
 * All else is one value. What only one side changed is as that side has it; what both changed alike too. The rest is a conflict: the merged
 * value is that of the first side then, unless it is said which side is to be taken.
 *
 * JSON is as `json_decode` gives it without objects becoming arrays. 1 and 1.0 are the same; the order of an object's keys means nothing.
 */
final class Merge
{
    public readonly mixed $merged;
    /** @var list<Difference> what both changed, each in its own way: what the first side has, and the second; those inside of what one side took away are told as one */
    public array $conflicts = [];

    /** @param int $take 1 or 2, the side that is right where both changed the same; 0 to tell of it */
    public function __construct(mixed $base, mixed $first, mixed $second, private readonly int $take = 0)
    {
        $this->merged = $this->value('', $base, $first, $second);
    }

    /**
     * Where two values differ, from the outside in, each place told once.
     *
     * @return list<Difference>
     */
    public static function differences(mixed $from, mixed $to, string $path = ''): array
    {
        if (self::same($from, $to)) {
            return [];
        }
        $parts = self::parts([$from, $to]);
        if ($parts === null) {
            return [new Difference($path, $from, $to)];
        }
        $found = [];
        foreach (self::order(array_keys($parts[0]), array_keys($parts[1])) as $key) {
            array_push($found, ...self::differences(self::under($parts[0], $key), self::under($parts[1], $key), $path . '/' . self::word($key)));
        }

        // The same members in another order.
        return $found === [] ? [new Difference("$path (the order)", self::words($parts[0]), self::words($parts[1]))] : $found;
    }

    /** Whether two values mean the same. */
    public static function same(mixed $a, mixed $b): bool
    {
        if ($a instanceof \stdClass && $b instanceof \stdClass) {
            [$a, $b] = [(array) $a, (array) $b];
            ksort($a);
            ksort($b);

            return array_map(strval(...), array_keys($a)) === array_map(strval(...), array_keys($b)) && self::alike($a, $b);
        }
        if (\is_array($a) && \is_array($b)) {
            return \count($a) === \count($b) && self::alike($a, $b);
        }

        return (\is_int($a) || \is_float($a)) && (\is_int($b) || \is_float($b)) ? (float) $a === (float) $b : $a === $b;
    }

    /**
     * @param array<array-key, mixed> $a
     * @param array<array-key, mixed> $b of the same keys
     */
    private static function alike(array $a, array $b): bool
    {
        foreach ($a as $key => $value) {
            if (!self::same($value, $b[$key])) {
                return false;
            }
        }

        return true;
    }

    private function value(string $path, mixed $base, mixed $first, mixed $second): mixed
    {
        if (self::same($first, $second) || self::same($base, $second)) {
            return $first;
        }
        if (self::same($base, $first)) {
            return $second;
        }
        $parts = self::parts([$first, $second], $base);
        if ($parts === null) {
            return $this->conflict($path, $first, $second);
        }
        [$ones, $others] = $parts;
        $before = self::parts([$base, $first])[0] ?? [];
        $merged = [];
        foreach (self::order(array_keys($ones), array_keys($others)) as $key) {
            $value = $this->value($path . '/' . self::word($key), self::under($before, $key), self::under($ones, $key), self::under($others, $key));
            if ($value !== Absent::Here) {
                $merged[$key] = $value;
            }
        }
        if ($first instanceof \stdClass) {
            return (object) $merged;
        }

        return array_map(static fn (int|string $key): mixed => $merged[$key], $this->arranged($path, array_keys($merged), array_keys($before), array_keys($ones), array_keys($others)));
    }

    private function conflict(string $path, mixed $first, mixed $second): mixed
    {
        if ($this->take === 0) {
            $this->conflicts[] = new Difference($path, $first, $second);
        }

        return $this->take === 2 ? $second : $first;
    }

    /**
     * The members of a list in the order of the side that changed it.
     *
     * @param list<array-key> $all    that stay
     * @param list<array-key> $before
     * @param list<array-key> $ones
     * @param list<array-key> $others
     *
     * @return list<array-key>
     */
    private function arranged(string $path, array $all, array $before, array $ones, array $others): array
    {
        $shared = array_values(array_intersect($ones, $others));
        [$b, $o, $t] = array_map(static fn (array $keys): array => array_values(array_intersect($keys, $shared)), [$before, $ones, $others]);
        $first = true;
        if ($o !== $t && $o === array_values(array_intersect($b, $o))) {
            $first = false;
        } elseif ($o !== $t && $t !== array_values(array_intersect($b, $t))) {
            $first = $this->conflict("$path (the order)", self::words(array_flip($o)), self::words(array_flip($t))) === self::words(array_flip($o));
        }
        [$lead, $more] = $first ? [$ones, $others] : [$others, $ones];

        return array_values(array_intersect(self::order($lead, $more), $all));
    }

    /**
     * One sequence, with what only another has put in behind what it follows there.
     *
     * @param list<array-key> $lead
     * @param list<array-key> $more
     *
     * @return list<array-key>
     */
    private static function order(array $lead, array $more): array
    {
        foreach ($more as $i => $key) {
            if (!\in_array($key, $lead, true)) {
                $behind = $i === 0 ? false : array_search($more[$i - 1], $lead, true);
                array_splice($lead, $behind === false ? 0 : (int) $behind + 1, 0, [$key]);
            }
        }

        return array_values($lead);
    }

    /**
     * What values consist of by key, if all have keys of one kind.
     *
     * @param list<mixed> $values
     * @param mixed       $base   what they came from: where it has keys of another kind, the values have none in common with it
     *
     * @return list<array<array-key, mixed>>|null
     */
    private static function parts(array $values, mixed $base = null): ?array
    {
        if (array_filter($values, static fn (mixed $one): bool => !$one instanceof \stdClass) === []) {
            return array_map(static fn (mixed $one): array => (array) $one, $values);
        }
        $lists = array_values(array_filter($values, is_array(...)));
        if (\count($lists) !== \count($values)) {
            return null;
        }
        foreach (['id', 'name', null] as $by) {
            $keyed = array_map(static fn (array $list): ?array => self::keyed(array_values($list), $by), $lists);
            if (!\in_array(null, $keyed, true)) {
                return array_values(array_filter($keyed, is_array(...)));
            }
        }
        $kinds = array_map(self::kinds(...), \is_array($base) ? [...$lists, $base] : $lists);
        if (\in_array(null, $kinds, true)) {
            return null;
        }
        // Each of its own kind, as most steps of a lane are.
        if (array_filter($kinds, static fn (array $one): bool => \count(array_unique($one)) < \count($one)) === []) {
            return array_map(static fn (int $i): array => array_combine($kinds[$i], $lists[$i]), array_keys($lists));
        }

        return array_unique(array_map(json_encode(...), $kinds)) === [json_encode($kinds[0])] ? $lists : null;
    }

    /**
     * The words in each member of a list of objects, which tell what it is: a step that became another one is not that step with other numbers.
     *
     * @param array<array-key, mixed> $list
     *
     * @return list<string>|null null if it has others too, or some that are known by a name
     */
    private static function kinds(array $list): ?array
    {
        $kinds = [];
        foreach ($list as $one) {
            $words = $one instanceof \stdClass ? array_filter((array) $one, is_string(...)) : [];
            if ($words === [] || isset($words['id']) || isset($words['name'])) {
                return null;
            }
            ksort($words);
            $kinds[] = ' ' . implode(' ', $words);
        }

        return $kinds;
    }

    /**
     * @param list<mixed> $list
     *
     * @return array<array-key, mixed>|null null if its members have no such key, or two the same
     */
    private static function keyed(array $list, ?string $by): ?array
    {
        $keyed = [];
        foreach ($list as $one) {
            $key = $by === null ? $one : ($one instanceof \stdClass ? $one->{$by} ?? null : null);
            if (!\is_string($key) || \array_key_exists(" $key", $keyed)) {
                return null;
            }
            // Never taken for a number.
            $keyed[" $key"] = $one;
        }

        return $keyed;
    }

    /** @param array<array-key, mixed> $parts */
    private static function under(array $parts, int|string $key): mixed
    {
        return \array_key_exists($key, $parts) ? $parts[$key] : Absent::Here;
    }

    /**
     * @param array<array-key, mixed> $parts
     *
     * @return list<string>
     */
    private static function words(array $parts): array
    {
        return array_map(self::word(...), array_keys($parts));
    }

    private static function word(int|string $key): string
    {
        return ltrim((string) $key);
    }
}
