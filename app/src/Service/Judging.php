<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Judge\Cost;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\LeftOut;
use Rilta\Core\Judge\Patch;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Judge\RepetitionAt;
use Rilta\Core\Judge\RepetitionCurve;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Rules;
use Rilta\Core\Judge\Savings;
use Rilta\Core\Judge\StageSamples;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Target\Php\Compiler;

/**
 * What can be said of a document with the maps of its project.
 *
 * @phpstan-type RepetitionJson array{
 *     fine: bool,
 *     places: list<RepetitionAt>,
 *     worst: RepetitionAt,
 *     noticed: ?array{from: float, to: float}, // metres between which it is noticed
 *     threshold: float, // the score from which on a repeat is noticed
 *     plane: array{right: array{float, float, float}, down: array{float, float, float}, normal: array{float, float, float}}, // the surface that is looked at, square on
 * }
 * @phpstan-type FindingsJson array{findings: list<JudgedFindingJson>}
 * @phpstan-type JudgedFindingJson array{
 *     code: string,
 *     label: string,
 *     why: string,
 *     severity: 'wrong'|'doubtful'|'note',
 *     path: string, // JSON Pointer
 *     text: string,
 *     fix: array{
 *         label: string,
 *         operations: list<array{op: 'add'|'replace'|'remove', path: string, value?: mixed}>, // JSON Patch (RFC 6902)
 *     }|null,
 *     map: ?array{
 *         id: int,
 *         name: string,
 *         mend: string, // what could be done to the map; "" for nothing
 *         label: string,
 *     },
 * }
 * @phpstan-type CostsJson array{
 *     whole: Cost,
 *     saves: JsonObject<Cost>, // what it would save to switch a part off, by JSON Pointer
 *     over: JsonObject<JsonObject<array{int, int}>>, // by budget: what it is, and what it may be, by what
 * }
 */
final readonly class Judging
{
    /** Of what is kept; another, and nothing of before is. */
    private const EDITION = 2;

    public function __construct(private Answers $answers, private Reader $reader, private MapFiles $files, private Compiler $compiler, private OwnMeshes $meshes, private ProjectPaints $paints)
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
        $material = $this->worn($document, $variant);
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

    /**
     * What is wrong, doubtful, or good to know.
     *
     * @param mixed  $stage   that it is judged on; null for none
     * @param string $profile name of a budget; "" for none
     *
     * @return string JSON
     *
     * @throws Refusal if there is no such budget
     */
    public function findings(Project $project, mixed $document, string $variant, mixed $stage, string $profile): string
    {
        $budgets = Budgets::of($project);
        $budget = $profile === '' ? null : $budgets[$profile] ?? throw Refusal::invalid('There is no such budget.', [['path' => '/profile', 'message' => 'expected ' . implode(', ', array_keys($budgets))]]);

        return $this->answers->json('findings', self::EDITION, $project, [$document, $variant, $stage, $budget?->document()], function () use ($project, $document, $variant, $stage, $budget): array {
            $material = $this->worn($document, $variant);
            $maps = $this->files->of($project);
            $known = [];
            foreach (Lowering::salvage($material, $maps)->facts as $name => $map) {
                $known[$name] = $maps->record($name)->findings();
            }
            $samples = $stage === null ? null : StageSamples::of(Stage::read($stage, $this->meshes->of($project), $this->paints), null, $material->cover->isTwoSided());
            $subject = new Subject(\is_array($document) ? $document : [], $material, $maps, $this->compiler, $known, $samples, $budget);

            return ['findings' => array_map(static fn (array $one): array => self::told($one[0], $one[1], $maps), Rules::found($this->reader, $subject))];
        });
    }

    /** @return string JSON: what it costs, and what it would save to switch a part off */
    public function costs(Project $project, mixed $document): string
    {
        return $this->answers->json('costs', self::EDITION, $project, [$document, $project->budgets], function () use ($project, $document): array {
            $maps = $this->files->of($project);
            $cost = Cost::of(Lowering::salvage($this->worn($document, ''), $maps));

            return ['whole' => $cost, 'saves' => new JsonObject(\is_array($document) ? (new Savings($this->reader, $maps))->of($document) : []), 'over' => new JsonObject(array_map(static fn (Profile $one): JsonObject => new JsonObject($one->over($cost)), Budgets::of($project)))];
        });
    }

    /** @return JudgedFindingJson */
    private static function told(Rule $rule, Finding $finding, ProjectMaps $maps): array
    {
        return [
            'code' => $rule->code(),
            'label' => $rule->label(),
            'why' => $rule->help(),
            'severity' => ($finding->severity ?? $rule->severity())->value,
            'path' => $finding->path,
            'text' => $finding->text,
            'fix' => $finding->change === null ? null : ['label' => $finding->fix, 'operations' => $finding->change->operations],
            'map' => $finding->map === '' ? null : ['id' => $maps->record($finding->map)->id(), 'name' => $finding->map, 'mend' => $finding->mend, 'label' => $finding->fix],
        ];
    }

    private function worn(mixed $document, string $variant): Material
    {
        $material = $this->reader->salvage($document)->material;

        return \is_array($document) && $material->variants->find($variant) !== null ? $this->reader->salvage($material->variants->applied($document, $variant))->material : $material;
    }
}
