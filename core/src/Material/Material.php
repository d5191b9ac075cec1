<?php

declare(strict_types=1);

namespace Rilta\Core\Material;

/** The document, read and checked. */
final readonly class Material
{
    public const FORMAT = 'rilta-material/1';

    /**
     * @param non-empty-list<Lane>  $lanes
     * @param non-empty-list<Layer> $layers from the ground up
     */
    public function __construct(public string $name, public array $lanes, public array $layers)
    {
    }
}
