<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use PHPUnit\Framework\TestCase;
use Rilta\App\Service\Engines;
use Rilta\Core\Target\C\CEngine;
use Rilta\Core\Target\Php\Compiler;

final class EnginesTest extends TestCase
{
    private static function engines(string $wish, string $compiler = 'cc'): Engines
    {
        $folder = \dirname(__DIR__, 2) . '/var/test/kernels';

        return new Engines(new Compiler($folder), new CEngine($folder, $compiler), $wish);
    }

    public function testWhatIsWishedForComputes(): void
    {
        self::assertSame('php', self::engines('php')->forBakes(4096)->name());
        self::assertSame('c', self::engines('c')->forBakes(64)->name());
        self::assertSame('c', self::engines('auto')->forBakes(1024)->name());
        self::assertSame('php', self::engines('auto')->forBakes(1023)->name(), 'compiling would take longer');
    }

    public function testWithoutACompilerPhpComputesUnlessCIsWishedFor(): void
    {
        self::assertSame('php', self::engines('auto', 'no-such-compiler')->forBakes(2048)->name());
        $this->expectExceptionMessageMatches('/^RILTA_ENGINE=c, but nothing can be computed in C here: no-such-compiler could not compile a program/');
        self::engines('c', 'no-such-compiler')->forBakes(2048);
    }

    public function testWhatIsNoEngineIsRefused(): void
    {
        $this->expectExceptionMessage('RILTA_ENGINE: expected auto, c, php, found "gpu".');
        self::engines('gpu')->forBakes(64);
    }
}
