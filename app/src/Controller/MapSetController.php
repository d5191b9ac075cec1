<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\TaskKind;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Fill;
use Rilta\App\Http\Payload\Pack;
use Rilta\App\Http\Payload\Tags;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Tasks;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Material\Cut;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Map sets: the library page by page, their words, and what is made of one as a whole.
 *
 * @phpstan-import-type MapSetJson from Library
 * @phpstan-import-type SetPageJson from Library
 * @phpstan-import-type TaskJson from Tasks
 */
final class MapSetController extends MapApi
{
    /**
     * A page of the library.
     *
     * @return Answer<200, SetPageJson>
     */
    #[Route('/api/projects/{slug}/sets', methods: ['GET'])]
    public function page(string $slug, Request $request, Library $library): Answer
    {
        return new Answer($library->page($this->project($slug), self::said($request, 'words'), self::whole($request, 'faulty', 1) === 1, max(1, self::whole($request, 'page', 999999))));
    }

    /** @return Answer<200, MapSetJson> */
    #[Route('/api/sets/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function set(int $id, Library $library): Answer
    {
        return new Answer($library->set($this->find(MapSetRecord::class, $id, 'map set')));
    }

    /**
     * What a set is tagged with.
     *
     * @return Answer<200, MapSetJson>
     */
    #[Route('/api/sets/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function tag(int $id, #[MapRequestPayload('json')] Tags $given, Library $library): Answer
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        $set->tags = array_values(array_unique(array_filter(array_map(static fn (string $tag): string => NameGuess::slug($tag), $given->tags))));
        $this->entities->flush();

        return new Answer($library->set($set));
    }

    /**
     * Makes a map that a set lacks.
     *
     * @return Answer<201, MapSetJson>|Answer<202, TaskJson>
     */
    #[Route('/api/sets/{id}/fill', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function fill(int $id, #[MapRequestPayload('json')] Fill $fill, Tasks $tasks, Library $library): Answer
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        [$role, $from] = [$fill->role, $fill->from];
        if ($from === null && !$role->isScalar()) {
            throw Refusal::invalid('This cannot be filled in.', [['path' => '/role', 'message' => 'expected a role of one value, or a role to make it from']]);
        }
        $source = $from === null ? null : $set->of($from);
        $task = $tasks->run($set, TaskKind::Fill, ['role' => $role->value, 'from' => $from?->value, 'value' => $fill->value ?? 0.0], $role->label() . " of $set->name", $source === null ? [] : [$source]);

        return $this->made($task, $set, $library);
    }

    /**
     * Cuts the maps of a set into the parts of a sheet, or makes them whole again.
     *
     * @return Answer<200, MapSetJson>
     */
    #[Route('/api/sets/{id}/sheet', methods: ['PUT', 'DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function cut(int $id, Request $request, Library $library): Answer
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        try {
            $set->cut = $request->isMethod('DELETE') ? null : Cut::of($request->toArray())->describe();
        } catch (\InvalidArgumentException $e) {
            throw Refusal::invalid('This is no sheet: ' . $e->getMessage() . '.', [['path' => '', 'message' => $e->getMessage()]]);
        }
        $this->entities->flush();

        return new Answer($library->set($set));
    }

    /**
     * Puts channels of maps into one new map.
     *
     * @return Answer<201, MapSetJson>|Answer<202, TaskJson>
     */
    #[Route('/api/sets/{id}/pack', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function pack(int $id, #[MapRequestPayload('json')] Pack $pack, Tasks $tasks, Library $library): Answer
    {
        $set = $this->find(MapSetRecord::class, $id, 'map set');
        $channels = [];
        $maps = [];
        $name = trim($pack->name) === '' ? '' : NameGuess::slug($pack->name);
        foreach ($pack->channels as $c => $one) {
            $map = $one->map === null ? null : $this->map((int) $one->map);
            if ($map !== null && $map->set->project !== $set->project) {
                throw Refusal::invalid(\sprintf('%s is not a map of this project.', $map->image->file), [['path' => "/channels/$c/map", 'message' => 'expected a map of the project']]);
            }
            if ($map !== null && abs($one->high - $one->low) < 1e-3) {
                throw Refusal::invalid('The levels of a channel have to differ.', [['path' => "/channels/$c/high", 'message' => 'expected another number than "low"']]);
            }
            $channels[] = ['map' => $map?->id(), 'channel' => (int) strpos('xyzw', $one->channel), 'inverted' => $map !== null && $one->inverted, 'low' => $one->low, 'high' => $one->high];
            if ($map !== null) {
                $maps[$map->id()] = $map;
            }
        }
        $task = $tasks->run($set, TaskKind::Pack, ['channels' => $channels, 'name' => $name], "Pack channels of $set->name", array_values($maps));

        return $this->made($task, $set, $library);
    }
}
