<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Format\MapFolder;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** What the commands share that work on a document file, without a database. */
abstract class CoreCommand extends Command
{
    protected MapFolder $maps;

    public function __construct(
        private readonly Reader $reader,
        protected readonly Compiler $compiler,
        #[Autowire('%data%/derived/folders')]
        private readonly string $cache,
    ) {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED, 'A material document (' . Material::FORMAT . ', or an older version)')
            ->addOption('maps', null, InputOption::VALUE_REQUIRED, 'Folder of map sets; by default "maps" beside the document or above it')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant that it wears, by its id', '');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            $file = self::string($input->getArgument('file'));
            if (!is_file($file)) {
                throw new \InvalidArgumentException("There is no file $file.");
            }
            $this->maps = new MapFolder(self::string($input->getOption('maps') ?? $this->nearestMaps($file)), $this->cache);
            $material = $this->reader->readJson((string) file_get_contents($file));

            $variant = self::string($input->getOption('variant'));
            if ($variant !== '') {
                $material = $this->reader->inVariant($material, $variant);
            }

            return $this->perform($material, Lowering::lower($material, $this->maps), $input, $output);
        } catch (InvalidDocument $e) {
            foreach ($e->problems as $problem) {
                $output->writeln('<error>' . self::string($input->getArgument('file')) . ' ' . $problem . '</error>');
            }
        } catch (UnreadableMap|\InvalidArgumentException $e) {
            $output->writeln('<error>' . $e->getMessage() . '</error>');
        }

        return Command::FAILURE;
    }

    abstract protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int;

    protected static function string(mixed $value): string
    {
        return \is_string($value) ? $value : '';
    }

    /**
     * @return list<float>
     *
     * @throws \InvalidArgumentException
     */
    protected static function numbers(mixed $value, string $option, int $count): array
    {
        $parts = explode(',', self::string($value));
        if (\count($parts) !== $count || \count(array_filter($parts, is_numeric(...))) !== $count) {
            throw new \InvalidArgumentException(\sprintf('--%s: expected %d numbers with commas between them, found "%s".', $option, $count, self::string($value)));
        }

        return array_map(floatval(...), $parts);
    }

    private function nearestMaps(string $file): string
    {
        for ($folder = \dirname((string) realpath($file)); $folder !== \dirname($folder); $folder = \dirname($folder)) {
            if (is_dir("$folder/maps")) {
                return "$folder/maps";
            }
        }
        throw new \InvalidArgumentException("There is no folder \"maps\" beside $file or above it; name one with --maps.");
    }
}
