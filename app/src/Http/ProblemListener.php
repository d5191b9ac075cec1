<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Doctrine\DBAL\Exception\ConnectionException;
use Doctrine\DBAL\Exception\RetryableException;
use Doctrine\DBAL\Exception\UniqueConstraintViolationException;
use Psr\Log\LoggerInterface;
use Rilta\App\Service\Reason;
use Rilta\App\Service\Refusal;
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
            $e instanceof Refusal => [...self::told($e->reason), $e->getMessage(), $e->problems, $e->extra],
            $e instanceof InvalidDocument => [422, 'The document has mistakes', $e->getMessage(), array_map(
                static fn (\Rilta\Core\Material\Problem $p): array => ['path' => $p->path, 'message' => $p->message],
                $e->problems,
            ), []],
            // What two did at the same time; the loser may try again.
            $e instanceof UniqueConstraintViolationException => [409, 'Somebody else was first', 'The same was done at the same time somewhere else. Load what is there now, and try again.', [], []],
            $e instanceof RetryableException => [503, 'Busy', 'Others are changing the same; ask again.', [], []],
            $e instanceof ConnectionException => [503, 'The database is away', 'The database cannot be reached. What you did is kept in your browser and tried again.', [], []],
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
        $response = new JsonResponse(null, $status, $headers);
        $response->setEncodingOptions(\JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE);
        $response->setData(['title' => $title, 'status' => $status, 'detail' => $detail, 'problems' => $problems] + $extra);
        $event->allowCustomResponseCode();
        $event->setResponse($response);
    }

    /** @return array{int, string} status (RFC 9110) and title */
    private static function told(Reason $reason): array
    {
        return match ($reason) {
            Reason::Malformed => [400, 'Malformed request'],
            Reason::Foreign => [403, 'Not from here'],
            Reason::Missing => [404, 'Not found'],
            Reason::Taken => [409, 'Somebody else was first'],
            Reason::Outdated => [412, 'Changed meanwhile'],
            Reason::TooLarge => [413, 'Too large'],
            Reason::NotAccepted => [422, 'Not accepted'],
            Reason::Unconditional => [428, 'Version missing'],
            Reason::TooMuch => [429, 'Too much at once'],
            Reason::Elsewhere => [502, 'No answer from outside'],
            Reason::Busy => [503, 'Busy'],
        };
    }
}
