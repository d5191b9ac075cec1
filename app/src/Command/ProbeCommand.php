<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\SurfaceSample;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('probe', 'Prints the trail of one surface point through a material')]
final class ProbeCommand extends CoreCommand
{
    protected function configure(): void
    {
        parent::configure();
        $this->addOption('at', null, InputOption::VALUE_REQUIRED, 'Position in metres: x,y,z', '0,0,0')
            ->addOption('normal', null, InputOption::VALUE_REQUIRED, 'Direction the surface faces: x,y,z', '0,1,0')
            ->addOption('uv', null, InputOption::VALUE_REQUIRED, 'Coordinate of the mesh: u,v', '0,0')
            ->addOption('pixel', null, InputOption::VALUE_REQUIRED, 'Metres that a pixel covers', '0.001');
    }

    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        [$x, $y, $z] = self::numbers($input->getOption('at'), 'at', 3);
        [$nx, $ny, $nz] = self::numbers($input->getOption('normal'), 'normal', 3);
        [$u, $v] = self::numbers($input->getOption('uv'), 'uv', 2);
        [$pixel] = self::numbers($input->getOption('pixel'), 'pixel', 1);
        $point = SurfaceSample::at([$x, $y, $z], [$nx, $ny, $nz], [$u, $v], $pixel);
        $output->write((new Probe($this->compiler, $this->maps))->trail($lowered, $point)->text(), false, OutputInterface::OUTPUT_RAW);

        return Command::SUCCESS;
    }
}
