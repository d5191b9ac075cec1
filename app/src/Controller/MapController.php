<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\Task;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Body;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Families;
use Rilta\App\Service\Importer;
use Rilta\App\Service\Library;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Mending;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Check\Fix;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\MapReading;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

final class MapController extends Api
{
    private const MOST_MAPS = 200;
    private const MOST_TAGS = 12;

    /** Looks at one uploaded file. Files come one by one, so that each has its own progress and its own refusal. */
    #[Route('/api/projects/{slug}/uploads', methods: ['POST'])]
    public function upload(string $slug, Request $request, Importer $importer): JsonResponse
    {
        $project = $this->project($slug);
        // Browsers send this header across origins only after asking, and we never say yes.
        if (!$request->headers->has('X-Rilta')) {
            throw Refusal::malformed('Send the header X-Rilta: 1 with an upload.');
        }
        $file = $request->files->get('file');
        if (!$file instanceof UploadedFile) {
            throw Refusal::malformed('Send the image, or a ZIP archive of images, as the form field "file".');
        }
        $name = mb_scrub(mb_substr(basename(str_replace('\\', '/', $file->getClientOriginalName())), 0, 200));
        if (\in_array($file->getError(), [\UPLOAD_ERR_INI_SIZE, \UPLOAD_ERR_FORM_SIZE], true)) {
            throw UnreadableMap::tooManyBytes($name, (int) $request->headers->get('Content-Length', (string) ImageFile::MOST_BYTES));
        }
        if (!$file->isValid()) {
            throw Refusal::malformed("$name did not arrive whole; send it again.");
        }

        return $this->json($importer->look($project, $file->getPathname(), $name), Response::HTTP_CREATED);
    }

    /** A page of the library. */
    #[Route('/api/projects/{slug}/sets', methods: ['GET'])]
    public function page(string $slug, Request $request, Library $library): JsonResponse
    {
        return $this->json($library->page($this->project($slug), self::said($request, 'words'), self::whole($request, 'faulty', 1) === 1, max(1, self::whole($request, 'page', 999999))));
    }

    /** What a set is tagged with. */
    #[Route('/api/sets/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function tag(int $id, Request $request, Library $library): JsonResponse
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        $set->tags = array_values(array_unique(array_filter(array_map(static fn (string $tag): string => NameGuess::slug($tag), Body::of($request)->texts('tags', self::MOST_TAGS, 40)))));
        $this->entities->flush();

