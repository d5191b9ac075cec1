<?php

declare(strict_types=1);

namespace Rilta\Core\Judge;

use Rilta\Core\Material\InvalidDocument;

/** Documents with a part switched off, to see what it is good for. */
final class LeftOut
{
    /**
     * @param string $path JSON Pointer to a step of a lane that is not its origin
     *
     * @return array<mixed> the document
     *
     * @throws InvalidDocument if no such step stands there
     */
    public static function step(mixed $document, string $path): array
    {
        if (preg_match('~^/lanes/(\d{1,4})/steps/([1-9]\d{0,3})$~', $path, $found) !== 1) {
            throw InvalidDocument::at($path, 'expected the place of a step after the origin, such as /lanes/0/steps/1');
        }
        $lane = \is_array($document) && \is_array($document['lanes'] ?? null) ? $document['lanes'][(int) $found[1]] ?? null : null;
        $step = \is_array($lane) && \is_array($lane['steps'] ?? null) ? $lane['steps'][(int) $found[2]] ?? null : null;
        if (!\is_array($document) || !\is_array($step)) {
            throw InvalidDocument::at($path, 'no step stands there');
        }
        /** @var array{lanes: array<int, array{steps: array<int, array<string, mixed>>}>} $document */
        $document['lanes'][(int) $found[1]]['steps'][(int) $found[2]]['on'] = false;

        return $document;
    }
}
