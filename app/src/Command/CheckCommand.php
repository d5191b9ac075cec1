<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\Core\Format\FindingReport;
use Rilta\Core\Format\FolderFindings;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Rules;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\StageSamples;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Stage\Stage;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Ends with 0 where nothing is wrong, with 1 where something is, with 2 where a file could not be looked through. */
#[AsCommand('check', 'Looks materials and their maps through for what is wrong, doubtful or too dear')]
final class CheckCommand extends DocumentCommand
{
    private const FORMATS = ['text', 'sarif', 'junit'];

    protected function configure(): void
    {
        $this->addArgument('file', InputArgument::REQUIRED | InputArgument::IS_ARRAY, 'Material documents')
            ->options()
            ->addOption('stage', null, InputOption::VALUE_REQUIRED, 'A stage document that they are judged on, with ready-made meshes')
            ->addOption('budget', null, InputOption::VALUE_REQUIRED, 'A budget to keep: ' . implode(', ', array_keys(Profile::ready())) . ', or a file')
            ->addOption('format', null, InputOption::VALUE_REQUIRED, implode(', ', self::FORMATS), 'text')
            ->addOption('strict', null, InputOption::VALUE_NONE, 'Ends with 1 for what is doubtful, too');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $found = [];
        $where = '';
        try {
            $format = self::string($input->getOption('format'));
            if (!\in_array($format, self::FORMATS, true)) {
                throw new \InvalidArgumentException(\sprintf('--format: expected %s, found "%s".', implode(', ', self::FORMATS), $format));
            }
            $profile = self::profile(self::string($input->getOption('budget')));
            foreach ((array) $input->getArgument('file') as $one) {
                $file = self::string($one);
                $where = "$file: ";
                $found[$file] = $this->found($file, $input, $profile);
            }
        } catch (UnreadableMap|InvalidDocument|\InvalidArgumentException $e) {
            $output->writeln("<error>$where{$e->getMessage()}</error>");

            return Command::INVALID;
        }
        $report = new FindingReport(Rules::all($this->reader), $found);
        $output->write(match ($format) {
            'sarif' => $report->sarif(),
            'junit' => $report->junit(),
            default => $report->text(),
        }, false, OutputInterface::OUTPUT_RAW);

        return $report->has($input->getOption('strict') === true ? Severity::Doubtful : Severity::Wrong) ? Command::FAILURE : Command::SUCCESS;
    }

    /** @return list<array{Rule, Finding}> */
    private function found(string $file, InputInterface $input, ?Profile $profile): array
    {
        [$material, $document] = $this->read($file, $input);
        $lowered = Lowering::lower($material, $this->maps);
        $stage = self::string($input->getOption('stage'));
        $samples = null;
        if ($stage !== '') {
            if (!is_file($stage)) {
                throw new \InvalidArgumentException("--stage: there is no file $stage.");
            }
            $samples = StageSamples::of(Stage::read(json_decode((string) file_get_contents($stage), true)), null, $lowered->cover->isTwoSided());
        }
        $subject = new Subject($document, $material, $this->maps, $this->compiler, FolderFindings::of($lowered, $this->maps), $samples, $profile);

        return Rules::found($this->reader, $subject);
    }

    private static function profile(string $name): ?Profile
    {
        $ready = Profile::ready();

        if ($name === '' || isset($ready[$name])) {
            return $ready[$name] ?? null;
        }
        if (!is_file($name)) {
            throw new \InvalidArgumentException(\sprintf('--profile: expected %s, or a file, found "%s".', implode(', ', array_keys($ready)), $name));
        }
        try {
            return Profile::read(json_decode((string) file_get_contents($name), true));
        } catch (InvalidDocument $e) {
            throw new \InvalidArgumentException("--profile: $name: {$e->getMessage()}");
        }
    }
}
