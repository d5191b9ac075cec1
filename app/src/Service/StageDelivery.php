<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Deliver\Deliverable;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Format\NameGuess;

/** Objects of a stage with what they wear baked into their UVs, as files for others: here, or by another server. */
final readonly class StageDelivery implements Deliverable
{
    /**
     * @param string                                                   $stage    its name
     * @param string                                                   $document of it, JSON
     * @param string                                                   $variant  in which the material that is open is worn
     * @param \Closure(\Closure(int, int): void): array{string, mixed} $bake     makes the GLB file, and tells what was found out
     */
    public function __construct(private string $stage, private string $document, private string $variant, private \Closure $bake)
    {
    }

    public function name(): string
    {
        return NameGuess::slug($this->stage) . '-stage';
    }

    public function of(): array
    {
        return ['material' => $this->stage, 'variant' => $this->variant];
    }

    /** @throws Interrupted if it is told to end; nothing of it is left then */
    public function files(\Closure $progress): \Generator
    {
        [$glb, $told] = ($this->bake)($progress);
        yield NameGuess::slug($this->stage) . '.glb' => ['objects with what they wear baked into their UVs, glTF 2.0', $glb];
        yield 'stage.json' => ['where all of them stand (rilta-stage/2)', $this->document];

        return array_intersect_key(\is_array($told) ? $told : [], ['objects' => 0, 'parts' => 0, 'variants' => 0, 'notInGltf' => 0, 'doubled' => 0]);
    }

    public function manifest(array $files, array $told, string $source): string
    {
        return json_encode(['format' => Delivery::MANIFEST, ...$this->of(), 'profile' => 'stage', 'source' => $source, 'code' => [], ...$told, 'files' => $files], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }
}
