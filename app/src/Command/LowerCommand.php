<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\Material;
use Rilta\Core\Target\Glsl\Shader;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('lower', 'Prints a material as shader code')]
final class LowerCommand extends CoreCommand
{
    protected function perform(Material $material, Lowered $lowered, InputInterface $input, OutputInterface $output): int
    {
        $shader = Shader::of($lowered);
        $output->write("// $material->name: {$material->lanes[0]->sentence()}\n", false, OutputInterface::OUTPUT_RAW);
        $output->write($shader->declarations . "\n" . $shader->material, false, OutputInterface::OUTPUT_RAW);

        return Command::SUCCESS;
    }
}
