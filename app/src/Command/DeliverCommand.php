<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\DeliveryFolder;
use Rilta\App\Service\DeliveryProfiles;
use Rilta\App\Service\Engines;
use Rilta\Core\Deliver\Delivery;
use Rilta\Core\Deliver\DeliveryProfile;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

#[AsCommand('deliver', 'Hands materials over: code, maps and baked images, with a manifest')]
final class DeliverCommand extends DocumentCommand
{
    /** Stands for all variants, and the material as it is written. */
    private const ALL = 'all';

    public function __construct(Reader $reader, Compiler $compiler, #[Autowire('%data%/derived/folders')] string $cache, private readonly Engines $engines, private readonly DeliveryProfiles $profiles)
    {
        parent::__construct($reader, $compiler, $cache);
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'Material documents (' . Material::FORMAT . ', or an older version)')->options()
            ->addOption('delivery', null, InputOption::VALUE_REQUIRED, 'A profile (' . DeliveryProfile::FORMAT . '): a file, or one of those that are there', 'renderer')
            ->addOption('zip', null, InputOption::VALUE_NONE, 'A ZIP file of each delivery as well')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the deliveries', '.');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $out = rtrim(self::string($input->getOption('out')), '/');
        $failed = false;
        try {
            $profile = $this->profiles->file(self::string($input->getOption('delivery')));
        } catch (InvalidDocument $e) {
            foreach ($e->problems as $problem) {
                $output->writeln('<error>' . self::string($input->getOption('delivery')) . " $problem</error>");
            }

            return Command::FAILURE;
        } catch (\InvalidArgumentException $e) {
            $output->writeln("<error>{$e->getMessage()}</error>");

            return Command::FAILURE;
        }
        $files = $input->getArgument('file');
        foreach (\is_array($files) ? $files : [] as $file) {
            try {
                $this->deliver(self::string($file), $profile, new DeliveryFolder($out === '' ? '.' : $out), $input, $output);
            } catch (InvalidDocument $e) {
                foreach ($e->problems as $problem) {
                    $output->writeln('<error>' . self::string($file) . " $problem</error>");
                }
                $failed = true;
            } catch (\RuntimeException|\InvalidArgumentException $e) {
                $output->writeln('<error>' . self::string($file) . ": {$e->getMessage()}</error>");
                $failed = true;
            }
        }

        return $failed ? Command::FAILURE : Command::SUCCESS;
    }

    private function deliver(string $file, DeliveryProfile $profile, DeliveryFolder $folder, InputInterface $input, OutputInterface $output): void
    {
        $wanted = self::string($input->getOption('variant'));
        $input->setOption('variant', $wanted === self::ALL ? '' : $wanted);
        try {
            [$material] = $this->read($file, $input);
        } finally {
            $input->setOption('variant', $wanted);
        }
        foreach ($wanted === self::ALL ? ['', ...array_column($material->variants->all, 'id')] : [$wanted] as $variant) {
            $worn = $wanted === self::ALL && $variant !== '' ? $this->reader->inVariant($material, $variant) : $material;
            $delivery = new Delivery($this->reader->asWritten($worn), $variant, $profile, $this->maps, $this->engines->forBakes($profile->pixels()), Delivery::variants($this->reader, $worn, $variant, $profile, $this->maps));
            $source = $delivery->source();
            $there = $folder->unchanged($delivery, $source);
            if ($there !== null) {
                $output->writeln("$there: unchanged");
                $this->zip($folder, $there, $input, $output);
                continue;
            }
            [$made, $files] = $folder->write($delivery, $source, static function (int $done, int $all) use ($output): void {
                if ($output->isVerbose()) {
                    $output->writeln("  $done of $all regions");
                }
            });
            $output->writeln(\sprintf('%s: %d files, %.1f MiB', $made, \count($files) + 1, array_sum(array_column($files, 'bytes')) / 1048576));
            foreach ($profile->over($files) as $one) {
                $output->writeln("  <comment>over its limit: $one</comment>");
            }
            $this->zip($folder, $made, $input, $output);
        }
    }

    private function zip(DeliveryFolder $folder, string $delivery, InputInterface $input, OutputInterface $output): void
    {
        if ($input->getOption('zip') === true) {
            $path = $folder->zip($delivery);
            $output->writeln(\sprintf('%s: %.1f MiB', $path, filesize($path) / 1048576));
        }
    }
}
