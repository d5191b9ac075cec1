<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\MapChange;
use Rilta\App\Http\Payload\Mend;
use Rilta\App\Service\Library;
use Rilta\App\Service\Mending;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Single maps: how they are read, what mends them, and what is deleted.
 *
 * @phpstan-import-type BinnedMapJson from Library
 * @phpstan-import-type MapSetJson from Library
 * @phpstan-import-type TaskJson from Tasks
 */
final class MapController extends MapApi
{
    /** @return Answer<200, MapSetJson> */
    #[Route('/api/maps/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function change(int $id, #[MapRequestPayload('json')] MapChange $change, Library $library): Answer
    {
        $map = $this->map($id);
        if ($change->role !== null) {
            $role = $change->role;
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
            $map->underive();
        }
        if ($change->encoding !== null) {
            $map->encoding = $change->encoding;
            $map->underive();
        }
        if ($change->inverted !== null) {
            $map->inverted = $change->inverted;
            if ($map->inverted && !$map->role->isScalar()) {
                throw Refusal::invalid(\sprintf('%s cannot be read inverted.', $map->role->label()), [['path' => '/inverted', 'message' => 'expected false']]);
            }
        }
        if ($change->sampling !== null) {
            $objection = Sampling::objection($change->sampling);
            if ($objection !== null) {
                throw Refusal::invalid("This is no sampling: {$objection['name']}: {$objection['message']}.", [['path' => '/sampling/' . $objection['name'], 'message' => $objection['message']]]);
            }
            $map->sampling = Sampling::of($change->sampling + $map->sampling)->describe();
        }
        if ($change->channels !== null) {
            $map->channels = $map->role === Role::Packed ? self::channels($change->channels, '') : throw Refusal::invalid(\sprintf('%s is not packed.', $map->image->file), [['path' => '/channels', 'message' => 'expected none']]);
        }
        if ($change->extent !== null) {
            $map->set->extent = $change->extent;
        }
        $this->entities->flush();

        return new Answer($library->set($map->set));
    }

    /**
     * Does something about a map, which makes a new version.
     *
     * @return Answer<200, MapSetJson>|Answer<202, TaskJson>
     */
    #[Route('/api/maps/{id}/fix', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function fix(int $id, #[MapRequestPayload('json')] Mend $mend, Tasks $tasks, Library $library): Answer
    {
        $map = $this->map($id);
        $fix = $mend->fix;
        $task = $tasks->run($map->set, TaskKind::Fix, ['map' => $id, 'fix' => $fix->value], $fix->label() . ': ' . $map->name(), $fix->isOfSet() ? $map->set->maps() : [$map]);

        return $this->made($task, $map->set, $library, Response::HTTP_OK);
    }

    /** @return Answer<200, MapSetJson> */
    #[Route('/api/maps/{id}/versions/{number}/restore', methods: ['POST'], requirements: ['id' => '\d{1,9}', 'number' => '\d{1,6}'])]
    public function restore(int $id, int $number, Mending $mending, Library $library): Answer
    {
        $map = $this->map($id);
        $mending->restore($map, $number);

        return new Answer($library->set($map->set));
    }

    /** @return Answer<201, MapSetJson>|Answer<202, TaskJson> */
    #[Route('/api/maps/{id}/unpack', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function unpack(int $id, Tasks $tasks, Library $library): Answer
    {
        $map = $this->map($id);
        $task = $tasks->run($map->set, TaskKind::Unpack, ['map' => $id], 'Unpack ' . $map->name(), [$map]);

        return $this->made($task, $map->set, $library);
    }

    /** Takes a map out of the library. It can be brought back. */
    #[Route('/api/maps/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id): Response
    {
        $this->map($id)->takeOut(true);
        $this->entities->flush();

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /** @return Answer<200, MapSetJson> */
    #[Route('/api/maps/{id}/bring-back', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function bringBack(int $id, Library $library): Answer
    {
        $map = $this->find(MapRecord::class, $id, 'map');
        $other = $map->role === Role::Packed ? null : $map->set->of($map->role);
        if ($other !== null && $other !== $map) {
            throw Refusal::invalid(\sprintf('%s is the %s of %s now; delete it first.', $other->image->file, lcfirst($map->role->label()), $map->set->name));
        }
        $map->takeOut(false);
        $this->entities->flush();

        return new Answer($library->set($map->set));
    }

    /**
     * Maps that were taken out in the last 30 days.
     *
     * @return Answer<200, list<BinnedMapJson>>
     */
    #[Route('/api/projects/{slug}/bin', methods: ['GET'])]
    public function bin(string $slug, Library $library): Answer
    {
        return new Answer($library->binned($this->project($slug)));
    }
}
