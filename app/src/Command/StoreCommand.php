<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use League\Flysystem\FilesystemException;
use League\Flysystem\StorageAttributes;
use Rilta\App\Service\Store;
use Rilta\App\Service\WholeFile;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** What one machine has is to be there for several: images, meshes and bakes go from its data folder into the store. Nothing is taken away. */
#[AsCommand('store', 'Copies files of this machine into the store that RILTA_STORE names')]
final class StoreCommand extends Command
{
    private const FOLDERS = ['files', 'bakes'];

    public function __construct(#[Autowire('%env(RILTA_STORE)%')] private readonly string $address, #[Autowire('%data%')] private readonly string $data)
    {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        if ($this->address === '') {
            $output->writeln('RILTA_STORE: expected the address of a store, like s3://KEY:SECRET@HOST/BUCKET; found none');

            return Command::INVALID;
        }
        $copied = $there = 0;
        try {
            [$here, $store] = [Store::at('', $this->data), Store::at($this->address, $this->data)];
            foreach (self::FOLDERS as $folder) {
                foreach ($here->listContents($folder, true)->filter(static fn (StorageAttributes $one): bool => $one->isFile() && !str_ends_with($one->path(), WholeFile::UNFINISHED)) as $one) {
                    // Whoever is broken off goes on where it was: what is there is there whole.
                    if ($store->fileExists($one->path()) && $store->fileSize($one->path()) === $here->fileSize($one->path())) {
                        ++$there;
                        continue;
                    }
                    $store->writeStream($one->path(), $here->readStream($one->path()));
                    ++$copied;
                }
            }
        } catch (\InvalidArgumentException|FilesystemException $e) {
            $output->writeln($e->getMessage());

            return Command::FAILURE;
        }
        $output->writeln(\sprintf('%d files copied, %d were there', $copied, $there));

        return Command::SUCCESS;
    }
}
