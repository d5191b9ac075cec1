<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Project;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Material\InvalidDocument;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * What may be wanted of deliveries: the ready-made profiles, and those of a project's own.
 *
 * @phpstan-import-type DeliveryProfileJson from DeliveryProfile
 */
final readonly class DeliveryProfiles
{
    /** @param string $folder of the ready-made ones */
    public function __construct(private Projects $projects, #[Autowire('%kernel.project_dir%/../demo/profiles')] private string $folder)
    {
    }

    /** @return array<string, DeliveryProfileJson> as files have them, by name */
    public function ready(): array
    {
        $ready = [];
        foreach (glob("$this->folder/*.json") ?: [] as $file) {
            $ready[basename($file, '.json')] = self::said($file);
        }

        return $ready;
    }

    /** @return array<string, DeliveryProfileJson> as files have them, by name, the ready-made ones first */
    public function of(Project $project): array
    {
        return $this->ready() + Projects::byName($project->profiles);
    }

    /**
     * One of those that are there, or a file.
     *
     * @throws InvalidDocument           if it is none
     * @throws \InvalidArgumentException if there is no such profile
     */
    public function file(string $name): DeliveryProfile
    {
        $ready = $this->ready();

        return DeliveryProfile::read(is_file($name) ? self::said($name) : $ready[$name] ?? throw new \InvalidArgumentException(\sprintf('--profile: there is no file and no profile "%s"; there are %s.', $name, implode(', ', array_keys($ready)))));
    }

    /**
     * Keeps one, in place of that of the same name.
     *
     * @throws InvalidDocument if it is none
     * @throws Refusal         if there are too many, or a ready-made one has its name
     */
    public function put(Project $project, mixed $said): void
    {
        $own = $this->own($said);
        $this->projects->amend($project, static function () use ($project, $own): void {
            $all = Projects::byName([...$project->profiles, $own]);
            $project->profiles = \count($all) <= DeliveryProfile::MOST ? array_values($all) : throw Refusal::invalid(\sprintf('A project has at most %d profiles of its own; delete one.', DeliveryProfile::MOST));
        });
    }

    /**
     * What a project may have as its own.
     *
     * @return DeliveryProfileJson as files have it
     *
     * @throws InvalidDocument if it is none, or a ready-made one has its name
     */
    public function own(mixed $said): array
    {
        $profile = DeliveryProfile::read($said);
        if (isset($this->ready()[$profile->name])) {
            throw InvalidDocument::at('/name', 'expected none of ' . implode(', ', array_keys($this->ready())));
        }

        return self::keyed((array) $said);
    }

    public function delete(Project $project, string $name): void
    {
        $this->projects->amend($project, static function () use ($project, $name): void {
            $left = array_values(array_filter($project->profiles, static fn (array $one): bool => ($one['name'] ?? null) !== $name));
            $project->profiles = \count($left) < \count($project->profiles) ? $left : throw Refusal::notFound("profile $name of this project");
        });
    }

    /**
     * @return DeliveryProfileJson as it is written there; reading it tells whether it is one
     *
     * @throws \InvalidArgumentException
     */
    private static function said(string $file): array
    {
        $said = json_decode((string) file_get_contents($file), true);
        if (!\is_array($said)) {
            throw new \InvalidArgumentException("$file is no JSON object" . (json_last_error() === \JSON_ERROR_NONE ? '.' : ': ' . json_last_error_msg() . '.'));
        }

        return self::keyed($said);
    }

    /**
     * @param array<mixed> $said
     *
     * @return DeliveryProfileJson
     */
    private static function keyed(array $said): array
    {
        /** @var DeliveryProfileJson $keyed */
        $keyed = array_filter($said, \is_string(...), \ARRAY_FILTER_USE_KEY);

        return $keyed;
    }
}
