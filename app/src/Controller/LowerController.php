<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\LowerBody;
use Rilta\App\Http\Payload\MaterialBody;
use Rilta\App\Http\Payload\Sight;
use Rilta\App\Http\Payload\VariantCsv;
use Rilta\App\Security\Needs;
use Rilta\App\Service\LoweredCode;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\ProjectPaints;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\VariantTable;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Variant;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\Reading;
use Rilta\Core\Probe\Stop;
use Rilta\Core\Stage\RayCast;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Documents in, shaders and trails out. Nothing is stored.
 *
 * @phpstan-import-type LoweredJson from LoweredCode
 * @phpstan-import-type MultipassAnswerJson from LoweredCode
 * @phpstan-import-type VariantJson from Variant
 *
 * @phpstan-type TrailJson array{
 *     object: ?array{
 *         id: string,
 *         name: string,
 *         section: string, // of its mesh
 *     },
 *     position?: array{float, float, float},
 *     normal?: array{float, float, float}, // of the mesh, in the world
 *     stops: list<array{path: string, label: string, readings: list<Reading>}>,
 *     text: string,
 * }
 */
final class LowerController extends Api
{
    /** @return Answer<200, LoweredJson> */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/lower', methods: ['POST'])]
    public function lower(string $slug, #[MapRequestPayload('json')] LowerBody $body, LoweredCode $code): Answer
    {
        return self::timed(fn (): string => $code->json($this->project($slug), $body->document, $body->far));
    }

    /** @return Answer<200, MultipassAnswerJson> */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/multipass', methods: ['POST'])]
    public function multipass(string $slug, #[MapRequestPayload('json')] MaterialBody $body, LoweredCode $code): Answer
    {
        return self::timed(fn (): string => $code->multipass($this->project($slug), $body->document));
    }

    /**
     * An answer that says how long it took.
     *
     * @param \Closure(): string $json
     *
     * @return Answer<200, never>
     */
    private static function timed(\Closure $json): Answer
    {
        $start = hrtime(true);
        $answer = Answer::text($json());
        $answer->headers->set('Server-Timing', \sprintf('lower;dur=%.1f', (hrtime(true) - $start) / 1e6));

        return $answer;
    }

    /** @return Answer<200, TrailJson> */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/probe', methods: ['POST'])]
    public function probe(string $slug, #[MapRequestPayload('json')] Sight $sight, Reader $reader, MapFiles $files, Compiler $compiler, OwnMeshes $meshes, ProjectPaints $paints): Answer
    {
        $project = $this->project($slug);
        $maps = $files->of($project);
        [$eye, $ray, $right, $down] = array_map(static fn (array $one): array => array_map(floatval(...), $one), [$sight->eye, $sight->ray, $sight->rayRight, $sight->rayDown]);
        if ($ray === [0.0, 0.0, 0.0]) {
            throw Refusal::invalid('A line of sight needs a direction.', [['path' => '/ray', 'message' => 'expected a direction']]);
        }
        $seen = RayCast::along(Stage::read($sight->stage, $meshes->of($project), $paints), self::triple($eye), [self::triple($ray), self::triple($right), self::triple($down)]);
        if ($seen === null) {
            return new Answer(['object' => null, 'stops' => [], 'text' => '']);
        }
        $wear = $seen[0]->worn($seen[2]);
        $other = $this->worn($project, $wear->material);
        $document = $other ?? $sight->document;
        $material = $reader->salvage($document)->material;
        // What an object wears goes before what the stage shows; one that this material does not have is not worn.
        $variant = $material->variants->find($wear->variant)->id ?? ($other === null ? $sight->variant : '');
        if ($variant !== '' && \is_array($document)) {
            $material = $reader->salvage($material->variants->applied($document, $variant))->material;
        }
        $worn = Lowering::salvage($material, $maps);
        $trail = (new Probe($compiler, $maps))->trail($worn, $seen[1], $sight->seconds);

        return new Answer([
            'object' => ['id' => $seen[0]->id, 'name' => $seen[0]->name, 'section' => $seen[2]],
            'position' => self::triple($seen[1]->inputs['position']),
            'normal' => self::triple($seen[1]->inputs['normal']),
            'stops' => array_map(static fn (Stop $s): array => ['path' => $s->path, 'label' => $s->label, 'readings' => $s->readings], $trail->stops),
            'text' => $trail->text(),
        ]);
    }

    /** The document of the material that an object wears in place of the one that is shown; null if it wears that, or one that there is no more. */
    private function worn(Project $project, ?int $wears): mixed
    {
        $record = $wears === null ? null : $this->entities->getRepository(MaterialRecord::class)->findOneBy(['id' => $wears, 'project' => $project, 'deletedAt' => null]);

        return $record === null ? null : json_decode($record->document, true, 512, \JSON_THROW_ON_ERROR);
    }

    /**
     * @param array<float> $three
     *
     * @return array{float, float, float}
     */
    private static function triple(array $three): array
    {
        return [$three[0] ?? 0.0, $three[1] ?? 0.0, $three[2] ?? 0.0];
    }

    /**
     * The variants of a document as a table of comma-separated values.
     *
     * @return Answer<200, array{csv: string}>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/variant-table', methods: ['POST'])]
    public function table(#[MapRequestPayload('json')] MaterialBody $body, Reader $reader): Answer
    {
        return new Answer(['csv' => VariantTable::csv($reader->salvage($body->document)->material)]);
    }

    /**
     * The other way: variants from a table, for the document that it is a table of.
     *
     * @return Answer<200, array{variants: list<VariantJson>}>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/variant-table/read', methods: ['POST'])]
    public function variants(#[MapRequestPayload('json')] VariantCsv $table, Reader $reader): Answer
    {
        $variants = array_map(static fn (array $one): array => (new Variant('', ...$one))->document(), VariantTable::read($reader->salvage($table->document)->material, trim($table->csv)));

        return new Answer(['variants' => $variants]);
    }
}
