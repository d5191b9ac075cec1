<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use Doctrine\Persistence\ManagerRegistry;
use PHPUnit\Framework\Attributes\DataProvider;
use Symfony\Bundle\FrameworkBundle\Console\Application;
use Symfony\Component\Console\Tester\CommandTester;

/** Objects of a stage by the command line; that the workers bake them is tested where there are some (e2e/application/play.spec.ts). */
final class BakeStageTest extends ApiTestCase
{
    private const URL = '/api/projects/' . self::PROJECT;

    protected function setUp(): void
    {
        parent::setUp();
        $this->importSet();
        $this->api('POST', self::URL . '/materials', ['document' => self::document()], 201);
        $this->api('GET', self::URL . '/stage');
    }

    /**
     * @param array<string, mixed> $said
     */
    #[DataProvider('mistakes')]
    public function testWhatIsWrongIsSaidByItsOption(array $said, string $told): void
    {
        [$status, $output] = $this->bake($said);
        self::assertSame(1, $status, $output);
        self::assertStringContainsString($told, $output);
        self::assertSame([], $this->api('GET', self::URL . '/deliveries'));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        yield 'no such project' => [['project' => 'none'], 'There is no project "none"'];
        yield 'no such stage' => [['stage' => 'Yard'], 'There is no stage "Yard"; there are Small stage.'];
        yield 'no such object' => [['--object' => ['Cube', 'Tower']], '--object: there is none called "Tower" on "Small stage".'];
        yield 'no material where one is open' => [['--material' => null], '"Floor" wears the material that is open; say with --material which that is.'];
        yield 'no such material' => [['--material' => 'Silt'], '--material: the project has no material "Silt".'];
        yield 'no such size' => [['--size' => '100'], '--size: expected one of 64, 128'];
        yield 'a size in words' => [['--size' => 'large'], 'found "large"'];
        yield 'no such set' => [['--uv-set' => '9'], '--uv-set: expected 1 to 4, found 9'];
        yield 'no such places' => [['--places' => 'many'], '--places: expected one of 1, 4, 9, 16, found "many"'];
        yield 'no such variant' => [['--variant' => 'wet'], '--variant: '];
        yield 'nothing to switch to' => [['--switch' => ['wet']], '--switch/0: there is no variant "wet"'];
        yield 'pictures that no file holds' => [['--size' => '8192'], '--size: 5 surfaces take at most 2048 pixels a side'];
        yield 'a folder that is none' => [['--out' => '/dev/null/none'], 'cannot be written'];
    }

    /**
     * @param array<string, mixed> $said
     *
     * @return array{int, string}
     */
    private function bake(array $said): array
    {
        $registry = self::getContainer()->get('doctrine');
        self::assertInstanceOf(ManagerRegistry::class, $registry);
        $registry->getManager()->clear();
        $kernel = self::$kernel ?? throw new \LogicException('No kernel.');
        $tester = new CommandTester((new Application($kernel))->find('bake-stage'));
        $status = $tester->execute(array_filter($said + ['project' => self::PROJECT, 'stage' => 'Small stage', '--material' => self::text(self::document()['name']), '--out' => sys_get_temp_dir()], static fn (mixed $one): bool => $one !== null));

        return [$status, $tester->getDisplay()];
    }
}
