<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Task;
use Rilta\App\Service\Tasks;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** How far work on large maps has come. */
final class TaskController extends Api
{
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
}
