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
    private const MEBIBYTES = 4;
    /** What a whole folder changes at once. */
    private const MEBIBYTES_OF_FOLDERS = 32;

    public function __invoke(RequestEvent $event): void
    {
        $request = $event->getRequest();
        $most = preg_match('~^/api/projects/[^/]+/folder$~D', $request->getPathInfo()) === 1 ? self::MEBIBYTES_OF_FOLDERS : self::MEBIBYTES;
        if ($event->isMainRequest() && $request->getContentTypeFormat() === 'json' && \strlen($request->getContent()) > $most * 1048576) {
            throw Refusal::tooLarge(\sprintf('A request may have %d MiB.', $most));
        }
    }
}
