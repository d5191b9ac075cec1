<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Service\Refusal;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\RequestEvent;

/** How long the JSON of a request may be. */
#[AsEventListener]
final class BodyLimit
{
    private const MOST_BYTES = 4 * 1024 * 1024;

    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        if ($event->isMainRequest() && $request->getContentTypeFormat() === 'json' && \strlen($request->getContent()) > self::MOST_BYTES) {
            throw Refusal::tooLarge(\sprintf('A request may have %d MiB.', self::MOST_BYTES / 1048576));
        }
    }
}
