<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Format\MapFolder;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** What the commands share that read document files, without a database. */
abstract class DocumentCommand extends Command
{
    protected MapFolder $maps;

    public function __construct(
        protected readonly Reader $reader,
        protected readonly Compiler $compiler,
        #[Autowire('%data%/derived/folders')]
        private readonly string $cache,
    ) {
        parent::__construct();
    }

    /** What says with which maps, and in which variant. */
    protected function options(): static
    {
        return $this->addOption('maps', null, InputOption::VALUE_REQUIRED, 'Folder of map sets; by default "maps" beside the document or above it')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant that is worn, by its id', '');
    }

    /**
     * The material of a file, in the variant that is asked for, and the document as it stands there; its maps are at hand after that.
     *
     * @return array{Material, array<mixed>}
     *
     * @throws InvalidDocument
     * @throws \InvalidArgumentException if there is no such file, or no maps
     */
    protected function read(string $file, InputInterface $input): array
    {
        if (!is_file($file)) {
            throw new \InvalidArgumentException("There is no file $file.");
        }
        $this->maps = new MapFolder(self::string($input->getOption('maps') ?? $this->nearestMaps($file)), $this->cache);
        $json = (string) file_get_contents($file);
        $material = $this->reader->readJson($json);
        $document = json_decode($json, true);
        $variant = self::string($input->getOption('variant'));

        return [$variant === '' ? $material : $this->reader->inVariant($material, $variant), \is_array($document) ? $document : []];
    }

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
