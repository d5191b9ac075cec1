<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Service\Ending;
use Rilta\App\Service\Interrupted;
use Rilta\App\Service\Refusal;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Command\SignalableCommandInterface;
use Symfony\Component\Console\Formatter\OutputFormatter;
use Symfony\Component\Console\Helper\ProgressBar;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\ConsoleOutputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** What the workers of another server do with materials that it has. */
abstract class RemoteCommand extends Command implements SignalableCommandInterface
{
    /** Microseconds between two questions how far it is. */
    private const BREATH = 300_000;

    public function __construct(protected readonly RemoteServer $server, private readonly Ending $ending)
    {
        parent::__construct();
    }

    /** @return list<int> */
    public function getSubscribedSignals(): array
    {
        return [\SIGINT, \SIGTERM];
    }

    public function handleSignal(int $signal, int|false $previousExitCode = 0): int|false
    {
        $this->ending->tell();

        return false;
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        try {
            if (!$this->server->isMeant()) {
                throw Refusal::invalid('Say which server: bin/rilta --server ADDRESS …');
            }

            return $this->drive($input, $output);
        } catch (Refusal $e) {
            $output->writeln('<error>' . OutputFormatter::escape($e->getMessage()) . '</error>');
            foreach ($e->problems as $problem) {
                $output->writeln('  ' . OutputFormatter::escape("{$problem['path']}: {$problem['message']}"));
            }
        } catch (Interrupted) {
            $output->writeln('<error>Ended before it was done; the server was told to end it as well.</error>');
        } catch (\RuntimeException $e) {
            $output->writeln('<error>' . OutputFormatter::escape($e->getMessage()) . '</error>');
        }

        return Command::FAILURE;
    }

    /**
     * @throws Refusal           what the server says
     * @throws Interrupted       if this process was told to end
     * @throws \RuntimeException if something cannot be written
     */
    abstract protected function drive(InputInterface $input, OutputInterface $output): int;

    protected static function word(InputInterface $input, string $option): string
    {
        $said = $input->getOption($option);

        return \is_string($said) ? $said : '';
    }

    protected static function whole(mixed $said): int
    {
        return \is_int($said) ? $said : 0;
    }

    /** The address of the project that is meant. */
    protected static function project(InputInterface $input): string
    {
        $slug = $input->getArgument('project');

        return '/api/projects/' . rawurlencode(\is_string($slug) ? $slug : '');
    }

    /**
     * @param list<string> $named
     *
     * @return list<int> the numbers of materials, in that order
     */
    protected function materials(string $at, array $named): array
    {
        $there = [];
        for ($page = 1, $pages = 1; $page <= $pages; ++$page) {
            $answer = $this->server->ask('GET', "$at/materials?page=$page");
            $pages = $answer instanceof \stdClass && \is_int($answer->pages ?? null) ? $answer->pages : 1;
            foreach ($answer instanceof \stdClass && \is_array($answer->materials ?? null) ? $answer->materials : [] as $one) {
                if ($one instanceof \stdClass && \is_string($one->name ?? null) && \is_int($one->id ?? null)) {
                    $there[$one->name][] = $one->id;
                }
            }
        }
        $numbers = [];
        foreach ($named as $name) {
            $found = $there[$name] ?? throw Refusal::invalid(\sprintf('The project has no material "%s"; its names are %s.', $name, implode(', ', \array_slice(array_keys($there), 0, 12)) . (\count($there) > 12 ? ' …' : '')));
            $numbers[] = \count($found) === 1 ? $found[0] : throw Refusal::invalid("The project has several materials called \"$name\"; rename all but one of them.");
        }

        return $numbers;
    }

    /**
     * Waits until something is done.
     *
     * @param string                               $at       where the server tells of it
     * @param \Closure(\stdClass): array{int, int} $progress what of it is done, of how much
     *
     * @throws Refusal     if it failed
     * @throws Interrupted if this process was told to end; the server was told to cancel it then
     */
    protected function finished(string $at, \Closure $progress, OutputInterface $output): \stdClass
    {
        $bar = new ProgressBar($output instanceof ConsoleOutputInterface ? $output->getErrorOutput() : $output);
        try {
            while (true) {
                $answer = $this->server->ask('GET', $at);
                $answer = $answer instanceof \stdClass ? $answer : throw RemoteServer::strange();
                [$done, $all] = $progress($answer);
                if ($all > 0) {
                    $bar->setMaxSteps($all);
                    $bar->setProgress($done);
                }
                if ($answer->state !== 'waiting') {
                    $bar->clear();

                    return $answer->state === 'done' ? $answer : throw Refusal::invalid($answer->state === 'failed' && \is_string($answer->failure ?? null) ? $answer->failure : 'It was cancelled on the server.');
                }
                $this->ending->check();
                usleep(self::BREATH);
            }
        } catch (Interrupted $e) {
            $this->server->ask('POST', "$at/cancel");
            throw $e;
        }
    }

    /**
     * Waits until a bake is done.
     *
     * @param mixed $bake as the server answered when it was asked for
     *
     * @return array{int, \stdClass} its number, and what it is in the end
     *
     * @throws Refusal     if it failed
     * @throws Interrupted
     */
    protected function baked(mixed $bake, OutputInterface $output): array
    {
        $number = $bake instanceof \stdClass ? self::whole($bake->id ?? null) : throw RemoteServer::strange();

        return [$number, $this->finished("/api/bakes/$number", static fn (\stdClass $now): array => $now->regions instanceof \stdClass ? [self::whole($now->regions->done ?? null), self::whole($now->regions->all ?? null)] : [0, 0], $output)];
    }

    /**
     * Takes a ZIP file of the server's apart.
     *
     * @return list<string> the files, as they lie in the folder; all of them or none
     */
    protected function unpacked(string $from, string $folder, bool $force = false): array
    {
        $folder = $folder === '' ? '.' : rtrim($folder, '/');
        if (!is_dir($folder) && !@mkdir($folder, 0o775, true) && !is_dir($folder)) {
            throw new \RuntimeException("The folder $folder cannot be made.");
        }

        return $this->opened($from, static function (\ZipArchive $zip) use ($folder, $force): array {
            $names = array_map(static fn (int $i): string => (string) $zip->getNameIndex($i), range(0, $zip->numFiles - 1));
            foreach ($names as $name) {
                if (preg_match('~(^|/)\.\.?(/|$)|^/|\\\\|[\x00-\x1f]~', $name) === 1) {
                    throw Refusal::elsewhere("The server sent a file called \"$name\", which would lie elsewhere.");
                }
                if (!$force && is_file("$folder/$name") && file_get_contents("$folder/$name") !== $zip->getFromName($name)) {
                    throw new \RuntimeException("$folder/$name is there already, and another; choose another folder.");
                }
            }
            if (!$zip->extractTo($folder, $names)) {
                throw new \RuntimeException("$folder cannot be written to; is the disk full, or the folder somebody else's?");
            }

            return $names;
        });
    }

    /**
     * @template T
     *
     * @param string                   $from a ZIP file of the server's
     * @param \Closure(\ZipArchive): T $use
     *
     * @return T
     */
    protected function opened(string $from, \Closure $use): mixed
    {
        $archive = (string) tempnam(sys_get_temp_dir(), 'rilta');
        try {
            $this->server->fetch('GET', $from, $archive);
            $zip = new \ZipArchive();
            if ($zip->open($archive) !== true) {
                throw Refusal::elsewhere('What the server sent is no ZIP file; ask again.');
            }
            $made = $use($zip);
            $zip->close();

            return $made;
        } finally {
            @unlink($archive);
        }
    }
}
