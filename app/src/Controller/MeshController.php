<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Psr\Cache\CacheItemPoolInterface;
use Rilta\App\Entity\MeshRecord;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\FacesBody;
use Rilta\App\Http\Payload\MeshChange;
use Rilta\App\Http\Payload\MeshEditBody;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Derived;
use Rilta\App\Service\EditWatch;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\ProjectPaints;
use Rilta\App\Service\Quota;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\GlbFile;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\ReadyMade;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Meshes: what browsers draw of them, and those that projects bring.
 *
 * @phpstan-import-type OwnMeshJson from OwnMeshes
 */
final class MeshController extends Api
{
    /** Files that may come at once. */
    private const MOST_FILES = 50;

    public function __construct(EntityManagerInterface $entities, private readonly OwnMeshes $meshes)
    {
        parent::__construct($entities);
    }

    /** @return Answer<200, array{meshes: list<OwnMeshJson>}> */
    #[Route('/api/projects/{slug}/meshes', methods: ['GET'])]
    public function list(string $slug): Answer
    {
        return new Answer(['meshes' => array_map($this->meshes->described(...), [...$this->meshes->all($project = $this->project($slug)), ...$this->meshes->standing($project)])]);
    }

    /**
     * Changes the mesh that an object has: answers another, and what is painted on that.
     *
     * @return Answer<201, array{
     *     mesh: OwnMeshJson,
     *     paint: ?string, // what objects have for what is painted
     * }>
     */
    #[Route('/api/projects/{slug}/mesh-edits', methods: ['POST'])]
    public function edit(string $slug, #[MapRequestPayload('json')] MeshEditBody $body, ProjectPaints $paints, Quota $quota, CacheItemPoolInterface $editNotes): Answer
    {
        $project = $this->project($slug);
        $paint = $body->paint === null ? '' : $paints->paint($body->paint) ?? throw Refusal::notFound("paint $body->paint");
        $watch = new EditWatch($editNotes, $body->watch ?? '');
        try {
            [$record, $carried] = $this->meshes->edited($project, $body->mesh, $body->edit, $paint, $watch);
        } finally {
            $watch->over();
        }
        $quota->room($project, \strlen($carried));

        return new Answer(['mesh' => $this->meshes->described($record), 'paint' => $carried === '' ? null : $paints->keep($carried)], Response::HTTP_CREATED);
    }

    /**
     * How far a change of a mesh is that takes long: 0…1; null before it has begun, and when it is over.
     *
     * @return Answer<200, array{
     *     share: ?float, // 0…1; null if nothing is known of it
     * }>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/mesh-edits/{watch}', methods: ['GET'], requirements: ['watch' => '[\w-]{8,64}'])]
    public function editing(string $watch, CacheItemPoolInterface $editNotes): Answer
    {
        return new Answer(['share' => (new EditWatch($editNotes, $watch))->share()]);
    }

    /** Gives up a change of a mesh that takes too long: the mesh stays as it is. */
    #[Needs(Right::SignedIn)]
    #[Route('/api/mesh-edits/{watch}', methods: ['DELETE'], requirements: ['watch' => '[\w-]{8,64}'])]
    public function giveUp(string $watch, CacheItemPoolInterface $editNotes): Response
    {
        (new EditWatch($editNotes, $watch))->giveUp();

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /**
     * Takes meshes in, each with the files that belong to it; the form field "replaces" names the mesh whose place one takes.
     *
     * @return Answer<201, array{
     *     meshes: list<OwnMeshJson>,
     *     refused: list<array{file: string, reason: string}>,
     *     lost: list<string>, // sections that the mesh had whose place was taken, and has no more
     * }>
     */
    #[Route('/api/projects/{slug}/meshes', methods: ['POST'])]
    public function bring(string $slug, Request $request): Answer
    {
        $project = $this->project($slug);
        $files = self::sent($request, 'the mesh', self::MOST_FILES);
        $name = $request->request->all()['replaces'] ?? '';
        $replaced = $name === '' ? null : $this->own(\is_string($name) ? $name : '');
        if ($replaced !== null && $replaced->project !== $project) {
            throw Refusal::notFound('mesh of that name in this project');
        }
        if ($replaced !== null && $replaced->edits !== []) {
            throw Refusal::invalid("$replaced->label was made by working on another mesh: bring the file as a mesh of its own.");
        }
        $result = $this->meshes->bring($project, $files, $replaced);

        return new Answer(['meshes' => array_map($this->meshes->described(...), $result['meshes'])] + $result, Response::HTTP_CREATED);
    }

    /**
     * Which triangles are meant, as runs of them; nothing is stored.
     *
     * @return Answer<200, array{
     *     runs: list<array{int, int}>, // the first triangle of each, and how many follow each other
     * }>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/mesh-faces', methods: ['POST'])]
    public function faces(string $slug, #[MapRequestPayload('json')] FacesBody $body): Answer
    {
        return new Answer(['runs' => $this->meshes->faces($this->project($slug), $body->mesh, $body->faces)]);
    }

    /** A mesh with what was painted on it as the colours of its vertices. */
    #[Route('/api/meshes/{name}/painted/{paint}', requirements: ['paint' => '[0-9a-f]{64}'], methods: ['GET'])]
    public function coloured(string $name, string $paint, ProjectPaints $paints): Response
    {
        $ready = ReadyMade::tryFrom($name);
        $record = $ready === null ? $this->own($name) : null;
        $mesh = $ready?->mesh() ?? $this->meshes->mesh($this->own($name));
        $label = $ready?->label() ?? $record->label ?? '';
        $bytes = $paints->paint($paint) ?? throw Refusal::notFound("paint $paint");
        $coloured = $mesh->painted($bytes) ?? throw Refusal::invalid("What was painted is not of $label as it is: it has other vertices.");
        $response = new Response(GlbFile::of($coloured, $label), headers: ['Content-Type' => 'model/gltf-binary']);
        $response->headers->set('Content-Disposition', $response->headers->makeDisposition('attachment', "$label.glb", 'mesh.glb'));

        return $response;
    }

    /**
     * Keeps what was painted on an object: four bytes a vertex.
     *
     * @return Answer<201, array{
     *     paint: string, // what objects have for it
     * }>
     */
    #[Route('/api/projects/{slug}/paints', methods: ['POST'])]
    public function paint(string $slug, Request $request, ProjectPaints $paints, Quota $quota): Answer
    {
        $project = $this->project($slug);
        $bytes = $request->getContent();
        if ($bytes === '' || \strlen($bytes) % 4 !== 0 || \strlen($bytes) > ProjectPaints::MOST_BYTES) {
            throw Refusal::invalid(\sprintf('What is painted has four bytes a vertex, of at most %d vertices; %d bytes were sent.', ProjectPaints::MOST_BYTES / 4, \strlen($bytes)));
        }
        $quota->room($project, \strlen($bytes));

        return new Answer(['paint' => $paints->keep($bytes)], Response::HTTP_CREATED);
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/paints/{name}', requirements: ['name' => '[0-9a-f]{64}'], methods: ['GET'])]
    public function painted(string $name, ProjectPaints $paints): Response
    {
        $bytes = $paints->paint($name) ?? throw Refusal::notFound("paint $name");

        return (new Response($bytes, headers: ['Content-Type' => 'application/octet-stream']))->setPublic()->setMaxAge(31536000)->setImmutable();
    }

    #[Route('/api/meshes/{name}', methods: ['GET'])]
    public function file(string $name, Request $request, Derived $derived): BinaryFileResponse
    {
        $ready = ReadyMade::tryFrom($name);
        if ($ready !== null) {
            // The file is another as soon as the code that makes it is.
            $path = $derived->file("meshes/$name-" . ReadyMade::edition() . '.glb', static fn (): string => GlbFile::of($ready->mesh(), $ready->label()));

            return (new BinaryFileResponse($path, headers: ['Content-Type' => 'model/gltf-binary']))->setMaxAge(300);
        }
        $path = $this->meshes->drawn($this->own($name));
        $response = new BinaryFileResponse($path, headers: ['Content-Type' => 'model/gltf-binary', 'Cache-Control' => 'private, no-cache']);
        $response->setEtag(hash('xxh128', basename($path)))->isNotModified($request);

        return $response;
    }

    /** @return Answer<200, OwnMeshJson> */
    #[Route('/api/meshes/{name}', methods: ['PATCH'])]
    public function change(string $name, #[MapRequestPayload('json')] MeshChange $change): Answer
    {
        $record = $this->own($name);
        if ($change->label !== null) {
            $label = trim($change->label);
            $record->label = $label !== '' ? $label : throw Refusal::invalid('A mesh needs a name.', [['path' => '/label', 'message' => 'expected 1 to 120 characters']]);
        }
        if ($change->kept !== null) {
            $record->worked = $record->recipe !== null && !$change->kept;
        }
        if ($change->deleted !== null) {
            $record->deletedAt = $change->deleted ? new \DateTimeImmutable() : null;
        }
        if ($change->options !== null) {
            $said = $change->options;
            try {
                $this->meshes->reread($record, new MeshOptions($said->scale, $said->up, $said->turned, $said->crease));
            } catch (UnreadableMesh $e) {
                throw Refusal::invalid($e->getMessage());
            }
        }
        $this->entities->flush();

        return new Answer($this->meshes->described($record));
    }

    /**
     * An earlier version once more, as the latest.
     *
     * @return Answer<200, OwnMeshJson>
     */
    #[Route('/api/meshes/{name}/versions/{number}', requirements: ['number' => '\d{1,9}'], methods: ['POST'])]
    public function revert(string $name, int $number): Answer
    {
        $record = $this->own($name);
        $this->meshes->revert($record, $number);

        return new Answer($this->meshes->described($record));
    }

    /** A file of a mesh as it came. */
    #[Route('/api/meshes/{name}/files/{number}', requirements: ['number' => '\d{1,2}'], methods: ['GET'])]
    public function source(string $name, int $number): Response
    {
        [$bytes, $file] = $this->meshes->source($this->own($name), $number);
        $response = new Response($bytes, headers: ['Content-Type' => 'application/octet-stream']);
        $response->headers->set('Content-Disposition', $response->headers->makeDisposition('attachment', $file, 'mesh'));

        return $response;
    }

    private function own(string $name): MeshRecord
    {
        return $this->meshes->named($name) ?? throw Refusal::notFound("mesh \"$name\"");
    }
}
