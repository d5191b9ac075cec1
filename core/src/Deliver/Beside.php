<?php

declare(strict_types=1);

namespace Rilta\Core\Deliver;

/** Channels of 8 bits side by side. */
final class Beside
{
    /**
     * @param non-empty-list<array{string, int, int}> $channels rows, values a pixel, and which of them
     *
     * @return string as many values a pixel as there are channels
     */
    public static function of(array $channels): string
    {
        $many = intdiv(\strlen($channels[0][0]), $channels[0][1]);
        $bytes = '';
        for ($i = 0; $i < $many; ++$i) {
            foreach ($channels as [$rows, $width, $which]) {
                $bytes .= $rows[$width * $i + $which];
            }
        }

        return $bytes;
    }
}
