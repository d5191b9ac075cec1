<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\BakeState;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\StageRecord;
use Rilta\App\Service\BakeFiles;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\DeliveryFolder;
use Rilta\App\Service\Ending;
use Rilta\App\Service\Interrupted;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\StageBakes;
use Rilta\App\Service\StageDelivery;
use Rilta\App\Service\Stages;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Command\SignalableCommandInterface;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('bake-stage', 'Objects of a stage, with what they wear baked into their UVs, as one GLB file')]
final class BakeStageCommand extends ProjectCommand implements SignalableCommandInterface
{
    /** Microseconds between two looks at how far the workers are. */
    private const PAUSE = 300_000;

    public function __construct(EntityManagerInterface $entities, private readonly Stages $stages, private readonly Reader $reader, private readonly Bakery $bakery, private readonly StageBakes $stageBakes, private readonly OwnMeshes $meshes, private readonly BakeFiles $results, private readonly Ending $ending)
    {
        parent::__construct($entities);
    }

    protected function configure(): void
    {
        StageOptions::define($this);
    }

    /** @return list<int> */
    public function getSubscribedSignals(): array
    {
        return [\SIGINT, \SIGTERM];
    }

    public function handleSignal(int $signal, int|false $previousExitCode = 0): int|false
    {
        $this->ending->tell();

        return false;
    }

    protected function bring(InputInterface $input, OutputInterface $output): int
    {
        $project = $this->project(self::word($input->getArgument('project')));
        $stage = $this->stage($project, self::word($input->getArgument('stage')));
        [$onto, $size] = StageOptions::asked($stage->name, $stage->document, $input);
        $out = rtrim(self::word($input->getOption('out')), '/');
        $folder = new DeliveryFolder($out === '' ? '.' : $out);
        try {
            $material = $this->material($project, $onto, self::word($input->getOption('material')));
            $variant = self::word($input->getOption('variant'));
            $kept = $this->stageBakes->order($project, $onto, $this->reader->readJson($material->document), $variant, $material, $size);
            $source = hash('sha256', json_encode([$kept, $this->stageBakes->fingerprint($project, $kept), $size], \JSON_THROW_ON_ERROR));
            $delivery = new StageDelivery($stage->name, $stage->document, $variant, fn (\Closure $progress): array => $this->baked($project, $material, $variant, $size, $onto, $progress));
            $there = $folder->unchanged($delivery, $source);
            if ($there !== null) {
                $output->writeln("$there: unchanged");

                return Command::SUCCESS;
            }
            $progress = new ProgressBar($output);
            [$made, $files] = $folder->write($delivery, $source, static function (int $done, int $all) use ($progress): void {
                $progress->setMaxSteps($all);
                $progress->setProgress($done);
            });
            $progress->finish();
        } catch (InvalidDocument $e) {
            throw StageOptions::refused('It cannot be baked.', array_map(static fn (object $one): array => ['path' => $one->path, 'message' => $one->message], $e->problems));
        } catch (Refusal $e) {
            throw StageOptions::refused($e->getMessage(), $e->problems);
        } catch (Interrupted) {
            throw Refusal::invalid('Ended before it was done; nothing of it is left.');
        }
        $output->writeln('');
        $output->writeln(\sprintf('%s: %d objects, %.1f MiB', $made, \count($onto['objects']), array_sum(array_column($files, 'bytes')) / 1048576));

        return Command::SUCCESS;
    }

    private function stage(Project $project, string $name): StageRecord
    {
        $all = $this->stages->all($project);
        foreach ($all as $one) {
            if ($one->name === $name) {
                return $one;
            }
        }
        throw StageOptions::noStage($name, array_column($all, 'name'));
    }

    /**
     * By the workers.
     *
     * @param array<string, mixed>     $onto
     * @param \Closure(int, int): void $progress
     *
     * @return array{string, mixed} the GLB file, and what was found out
     */
    private function baked(Project $project, MaterialRecord $material, string $variant, int $size, array $onto, \Closure $progress): array
    {
        $bake = $this->bakery->ask($project, json_decode($material->document, true), $size, $variant, from: $material, onto: $onto);
        try {
            while ($bake->state === BakeState::Waiting) {
                $this->ending->check();
                usleep(self::PAUSE);
                $this->entities->refresh($bake);
                $progress(...array_values($this->bakery->progress($bake)));
            }
            if ($bake->state !== BakeState::Done) {
                throw Refusal::invalid($bake->failure === '' ? 'Somebody cancelled it.' : $bake->failure);
            }

            return [$this->results->read(BakeFiles::object($bake)), json_decode($bake->facts, true)];
        } finally {
            $this->bakery->delete($bake);
        }
    }

    /**
     * The material that is worn where a stage says nothing else.
     *
     * @param array<string, mixed> $onto
     */
    private function material(Project $project, array $onto, string $name): MaterialRecord
    {
        $repository = $this->entities->getRepository(MaterialRecord::class);
        if ($name !== '') {
            return $repository->findOneBy(['project' => $project, 'name' => $name, 'deletedAt' => null]) ?? throw Refusal::invalid("--material: the project has no material \"$name\".");
        }
        $target = StageTarget::read($onto, $this->meshes->of($project));
        $worn = [];
        foreach ($target->parts as $part) {
            $worn[] = ($part->wear->material === null ? null : $repository->findOneBy(['project' => $project, 'id' => $part->wear->material]))
                ?? throw Refusal::invalid(\sprintf('"%s" wears the material that is open; say with --material which that is.', $target->objects[$part->object]->name));
        }

        return $worn[0];
    }
}
