<?php

declare(strict_types=1);

namespace Rilta\Core\Math;

/** Arithmetic on vectors of three numbers. */
final class Vec
{
    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function add(array $a, array $b): array
    {
        return [$a[0] + $b[0], $a[1] + $b[1], $a[2] + $b[2]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function sub(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /**
     * @param array{float, float, float} $a
     *
     * @return array{float, float, float}
     */
    public static function scale(array $a, float $by): array
    {
        return [$a[0] * $by, $a[1] * $by, $a[2] * $by];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    public static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /** @param array{float, float, float} $a */
    public static function length(array $a): float
    {
        return sqrt(self::dot($a, $a));
    }

    /**
     * The vector of length 1 in the same direction; one of no length stays as it is.
     *
     * @param array{float, float, float} $a
     *
     * @return array{float, float, float}
     */
    public static function unit(array $a): array
    {
        $length = self::length($a);

        return $length > 0.0 ? self::scale($a, 1 / $length) : $a;
    }

    /**
     * A weighted sum of three vectors, as barycentric coordinates make it.
     *
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     * @param array{float, float, float} $weights
     *
     * @return array{float, float, float}
     */
    public static function blend(array $a, array $b, array $c, array $weights): array
    {
        return self::add(self::add(self::scale($a, $weights[0]), self::scale($b, $weights[1])), self::scale($c, $weights[2]));
    }
}
