<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
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
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Deliver\BakeProfile;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Reader;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Command\SignalableCommandInterface;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('bake-stage', 'Objects of a stage, with what they wear baked into their UVs, as one GLB file')]
final class BakeStageCommand extends ProjectCommand implements SignalableCommandInterface
{
    public function __construct(EntityManagerInterface $entities, private readonly Stages $stages, private readonly Reader $reader, private readonly Bakery $bakery, private readonly StageBakes $stageBakes, private readonly OwnMeshes $meshes, private readonly BakeFiles $results, private readonly Ending $ending)
    {
        parent::__construct($entities);
    }

    protected function configure(): void
    {
        $list = InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY;
        $this->addArgument('project', InputArgument::REQUIRED, 'The project, as its address calls it')
            ->addArgument('stage', InputArgument::REQUIRED, 'The name of one of its stages')
            ->addOption('object', null, $list, 'The name of an object; as often as there are, all that are seen where it is left out')
            ->addOption('material', null, InputOption::VALUE_REQUIRED, 'The material that objects wear which wear the one that is open')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant in which it is worn, by its id', '')
            ->addOption('switch', null, $list, 'A variant of it that the file can be switched to, by its id; as often as there are')
            ->addOption('size', null, InputOption::VALUE_REQUIRED, 'Pixels a side: ' . implode(', ', BakeProfile::SIZES), '256')
            ->addOption('uv-set', null, InputOption::VALUE_REQUIRED, 'The set of UVs that meshes are laid out in; the first where one has no such set', '2')
            ->addOption('places', null, InputOption::VALUE_REQUIRED, 'Places that a texel is looked at: ' . implode(', ', MeshTarget::PLACES), '4')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the delivery', '.');
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
        $objects = $this->objects($stage, $input);
        $whole = static fn (string $name): mixed => ctype_digit(self::word($input->getOption($name))) ? (int) self::word($input->getOption($name)) : $input->getOption($name);
        $size = $whole('size');
        if (!\is_int($size) || !\in_array($size, BakeProfile::SIZES, true)) {
            throw Refusal::invalid(\sprintf('--size: expected one of %s, found "%s".', implode(', ', BakeProfile::SIZES), self::word($input->getOption('size'))));
        }
        $onto = ['objects' => $objects, 'set' => $whole('uv-set'), 'places' => $whole('places'), 'variants' => $input->getOption('switch')];
        $out = rtrim(self::word($input->getOption('out')), '/');
        $folder = new DeliveryFolder($out === '' ? '.' : $out);
        try {
            $material = $this->material($project, $onto, self::word($input->getOption('material')));
            $delivery = new StageDelivery($stage, $onto, $material, self::word($input->getOption('variant')), $size, $this->entities, $this->reader, $this->bakery, $this->stageBakes, $this->results, $this->ending);
            $source = $delivery->source();
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
            throw Refusal::invalid('It cannot be baked.', array_map(static fn (object $one): array => ['path' => strtr($one->path, ['/onto/set' => '--uv-set', '/onto/places' => '--places', '/onto/variants' => '--switch', '/variants' => '--variant']), 'message' => $one->message], $e->problems));
        } catch (Interrupted) {
            throw Refusal::invalid('Ended before it was done; nothing of it is left.');
        }
        $output->writeln('');
        $output->writeln(\sprintf('%s: %d objects, %.1f MiB', $made, \count($objects), array_sum(array_column($files, 'bytes')) / 1048576));

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
        throw Refusal::invalid(\sprintf('There is no stage "%s"; there are %s.', $name, implode(', ', array_column($all, 'name'))));
    }

    /** @return list<array<mixed>> as the stage has them */
    private function objects(StageRecord $stage, InputInterface $input): array
    {
        $document = json_decode($stage->document, true);
        $all = \is_array($document) && \is_array($document['objects'] ?? null) ? array_values(array_filter($document['objects'], \is_array(...))) : [];
        $wanted = $input->getOption('object');
        if (!\is_array($wanted) || $wanted === []) {
            return array_values(array_filter($all, static fn (array $one): bool => ($one['hidden'] ?? false) !== true));
        }
        $found = [];
        foreach ($wanted as $name) {
            $here = array_filter($all, static fn (array $one): bool => ($one['name'] ?? null) === $name);
            array_push($found, ...$here ?: throw Refusal::invalid(\sprintf('--object: there is none called "%s" on "%s".', self::word($name), $stage->name)));
        }

        return $found;
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
