<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

/**
 * Lets values of a pixel that are never needed at the same time share a variable. A kernel of thousands of variables is none that PHP compiles:
 * its compiler gives up a function whose blocks times variables are more than four millions (zend_build_ssa), and thousands of them do not
 * fit into a processor's nearest memory.
 *
 * Lines run from the first to the last; what is braced is one line here, so that a loop inside changes nothing. (Linear scan: Poletto and
 * Sarkar 1999.)
 */
final class VariableReuse
{
    private const VARIABLE = '/\$(?:t\d+|s\d+[xyzw])\b/';

    /**
     * @param list<string>          $lines each sets and reads variables of a pixel, called t or s and a number
     * @param array<string, string> $kinds what a variable holds, by name; only those of one kind share
     * @param array<string, true>   $kept  variables that are set elsewhere
     *
     * @return list<string>
     */
    public static function apply(array $lines, array $kinds, array $kept): array
    {
        $units = self::units($lines);
        $last = [];
        foreach ($units as $i => $unit) {
            foreach (self::variables($unit, $kept) as $name) {
                $last[$name] = $i;
            }
        }
        $names = [];
        $free = [];
        $ending = [];
        $made = [];
        foreach ($units as $i => $unit) {
            foreach (self::variables($unit, $kept) as $name) {
                if (isset($names[$name])) {
                    continue;
                }
                $kind = $kinds[$name] ?? 'f';
                $names[$name] = isset($free[$kind]) && $free[$kind] !== [] ? array_pop($free[$kind]) : \sprintf('$%s_%d', $kind, $made[$kind] = ($made[$kind] ?? -1) + 1);
                $ending[$last[$name]][] = [$kind, $names[$name]];
            }
            foreach ($ending[$i] ?? [] as [$kind, $register]) {
                $free[$kind][] = $register;
            }
        }

        return array_map(static fn (string $line): string => (string) preg_replace_callback(self::VARIABLE, static fn (array $found): string => $names[$found[0]] ?? $found[0], $line), $lines);
    }

    /**
     * @param array<string, true> $kept
     *
     * @return list<string> each once, in the order in which they are met
     */
    private static function variables(string $text, array $kept): array
    {
        preg_match_all(self::VARIABLE, $text, $found);

        return array_values(array_filter(array_unique($found[0]), static fn (string $name): bool => !isset($kept[$name])));
    }

    /**
     * @param list<string> $lines
     *
     * @return list<string>
     */
    private static function units(array $lines): array
    {
        $units = [];
        $depth = 0;
        foreach ($lines as $line) {
            if ($depth > 0) {
                $units[\count($units) - 1] .= "\n$line";
            } else {
                $units[] = $line;
            }
            $depth += substr_count($line, '{') - substr_count($line, '}');
        }

        return $units;
    }
}
