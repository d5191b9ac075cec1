<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use PHPat\Selector\Selector;
use PHPat\Test\Builder\Rule;
use PHPat\Test\PHPat;

/** Dependencies run one way: app → core, and inside the core each folder uses only those above it. */
final class Architecture
{
    /** From the ground up. */
    private const FOLDERS = [
        'Json', 'Math', 'Colour', 'Raster', 'Mesh', 'Field', 'Surface', 'Material', 'Check', 'Lowering', 'Step', 'Target', 'Probe', 'Mend', 'Stage', 'Recipe', 'Bake', 'Judge', 'Format', 'Deliver',
    ];

    /** @return iterable<string, Rule> */
    public function testFoldersUseOnlyThoseAbove(): iterable
    {
        foreach (self::FOLDERS as $i => $folder) {
            $below = \array_slice(self::FOLDERS, $i + 1);
            if ($below === []) {
                continue;
            }
            yield $folder => PHPat::rule()
                ->classes(Selector::inNamespace("Rilta\\Core\\$folder"))
                ->shouldNotDependOn()
                ->classes(...array_map(static fn (string $b) => Selector::inNamespace("Rilta\\Core\\$b"), $below))
                ->because('core folders build on each other in one order');
        }
    }

    public function testCoreKnowsNoFramework(): Rule
    {
        return PHPat::rule()
            ->classes(Selector::AllOf(Selector::inNamespace('Rilta\Core'), Selector::Not(Selector::inNamespace('Rilta\Core\Tests'))))
            ->shouldNotDependOn()
            ->classes(Selector::inNamespace('Symfony'), Selector::inNamespace('Doctrine'), Selector::inNamespace('Rilta\App'), Selector::inNamespace('League'))
            ->because('the rules of the job stand on their own');
    }

    /** @return iterable<string, Rule> */
    public function testTheApplicationRestsOnItsServicesAndTheyOnWhatIsStored(): iterable
    {
        $above = ['Entity' => ['Service', 'Http', 'Controller', 'Command'], 'Service' => ['Http', 'Controller', 'Command'], 'Http' => ['Controller', 'Command'], 'Controller' => ['Command'], 'Command' => ['Controller', 'Http']];
        foreach ($above as $folder => $others) {
            yield "app $folder" => PHPat::rule()
                ->classes(Selector::inNamespace("Rilta\\App\\$folder"))
                ->shouldNotDependOn()
                ->classes(...array_map(static fn (string $other) => Selector::inNamespace("Rilta\\App\\$other"), $others))
                ->because('controllers and commands ask services, services know what is stored, and nobody but HTTP knows of statuses');
        }
    }
}