        return $this->json($library->set($set));
    }

    /** Keeps what was confirmed. */
    #[Route('/api/projects/{slug}/sets', methods: ['POST'])]
    public function keep(string $slug, Request $request, Importer $importer, Library $library, Families $families): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $bySet = [];
        foreach ($body->objects('maps', self::MOST_MAPS) as $i => $map) {
            $set = NameGuess::slug($map->text('set', 80));
            $role = Role::tryFrom($map->text('role', 20));
            $encoding = Encoding::tryFrom($map->text('encoding', 10));
            if ($role === null || $encoding === null) {
                throw Refusal::invalid('A map has no known role or encoding.', [['path' => "/maps/$i", 'message' => 'expected a role and an encoding of the catalogue']]);
            }
            $bySet[$set]['extent'] = $map->number('extent', 0.001, 10000.0);
            $bySet[$set]['maps'][] = [
                'file' => $map->text('file', 200), 'sha256' => $map->text('sha256', 64), 'role' => $role, 'encoding' => $encoding,
                'inverted' => $map->has('inverted') && $map->flag('inverted') && $role->isScalar(),
                'channels' => $role === Role::Packed ? self::channels($map, "/maps/$i") : [],
            ];
        }
        $sets = [];
        $refused = [];
        foreach ($bySet as $name => $one) {
            $result = $importer->keep($project, (string) $name, $one['extent'], $one['maps']);
            array_push($refused, ...$result['refused']);
            if ($result['set'] !== null) {
                $sets[] = $result['set'];
            }
        }

        foreach (($body->has('families') ? $body->objects('families', self::MOST_MAPS) : []) as $one) {
            $name = $one->text('name', 80);
            $objection = $families->put($project, NameGuess::slug($name), array_map(NameGuess::slug(...), $one->texts('sets', Family::MOST)));
            if ($objection !== null) {
                $refused[] = ['file' => $name, 'reason' => "The family $name was not made: $objection."];
            }
        }

        return $this->json(['sets' => array_map($library->set(...), $sets), 'refused' => $refused], Response::HTTP_CREATED);
    }

    /** Which of these sets, that are not there yet, would be alternates of one another or of those that are. */
    #[Route('/api/projects/{slug}/alternates', methods: ['POST'])]
    public function alternates(string $slug, Request $request, Library $library): JsonResponse
    {
        $names = array_map(NameGuess::slug(...), Body::of($request)->texts('sets', self::MOST_MAPS));

        return $this->json($names === [] ? [] : $library->alternates($this->project($slug), array_values(array_unique($names))));
    }

    #[Route('/api/maps/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, Request $request, Library $library): JsonResponse
    {
        $map = $this->map($id);
        $body = Body::of($request);
        if ($body->has('role')) {
            $role = Role::tryFrom($body->text('role', 20)) ?? throw Refusal::invalid('There is no such role.', [['path' => '/role', 'message' => 'expected a role of the catalogue']]);
            $other = $map->set->of($role);
            if ($other !== null && $other !== $map) {
                throw Refusal::invalid(\sprintf('%s is the %s of %s already.', $other->image->file, lcfirst($role->label()), $map->set->name));
            }
            if (($role === Role::Packed) !== ($map->role === Role::Packed)) {
                throw Refusal::invalid(\sprintf('%s cannot become or cease to be packed; pack or unpack it.', $map->image->file), [['path' => '/role', 'message' => 'expected a role of one kind']]);
            }
            $map->reassign($role);
            $map->encoding = $role->encoding();
            $map->inverted = $map->inverted && $role->isScalar();
            $map->derived = false;
        }
        if ($body->has('encoding')) {
            $map->encoding = Encoding::tryFrom($body->text('encoding', 10)) ?? throw Refusal::invalid('Expected "colour" or "data".', [['path' => '/encoding', 'message' => 'expected "colour" or "data"']]);
            $map->derived = false;
        }
        if ($body->has('inverted')) {
            $map->inverted = $body->flag('inverted');
            if ($map->inverted && !$map->role->isScalar()) {
                throw Refusal::invalid(\sprintf('%s cannot be read inverted.', $map->role->label()), [['path' => '/inverted', 'message' => 'expected false']]);
            }
        }
        if ($body->has('sampling')) {
            $sampling = \is_array($body->any('sampling')) ? $body->any('sampling') : throw Refusal::invalid('"sampling": expected an object.', [['path' => '/sampling', 'message' => 'expected an object']]);
            $objection = Sampling::objection($sampling);
            if ($objection !== null) {
                throw Refusal::invalid("This is no sampling: {$objection['name']}: {$objection['message']}.", [['path' => '/sampling/' . $objection['name'], 'message' => $objection['message']]]);
            }
            $map->sampling = Sampling::of($sampling + $map->sampling)->describe();
        }
        if ($body->has('channels')) {
            $map->channels = $map->role === Role::Packed ? self::channels($body, '') : throw Refusal::invalid(\sprintf('%s is not packed.', $map->image->file), [['path' => '/channels', 'message' => 'expected none']]);
        }
        if ($body->has('extent')) {
            $map->set->extent = $body->number('extent', 0.001, 10000.0);
        }
        $this->entities->flush();

        return $this->json($library->set($map->set));
    }

    /** Does something about a map, which makes a new version. */
    #[Route('/api/maps/{id}/fix', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function fix(int $id, Request $request, Tasks $tasks, Library $library): JsonResponse
    {
        $map = $this->map($id);
        $fix = Fix::tryFrom(Body::of($request)->text('fix', 20)) ?? throw Refusal::invalid('There is no such fix.', [['path' => '/fix', 'message' => 'expected ' . implode(', ', array_column(Fix::cases(), 'value'))]]);
        $task = $tasks->run($map->set, TaskKind::Fix, ['map' => $id, 'fix' => $fix->value], $fix->label() . ': ' . $map->name(), $fix->isOfSet() ? $map->set->maps() : [$map]);

        return $this->made($task, $map->set, $library, Response::HTTP_OK);
    }

    #[Route('/api/maps/{id}/versions/{number}/restore', methods: ['POST'], requirements: ['id' => '\d{1,9}', 'number' => '\d{1,6}'])]
    public function restore(int $id, int $number, Mending $mending, Library $library): JsonResponse
    {
        $map = $this->map($id);
        $mending->restore($map, $number);

        return $this->json($library->set($map->set));
    }

    #[Route('/api/maps/{id}/unpack', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function unpack(int $id, Tasks $tasks, Library $library): JsonResponse
    {
        $map = $this->map($id);
        $task = $tasks->run($map->set, TaskKind::Unpack, ['map' => $id], 'Unpack ' . $map->name(), [$map]);

        return $this->made($task, $map->set, $library);
    }

    /** Makes a map that a set lacks. */
    #[Route('/api/sets/{id}/fill', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function fill(int $id, Request $request, Tasks $tasks, Library $library): JsonResponse
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        $body = Body::of($request);
        $role = Role::tryFrom($body->text('role', 20));
        $from = $body->has('from') ? Role::tryFrom($body->text('from', 20)) : null;
        if ($role === null || ($body->has('from') && $from === null) || ($from === null && !$role->isScalar())) {
            throw Refusal::invalid('This cannot be filled in.', [['path' => '/role', 'message' => 'expected a role of one value, or a role to make it from']]);
        }
        $source = $from === null ? null : $set->of($from);
        $task = $tasks->run($set, TaskKind::Fill, ['role' => $role->value, 'from' => $from?->value, 'value' => $from === null ? $body->number('value', 0.0, 1.0) : 0.0], $role->label() . " of $set->name", $source === null ? [] : [$source]);

        return $this->made($task, $set, $library);
    }

    /** Cuts the maps of a set into the parts of a sheet, or makes them whole again. */
    #[Route('/api/sets/{id}/sheet', methods: ['PUT', 'DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function cut(int $id, Request $request, Library $library): JsonResponse
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        try {
            $set->cut = $request->isMethod('DELETE') ? null : Cut::of(Body::of($request)->all())->describe();
        } catch (\InvalidArgumentException $e) {
            throw Refusal::invalid('This is no sheet: ' . $e->getMessage() . '.', [['path' => '', 'message' => $e->getMessage()]]);
        }
        $this->entities->flush();

        return $this->json($library->set($set));
    }

    /** Puts channels of maps into one new map. */
    #[Route('/api/sets/{id}/pack', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function pack(int $id, Request $request, Tasks $tasks, Library $library): JsonResponse
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        $channels = [];
        $maps = [];
        $body = Body::of($request);
        $name = $body->has('name') && $body->any('name') !== '' ? NameGuess::slug($body->text('name', 40)) : '';
        foreach ($body->objects('channels', 4) as $c => $one) {
            $map = $one->has('map') ? $this->map((int) $one->number('map', 1, 999999999)) : null;
            if ($map !== null && $map->set->project !== $set->project) {
                throw Refusal::invalid(\sprintf('%s is not a map of this project.', $map->image->file), [['path' => "/channels/$c/map", 'message' => 'expected a map of the project']]);
            }
            $channel = $map === null ? 0 : (int) strpos('xyzw', $one->choice('channel', ['x', 'y', 'z', 'w']));
            [$low, $high] = [$one->number('low', 0.0, 1.0), $map === null ? 1.0 : $one->number('high', 0.0, 1.0)];
            if ($map !== null && abs($high - $low) < 1e-3) {
                throw Refusal::invalid('The levels of a channel have to differ.', [['path' => "/channels/$c/high", 'message' => 'expected another number than "low"']]);
            }
            $channels[] = ['map' => $map?->id(), 'channel' => $channel, 'inverted' => $map !== null && $one->flag('inverted'), 'low' => $low, 'high' => $high];
            if ($map !== null) {
                $maps[$map->id()] = $map;
            }
        }
        if (\count($channels) < 3) {
            throw Refusal::invalid('An image has three or four channels.', [['path' => '/channels', 'message' => 'expected three or four']]);
        }
        $task = $tasks->run($set, TaskKind::Pack, ['channels' => $channels, 'name' => $name], "Pack channels of $set->name", array_values($maps));

        return $this->made($task, $set, $library);
    }

    /** Maps that were taken out in the last 30 days. */
    #[Route('/api/projects/{slug}/bin', methods: ['GET'])]
    public function bin(string $slug, Library $library): JsonResponse
    {
        return $this->json($library->binned($this->project($slug)));
    }

    /** Takes a map out of the library. It can be brought back. */
    #[Route('/api/maps/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id): Response
    {
        $this->map($id)->takeOut(true);
        $this->entities->flush();

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    #[Route('/api/maps/{id}/bring-back', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function bringBack(int $id, Library $library): JsonResponse
    {
        $map = $this->find(MapRecord::class, $id, 'map');
        $other = $map->role === Role::Packed ? null : $map->set->of($map->role);
        if ($other !== null && $other !== $map) {
            throw Refusal::invalid(\sprintf('%s is the %s of %s now; delete it first.', $other->image->file, lcfirst($map->role->label()), $map->set->name));
        }
        $map->takeOut(false);
        $this->entities->flush();

        return $this->json($library->set($map->set));
    }

    /** The file of the current version, to take elsewhere. */
    #[Route('/api/maps/{id}/file', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function file(int $id, Blobs $blobs): Response
    {
        $map = $this->find(MapRecord::class, $id, 'map');
        $response = new Response($blobs->get($map->image->sha256, $map->name()), Response::HTTP_OK, ['Content-Type' => 'application/octet-stream']);
        $name = basename(str_replace(['\\', '%'], ['/', '_'], $map->image->file));
        $response->headers->set('Content-Disposition', HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, (string) preg_replace('/[^\x20-\x7E]/', '_', $name)));

        return $response;
    }

    #[Route('/api/maps/{id}/texels-{key}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function texels(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->compressedPath($this->find(MapRecord::class, $id, 'map')), 'application/octet-stream', 'gzip');
    }

    /** The same, small, for the time until the levels have been made. */
    #[Route('/api/maps/{id}/draft-{key}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function draft(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->draftPath($this->find(MapRecord::class, $id, 'map')), 'application/octet-stream', 'gzip');
    }

    #[Route('/api/maps/{id}/thumbnail-{key}.webp', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function thumbnail(int $id, MapFiles $files): Response
    {
        return $this->immutable($files->thumbnailPath($this->find(MapRecord::class, $id, 'map')), 'image/webp');
    }

    /** How far work on large maps has come. */
    #[Route('/api/tasks/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function task(int $id): JsonResponse
    {
        return $this->json(Tasks::describe($this->find(Task::class, $id, 'task')));
    }

    #[Route('/api/tasks/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancelTask(int $id, Tasks $tasks): JsonResponse
    {
        $task = $this->find(Task::class, $id, 'task');
        $tasks->cancel($task);

        return $this->json(Tasks::describe($task));
    }

    #[Route('/api/sets/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function set(int $id, Library $library): JsonResponse
    {
        return $this->json($library->set($this->find(MapSetRecord::class, $id, 'map set')));
    }

    /** The set as it is now, or the task that will change it. */
    private function made(?Task $task, MapSetRecord $set, Library $library, int $status = Response::HTTP_CREATED): JsonResponse
    {
        return $task === null ? $this->json($library->set($set), $status) : $this->json(Tasks::describe($task), Response::HTTP_ACCEPTED);
    }

    private function map(int $id): MapRecord
    {
        $map = $this->find(MapRecord::class, $id, 'map');

        return $map->deletedAt === null ? $map : throw Refusal::notFound("map $id; it was deleted");
    }

    /**
     * Which roles lie in which channels of a packed map.
     *
     * @return list<array{role: string, channels: string, inverted: bool}>
     */
    private static function channels(Body $body, string $path): array
    {
        $channels = [];
        foreach ($body->objects('channels', 4) as $c => $one) {
            $role = Role::tryFrom($one->text('role', 20));
            $letters = $one->choice('channels', ['x', 'y', 'z', 'w', 'xy', 'zw', 'xyz']);
            $inverted = $one->flag('inverted');
            $objection = $role === null ? 'expected a role of the catalogue' : MapReading::objection($role, $letters, $inverted);
            if ($role === null || $objection !== null) {
                throw Refusal::invalid('A role cannot be read from these channels.', [['path' => "$path/channels/$c", 'message' => (string) $objection]]);
            }
            $channels[] = ['role' => $role->value, 'channels' => $letters, 'inverted' => $inverted];
        }

        return $channels;
    }
}
