<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Type;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\C\CEngine;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Tests\Documents;

/** What C computes here is what PHP computes. */
final class CEngineTest extends TestCase
{
    private const FOLDER = __DIR__ . '/../../../var/test/kernels';
    private const DEMO = __DIR__ . '/../../../demo';
    private const SIZE = 48;

    public function testEveryKindOfInputAndOutput(): void
    {
        $g = new Graph();
        $outputs = [
            'sum' => $g->add($g->x($g->input('pair', Type::Vec2)), $g->mul($g->y($g->input('pair', Type::Vec2)), $g->uniform('by'))),
            'three' => $g->mul($g->input('triple', Type::Vec3), $g->input('single', Type::Float)),
            'fixed' => $g->add($g->input('fixed', Type::Vec2), $g->vec($g->input('pixelX', Type::Float), $g->input('pixelY', Type::Float))),
            'whole' => $g->mul($g->toUint($g->input('single', Type::Float)), $g->uniform('seed', Type::Uint)),
        ];
        $bindings = ['pair' => Binding::Pairs, 'triple' => Binding::Triples, 'single' => Binding::Scalars, 'fixed' => Binding::Constant, 'pixelX' => Binding::PixelX, 'pixelY' => Binding::PixelY];
        $inputs = ['pair' => [1.0, 2.0, 3.0, 4.0, 5.0, 6.0], 'triple' => [1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0], 'single' => [2.5, -3.0, 7.0], 'fixed' => [100.0, 200.0]];
        $run = static fn (Engine $engine): array => $engine->compile($g, $outputs, $bindings)->run(['by' => 10.0, 'seed' => 0x9E3779B9], [], $inputs, 4, 6, 7, 7);
        $found = $run(new CEngine(self::FOLDER));
        self::assertSame([21.0, 43.0, 65.0], $found['sum'][0]);
        self::assertSame([[2.5, -12.0, 49.0], [5.0, -15.0, 56.0], [7.5, -18.0, 63.0]], $found['three']);
        self::assertSame([[104.5, 105.5, 106.5], [206.5, 206.5, 206.5]], $found['fixed']);
        self::assertSame([0x13C6EF372 & 0xFFFFFFFF, (-3 * 0x9E3779B9) & 0xFFFFFFFF, (7 * 0x9E3779B9) & 0xFFFFFFFF], $found['whole'][0]);
        self::assertSame($run(new Compiler(self::FOLDER)), $found);
    }

    /** @return iterable<string, array{string}> */
    public static function demo(): iterable
    {
        // A compiler takes seconds for each; the bench compares all of them.
        foreach (glob(self::DEMO . '/materials/*.json') ?: [] as $i => $file) {
            if ($i % 4 !== 0) {
                continue;
            }
            yield basename($file, '.json') => [$file];
        }
    }

    #[DataProvider('demo')]
    public function testBothMakeTheSameFiles(string $file): void
    {
        $maps = new MapFolder(self::DEMO . '/maps', sys_get_temp_dir() . '/rilta-demo-maps');
        $lowered = Lowering::lower(Documents::reader()->readJson((string) file_get_contents($file)), $maps, true);
        $rows = static fn (Engine $engine): array => (new TileBake($lowered, self::SIZE, $engine))->region($maps, 0, self::SIZE);
        $php = $rows(new Compiler(self::FOLDER));
        $c = $rows(new CEngine(self::FOLDER));
        self::assertSame(array_keys($php), array_keys($c));
        foreach ($php as $channel => $bytes) {
            $apart = array_map(static fn (int $a, int $b): int => abs($a - $b), self::numbers($channel, $bytes), self::numbers($channel, $c[$channel]));
            self::assertLessThanOrEqual(\count($apart) * 1e-4, \count(array_filter($apart, static fn (int $d): bool => $d > 1)), "$channel: how many are apart");
        }
        self::assertGreaterThan(1, \count(array_unique(self::numbers('base-colour', $php['base-colour']))));
    }

    /** @return list<int> heights have two bytes each */
    private static function numbers(string $channel, string $bytes): array
    {
        /** @var list<int> $numbers */
        $numbers = array_values(unpack($channel === 'height' ? 'n*' : 'C*', $bytes) ?: []);

        return $numbers;
    }

    public function testItSaysWhyItCannotCompute(): void
    {
        self::assertNull((new CEngine(self::FOLDER))->obstacle());
        self::assertMatchesRegularExpression('/^no-such-compiler could not compile a program: /', (string) (new CEngine(self::FOLDER, 'no-such-compiler'))->obstacle());
        self::assertMatchesRegularExpression('~^the folder for compiled programs, /proc/rilta, cannot be made$~', (string) (new CEngine('/proc/rilta'))->obstacle());
        self::assertSame([], glob(self::FOLDER . '/*.c') ?: [], 'no sources are left behind');

        $this->expectExceptionMessage('There is no number for the uniform by.');
        $g = new Graph();
        (new CEngine(self::FOLDER))->compile($g, ['it' => $g->uniform('by')], [])->run([], [], [], 0, 0, 1, 1);
    }

    public function testALibraryIsCompiledOnce(): void
    {
        $folder = sys_get_temp_dir() . '/rilta-c-' . bin2hex(random_bytes(4));
        $g = new Graph();
        foreach ([1.0, 2.0] as $value) {
            (new CEngine($folder))->compile($g, ['it' => $g->mul($g->uniform('by'), 3.0)], [])->run(['by' => $value], [], [], 0, 0, 1, 1);
        }
        $files = glob("$folder/*") ?: [];
        self::assertCount(1, $files, 'and other numbers are the same library');
        array_map(unlink(...), $files);
        rmdir($folder);
    }
}
