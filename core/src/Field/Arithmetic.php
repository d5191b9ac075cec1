<?php

declare(strict_types=1);

namespace Rilta\Core\Field;

/**
 * What each pure primitive means, on one component at a time. Constant folding uses it,
 * and so do the tests as the yardstick for every target.
 */
final class Arithmetic
{
    private const MASK = 0xFFFFFFFF;

    /**
     * @param list<float|int|bool> $a one value an argument
     */
    public static function scalar(Op $op, array $a): float|int|bool
    {
        return match ($op) {
            Op::Add => self::wrap($a[0] + $a[1]),
            Op::Sub => self::wrap($a[0] - $a[1]),
            Op::Mul => \is_int($a[0]) && \is_int($a[1]) ? self::multiply($a[0], $a[1]) : $a[0] * $a[1],
            Op::Div => $a[0] / $a[1],
            Op::Min => min($a[0], $a[1]),
            Op::Max => max($a[0], $a[1]),
            Op::Pow => (float) $a[0] ** (float) $a[1],
            Op::Atan2 => atan2((float) $a[0], (float) $a[1]),
            Op::Neg => -$a[0],
            Op::Abs => abs((float) $a[0]),
            Op::Floor => floor((float) $a[0]),
            Op::Fract => $a[0] - floor((float) $a[0]),
            Op::Sqrt => sqrt((float) $a[0]),
            Op::Exp2 => 2.0 ** (float) $a[0],
            Op::Log2 => log((float) $a[0], 2.0),
            Op::Sin => sin((float) $a[0]),
            Op::Cos => cos((float) $a[0]),
            Op::Mix => $a[0] + ($a[1] - $a[0]) * $a[2],
            Op::Clamp => min(max($a[0], $a[1]), $a[2]),
            Op::Smoothstep => self::smoothstep((float) $a[0], (float) $a[1], (float) $a[2]),
            Op::Less => $a[0] < $a[1],
            Op::LessEqual => $a[0] <= $a[1],
            Op::And => $a[0] && $a[1],
            Op::Or => $a[0] || $a[1],
            Op::Not => !$a[0],
            Op::Select => $a[0] === true ? $a[1] : $a[2],
            Op::Xor => (int) $a[0] ^ (int) $a[1],
            Op::BitAnd => (int) $a[0] & (int) $a[1],
            Op::ShiftRight => (int) $a[0] >> (int) $a[1],
            Op::ToUint => (int) floor((float) $a[0]) & self::MASK,
            Op::ToFloat => (float) $a[0],
            default => throw new \LogicException($op->name . ' does not work component by component.'),
        };
    }

    /** The product of two unsigned 32-bit integers, modulo 2^32, without leaving PHP's 63 bits. */
    public static function multiply(int $a, int $b): int
    {
        return (($a & 0xFFFF) * $b + (((($a >> 16) * $b) & 0xFFFF) << 16)) & self::MASK;
    }

    private static function wrap(float|int $sum): float|int
    {
        return \is_int($sum) ? $sum & self::MASK : $sum;
    }

    private static function smoothstep(float $from, float $to, float $x): float
    {
        $t = min(max(($x - $from) / ($to - $from), 0.0), 1.0);

        return $t * $t * (3.0 - 2.0 * $t);
    }
}
