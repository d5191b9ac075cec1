<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Target\Php\VariableReuse;
use Rilta\Core\Tests\Documents;

final class VariableReuseTest extends TestCase
{
    public function testWhatIsDoneWithMakesRoom(): void
    {
        self::assertSame([
            '$f_0 = 1.0;',
            '$f_1 = $f_0 * 2.0;',
            '$f_0 = $f_1 + $f_1;',
            '$f_1 = $f_0 - 1.0;',
            '$o0[] = $f_1 * $t9;',
        ], VariableReuse::apply(['$t1 = 1.0;', '$t2 = $t1 * 2.0;', '$t3 = $t2 + $t2;', '$t4 = $t3 - 1.0;', '$o0[] = $t4 * $t9;'], [], ['$t9' => true]), 'what a line reads is not overwritten by it; what is set elsewhere keeps its name');
    }

    public function testOnlyOneKindShares(): void
    {
        self::assertSame(
            ['$n_0 = 7;', '$f_0 = (float) $n_0;', '$b_0 = $f_0 < 1.0;', '$n_0 = $b_0 ? 1 : 0;', '$o0[] = $n_0;'],
            VariableReuse::apply(['$t1 = 7;', '$t2 = (float) $t1;', '$t3 = $t2 < 1.0;', '$t4 = $t3 ? 1 : 0;', '$o0[] = $t4;'], ['$t1' => 'n', '$t2' => 'f', '$t3' => 'b', '$t4' => 'n'], []),
        );
    }

    public function testALoopKeepsAllThatItReads(): void
    {
        $lines = ['$t1 = 0.5;', '$t2 = 4;', 'while (true) {', '    $s3x += $t1;', '    if (--$t2 < 0) { break; }', '    $s4x = $s3x;', '}', '$t5 = $s4x;', '$o0[] = $t5 + $s3x;'];
        $made = VariableReuse::apply($lines, [], []);
        $read = static fn (string $line, int $of): string => preg_match_all('/\$f_\d+/', $line, $found) > 0 ? $found[0][$of] ?? '' : '';
        [$one, $two, $sum, $copy] = [$read($made[0], 0), $read($made[1], 0), $read($made[3], 0), $read($made[5], 0)];
        self::assertCount(4, array_unique([$one, $two, $sum, $copy]), implode("\n", $made));
    }

    /** PHP's compiler gives up functions whose blocks times variables are more than 4 Mi; a branch makes about three blocks. */
    public function testEveryKernelOfTheDemoIsOneThatPhpCompiles(): void
    {
        $root = \dirname(__DIR__, 3);
        $maps = new MapFolder("$root/demo/maps", "$root/var/test/packs");
        $folder = "$root/var/test/kernels-of-demo";
        array_map(unlink(...), glob("$folder/*.php") ?: []);
        foreach (glob("$root/demo/materials/*.json") ?: [] as $path) {
            new TileBake(Lowering::lower(Documents::reader()->readJson((string) file_get_contents($path)), $maps, true), 64, new Compiler($folder));
        }
        $kernels = glob("$folder/*.php") ?: [];
        self::assertGreaterThan(20, \count($kernels));
        foreach ($kernels as $file) {
            $code = (string) file_get_contents($file);
            preg_match_all('/\$\w+/', $code, $found);
            $branches = preg_match_all('/ \? |if \(| && | \|\| |while \(/', $code);
            self::assertLessThan(4 * 1024 * 1024 / 2, \count(array_unique($found[0])) * 3 * $branches, "$file is near what PHP's compiler gives up");
        }
    }

    /** The same figures come out, and a third of the variables. */
    public function testLongChainsNeedFewVariables(): void
    {
        $lines = ['$t0 = 1.0;', '$t1 = 2.0;'];
        for ($i = 2; $i < 500; ++$i) {
            $lines[] = \sprintf('$t%d = ($t%d + $t%d) * 0.5;', $i, $i - 1, $i - 2);
        }
        $lines[] = '$o0[] = $t499;';
        $made = VariableReuse::apply($lines, [], []);
        preg_match_all('/\$f_\d+/', implode('', $made), $found);
        self::assertCount(3, array_unique($found[0]));
        $run = static function (array $code): mixed {
            $o0 = [];
            eval(implode("\n", array_filter($code, is_string(...))));

            return $o0;
        };
        self::assertSame($run($lines), $run($made));
    }
}
