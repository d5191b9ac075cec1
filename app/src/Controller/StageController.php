<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\CopiesBody;
use Rilta\App\Http\Payload\Name;
use Rilta\App\Http\Payload\PaintFillBody;
use Rilta\App\Http\Payload\PaintMapBody;
use Rilta\App\Http\Payload\ScatterBody;
use Rilta\App\Http\Payload\StageBody;
use Rilta\App\Http\Payload\StageMark;
use Rilta\App\Http\Payload\StageStart;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Gate;
use Rilta\App\Service\Importer;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\ProjectPaints;
use Rilta\App\Service\Quota;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Stages;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\Png;
use Rilta\Core\Material\Role;
use Rilta\Core\Mesh\PaintRaster;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\PaintFill;
use Rilta\Core\Stage\Stage;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type StageJson from Stages
 * @phpstan-import-type StageObjectJson from Copies
 */
final class StageController extends Api
{
    private const LARGEST = 999_999_999;

    public function __construct(EntityManagerInterface $entities, private readonly Stages $stages, private readonly OwnMeshes $meshes)
    {
        parent::__construct($entities);
    }

    /** @return Answer<200, array{stages: list<array{id: int, name: string}>}> */
    #[Route('/api/projects/{slug}/stages', methods: ['GET'])]
    public function list(string $slug): Answer
    {
        return new Answer(['stages' => array_map(static fn (StageRecord $one): array => ['id' => $one->id(), 'name' => $one->name], $this->stages->all($this->project($slug)))]);
    }

