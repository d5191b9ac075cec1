<?php

declare(strict_types=1);

namespace Rilta\App\Security;

use Rilta\App\Service\SignIns;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Symfony\Component\Security\Core\Exception\AuthenticationException;
use Symfony\Component\Security\Core\Exception\BadCredentialsException;
use Symfony\Component\Security\Http\Authenticator\AbstractAuthenticator;
use Symfony\Component\Security\Http\Authenticator\Passport\Badge\UserBadge;
use Symfony\Component\Security\Http\Authenticator\Passport\Passport;
use Symfony\Component\Security\Http\Authenticator\Passport\SelfValidatingPassport;

/** Somebody whose browser shows what it was given when they signed in. */
final class CookieAuthenticator extends AbstractAuthenticator
{
    public function __construct(private readonly SignIns $signIns)
    {
    }

    public function supports(Request $request): bool
    {
        return $request->cookies->has(SignIns::cookie($request));
    }

    public function authenticate(Request $request): Passport
    {
        $secret = $request->cookies->all()[SignIns::cookie($request)] ?? '';
        $found = \is_string($secret) ? $this->signIns->find($secret) : null;
        if ($found === null) {
            throw new BadCredentialsException();
        }
        $request->attributes->set(SignIns::class, $found);

        return new SelfValidatingPassport(new UserBadge($found->person->getUserIdentifier(), static fn () => $found->person));
    }

    public function onAuthenticationSuccess(Request $request, TokenInterface $token, string $firewallName): ?Response
    {
        return null;
    }

    /** Whoever was signed in once is as if they never were; what asks for more says so. */
    public function onAuthenticationFailure(Request $request, AuthenticationException $exception): ?Response
    {
        return null;
    }
}
