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
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Material\InvalidDocument;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\Exception\RequestExceptionInterface;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Event\ExceptionEvent;
use Symfony\Component\HttpKernel\Exception\HttpException;
use Symfony\Component\HttpKernel\Exception\HttpExceptionInterface;
use Symfony\Component\HttpKernel\Exception\UnsupportedMediaTypeHttpException;
use Symfony\Component\Validator\Exception\ValidationFailedException;

/**
 * Turns what was thrown into `application/problem+json`.
 *
 * @phpstan-type ProblemDetailsJson array{
 *     title: string,
 *     status: int,
 *     detail: string,
 *     problems: list<array{path: string, message: string}>,
 *     theirs?: JsonObject<mixed>,
 * }
 */
#[AsEventListener]
final readonly class ProblemListener
{
    /** Problems that are told in one sentence each; all of them are listed. */
    private const MOST_TOLD = 3;

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
            $e instanceof StorageFailure => [$e->status, [507 => 'No room', 503 => 'Files are away'][$e->status] ?? 'A map cannot be read', $e->getMessage(), [], []],
            $e instanceof HttpException && $e->getPrevious() instanceof ValidationFailedException => self::unexpected($e->getPrevious(), $event->getRequest()),
            $e instanceof UnsupportedMediaTypeHttpException => [415, 'Malformed request', 'Send application/json.', [], []],
            $e instanceof UnreadableMap => [422, 'A map cannot be read', $e->getMessage(), [], []],
            $e instanceof HttpExceptionInterface => [$e->getStatusCode(), 'Not possible', $e->getMessage() === '' ? 'Send a JSON object.' : $e->getMessage(), [], []],
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

    /**
     * What was sent and what was expected there, each by its place.
     *
     * @return array{int, string, string, list<array{path: string, message: string}>, array<string, mixed>}
     */
    private static function unexpected(ValidationFailedException $failure, Request $request): array
    {
        $action = $request->attributes->get('_controller');
        $class = \is_string($action) && str_contains($action, '::') ? PayloadSchema::class(new \ReflectionMethod(...explode('::', $action))) : null;
        $problems = [];
        foreach ($failure->getViolations() as $violation) {
            $path = preg_split('/[.\[\]]+/', $violation->getPropertyPath(), -1, \PREG_SPLIT_NO_EMPTY) ?: [];
            $place = implode('/', array_map(static fn (string $part): string => str_replace(['~', '/'], ['~0', '~1'], $part), $path));
            $problems[$place] = ['path' => $place === '' ? '' : "/$place", 'message' => 'expected ' . ($class === null || $path === [] ? 'a JSON object' : PayloadSchema::expected($class, $path))];
        }
        $told = array_map(static fn (array $one): string => \sprintf('"%s": %s.', ltrim($one['path'], '/'), $one['message']), \array_slice(array_values($problems), 0, self::MOST_TOLD));

        return [422, 'Not accepted', implode(' ', $told), array_values($problems), []];
    }

    /** @return array{int, string} status (RFC 9110) and title */
    private static function told(Reason $reason): array
    {
        return match ($reason) {
            Reason::Malformed => [400, 'Malformed request'],
            Reason::SignedOut => [401, 'Signed out'],
            Reason::Forbidden => [403, 'Not yours to do'],
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
