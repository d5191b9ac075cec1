<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Task;
use Rilta\App\Http\Answer;
use Rilta\App\Service\Tasks;
use Symfony\Component\Routing\Attribute\Route;

/**
 * How far work on large maps has come.
 *
 * @phpstan-import-type TaskJson from Tasks
 */
final class TaskController extends Api
{
    /**
     * How far work on large maps has come.
     *
     * @return Answer<200, TaskJson>
     */
    #[Route('/api/tasks/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function task(int $id): Answer
    {
        return new Answer(Tasks::describe($this->find(Task::class, $id, 'task')));
    }

    /** @return Answer<200, TaskJson> */
    #[Route('/api/tasks/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancelTask(int $id, Tasks $tasks): Answer
    {
        $task = $this->find(Task::class, $id, 'task');
        $tasks->cancel($task);

        return new Answer(Tasks::describe($task));
    }
}
