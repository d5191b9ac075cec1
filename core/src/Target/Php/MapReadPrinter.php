<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Php;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Raster\MipLayout;

/**
 * Prints trilinear reads of maps, as their sampling says. All levels of a map lie in one flat list of
 * packed texels (Raster\MipLayout); colour goes through a table of 256 linear values.
 */
final class MapReadPrinter
{
    private const BYTE = '0.00392156862745098';
    private const WORD = '1.5259021896696422E-5';

    /** @var array<string, string> prologue lines by what they set */
    private array $prologue = [];

    public static function variable(Node $read, string $channel): string
    {
        return '$s' . $read->id . $channel;
    }

    /** @return list<string> */
    public function prologue(): array
    {
        return array_values($this->prologue);
    }

    /**
     * @param list<array{Node, list<string>}> $group maps of one size, read at one place; the components wanted of each
     *
     * @return list<string>
     */
    public function print(array $group, string $u, string $v, string $level, ?string $guard): array
    {
        $slot = $group[0][0]->map();
        $layout = new MipLayout($slot->width, $slot->height);
        $key = $slot->width . 'x' . $slot->height;
        $this->prologue["levels$key"] = \sprintf('$w%1$s = %2$s; $h%1$s = %3$s; $b%1$s = %4$s;', $key, ...array_map(
            static fn (array $list): string => '[' . implode(', ', $list) . ']',
            [$layout->widths, $layout->heights, $layout->offsets],
        ));
        $zero = [];
        $near = [];
        $far = [];
        foreach ($group as [$read, $channels]) {
            $this->prologue['map' . $read->map()->name] ??= \sprintf('$m%s = $m[%s];', $this->mapIndex($read->map()), var_export($read->map()->name, true));
            foreach ($channels as $channel) {
                $zero[] = self::variable($read, $channel) . ' = 0.0;';
            }
            array_push($near, ...$this->texels($read, $channels, false));
            array_push($far, ...$this->texels($read, $channels, true));
        }
        $last = \count($layout->widths) - 1;
        $largest = [...$this->address($u, $v, (string) $slot->width, (string) $slot->height, null, $slot), ...$near];
        $lines = $slot->sampling->mips ? [
            "if ($level <= 0.0) {",
            ...$this->indented($largest),
            '} else {',
            ...$this->indented([
                ...$zero,
                "\$l = (int) $level; \$f = $level - \$l; if (\$l >= $last) { \$l = $last; \$f = 0.0; }",
                '$k = 1.0 - $f;',
                'while (true) {',
                ...$this->indented([
                    "\$w = \$w{$key}[\$l]; \$h = \$h{$key}[\$l];",
                    ...$this->address($u, $v, '$w', '$h', "\$b{$key}[\$l]", $slot),
                    '$w00 *= $k; $w10 *= $k; $w01 *= $k; $w11 *= $k;',
                    ...$far,
                    'if ($f <= 0.0) { break; }',
                    '++$l; $k = $f; $f = 0.0;',
                ]),
                '}',
            ]),
            '}',
        ] : $largest;
        if ($guard === null) {
            return $lines;
        }

        return ["if ($guard > 0.0) {", ...$this->indented($lines), '} else {', ...$this->indented($zero), '}'];
    }

    /**
     * The four addresses and weights around a coordinate. Powers of two repeat by a mask.
     *
     * @return list<string>
     */
    private function address(string $u, string $v, string $width, string $height, ?string $base, TextureBinding $slot): array
    {
        // The nearest texel is the one that the coordinate lies in.
        $sharp = $slot->sampling->filter === 'sharp';
        $half = $sharp ? '' : ' - 0.5';
        $lines = [
            "\$a = $u * $width$half; \$xa = (int) \$a; if (\$xa > \$a) { --\$xa; } " . ($sharp ? '$a = 0.0;' : '$a -= $xa;'),
            "\$b = $v * $height$half; \$ya = (int) \$b; if (\$ya > \$b) { --\$ya; } " . ($sharp ? '$b = 0.0;' : '$b -= $ya;'),
        ];
        foreach ([['x', $width, $slot->width, $slot->sampling->wrapU], ['y', $height, $slot->height, $slot->sampling->wrapV]] as [$axis, $size, $largest, $wrap]) {
            $lines[] = self::wrap($axis, $size, $largest, $wrap);
        }
        $lines[] = $base === null ? "\$ya *= $width; \$yb *= $width;" : "\$ya = \$ya * $width + $base; \$yb = \$yb * $width + $base;";
        $lines[] = '$w11 = $a * $b; $w10 = $a - $w11; $w01 = $b - $w11; $w00 = 1.0 - $a - $w01;';

        return $lines;
    }

