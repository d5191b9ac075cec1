<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Material\InvalidDocument;

/**
 * What materials may cost: the ready-made budgets, and those of a project's own.
 *
 * @phpstan-import-type BudgetJson from Profile
 */
final readonly class Budgets
{
    public function __construct(private Projects $projects)
    {
    }

    /** @return array<string, Profile> by name, the ready-made ones first */
    public static function of(Project $project): array
    {
        return Profile::ready() + array_column(array_map(Profile::read(...), $project->budgets), null, 'name');
    }

    /**
     * Keeps one, in place of that of the same name.
     *
     * @throws InvalidDocument if it is none
     * @throws Refusal         if there are too many
     */
    public function put(Project $project, mixed $said): void
    {
        $budget = Profile::read($said);
        $this->change($project, static function (array $own) use ($budget): array {
            $own[$budget->name] = $budget->document();

            return \count($own) <= Profile::MOST ? $own : throw Refusal::invalid(\sprintf('A project has at most %d budgets of its own; delete one.', Profile::MOST));
        });
    }

    public function delete(Project $project, string $name): void
    {
        $this->change($project, static fn (array $own): array => isset($own[$name]) ? array_diff_key($own, [$name => true]) : throw Refusal::notFound("budget $name of this project"));
    }

    /** @param \Closure(array<string, BudgetJson>): array<string, BudgetJson> $how */
    private function change(Project $project, \Closure $how): void
    {
        $this->projects->amend($project, static function () use ($project, $how): void {
            $project->budgets = array_values($how(Projects::byName($project->budgets)));
        });
    }
}
