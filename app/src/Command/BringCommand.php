<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\SentFiles;
use Rilta\App\Service\StorageFailure;
use Rilta\App\Service\WholeFile;
use Rilta\Core\Format\ForeignMaterial;
use Rilta\Core\Format\ForeignMaterialFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Writer;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('bring', 'Materials of another format as documents, with their map sets')]
final class BringCommand extends Command
{
    public function __construct(private readonly Reader $reader)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED, ucfirst(ForeignMaterialFile::KINDS) . ', or a ZIP with one')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the documents; map sets lie in its folder "maps"', '.')
            ->addOption('force', null, InputOption::VALUE_NONE, 'Overwrite what is there');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$path, $out] = array_map(static fn (mixed $said): string => \is_string($said) ? rtrim($said, '/') : '', [$input->getArgument('file'), $input->getOption('out')]);
        try {
            foreach (self::materials($path) as $one) {
                $this->put($one, $out === '' ? '.' : $out, $input->getOption('force') === true, $output);
            }
        } catch (InvalidDocument $e) {
            $output->writeln(array_map(static fn (Problem $one): string => "<error>$path $one</error>", $e->problems));

            return Command::FAILURE;
        } catch (UnreadableMesh|\InvalidArgumentException|StorageFailure $e) {
            $output->writeln("<error>{$e->getMessage()}</error>");

            return Command::FAILURE;
        }

        return Command::SUCCESS;
    }

    /** @return list<ForeignMaterial> */
    private static function materials(string $path): array
    {
        if (!is_file($path)) {
            throw new \InvalidArgumentException("There is no file $path.");
        }
        [$files, $refused] = SentFiles::unpacked([basename($path) => (string) file_get_contents($path)]);
        $found = array_filter($files, static fn (string $name): bool => preg_match(ForeignMaterialFile::NAMES, $name) === 1, \ARRAY_FILTER_USE_KEY);
        if ($found === []) {
            throw new \InvalidArgumentException($refused[0]['reason'] ?? "$path: expected " . ForeignMaterialFile::KINDS . ', or a ZIP with one.');
        }
        $all = [];
        foreach ($found as $name => $bytes) {
            // What it names lies beside it.
            foreach (ForeignMaterialFile::needs($bytes) as $other) {
                $beside = \dirname($path) . "/$other";
                $files += is_file($beside) ? [$other => (string) file_get_contents($beside)] : [];
            }
            array_push($all, ...ForeignMaterialFile::read($bytes, (string) $name, $files));
        }

        return $all;
    }

    private function put(ForeignMaterial $one, string $out, bool $force, OutputInterface $output): void
    {
        $document = "$out/" . NameGuess::slug($one->name) . '.json';
        $names = [];
        $files = [];
        foreach ($one->sets as $set) {
            $names[$set->name] = $set->name;
            $maps = [];
            foreach ($set->maps as $map) {
                $files["$out/maps/$set->name/$map->file"] = $map->bytes;
                $maps[$map->role->value] = ['file' => $map->file, 'sampling' => $map->sampling->describe()] + ($map->channels === [] ? [] : ['channels' => array_map(static fn (array $read): array => ['role' => $read['role']->value] + $read, $map->channels)]);
            }
            $files["$out/maps/$set->name/set.json"] = json_encode(['extent' => 1.0, 'maps' => $maps], \JSON_PRETTY_PRINT | \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES) . "\n";
        }
        $files[$document] = self::pretty(Writer::json($this->reader->read($one->document($names))));
        foreach (array_keys($files) as $file) {
            if (is_file($file) && !$force) {
                throw new \InvalidArgumentException("$file is there already; --force overwrites it.");
            }
        }
        foreach ($files as $file => $bytes) {
            if (!is_dir(\dirname($file)) && !@mkdir(\dirname($file), 0o775, true)) {
                throw new \InvalidArgumentException('The folder ' . \dirname($file) . ' cannot be made.');
            }
            WholeFile::write($file, $bytes);
        }
        $output->writeln(\sprintf('%s: layers %d, map sets %d', $document, \count($one->layers), \count($one->sets)));
        foreach ($one->left as $left) {
            $output->writeln("  <comment>not read: $left</comment>");
        }
    }

    private static function pretty(string $json): string
    {
        return json_encode(json_decode($json, false, 512, \JSON_THROW_ON_ERROR), \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION) . "\n";
    }
}