    /** @return Answer<201, StageJson> */
    #[Route('/api/projects/{slug}/stages', methods: ['POST'])]
    public function create(string $slug, #[MapRequestPayload('json')] StageStart $start): Answer
    {
        $project = $this->project($slug);
        $document = $start->document ?? ($start->like === null ? Stage::first() : json_decode($this->stages->find($project, (int) $start->like)->document, true));

        return $this->answer($this->stages->create($project, trim($start->name), $document), Response::HTTP_CREATED);
    }

    /**
     * One of them: by its number, or that on which a material was last judged, or the first.
     *
     * @return Answer<200, StageJson>
     */
    #[Route('/api/projects/{slug}/stage', methods: ['GET'])]
    public function show(string $slug, Request $request): Answer
    {
        $project = $this->project($slug);
        $material = self::whole($request, 'material', self::LARGEST);

        return $this->answer($material > 0 ? $this->stages->of($project, $material) : $this->stages->find($project, self::whole($request, 'stage', self::LARGEST)));
    }

    /** @return Answer<200, StageJson> */
    #[Route('/api/projects/{slug}/stage', methods: ['PUT'])]
    public function save(string $slug, Request $request, #[MapRequestPayload('json')] StageBody $body, Security $security): Answer
    {
        $record = $this->stages->find($this->project($slug), self::whole($request, 'stage', self::LARGEST));
        $this->stages->save($record, $this->ifMatch($request), $body->document, self::key($request), $body->together, self::who($security));

        return $this->answer($record);
    }

    /** @return Answer<200, StageJson> */
    #[Route('/api/stages/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function rename(int $id, #[MapRequestPayload('json')] Name $name): Answer
    {
        $record = $this->find(StageRecord::class, $id, 'stage');
        $record->name = trim($name->name);
        $this->entities->flush();

        return $this->answer($record);
    }

    #[Route('/api/stages/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id): Response
    {
        $this->stages->delete($this->find(StageRecord::class, $id, 'stage'));

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /** A material is judged on another stage from now on. */
    #[Route('/api/materials/{id}/stage', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function mark(int $id, #[MapRequestPayload('json')] StageMark $mark): Response
    {
        $material = $this->find(MaterialRecord::class, $id, 'material');
        $material->stage = $this->stages->find($material->project, (int) $mark->stage);
        $this->entities->flush();

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /**
     * Copies of an object in a grid; nothing is stored.
     *
     * @return Answer<200, array{objects: list<StageObjectJson>}>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/stage/copies', methods: ['POST'])]
    public function copies(string $slug, #[MapRequestPayload('json')] CopiesBody $body): Answer
    {
        $object = Stage::read(['format' => Stage::FORMAT, 'objects' => [$body->object]], $this->meshes->of($this->project($slug)))->objects[0];
        if (array_product($body->counts) > Stage::MOST_OBJECTS - \count($body->taken) + 1) {
            throw Refusal::invalid(\sprintf('There would be more than %d objects.', Stage::MOST_OBJECTS), [['path' => '/counts', 'message' => \sprintf('expected copies for at most %d objects in all', Stage::MOST_OBJECTS)]]);
        }
        [$x, $y, $z] = $body->counts;
        [$alongX, $alongY, $alongZ] = array_map(floatval(...), $body->spacing);
        $copies = Copies::grid($object, [$x, $y, $z], [$alongX, $alongY, $alongZ], $body->place, $body->turn, $body->size, (int) $body->seed, $body->taken);

        return new Answer(['objects' => array_map(Copies::document(...), $copies)]);
    }

    /**
     * Copies of an object all over the surface of another; nothing is stored.
     *
     * @return Answer<200, array{objects: list<StageObjectJson>}>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/stage/scatter', methods: ['POST'])]
    public function scatter(string $slug, #[MapRequestPayload('json')] ScatterBody $body): Answer
    {
        $meshes = $this->meshes->of($this->project($slug));
        [$object, $over] = Stage::read(['format' => Stage::FORMAT, 'objects' => [$body->object, ['id' => 'over-it'] + (array) $body->over]], $meshes)->objects;
        if ($body->count > Stage::MOST_OBJECTS - \count($body->taken)) {
            throw Refusal::invalid(\sprintf('There would be more than %d objects.', Stage::MOST_OBJECTS), [['path' => '/count', 'message' => \sprintf('expected copies for at most %d objects in all', Stage::MOST_OBJECTS)]]);
        }
        $copies = Copies::over($object, $over, $meshes->mesh($over->mesh), (int) $body->count, $body->slope, $body->leans, $body->turn, $body->size, (int) $body->seed, $body->taken);
        if ($copies === []) {
            throw Refusal::invalid(\sprintf('Nothing of %s is level enough.', $over->name), [['path' => '/slope', 'message' => 'expected an angle that some of its surface has']]);
        }

        return new Answer(['objects' => array_map(Copies::document(...), $copies)]);
    }

    /**
     * Paints a channel of an object by what its surface is like; the stage is told by whoever asks.
     *
     * @return Answer<201, array{
     *     paint: string, // what objects have for it
     * }>
     */
    #[Route('/api/projects/{slug}/stage/paint-fills', methods: ['POST'])]
    public function fill(string $slug, #[MapRequestPayload('json')] PaintFillBody $body, ProjectPaints $paints, Quota $quota): Answer
    {
        $project = $this->project($slug);
        $meshes = $this->meshes->of($project);
        $object = Stage::read(['format' => Stage::FORMAT, 'objects' => [$body->object]], $meshes, $paints)->objects[0];
        $fill = new PaintFill($body->by, $body->value, $body->from, $body->to, $body->size, (int) $body->seed, $body->section);
        $paint = $fill->of($object, $meshes->mesh($object->mesh), $object->paint === '' ? '' : $paints->paint($object->paint) ?? '', (int) $body->channel - 1);
        $quota->room($project, \strlen($paint));

        return new Answer(['paint' => $paints->keep($paint)], Response::HTTP_CREATED);
    }

    /**
     * Makes a map of what was painted on an object, in one of its sets of UVs.
     *
     * @return Answer<201, array{
     *     set: string, // the set of which it is the mask
     * }>
     */
    #[Route('/api/projects/{slug}/stage/paint-maps', methods: ['POST'])]
    public function paintMap(string $slug, #[MapRequestPayload('json')] PaintMapBody $body, ProjectPaints $paints, Importer $importer, Gate $gate, Quota $quota): Answer
    {
        $project = $this->project($slug);
        $meshes = $this->meshes->of($project);
        $object = Stage::read(['format' => Stage::FORMAT, 'objects' => [$body->object]], $meshes, $paints)->objects[0];
        $paint = $object->paint === '' ? null : $paints->paint($object->paint);
        if ($paint === null) {
            throw Refusal::invalid("Nothing is painted on $object->name.", [['path' => '/object/paint', 'message' => 'expected what is painted']]);
        }
        try {
            $mesh = $meshes->mesh($object->mesh);
            $texels = $gate->through(\strlen($mesh->indices), static fn (): string => PaintRaster::of($mesh, $paint, (int) $body->channel - 1, (int) $body->set - 1, (int) $body->size));
        } catch (\LengthException $e) {
            throw Refusal::invalid("$object->name makes no map: {$e->getMessage()}.");
        }
        $file = ImageFile::fromBytes(Png::bytes((int) $body->size, (int) $body->size, 1, $texels), "$body->name mask.png");
        $quota->room($project, \strlen($file->bytes));
        $image = $importer->describe($file, "painted on $object->name");
        $kept = $importer->keep($project, $body->name, 1.0, [['file' => $file->name, 'sha256' => $image->sha256, 'role' => Role::Mask, 'encoding' => Role::Mask->encoding(), 'inverted' => false, 'channels' => []]]);

        return new Answer(['set' => $kept['set']->name ?? throw Refusal::invalid($kept['refused'][0]['reason'] ?? 'It was not kept.')], Response::HTTP_CREATED);
    }

    /**
     * @template S of int
     *
     * @param S $status
     *
     * @return Answer<S, StageJson>
     */
    private function answer(StageRecord $record, int $status = Response::HTTP_OK): Answer
    {
        return new Answer(Stages::described($record), $status, $record->version);
    }
}
