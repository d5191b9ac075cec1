<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Psr\Log\LoggerInterface;
use Rilta\App\Service\StorageFailure;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\InvalidDocument;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Exception\RequestExceptionInterface;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpKernel\Event\ExceptionEvent;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;

/** Turns what was thrown into `application/problem+json`. */
#[AsEventListener]
final readonly class ProblemListener
{
    public function __construct(private LoggerInterface $logger)
    {
    }

    public function __invoke(ExceptionEvent $event): void
    {
        $e = $event->getThrowable();
        [$status, $title, $detail, $problems, $extra] = match (true) {
            $e instanceof Problem => [$e->status, $e->title, $e->getMessage(), $e->problems, $e->extra],
            $e instanceof InvalidDocument => [422, 'The document has mistakes', $e->getMessage(), array_map(
                static fn (\Rilta\Core\Material\Problem $p): array => ['path' => $p->path, 'message' => $p->message],
                $e->problems,
            ), []],
            $e instanceof StorageFailure => [$e->full ? 507 : 422, $e->full ? 'No room' : 'A map cannot be read', $e->getMessage(), [], []],
            $e instanceof UnreadableMap => [422, 'A map cannot be read', $e->getMessage(), [], []],
            $e instanceof HttpExceptionInterface => [$e->getStatusCode(), 'Not possible', $e->getMessage(), [], []],
            $e instanceof RequestExceptionInterface => [400, 'Malformed request', $e->getMessage(), [], []],
            default => [500, 'Our mistake', 'Something went wrong on the server. It has been written to the log.', [], []],
        };
        $headers = ['Content-Type' => 'application/problem+json'] + ($status === 503 ? ['Retry-After' => '1', 'Cache-Control' => 'no-store'] : []);
        if ($status === 500) {
            $this->logger->error($e->getMessage(), ['exception' => $e]);
        }
        $response = new JsonResponse(
            ['title' => $title, 'status' => $status, 'detail' => $detail, 'problems' => $problems] + $extra,
            $status,
            $headers,
        );
        $response->setEncodingOptions(\JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
        $event->allowCustomResponseCode();
        $event->setResponse($response);
    }
}
