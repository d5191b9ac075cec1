<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Engines;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\Edges;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
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
            ->addOption('force', null, InputOption::VALUE_NONE, 'Overwrite files that exist');
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $size = self::string($input->getOption('size'));
        if (preg_match('/^\d{1,4}$/D', $size) !== 1 || (int) $size < 1 || (int) $size > ImageFile::LARGEST_SIDE) {
            throw new \InvalidArgumentException(\sprintf('--size: expected 1 to %d pixels, found "%s".', ImageFile::LARGEST_SIDE, $size));
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
        // With heights, which a picture does without.
        $job = new TileBake(Lowering::lower($material, $this->maps, true), $size, $engine, $most === null ? null : (float) $most);
        $output->writeln(\sprintf('%s: %d x %d px, %.4g x %.4g m, computed in %s', $material->name, $size, $size, $job->tile->width, $job->tile->height, strtoupper($engine->name())));
        $this->write($job, $size, $edges, $format, $path, $output);

        return Command::SUCCESS;
    }

    /** @param \Closure(Channel): string $path */
    private function write(TileBake $job, int $size, Edges $edges, PictureFormat $format, \Closure $path, OutputInterface $output): void
    {
        $regions = TileBake::regions($size);
        $progress = new ProgressBar($output, \count($regions));
        $progress->start();
        $bytes = array_fill_keys(array_column($job->channels, 'value'), '');
        foreach ($regions as [$from, $to]) {
            foreach ($job->region($this->maps, $from, $to) as $channel => $band) {
                $bytes[$channel] .= $band;
            }
            $progress->advance();
        }
        $progress->finish();
        $output->writeln('');
        $verdict = $job->complete(static fn (Channel $c): string => $bytes[$c->value], static function (Channel $c, string $rows) use ($size, $format, $path): void {
            if (@file_put_contents($path($c), $format->bytes($size, $size, $c->samples(), $rows, $c->isDeep(), $c->filter())) === false) {
                throw new \InvalidArgumentException($path($c) . ' cannot be written.');
            }
        }, $edges);
        foreach ($job->channels as $channel) {
            $output->writeln(\sprintf('  %s  edge seam %.2f', $path($channel), $verdict->wrap[$channel->value]));
        }
        $output->writeln(ucfirst($verdict->text()) . '.');
    }
}
