<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Symfony\Component\Messenger\Exception\UnrecoverableExceptionInterface;

/** Something that cannot be granted, and why, in words for the person who asked. Asking again changes nothing. */
final class Refusal extends \RuntimeException implements UnrecoverableExceptionInterface
{
    /**
     * @param list<array{path: string, message: string}> $problems
     * @param array<string, mixed>                       $extra
     */
    private function __construct(public readonly Reason $reason, string $detail, public readonly array $problems = [], public readonly array $extra = [])
    {
        parent::__construct($detail);
    }

    public static function notFound(string $what): self
    {
        return new self(Reason::Missing, "There is no $what.");
    }

    /** @param list<string> $there slugs of those that there are */
    public static function noProject(string $slug, array $there): self
    {
        return self::invalid(\sprintf('There is no project "%s"; there are %s.', $slug, $there === [] ? 'none' : implode(', ', $there)));
    }

    public static function malformed(string $detail): self
    {
        return new self(Reason::Malformed, $detail);
    }

    /** @param list<array{path: string, message: string}> $problems */
    public static function invalid(string $detail, array $problems = []): self
    {
        return new self(Reason::NotAccepted, $detail, $problems);
    }

    public static function tooLarge(string $detail): self
    {
        return new self(Reason::TooLarge, $detail);
    }

    public static function elsewhereFrom(): self
    {
        return new self(Reason::Foreign, 'This request came from another site, or from a form. Send it from Rilta\'s own pages, or with Content-Type: application/json.');
    }

    public static function signedOut(string $detail): self
    {
        return new self(Reason::SignedOut, $detail);
    }

    public static function forbidden(string $detail): self
    {
        return new self(Reason::Forbidden, $detail);
    }

    public static function tooMany(string $detail): self
    {
        return new self(Reason::TooMuch, $detail);
    }

    public static function taken(string $detail): self
    {
        return new self(Reason::Taken, $detail);
    }

    public static function busy(string $detail): self
    {
        return new self(Reason::Busy, $detail);
    }

    public static function elsewhere(string $detail): self
    {
        return new self(Reason::Elsewhere, $detail);
    }

    public static function unconditional(): self
    {
        return new self(Reason::Unconditional, 'Send the version you started from in If-Match, so that nobody\'s work is overwritten.');
    }

    /** @param array<string, mixed> $theirs what is stored now */
    public static function outdated(array $theirs): self
    {
        return new self(Reason::Outdated, 'This was changed somewhere else since you opened it. Both versions are kept.', [], ['theirs' => $theirs]);
    }
}
