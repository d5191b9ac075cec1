<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Engines;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\MeshBake;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\NormalFrame;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Format\UnreadableMesh;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Problem;
use Rilta\Core\Material\Reader;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\ReadyMeshes;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

#[AsCommand('bake', 'Computes a material\'s channels to images')]
final class BakeCommand extends CoreCommand
{
    public function __construct(Reader $reader, Compiler $compiler, #[Autowire('%data%/derived/folders')] string $cache, private readonly Engines $engines)
    {
        parent::__construct($reader, $compiler, $cache);
    }

    protected function configure(): void
    {
        parent::configure();
        $this->addOption('size', null, InputOption::VALUE_REQUIRED, 'Pixels a side', '1024')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the files', '.')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, 'The format of the files: ' . implode(', ', array_column(PictureFormat::cases(), 'value')), PictureFormat::Png->value)
            ->addOption('edges', null, InputOption::VALUE_REQUIRED, 'What becomes of the edges of a tile whose copies do not line up: "as-computed", or "cut" to make it seamless', Edges::AsComputed->value)
            ->addOption('most', null, InputOption::VALUE_REQUIRED, 'The longest side that the tile may have, metres; by default 16 repeats of the lowest layer')
            ->addOption('onto', null, InputOption::VALUE_REQUIRED, 'Into the UVs of a mesh rather than to a tile: a GLB, glTF or OBJ file, or one of ' . implode(', ', array_column(ReadyMade::cases(), 'value')))
            ->addOption('uv-set', null, InputOption::VALUE_REQUIRED, 'Of the mesh: the set that it is laid out in', '1')
            ->addOption('section', null, InputOption::VALUE_REQUIRED, 'Of the mesh: the section that is baked alone', '')
            ->addOption('places', null, InputOption::VALUE_REQUIRED, 'Of the mesh: places that a texel is looked at: ' . implode(', ', MeshTarget::PLACES), '1')
            ->addOption('normals', null, InputOption::VALUE_REQUIRED, 'Of the mesh: what normals are told along: ' . implode(' or ', array_column(NormalFrame::cases(), 'value')), NormalFrame::Tangent->value)
            ->addOption('force', null, InputOption::VALUE_NONE, 'Overwrite files that exist');
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $size = self::string($input->getOption('size'));
        if (preg_match('/^\d{1,4}$/D', $size) !== 1 || (int) $size < 1 || (int) $size > TileBake::LARGEST) {
            throw new \InvalidArgumentException(\sprintf('--size: expected 1 to %d pixels, found "%s".', TileBake::LARGEST, $size));
        }
        $size = (int) $size;
        $edges = Edges::tryFrom(self::string($input->getOption('edges'))) ?? throw new \InvalidArgumentException(\sprintf('--edges: expected %s, found "%s".', implode(' or ', array_column(Edges::cases(), 'value')), self::string($input->getOption('edges'))));
        $most = $input->getOption('most');
        if ($most !== null && (!is_numeric($most) || $most <= 0)) {
            throw new \InvalidArgumentException(\sprintf('--most: expected metres above 0, found "%s".', self::string($most)));
        }
        $folder = rtrim(self::string($input->getOption('out')), '/');
        $format = PictureFormat::tryFrom(self::string($input->getOption('format'))) ?? throw new \InvalidArgumentException(\sprintf('--format: expected one of %s, found "%s".', implode(', ', array_column(PictureFormat::cases(), 'value')), self::string($input->getOption('format'))));
        $path = static fn (Channel $c): string => \sprintf('%s/%s.%s', $folder, implode('-', array_filter([NameGuess::slug($material->name), self::string($input->getOption('variant')), $c->value])), $format->extension());
        $existing = array_filter(array_map($path, Channel::cases()), is_file(...));
        if ($existing !== [] && $input->getOption('force') !== true) {
            throw new \InvalidArgumentException('These files exist; add --force to overwrite them: ' . implode(', ', $existing));
        }
        if (!is_dir($folder) && !@mkdir($folder, 0o775, true)) {
            throw new \InvalidArgumentException("The folder $folder cannot be made.");
        }
        $engine = $this->engines->forBakes($size);
        $onto = self::string($input->getOption('onto'));
        if ($onto !== '') {
            $this->object($material, $onto, $size, $format, $path, $input, $output);

            return Command::SUCCESS;
        }
        // With heights, which a picture does without.
        $job = new TileBake(Lowering::lower($material, $this->maps, true), $size, $engine, $most === null ? null : (float) $most);
        $output->writeln(\sprintf('%s: %d x %d px, %.4g x %.4g m, computed in %s', $material->name, $size, $size, $job->tile->width, $job->tile->height, strtoupper($engine->name())));
        $this->write($job, $size, $edges, $format, $path, $output);

        return Command::SUCCESS;
    }

    /** @param \Closure(Channel): string $path */
    private function write(TileBake $job, int $size, Edges $edges, PictureFormat $format, \Closure $path, OutputInterface $output): void
    {
        $bytes = $this->computed($job, TileBake::regions($size), $output);
        $verdict = $job->complete(static fn (Channel $c): string => $bytes[$c->value], self::putting($size, $format, $path), $edges);
        foreach ($job->channels as $channel) {
            $output->writeln(\sprintf('  %s  edge seam %.2f', $path($channel), $verdict->wrap[$channel->value]));
        }
        $output->writeln(ucfirst($verdict->text()) . '.');
    }

    /** @param \Closure(Channel): string $path */
    private function object(Material $material, string $onto, int $size, PictureFormat $format, \Closure $path, InputInterface $input, OutputInterface $output): void
    {
        $made = ReadyMade::tryFrom($onto);
        try {
            $mesh = $made?->mesh() ?? self::mesh($onto);
            $whole = static fn (string $name): mixed => ctype_digit(self::string($input->getOption($name))) ? (int) self::string($input->getOption($name)) : $input->getOption($name);
            $object = ['id' => 'mesh', 'name' => basename($onto), 'mesh' => ReadyMade::Cube->value, 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
            $target = MeshTarget::read(['object' => $object, 'set' => $whole('uv-set'), 'section' => self::string($input->getOption('section')), 'places' => $whole('places'), 'normals' => $input->getOption('normals')], new ReadyMeshes());
            $engine = $this->engines->forBakes($size);
            $job = new MeshBake(Lowering::lower($material, $this->maps, true), $target, $mesh, '', $size, $engine);
        } catch (InvalidDocument $e) {
            throw new \InvalidArgumentException(implode("\n", array_map(static fn (Problem $one): string => '--' . strtr(ltrim($one->path, '/'), ['set' => 'uv-set']) . ": $one->message", $e->problems)));
        } catch (\LengthException $e) {
            throw new \InvalidArgumentException("$onto: {$e->getMessage()}.");
        }
        $output->writeln(\sprintf('%s on %s: %d x %d px, computed in %s', $material->name, basename($onto), $size, $size, strtoupper($engine->name())));
        $bytes = $this->computed($job, MeshBake::regions($size, $target->grid), $output);
        $told = $job->complete(static fn (string $name): string => $bytes[$name], self::putting($size, $format, $path));
        foreach ($job->channels as $channel) {
            $output->writeln("  {$path($channel)}");
        }
        $output->writeln(\sprintf('%.1f %% of the picture is covered, %.1f %% of that twice; %.1f %% of the surface lies mirrored; %.4g to %.4g texels a metre, %.4g in the middle.', 100 * $told['covered'], 100 * $told['doubled'], 100 * $told['mirrored'], $told['density']['lowest'], $told['density']['highest'], $told['density']['median']));
    }

    /**
     * All rows of each picture.
     *
     * @param list<array{int, int}> $regions first row, and the row after the last
     *
     * @return array<string, string>
     */
    private function computed(TileBake|MeshBake $job, array $regions, OutputInterface $output): array
    {
        $progress = new ProgressBar($output, \count($regions));
        $progress->start();
        $bytes = [];
        foreach ($regions as [$from, $to]) {
            foreach ($job->region($this->maps, $from, $to) as $name => $band) {
                $bytes[$name] = ($bytes[$name] ?? '') . $band;
            }
            $progress->advance();
        }
        $progress->finish();
        $output->writeln('');

        return $bytes;
    }

    /**
     * @param \Closure(Channel): string $path
     *
     * @return \Closure(Channel, string): void
     */
    private static function putting(int $size, PictureFormat $format, \Closure $path): \Closure
    {
        return static function (Channel $c, string $rows) use ($size, $format, $path): void {
            if (@file_put_contents($path($c), $format->bytes($size, $size, $c->samples(), $rows, $c->isDeep(), $c->filter())) === false) {
                throw new \InvalidArgumentException($path($c) . ' cannot be written.');
            }
        };
    }

    private static function mesh(string $file): Mesh
    {
        if (!is_file($file)) {
            throw new \InvalidArgumentException(\sprintf('--onto: there is no file and no mesh "%s"; there are %s.', $file, implode(', ', array_column(ReadyMade::cases(), 'value'))));
        }
        $bytes = (string) file_get_contents($file);
        $others = [];
        foreach (MeshFile::needs($bytes) as $name) {
            $others[$name] = (string) @file_get_contents(\dirname($file) . "/$name");
        }
        try {
            return MeshFile::read($bytes, basename($file), new MeshOptions(), $others);
        } catch (UnreadableMesh $e) {
            throw new \InvalidArgumentException($e->getMessage());
        }
    }
}
