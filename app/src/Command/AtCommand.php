<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;
use Rilta\Core\Probe\LayersAt;
use Rilta\Core\Probe\SurfaceSample;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('at', 'Tells which layers lie at points, and how much of each is seen')]
final class AtCommand extends CoreCommand
{
    private const FORMATS = ['text', 'json'];

    protected function configure(): void
    {
        parent::configure();
        $this->addOption('at', null, InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY, 'A position in metres: x,y,z; as often as there are points')
            ->addOption('points', null, InputOption::VALUE_REQUIRED, 'A file of points: in each line x,y,z, or x,y,z and the direction that the surface faces there')
            ->addOption('normal', null, InputOption::VALUE_REQUIRED, 'The direction that surfaces face where no other is said: x,y,z', '0,1,0')
            ->addOption('pixel', null, InputOption::VALUE_REQUIRED, 'Metres that a point stands for', '0.001')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, 'text or json', self::FORMATS[0]);
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $format = self::string($input->getOption('format'));
        if (!\in_array($format, self::FORMATS, true)) {
            throw new \InvalidArgumentException("--format: expected text or json, found \"$format\".");
        }
        [$nx, $ny, $nz] = self::numbers($input->getOption('normal'), 'normal', 3);
        [$pixel] = self::numbers($input->getOption('pixel'), 'pixel', 1);
        $points = [];
        foreach ([...$this->said($input), ...$this->listed(self::string($input->getOption('points')))] as $numbers) {
            [$x, $y, $z] = $numbers;
            $points[] = SurfaceSample::at([$x, $y, $z], [$numbers[3] ?? $nx, $numbers[4] ?? $ny, $numbers[5] ?? $nz], [0.0, 0.0], $pixel);
        }
        if ($points === []) {
            throw new \InvalidArgumentException('Expected at least one point: --at x,y,z or --points FILE.');
        }
        $layers = LayersAt::layers($lowered);
        $weights = (new LayersAt($this->compiler, $this->maps))->weights($lowered, $points);
        if ($format === 'json') {
            $output->writeln(json_encode(['layers' => $layers, 'weights' => $weights], \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE), OutputInterface::OUTPUT_RAW);

            return Command::SUCCESS;
        }
        foreach ($weights as $i => $shares) {
            arsort($shares);
            $seen = array_filter($shares, static fn (float $share): bool => $share >= 0.0005);
            $output->writeln(
                implode(', ', array_map(static fn (float $v): string => \sprintf('%.3f', $v), $points[$i]->inputs['position'])) . ' m: '
                . (implode(', ', array_map(static fn (int $layer, float $share): string => \sprintf('%s %.1f %%', $layers[$layer]['name'], 100 * $share), array_keys($seen), $seen)) ?: 'nothing'),
                OutputInterface::OUTPUT_RAW,
            );
        }

        return Command::SUCCESS;
    }

    /** @return list<list<float>> */
    private function said(InputInterface $input): array
    {
        $at = $input->getOption('at');

        return array_map(static fn (mixed $one): array => self::numbers($one, 'at', 3), array_values(\is_array($at) ? $at : []));
    }

    /** @return list<list<float>> */
    private function listed(string $file): array
    {
        if ($file === '') {
            return [];
        }
        if (!is_file($file)) {
            throw new \InvalidArgumentException("There is no file $file.");
        }
        $points = [];
        foreach (file($file, \FILE_IGNORE_NEW_LINES) ?: [] as $i => $line) {
            if (trim($line) === '') {
                continue;
            }
            $numbers = array_map(trim(...), explode(',', $line));
            if (!\in_array(\count($numbers), [3, 6], true) || array_filter($numbers, static fn (string $one): bool => !is_numeric($one) || !is_finite((float) $one)) !== []) {
                throw new \InvalidArgumentException(\sprintf('%s, line %d: expected 3 or 6 numbers with commas between them, found "%s".', $file, $i + 1, mb_substr($line, 0, 60)));
            }
            $points[] = array_map(floatval(...), $numbers);
            if (\count($points) > LayersAt::MOST) {
                throw new \InvalidArgumentException(\sprintf('%s: expected at most %d points.', $file, LayersAt::MOST));
            }
        }

        return $points;
    }
}
