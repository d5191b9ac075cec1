<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Judge\LeftOut;
use Rilta\Core\Judge\Patch;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;

/** What can be said of a document with the maps of its project. */
final readonly class Judging
{
    /** Of what is kept; another, and nothing of before is. */
    private const EDITION = 1;

    public function __construct(private Answers $answers, private Reader $reader, private MapFiles $files, private Compiler $compiler)
    {
    }

    /**
     * How much of the surface comes again, by distance.
     *
     * @param string $variant "" for the material as it is written
     * @param string $without JSON Pointer to a step that is left out; "" for none
     * @param bool   $fine    whether at more distances
     *
     * @return string JSON
     *
     * @throws Refusal if there is no such step
     */
    public function repetition(Project $project, mixed $document, string $variant, string $without, bool $fine): string
    {
        return $this->answers->json($fine ? 'repetition-fine' : 'repetition', self::EDITION, $project, [$document, $variant, $without], fn (): array => $this->curve($project, $document, $variant, $without, $fine) + ['fine' => $fine]);
    }

    /** @return array<string, mixed> */
    private function curve(Project $project, mixed $document, string $variant, string $without, bool $fine): array
    {
        if ($without !== '') {
            try {
                $document = LeftOut::step($document, $without);
            } catch (InvalidDocument $e) {
                throw Refusal::invalid('There is no such step to leave out.', [['path' => '/without', 'message' => $e->problems[0]->message]]);
            }
        }
        $material = $this->reader->salvage($document)->material;
        if (\is_array($document) && $material->variants->find($variant) !== null) {
            $material = $this->reader->salvage($material->variants->applied($document, $variant))->material;
        }
        $maps = $this->files->of($project);
        $patch = new Patch(Lowering::salvage($material, $maps), $maps, $this->compiler);

        $curve = RepetitionCurve::of($patch, distances: $fine ? RepetitionCurve::MANY : RepetitionCurve::FEW);
        $noticed = $curve->noticed();

        return [
            'places' => $curve->places,
            'worst' => $curve->worst(),
            'noticed' => $noticed === null ? null : ['from' => $noticed[0], 'to' => $noticed[1]],
            'threshold' => RepetitionCurve::NOTICED,
            'plane' => $patch->plane,
        ];
    }
}
