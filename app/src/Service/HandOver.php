<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\PartialRead;
use Rilta\Core\Material\Reader;
use Rilta\Core\Probe\LayersAt;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Sidecar;
use Rilta\Core\Target\Targets;

/**
 * What of a material leaves for others: its code, and what lies where.
 *
 * @phpstan-import-type ShaderSidecarJson from Sidecar
 *
 * @phpstan-type MaterialCodeJson array{file: string, code: string, sidecar: ShaderSidecarJson}
 * @phpstan-type LayersAtJson array{layers: list<array{id: string, name: string, path: string}>, weights: list<list<float>>}
 */
final readonly class HandOver
{
    public function __construct(private Reader $reader, private MapFiles $files, private Compiler $compiler)
    {
    }

    /**
     * A material as code, and what a host has to know of it.
     *
     * @return MaterialCodeJson
     *
     * @throws Refusal         if there is no such language, or the prefix is no beginning of names
     * @throws InvalidDocument
     */
    public function code(Project $project, mixed $document, string $variant, string $target, string $prefix, bool $arrays, bool $harness): array
    {
        $language = Targets::all()[$target] ?? throw Refusal::invalid('There is no such language.', [['path' => '/target', 'message' => 'expected one of ' . implode(', ', array_keys(Targets::all()))]]);
        $read = $this->worn($document, $variant);
        $lowered = Lowering::lower($read->material, $this->files->of($project));
        $sidecar = new Sidecar($read, $lowered);
        try {
            $options = new Options($prefix, $arrays, $harness, $sidecar->notes(), $read->material->name);
        } catch (\InvalidArgumentException $e) {
            throw Refusal::invalid($e->getMessage(), [['path' => '/prefix', 'message' => $e->getMessage()]]);
        }
        $file = "$prefix.{$language->extension()}";

        return ['file' => $file, 'code' => $language->program($lowered, $options), 'sidecar' => $sidecar->describe($language, $options, $file)];
    }

    /**
     * Which layers lie at points, and how much of each is seen there.
     *
     * @param list<list<float>> $points x, y, z, and the direction that the surface faces, if it is said
     *
     * @return LayersAtJson
     *
     * @throws Refusal         if a direction is none
     * @throws InvalidDocument
     */
    public function layersAt(Project $project, mixed $document, string $variant, array $points, float $seconds): array
    {
        $samples = [];
        foreach ($points as $i => $numbers) {
            $numbers = array_map(floatval(...), $numbers);
            if (!\in_array(\count($numbers), [3, 6], true) || \array_slice($numbers, 3) === [0.0, 0.0, 0.0]) {
                throw Refusal::invalid('A point has a place and, if it is not upwards, a direction.', [['path' => "/points/$i", 'message' => 'expected 3 or 6 numbers, the last three of them not 0, 0, 0']]);
            }
            $samples[] = SurfaceSample::at([$numbers[0], $numbers[1], $numbers[2]], [$numbers[3] ?? 0.0, $numbers[4] ?? 1.0, $numbers[5] ?? 0.0]);
        }
        $maps = $this->files->of($project);
        $lowered = Lowering::lower($this->worn($document, $variant)->material, $maps);

        return ['layers' => LayersAt::layers($lowered), 'weights' => (new LayersAt($this->compiler, $maps))->weights($lowered, $samples, $seconds)];
    }

    /** @throws InvalidDocument if it has mistakes, or there is no such variant */
    private function worn(mixed $document, string $variant): PartialRead
    {
        $read = $this->reader->salvage($document);
        if ($read->problems === [] && $variant !== '' && \is_array($document)) {
            $read = $this->reader->salvage($read->material->variants->applied($document, $variant));
        }

        return $read->problems === [] ? $read : throw new InvalidDocument($read->problems);
    }
}
