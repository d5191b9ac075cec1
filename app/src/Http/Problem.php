<?php

declare(strict_types=1);

namespace Rilta\App\Http;

/** A request that cannot be granted, with the status and the words for `application/problem+json` (RFC 9457). */
final class Problem extends \RuntimeException
{
    /**
     * @param list<array{path: string, message: string}> $problems
     * @param array<string, mixed>                       $extra
     */
    private function __construct(
        public readonly int $status,
        public readonly string $title,
        string $detail,
        public readonly array $problems = [],
        public readonly array $extra = [],
    ) {
        parent::__construct($detail);
    }

    public static function notFound(string $what): self
    {
        return new self(404, 'Not found', "There is no $what.");
    }

    public static function malformed(string $detail): self
    {
        return new self(400, 'Malformed request', $detail);
    }

    /** @param list<array{path: string, message: string}> $problems */
    public static function invalid(string $detail, array $problems = []): self
    {
        return new self(422, 'Not accepted', $detail, $problems);
    }

    public static function tooLarge(string $detail): self
    {
        return new self(413, 'Too large', $detail);
    }

    /** A page that is not ours wanted to change something. */
    public static function elsewhereFrom(): self
    {
        return new self(403, 'Not from here', 'This request came from another site, or from a form. Send it from Rilta\'s own pages, or with Content-Type: application/json.');
    }

    /** Later there is room. */
    public static function tooMany(string $detail): self
    {
        return new self(429, 'Too much at once', $detail);
    }

    /** Somebody else was first. */
    public static function taken(string $detail): self
    {
        return new self(409, 'Somebody else was first', $detail);
    }

    public static function busy(string $detail): self
    {
        return new self(503, 'Busy', $detail);
    }

    /** Somebody else's service failed. */
    public static function elsewhere(string $detail): self
    {
        return new self(502, 'No answer from outside', $detail);
    }

    public static function unconditional(): self
    {
        return new self(428, 'Version missing', 'Send the version you started from in If-Match, so that nobody\'s work is overwritten.');
    }

    /** @param array<string, mixed> $theirs what is stored now */
    public static function outdated(array $theirs): self
    {
        return new self(412, 'Changed meanwhile', 'This was changed somewhere else since you opened it. Both versions are kept.', [], ['theirs' => $theirs]);
    }
}
