<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Psr\Log\LoggerInterface;
use Rilta\App\Entity\Person;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Event\RequestEvent;
use Symfony\Component\HttpKernel\Event\ResponseEvent;
use Symfony\Component\HttpKernel\Event\TerminateEvent;

/** A line of JSON for each request, with an id that the answer carries too. Nothing that was sent is in it, but for the route. */
final readonly class RequestLog
{
    private const ID = '_rilta_id';

    public function __construct(private LoggerInterface $requestsLogger, private Security $security)
    {
    }

    #[AsEventListener(priority: 512)]
    public function begin(RequestEvent $event): void
    {
        if ($event->isMainRequest()) {
            $event->getRequest()->attributes->set(self::ID, bin2hex(random_bytes(8)));
        }
    }

    #[AsEventListener]
    public function answer(ResponseEvent $event): void
    {
        if ($event->isMainRequest()) {
            $event->getResponse()->headers->set('X-Request-Id', self::id($event->getRequest()));
        }
    }

    #[AsEventListener]
    public function end(TerminateEvent $event): void
    {
        $request = $event->getRequest();
        $person = $this->security->getUser();
        $began = $request->server->get('REQUEST_TIME_FLOAT');
        $this->requestsLogger->notice('request', [
            'id' => self::id($request),
            'method' => $request->getMethod(),
            'route' => \is_string($request->attributes->get('_route')) ? $request->attributes->get('_route') : '',
            'person' => $person instanceof Person ? $person->id() : null,
            'from' => $request->getClientIp(),
            'status' => $event->getResponse()->getStatusCode(),
            'ms' => is_numeric($began) ? round(1000 * (microtime(true) - (float) $began), 1) : null,
        ]);
    }

    private static function id(Request $request): string
    {
        $id = $request->attributes->get(self::ID);

        return \is_string($id) ? $id : '';
    }
}
