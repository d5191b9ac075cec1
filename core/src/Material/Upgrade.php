<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/**
 * Brings documents of older versions to the form of today, one version after the other. What has mistakes is left as it is: the
 * reader tells them.
 */
final class Upgrade
{
    /** The versions that there have been, each with what leads to the next; the latest has none. */
    private const FORMATS = ['rilta-material/1', 'rilta-material/2'];

    public static function isKnown(mixed $format): bool
    {
        return \in_array($format, self::FORMATS, true);
    }

    /**
     * @param array<mixed> $document of any version
     *
     * @return array<mixed> the same in the latest
     */
    public static function latest(array $document): array
    {
        $version = array_search($document['format'] ?? null, self::FORMATS, true);
        if ($version === 0) {
            $document = self::withKinds($document);
        }

        return self::isKnown($document['format'] ?? null) ? ['format' => Material::FORMAT] + $document : $document;
    }

    /**
     * From 1 to 2: parameters were numbers, and did not say so.
     *
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    private static function withKinds(array $document): array
    {
        $parameters = $document['parameters'] ?? null;
        if (\is_array($parameters)) {
            $document['parameters'] = array_map(static fn (mixed $one): mixed => \is_array($one) ? $one + ['kind' => ParameterKind::Number->value] : $one, $parameters);
        }

        return $document;
    }
}
