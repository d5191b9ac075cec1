<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Http\Body;
use Rilta\App\Http\Problem;
use Rilta\App\Service\Importer;
use Rilta\App\Service\MapFiles;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class MapController extends Api
{
    private const MOST_MAPS = 200;

    /** Looks at one uploaded file. Files come one by one, so that each has its own progress and its own refusal. */
    #[Route('/api/projects/{slug}/uploads', methods: ['POST'])]
    public function upload(string $slug, Request $request, Importer $importer): JsonResponse
    {
        $this->project($slug);
        // Browsers send this header across origins only after asking, and we never say yes.
        if (!$request->headers->has('X-Rilta')) {
            throw Problem::malformed('Send the header X-Rilta: 1 with an upload.');
        }
        $file = $request->files->get('file');
        if (!$file instanceof UploadedFile) {
            throw Problem::malformed('Send the image as the form field "file".');
        }
        $name = mb_scrub(mb_substr(basename(str_replace('\\', '/', $file->getClientOriginalName())), 0, 200));
        if (\in_array($file->getError(), [\UPLOAD_ERR_INI_SIZE, \UPLOAD_ERR_FORM_SIZE], true)) {
            throw UnreadableMap::tooManyBytes($name, (int) $request->headers->get('Content-Length', (string) ImageFile::MOST_BYTES));
        }
        if (!$file->isValid()) {
            throw Problem::malformed("$name did not arrive whole; send it again.");
        }

        return $this->json($importer->look($file->getPathname(), $name), Response::HTTP_CREATED);
    }

    /** Keeps what was confirmed. */
    #[Route('/api/projects/{slug}/sets', methods: ['POST'])]
    public function keep(string $slug, Request $request, Importer $importer): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $bySet = [];
        foreach ($body->objects('maps', self::MOST_MAPS) as $i => $map) {
            $set = NameGuess::slug($map->text('set', 80));
            $role = Role::tryFrom($map->text('role', 20));
            $encoding = Encoding::tryFrom($map->text('encoding', 10));
            if ($role === null || $encoding === null) {
                throw Problem::invalid('A map has no known role or encoding.', [['path' => "/maps/$i", 'message' => 'expected a role and an encoding of the catalogue']]);
            }
            $bySet[$set]['extent'] = $map->number('extent', 0.001, 10000.0);
            $bySet[$set]['maps'][] = ['file' => $map->text('file', 200), 'sha256' => $map->text('sha256', 64), 'role' => $role, 'encoding' => $encoding];
        }
        $sets = [];
        $refused = [];
        foreach ($bySet as $name => $one) {
            $result = $importer->keep($project, (string) $name, $one['extent'], $one['maps']);
            array_push($refused, ...$result['refused']);
            if ($result['set'] !== null) {
                $sets[] = ProjectController::set($result['set']);
            }
        }

        return $this->json(['sets' => $sets, 'refused' => $refused], Response::HTTP_CREATED);
    }

    #[Route('/api/maps/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, Request $request): JsonResponse
    {
        $map = $this->find(MapRecord::class, $id, 'map');
        $body = Body::of($request);
        if ($body->has('role')) {
            $role = Role::tryFrom($body->text('role', 20)) ?? throw Problem::invalid('There is no such role.', [['path' => '/role', 'message' => 'expected a role of the catalogue']]);
            foreach ($map->set->maps as $other) {
                if ($other !== $map && $other->role === $role) {
                    throw Problem::invalid(\sprintf('%s is the %s of %s already.', $other->file, $role->label(), $map->set->name));
                }
            }
            $map->role = $role;
            $map->encoding = $role->encoding();
        }
        if ($body->has('encoding')) {
            $map->encoding = Encoding::tryFrom($body->text('encoding', 10)) ?? throw Problem::invalid('Expected "colour" or "data".', [['path' => '/encoding', 'message' => 'expected "colour" or "data"']]);
        }
        if ($body->has('extent')) {
            $map->set->extent = $body->number('extent', 0.001, 10000.0);
        }
        $this->entities->flush();

        return $this->json(ProjectController::set($map->set));
    }

    #[Route('/api/maps/{id}/texels-{key}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function texels(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->compressedPath($this->find(MapRecord::class, $id, 'map')), 'application/octet-stream', 'gzip');
    }

    #[Route('/api/maps/{id}/thumbnail-{key}.webp', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function thumbnail(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->thumbnailPath($this->find(MapRecord::class, $id, 'map')), 'image/webp');
    }
}
