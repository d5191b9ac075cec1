<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Body;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;

/** Map sets: the library page by page, their words, and what is made of one as a whole. */
final class MapSetController extends MapApi
{
    private const MOST_TAGS = 12;

    /** A page of the library. */
    #[Route('/api/projects/{slug}/sets', methods: ['GET'])]
    public function page(string $slug, Request $request, Library $library): JsonResponse
    {
        return $this->json($library->page($this->project($slug), self::said($request, 'words'), self::whole($request, 'faulty', 1) === 1, max(1, self::whole($request, 'page', 999999))));
    }

    #[Route('/api/sets/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function set(int $id, Library $library): JsonResponse
    {
        return $this->json($library->set($this->find(MapSetRecord::class, $id, 'map set')));
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
}
