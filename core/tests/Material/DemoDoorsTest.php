<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Material;
use Rilta\Core\Probe\Probe;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;

/** Every material of the demo, plain and in each of its variants, goes through every door of the core with its own maps. */
final class DemoDoorsTest extends TestCase
{
    private const FOLDER = __DIR__ . '/../../../demo';

    /** @return iterable<string, array{string}> */
    public static function documents(): iterable
    {
        foreach (glob(self::FOLDER . '/materials/*.json') ?: [] as $file) {
            yield basename($file, '.json') => [$file];
        }
    }

    #[DataProvider('documents')]
    public function testItIsBakedProbedAndLowered(string $file): void
    {
        $reader = Documents::reader();
        $written = $reader->readJson((string) file_get_contents($file));
        $maps = new MapFolder(self::FOLDER . '/maps', sys_get_temp_dir() . '/rilta-demo-maps');
        $materials = ['as written' => $written] + array_map(static fn (string $id): Material => $reader->inVariant($written, $id), array_column($written->variants->all, 'id', 'id'));
        foreach ($materials as $variant => $material) {
            $lowered = Lowering::lower($material, $maps, true);
            $job = new TileBake($lowered, 32, Kernels::compiler());
            $rows = $job->region($maps, 0, 32);
            $kept = [];
            $verdict = $job->complete(static fn (Channel $c): string => $rows[$c->value], static function (Channel $c, string $bytes) use (&$kept): void {
                $kept[] = $c->value;
            });
            self::assertSame(array_keys($rows), $kept, "$variant, baked");
            self::assertSame($job->tile->isSeamless(), !str_contains($verdict->text(), 'cannot tile'), $variant);
            self::assertGreaterThan(1, \count(array_unique(str_split($rows['base-colour'], 3))), "$variant is more than one colour");
            $trail = (new Probe(Kernels::compiler(), $maps))->trail(Lowering::lower($material, $maps), SurfaceSample::at([-0.31, 0.42, 0.17], [0.2, 0.9, 0.4], [0.3, 0.6], 0.002))->text();
            self::assertDoesNotMatchRegularExpression('/\\b(nan|inf)\\b/i', $trail, $variant);
            self::assertStringContainsString('Base colour', $trail, $variant);
            self::assertStringContainsString('riltaMaterial(RiltaSurface s)', Shader::of(Lowering::lower($material, $maps))->material, $variant);
        }
    }
}
