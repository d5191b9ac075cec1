<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Rilta\App\Entity\AccessToken;
use Rilta\App\Service\AccessTokens;
use Rilta\App\Service\Refusal;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Exception\AuthenticationException;
use Symfony\Component\Security\Core\Exception\BadCredentialsException;
use Symfony\Component\Security\Http\Authenticator\AbstractAuthenticator;
use Symfony\Component\Security\Http\Authenticator\Passport\Badge\UserBadge;
use Symfony\Component\Security\Http\Authenticator\Passport\Passport;
use Symfony\Component\Security\Http\Authenticator\Passport\SelfValidatingPassport;

/** A program that shows a token of somebody's (RFC 6750), and may do what it is for. */
final class TokenAuthenticator extends AbstractAuthenticator
{
    public const SCOPES = '_rilta_scopes';

    public function __construct(private readonly AccessTokens $tokens)
    {
    }

    public function supports(Request $request): bool
    {
        return $request->headers->has('Authorization');
    }

    public function authenticate(Request $request): Passport
    {
        $found = preg_match('/^Bearer ([\w-]{20,80})$/D', (string) $request->headers->get('Authorization'), $m) === 1 ? $this->tokens->find($m[1]) : null;
        if ($found === null) {
            throw new BadCredentialsException();
        }
        $request->attributes->set(self::SCOPES, $found->scopes);
        $request->attributes->set(AccessToken::class, $found);

        return new SelfValidatingPassport(new UserBadge($found->person->getUserIdentifier(), static fn () => $found->person));
    }

    public function onAuthenticationSuccess(Request $request, TokenInterface $token, string $firewallName): ?Response
    {
        return null;
    }

    public function onAuthenticationFailure(Request $request, AuthenticationException $exception): ?Response
    {
        throw Refusal::signedOut('This token is none, or not one any more.');
    }
}
