<?php

declare(strict_types=1);

namespace Rilta\Core\Format;

/** A place where two values of JSON differ; `Absent` where one has nothing there. */
final readonly class Difference
{
    private const LONGEST = 60;

    /** @param string $path keys and places from the outside in, each behind a slash; members of lists by their id or name */
    public function __construct(public string $path, public mixed $from, public mixed $to)
    {
    }

    /** A value in few characters. */
    public static function short(mixed $value): string
    {
        if ($value === Absent::Here) {
            return 'nothing';
        }
        $json = json_encode($value, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
        $json = \is_string($json) ? $json : get_debug_type($value);

        return mb_strlen($json) > self::LONGEST ? mb_substr($json, 0, self::LONGEST - 1) . '…' : $json;
    }
}
