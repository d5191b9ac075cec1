<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Service\Refusal;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Event\RequestEvent;

/**
 * What changes something has to come from our own pages. Browsers say where a request comes from; what no browser sent has to carry
 * what a form of another site cannot: JSON, a ZIP, or a header of ours.
 */
#[AsEventListener(priority: 64)]
final class SameOrigin
{
    public const HEADER = 'X-Rilta';

    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        if ($event->isMainRequest() && !$request->isMethodSafe() && !self::isOurs($request)) {
            throw Refusal::elsewhereFrom();
        }
    }

    private static function isOurs(Request $request): bool
    {
        $site = $request->headers->get('Sec-Fetch-Site');
        if ($site !== null && $site !== 'same-origin') {
            return false;
        }
        $origin = $request->headers->get('Origin');
        if ($origin !== null && $origin !== $request->getSchemeAndHttpHost()) {
            return false;
        }

        return $request->headers->has(self::HEADER) || \in_array(strtolower(trim(explode(';', (string) $request->headers->get('Content-Type'))[0])), ['application/json', 'application/zip'], true);
    }
}
