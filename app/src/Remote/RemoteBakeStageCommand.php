<?php

declare(strict_types=1);

namespace Rilta\App\Remote;

use Rilta\App\Command\StageOptions;
use Rilta\App\Service\DeliveryFolder;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\StageDelivery;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

#[AsCommand('remote:bake-stage', 'Has another server bake objects of a stage, with what they wear')]
final class RemoteBakeStageCommand extends RemoteCommand
{
    protected function configure(): void
    {
        StageOptions::define($this);
    }

    protected function drive(InputInterface $input, OutputInterface $output): int
    {
        $at = self::project($input);
        [$name, $document] = $this->stage($at, $input->getArgument('stage'));
        [$onto, $size] = StageOptions::asked($name, $document, $input);
        $open = self::word($input, 'material');
        $material = $open === '' ? self::worn($onto['objects']) : $this->materials($at, [$open])[0];
        $written = $this->server->ask('GET', "/api/materials/$material");
        $variant = self::word($input, 'variant');
        try {
            $bake = $this->server->ask('POST', "$at/bakes", ['document' => $written instanceof \stdClass ? $written->document : null, 'material' => $material, 'size' => $size, 'variant' => $variant, 'onto' => $onto]);
        } catch (Refusal $e) {
            throw StageOptions::refused($e->getMessage(), $e->problems);
        }
        [$number, $done] = $this->baked($bake, $output);
        $glb = $this->opened("/api/bakes/$number/files.zip", static function (\ZipArchive $zip): string {
            for ($i = 0; $i < $zip->numFiles; ++$i) {
                if (str_ends_with((string) $zip->getNameIndex($i), '.glb')) {
                    return (string) $zip->getFromIndex($i);
                }
            }
            throw RemoteServer::strange();
        });
        $delivery = new StageDelivery($name, $document, $variant, static fn (): array => [$glb, (array) ($done->facts ?? null)]);
        $out = rtrim(self::word($input, 'out'), '/');
        $folder = new DeliveryFolder($out === '' ? '.' : $out);
        // What it follows from, the server knows; the same makes the same bytes.
        $source = hash('sha256', "$glb\n$document");
        $there = $folder->unchanged($delivery, $source);
        [$made, $files] = $there === null ? $folder->write($delivery, $source, static fn (): null => null) : [$there, []];
        $output->writeln("$made: " . ($there === null ? \sprintf('%d objects, %.1f MiB', \count($onto['objects']), array_sum(array_column($files, 'bytes')) / 1048576) : 'unchanged'));

        return Command::SUCCESS;
    }

    /** @return array{string, string} a stage's name, and its document */
    private function stage(string $at, mixed $name): array
    {
        $answer = $this->server->ask('GET', "$at/stages");
        $numbers = [];
        foreach ($answer instanceof \stdClass && \is_array($answer->stages ?? null) ? $answer->stages : throw RemoteServer::strange() as $one) {
            if ($one instanceof \stdClass && \is_string($one->name ?? null)) {
                $numbers[$one->name] = self::whole($one->id ?? null);
            }
        }
        $name = \is_string($name) ? $name : '';
        $number = $numbers[$name] ?? throw StageOptions::noStage($name, array_map(strval(...), array_keys($numbers)));
        $stage = $this->server->ask('GET', "$at/stage?stage=$number");

        return [$name, json_encode($stage instanceof \stdClass ? $stage->document : throw RemoteServer::strange(), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION)];
    }

    /**
     * A material of those that are worn, where all objects wear some.
     *
     * @param list<array<mixed>> $objects
     */
    private static function worn(array $objects): int
    {
        foreach ($objects as $one) {
            $wears = [$one['wears'] ?? null, ...array_column(\is_array($one['sections'] ?? null) ? $one['sections'] : [], 'wears')];
            array_filter($wears, \is_int(...)) === $wears || throw Refusal::invalid(\sprintf('"%s" wears the material that is open; say with --material which that is.', \is_string($one['name'] ?? null) ? $one['name'] : ''));
        }

        return \is_int($objects[0]['wears'] ?? null) ? $objects[0]['wears'] : throw Refusal::invalid('Nothing on that stage is seen.');
    }
}