    /** Brings the texel $…a into the map, and finds its neighbour $…b. */
    private static function wrap(string $axis, string $size, int $largest, string $wrap): string
    {
        [$a, $b] = ["\${$axis}a", "\${$axis}b"];
        if ($wrap === 'edge') {
            return "$b = $a + 1; $a = $a < 0 ? 0 : ($a >= $size ? $size - 1 : $a); $b = $b < 0 ? 0 : ($b >= $size ? $size - 1 : $b);";
        }
        if ($wrap === 'mirror') {
            $fold = static fn (string $t): string => "$t %= 2 * $size; if ($t < 0) { $t += 2 * $size; } if ($t >= $size) { $t = 2 * $size - 1 - $t; }";

            return "$b = $a + 1; {$fold($a)} {$fold($b)}";
        }
        $mask = is_numeric($size) ? (string) ($largest - 1) : "($size - 1)";

        return ($largest & ($largest - 1)) === 0
            ? "$b = ($a + 1) & $mask; $a &= $mask;"
            : "$a %= $size; if ($a < 0) { $a += $size; } $b = $a + 1; if ($b === $size) { $b = 0; }";
    }

    /**
     * @param list<string> $channels
     *
     * @return list<string>
     */
    private function texels(Node $read, array $channels, bool $accumulate): array
    {
        $slot = $read->map();
        $m = '$m' . $this->mapIndex($slot);
        // The casts tell PHP's compiler what it would otherwise check at every use.
        $lines = ["\$p = (int) {$m}[\$ya + \$xa]; \$q = (int) {$m}[\$ya + \$xb]; \$r = (int) {$m}[\$yb + \$xa]; \$s = (int) {$m}[\$yb + \$xb];"];
        $assign = $accumulate ? '+=' : '=';
        foreach ($channels as $channel) {
            $lines[] = self::variable($read, $channel) . " $assign " . $this->blend($slot, $channel) . ';';
        }

        return $lines;
    }

    private function blend(TextureBinding $slot, string $channel): string
    {
        if ($slot->samples === 1) {
            return match ($channel) {
                'x' => '($w00 * $p + $w10 * $q + $w01 * $r + $w11 * $s) * ' . ($slot->deep ? self::WORD : self::BYTE),
                'w' => '$w00 + $w10 + $w01 + $w11',
                default => '0.0',
            };
        }
        $shift = 8 * (int) strpos('xyzw', $channel);
        $byte = static fn (string $texel): string => $shift === 0 ? "($texel & 255)" : "(($texel >> $shift) & 255)";
        if ($slot->srgb && $channel !== 'w') {
            $byte = static fn (string $texel): string => $shift === 0 ? "\$srgb[$texel & 255]" : "\$srgb[($texel >> $shift) & 255]";
        }
        $sum = \sprintf('$w00 * %s + $w10 * %s + $w01 * %s + $w11 * %s', $byte('$p'), $byte('$q'), $byte('$r'), $byte('$s'));

        return $slot->srgb && $channel !== 'w' ? $sum : "($sum) * " . self::BYTE;
    }

    private function mapIndex(TextureBinding $slot): string
    {
        return substr(hash('xxh32', $slot->key()), 0, 8);
    }

    /**
     * @param list<string> $lines
     *
     * @return list<string>
     */
    private function indented(array $lines): array
    {
        return array_map(static fn (string $line): string => '    ' . $line, $lines);
    }
}
