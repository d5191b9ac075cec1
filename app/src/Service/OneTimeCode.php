<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/**
 * Codes of six digits that change every half a minute (RFC 6238, with HMAC-SHA-1 as all apps for it have).
 *
 * https://www.rfc-editor.org/rfc/rfc6238, https://www.rfc-editor.org/rfc/rfc4226
 */
final class OneTimeCode
{
    public const STEP = 30;
    private const DIGITS = 6;
    /** Steps that clocks may be apart. */
    private const DRIFT = 1;
    private const LETTERS = 'ABCDEFGHIJKLMNOPQRSTUVWXYZ234567';

    /**
     * @param string $secret bytes
     * @param int    $step   of 30 s since 1970
     */
    public static function at(string $secret, int $step, int $digits = self::DIGITS): string
    {
        $hash = hash_hmac('sha1', pack('J', $step), $secret, true);
        $offset = \ord($hash[19]) & 15;
        $number = (\ord($hash[$offset]) & 127) << 24 | \ord($hash[$offset + 1]) << 16 | \ord($hash[$offset + 2]) << 8 | \ord($hash[$offset + 3]);

        return str_pad((string) ($number % 10 ** $digits), $digits, '0', \STR_PAD_LEFT);
    }

    /**
     * The step that a code is of, if it is one of now; null if it is not, or is not later than the one that was used last.
     *
     * @param int $after the last step that was used
     */
    public static function step(string $secret, string $code, int $now, int $after): ?int
    {
        $code = (string) preg_replace('/\s+/', '', $code);
        for ($step = intdiv($now, self::STEP) - self::DRIFT; $step <= intdiv($now, self::STEP) + self::DRIFT; ++$step) {
            if ($step > $after && hash_equals(self::at($secret, $step), $code)) {
                return $step;
            }
        }

        return null;
    }

    /** As people type it into an app (RFC 4648, base 32 without padding). */
    public static function written(string $secret): string
    {
        $bits = implode('', array_map(static fn (string $byte): string => str_pad(decbin(\ord($byte)), 8, '0', \STR_PAD_LEFT), str_split($secret)));

        return implode('', array_map(static fn (string $five): string => self::LETTERS[(int) bindec(str_pad($five, 5, '0'))], str_split($bits, 5)));
    }
}
