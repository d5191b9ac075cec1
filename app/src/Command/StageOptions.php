<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\Refusal;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Deliver\BakeProfile;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;

/** What is said of a bake of a stage, whoever bakes it. */
final class StageOptions
{
    /** @param list<string> $there names of those that there are */
    public static function noStage(string $name, array $there): Refusal
    {
        return Refusal::invalid(\sprintf('There is no stage "%s"; there are %s.', $name, implode(', ', \array_slice($there, 0, 12)) . (\count($there) > 12 ? ' …' : '')));
    }

    public static function define(Command $command): void
    {
        $list = InputOption::VALUE_REQUIRED | InputOption::VALUE_IS_ARRAY;
        $command->addArgument('project', InputArgument::REQUIRED, 'The project, as its address calls it')
            ->addArgument('stage', InputArgument::REQUIRED, 'The name of one of its stages')
            ->addOption('object', null, $list, 'The name of an object; as often as there are, all that are seen where it is left out')
            ->addOption('material', null, InputOption::VALUE_REQUIRED, 'The material that objects wear which wear the one that is open')
            ->addOption('variant', null, InputOption::VALUE_REQUIRED, 'The variant in which it is worn, by its id', '')
            ->addOption('switch', null, $list, 'A variant of it that the file can be switched to, by its id; as often as there are')
            ->addOption('size', null, InputOption::VALUE_REQUIRED, 'Pixels a side: ' . implode(', ', BakeProfile::SIZES), '256')
            ->addOption('uv-set', null, InputOption::VALUE_REQUIRED, 'The set of UVs that meshes are laid out in; the first where one has no such set', '2')
            ->addOption('places', null, InputOption::VALUE_REQUIRED, 'Places that a texel is looked at: ' . implode(', ', MeshTarget::PLACES), '4')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the delivery', '.');
    }

    /**
     * What of a stage is baked, and how large.
     *
     * @return array{array{objects: list<array<mixed>>, set: mixed, places: mixed, variants: mixed}, int} as requests have it; pixels a side
     *
     * @throws Refusal if there is no such object, or no such size
     */
    public static function asked(string $stage, string $document, InputInterface $input): array
    {
        $read = json_decode($document, true);
        $all = \is_array($read) && \is_array($read['objects'] ?? null) ? array_values(array_filter($read['objects'], \is_array(...))) : [];
        $named = $input->getOption('object');
        $objects = \is_array($named) && $named !== [] ? [] : array_values(array_filter($all, static fn (array $one): bool => ($one['hidden'] ?? false) !== true));
        foreach (\is_array($named) ? array_filter($named, \is_string(...)) : [] as $name) {
            $here = array_filter($all, static fn (array $one): bool => ($one['name'] ?? null) === $name);
            array_push($objects, ...$here ?: throw Refusal::invalid("--object: there is none called \"$name\" on \"$stage\"."));
        }
        $whole = static fn (mixed $said): mixed => \is_string($said) && ctype_digit($said) ? (int) $said : $said;
        $size = $whole($input->getOption('size'));
        if (!\is_int($size) || !\in_array($size, BakeProfile::SIZES, true)) {
            throw Refusal::invalid(\sprintf('--size: expected one of %s, found "%s".', implode(', ', BakeProfile::SIZES), \is_string($size) ? $size : (string) json_encode($size)));
        }

        return [['objects' => $objects, 'set' => $whole($input->getOption('uv-set')), 'places' => $whole($input->getOption('places')), 'variants' => $input->getOption('switch')], $size];
    }

    /**
     * What is refused, by the options that said it.
     *
     * @param list<array{path: string, message: string}> $problems
     */
    public static function refused(string $message, array $problems): Refusal
    {
        return Refusal::invalid($message, array_map(static fn (array $one): array => ['path' => strtr($one['path'], ['/onto/set' => '--uv-set', '/onto/places' => '--places', '/onto/variants' => '--switch', '/variants' => '--variant', '/size' => '--size']), 'message' => $one['message']], $problems));
    }
}
