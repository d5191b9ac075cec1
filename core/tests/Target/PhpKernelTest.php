<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Target;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Colour\Srgb;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\IllTyped;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Raster\Image;
use Rilta\Core\Raster\MipFilter;
use Rilta\Core\Raster\Mips;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Core\Tests\Kernels;

final class PhpKernelTest extends TestCase
{
    /** @return iterable<string, array{\Closure(Graph, Node, Node): Node, \Closure(float, float): float}> */
    public static function operations(): iterable
    {
        yield 'add' => [static fn (Graph $g, Node $a, Node $b): Node => $g->add($a, $b), static fn (float $a, float $b): float => $a + $b];
        yield 'sub' => [static fn (Graph $g, Node $a, Node $b): Node => $g->sub($a, $b), static fn (float $a, float $b): float => $a - $b];
        yield 'mul' => [static fn (Graph $g, Node $a, Node $b): Node => $g->mul($a, $b), static fn (float $a, float $b): float => $a * $b];
        yield 'div' => [static fn (Graph $g, Node $a, Node $b): Node => $g->div($a, $b), static fn (float $a, float $b): float => $a / $b];
        yield 'min' => [static fn (Graph $g, Node $a, Node $b): Node => $g->min($a, $b), static fn (float $a, float $b): float => min($a, $b)];
        yield 'max' => [static fn (Graph $g, Node $a, Node $b): Node => $g->max($a, $b), static fn (float $a, float $b): float => max($a, $b)];
        yield 'pow' => [static fn (Graph $g, Node $a, Node $b): Node => $g->pow($g->abs($a), $b), static fn (float $a, float $b): float => abs($a) ** $b];
        yield 'atan2' => [static fn (Graph $g, Node $a, Node $b): Node => $g->atan2($a, $b), atan2(...)];
        yield 'floor' => [static fn (Graph $g, Node $a): Node => $g->floor($a), static fn (float $a): float => floor($a)];
        yield 'fract' => [static fn (Graph $g, Node $a): Node => $g->fract($a), static fn (float $a): float => $a - floor($a)];
        yield 'abs' => [static fn (Graph $g, Node $a): Node => $g->abs($a), static fn (float $a): float => abs($a)];
        yield 'neg' => [static fn (Graph $g, Node $a): Node => $g->neg($a), static fn (float $a): float => -$a];
        yield 'sqrt' => [static fn (Graph $g, Node $a): Node => $g->sqrt($g->abs($a)), static fn (float $a): float => sqrt(abs($a))];
        yield 'exp2' => [static fn (Graph $g, Node $a): Node => $g->exp2($a), static fn (float $a): float => 2 ** $a];
        yield 'log2' => [static fn (Graph $g, Node $a): Node => $g->log2($g->abs($a)), static fn (float $a): float => log(abs($a), 2)];
        yield 'sin' => [static fn (Graph $g, Node $a): Node => $g->sin($a), static fn (float $a): float => sin($a)];
        yield 'cos' => [static fn (Graph $g, Node $a): Node => $g->cos($a), static fn (float $a): float => cos($a)];
        yield 'mix' => [static fn (Graph $g, Node $a, Node $b): Node => $g->mix($a, $b, 0.3), static fn (float $a, float $b): float => 0.7 * $a + 0.3 * $b];
        yield 'clamp' => [static fn (Graph $g, Node $a): Node => $g->clamp($a, -1.0, 2.0), static fn (float $a): float => max(-1.0, min(2.0, $a))];
        yield 'select' => [static fn (Graph $g, Node $a, Node $b): Node => $g->select($g->less($a, $b), 1.0, 2.0), static fn (float $a, float $b): float => $a < $b ? 1.0 : 2.0];
        yield 'logic' => [
            static fn (Graph $g, Node $a, Node $b): Node => $g->select($g->and($g->or($g->less($a, 0), $g->lessEqual($b, 0)), $g->not($g->less($a, -2))), 1.0, 0.0),
            static fn (float $a, float $b): float => ($a < 0 || $b <= 0) && !($a < -2) ? 1.0 : 0.0,
        ];
        yield 'length' => [static fn (Graph $g, Node $a, Node $b): Node => $g->length($g->vec($a, $b, 2)), static fn (float $a, float $b): float => sqrt($a * $a + $b * $b + 4)];
        yield 'normalize' => [static fn (Graph $g, Node $a, Node $b): Node => $g->y($g->normalize($g->vec($a, $b, 2))), static fn (float $a, float $b): float => $b / sqrt($a * $a + $b * $b + 4)];
        yield 'cross' => [static fn (Graph $g, Node $a, Node $b): Node => $g->z($g->cross($g->vec($a, $b, 2), $g->vec($b, 3, $a))), static fn (float $a, float $b): float => $a * 3 - $b * $b];
        yield 'dot' => [static fn (Graph $g, Node $a, Node $b): Node => $g->dot($g->vec($a, $b), $g->vec($b, 3)), static fn (float $a, float $b): float => $a * $b + $b * 3];
    }

    /**
     * @param \Closure(Graph, Node, Node): Node $field
     * @param \Closure                          $plain the same in plain PHP
     */
    #[DataProvider('operations')]
    public function testOperationsComputeWhatTheySay(\Closure $field, \Closure $plain): void
    {
        $g = new Graph();
        $node = $field($g, $g->input('a', Type::Float), $g->uniform('b'));
        foreach ([[1.25, 2.5], [-3.75, 0.5], [0.0, -1.5], [7.0, 7.0]] as [$a, $b]) {
            $arguments = (new \ReflectionFunction($plain))->getNumberOfParameters() === 1 ? [$a] : [$a, $b];
            $expected = $plain(...$arguments);
            if (!\is_float($expected) || !is_finite($expected)) {
                continue;
            }
            self::assertEqualsWithDelta($expected, Kernels::value($g, $node, ['a' => [$a]], ['b' => $b])[0], 1e-12);
        }
    }

    public function testIntegersWrapLikeThoseOfTheGpu(): void
    {
        $g = new Graph();
        $a = $g->toUint($g->input('a', Type::Float));
        $node = $g->xor($g->mul($g->add($a, $g->uint(0xFFFFFFF0)), $g->uint(2654435761)), $g->shiftRight($a, 3));
        $expected = ((((100 + 0xFFFFFFF0) & 0xFFFFFFFF) * 2654435761) & 0xFFFFFFFF) ^ (100 >> 3);
        self::assertSame($expected, Kernels::value($g, $node, ['a' => [100.0]])[0]);
        self::assertSame(0xFFFFFFFE, Kernels::value($g, $g->toUint($g->input('a', Type::Float)), ['a' => [-1.5]])[0], 'two\'s complement below 0');
    }

    public function testAVectorComesAsItsComponents(): void
    {
        $g = new Graph();
        $v = $g->add($g->input('v', Type::Vec3), $g->uniform('w', Type::Vec3));
        self::assertSame([11.0, 22.0, 33.0], Kernels::value($g, $v, ['v' => [1.0, 2.0, 3.0]], ['w.x' => 10, 'w.y' => 20, 'w.z' => 30]));
    }

    public function testAKernelThatWasTakenAwayIsPrintedAnewAndOneThatIsUsedSaysSo(): void
    {
        $folder = sys_get_temp_dir() . '/rilta-kernels-' . bin2hex(random_bytes(4));
        $g = new Graph();
        $compiled = static fn (): float => (float) (new Compiler($folder))->compile($g, ['x' => $g->add($g->input('x', Type::Float), 2.0)], ['x' => Binding::PixelX])->run([], [], [], 0, 0, 1, 1)['x'][0][0];
        self::assertSame(2.5, $compiled());
        [$file] = glob("$folder/*.php") ?: [''];
        touch($file, time() - 3 * 86400);
        clearstatcache();
        $compiled();
        clearstatcache();
        self::assertLessThan(60, time() - (int) filemtime($file));
        unlink($file);
        $compiled();
        self::assertFileExists($file);
        unlink($file);
        rmdir($folder);
    }

    public function testPixelsAreCountedFromTheirCentres(): void
    {
        $g = new Graph();
        $field = $g->add($g->input('px', Type::Float), $g->mul($g->input('py', Type::Float), 100));
        $found = Kernels::compiler()->compile($g, ['it' => $field], ['px' => Binding::PixelX, 'py' => Binding::PixelY])->run([], [], [], 2, 5, 4, 7);
        self::assertSame([[552.5, 553.5, 652.5, 653.5]], $found['it']);
    }

    /** As bin/rilta starts it: a worker says that it is alive in the middle of a kernel. */
    public function testASignalInTheMiddleChangesNothing(): void
    {
        $g = new Graph();
        $field = $g->fract($g->add($g->mul($g->input('px', Type::Float), 0.37), $g->sin($g->mul($g->input('py', Type::Float), 0.1))));
        $kernel = Kernels::compiler()->compile($g, ['it' => $field, 'root' => $g->sqrt($field)], ['px' => Binding::PixelX, 'py' => Binding::PixelY]);
        $expected = $kernel->run([], [], [], 0, 0, 700, 32);
        $signals = 0;
        $before = pcntl_signal_get_handler(\SIGUSR1);
        $wasAsync = pcntl_async_signals(true);
        pcntl_signal(\SIGUSR1, static function () use (&$signals): void {
            ++$signals;
        });
        $sender = proc_open(['sh', '-c', 'while kill -USR1 $0; do sleep 0.001; done', (string) getmypid()], [2 => ['file', '/dev/null', 'w']], $pipes);
        self::assertIsResource($sender);
        try {
            // However little of a processor the sender gets beside other work.
            for ($i = 0; $i < 50000 && $signals < 200; ++$i) {
                self::assertSame($expected, $kernel->run([], [], [], 0, 0, 700, 32));
            }
        } finally {
            proc_terminate($sender, \SIGKILL);
            proc_close($sender);
            pcntl_signal(\SIGUSR1, $before);
            pcntl_async_signals($wasAsync);
        }
        self::assertGreaterThanOrEqual(200, $signals);
    }

    public function testAnInputWithoutABindingIsNamed(): void
    {
        $g = new Graph();
        $this->expectException(IllTyped::class);
        $this->expectExceptionMessage('"lost"');
        Kernels::value($g, $g->sin($g->input('lost', Type::Float)));
    }

    /** @return iterable<string, array{float, float, float}> u, v, texels a pixel */
    public static function reads(): iterable
    {
        yield 'on a texel' => [0.5 / 8, 3.5 / 4, 0.5];
        yield 'between texels' => [0.37, 0.81, 1.0];
        yield 'across the border' => [0.99, 0.02, 1.0];
        yield 'far outside' => [-7.31, 12.66, 1.0];
        yield 'between levels' => [0.37, 0.81, 2.83];
        yield 'the smallest level' => [0.37, 0.81, 1e6];
        yield 'a level exactly' => [0.12, 0.4, 2.0];
    }

    #[DataProvider('reads')]
    public function testMapsAreReadTrilinearly(float $u, float $v, float $footprint): void
    {
        foreach ([[4, true], [4, false], [1, false]] as [$samples, $srgb]) {
            mt_srand(8);
            $image = new Image(8, 4, $samples, array_map(static fn (): int => $samples === 1 ? mt_rand(0, 255) : mt_rand(0, 0xFFFFFFFF), range(1, 32)));
            $levels = [$image];
            while ($levels[\count($levels) - 1]->width > 1) {
                $levels[] = Mips::half($levels[\count($levels) - 1], $srgb ? MipFilter::Colour : MipFilter::Data);
            }
            $slot = new TextureBinding('m', 8, 4, $samples, $srgb);
            $g = new Graph();
            $read = $g->sample($slot, $g->input('uv', Type::Vec2), $g->input('dx', Type::Vec2), $g->vec(0, 0));
            $texels = Mips::build($image, $srgb ? MipFilter::Colour : MipFilter::Data);
            $found = Kernels::value($g, $read, ['uv' => [$u, $v], 'dx' => [$footprint / 8, 0.0]], [], ['m' => $texels]);
            $level = min(max(log($footprint, 2), 0.0), \count($levels) - 1);
            $low = (int) floor($level);
            $expected = $this->bilinear($levels[$low], $u, $v, $srgb);
            if ($level > $low) {
                $next = $this->bilinear($levels[$low + 1], $u, $v, $srgb);
                $expected = array_map(static fn (float $a, float $b): float => $a + ($b - $a) * ($level - $low), $expected, $next);
            }
            self::assertEqualsWithDelta($expected, $found, 1e-9);
        }
    }

    public function testAReadWithoutWeightIsNothing(): void
    {
        $g = new Graph();
        $read = $g->sample(new TextureBinding('m', 1, 1, 4, false), $g->vec(0, 0), $g->vec(0, 0), $g->vec(0, 0), $g->uniform('weight'));
        self::assertEqualsWithDelta([1.0, 1.0, 1.0, 1.0], Kernels::value($g, $read, [], ['weight' => 0.1], ['m' => [0xFFFFFFFF]]), 1e-12);
        self::assertSame([0.0, 0.0, 0.0, 0.0], Kernels::value($g, $read, [], ['weight' => 0], ['m' => [0xFFFFFFFF]]));
    }

    public function testSizesThatAreNoPowersOfTwoWrapToo(): void
    {
        $image = new Image(3, 5, 1, range(10, 150, 10));
        $g = new Graph();
        $read = $g->x($g->sample(new TextureBinding('m', 3, 5, 1, false), $g->input('uv', Type::Vec2), $g->vec(0, 0), $g->vec(0, 0)));
        foreach ([[0.01, 0.99], [-0.4, 7.3], [0.5, 0.5]] as [$u, $v]) {
            self::assertEqualsWithDelta(
                $this->bilinear($image, $u, $v, false)[0],
                Kernels::value($g, $read, ['uv' => [$u, $v]], [], ['m' => Mips::build($image, MipFilter::Data)])[0],
                1e-9,
            );
        }
    }

    /** @return iterable<string, array{Sampling}> */
    public static function samplings(): iterable
    {
        foreach (['smooth', 'sharp'] as $filter) {
            foreach ([['mirror', 'edge'], ['edge', 'mirror'], ['repeat', 'edge']] as [$u, $v]) {
                foreach ([true, false] as $mips) {
                    yield "$filter, $u, $v, " . ($mips ? 'levels' : 'one level') => [new Sampling($filter, $mips, 1, $u, $v)];
                }
            }
        }
    }

    /** Against the definition, texel by texel: OpenGL ES 3.0.6, section 3.8.10 and table 3.18. */
    #[DataProvider('samplings')]
    public function testMapsAreReadAsTheirSamplingSays(Sampling $sampling): void
    {
        $wrap = static fn (int $i, int $size, string $how): int => match ($how) {
            'edge' => max(0, min($size - 1, $i)),
            'mirror' => ($m = (($i % (2 * $size)) + 2 * $size) % (2 * $size)) < $size ? $m : 2 * $size - 1 - $m,
            default => (($i % $size) + $size) % $size,
        };
        foreach ([[4, 4], [5, 3]] as [$width, $height]) {
            $image = new Image($width, $height, 1, array_map(static fn (int $i): int => ($i * 37) % 256, range(0, $width * $height - 1)));
            $slot = new TextureBinding('m', $width, $height, 1, false, false, $sampling);
            $at = static fn (Image $level, int $x, int $y): float => $level->texels[$wrap($y, $level->height, $sampling->wrapV) * $level->width + $wrap($x, $level->width, $sampling->wrapU)] / 255;
            $read = static function (Image $level, float $u, float $v) use ($at, $sampling): float {
                if ($sampling->filter === 'sharp') {
                    return $at($level, (int) floor($u * $level->width), (int) floor($v * $level->height));
                }
                [$x, $y] = [$u * $level->width - 0.5, $v * $level->height - 0.5];
                [$i, $j] = [(int) floor($x), (int) floor($y)];
                [$a, $b] = [$x - $i, $y - $j];

                return ($at($level, $i, $j) * (1 - $a) + $at($level, $i + 1, $j) * $a) * (1 - $b) + ($at($level, $i, $j + 1) * (1 - $a) + $at($level, $i + 1, $j + 1) * $a) * $b;
            };
            $g = new Graph();
            $field = $g->x($g->sample($slot, $g->input('uv', Type::Vec2), $g->input('dx', Type::Vec2), $g->vec(0, 0)));
            foreach ([[0.3, 0.4], [-0.1, 1.2], [1.9, -2.3], [-7.77, 0.01]] as [$u, $v]) {
                foreach ([0.5, 1.7] as $footprint) {
                    $found = Kernels::value($g, $field, ['uv' => [$u, $v], 'dx' => [$footprint / $width, 0.0]], [], ['m' => Mips::build($image, MipFilter::Data)])[0];
                    $part = $sampling->mips ? max(0.0, log($footprint, 2)) : 0.0;
                    $expected = $read($image, $u, $v) * (1 - $part) + $read(Mips::half($image, MipFilter::Data), $u, $v) * $part;
                    self::assertEqualsWithDelta($expected, $found, 1e-9, "$width x $height at $u, $v, $footprint");
                }
            }
        }
    }

    public function testASamplingThatIsNoneSaysWhatWasExpected(): void
    {
        self::assertSame(['name' => 'wrapU', 'message' => 'expected "repeat", "mirror", "edge"'], Sampling::objection(['wrapU' => 'border']));
        self::assertSame(['name' => 'anisotropy', 'message' => 'expected 1, 2, 4, 8, 16'], Sampling::objection(['anisotropy' => 3]));
        self::assertSame('wrap', Sampling::objection(['wrap' => 'edge'])['name'] ?? '');
        self::assertNull(Sampling::objection((new Sampling('sharp', false, 8, 'edge', 'mirror'))->describe()));
        self::assertSame(['', 'sharp-flat-slant8-uedge-vmirror'], [(new Sampling())->key(), Sampling::of(['filter' => 'sharp', 'mips' => false, 'anisotropy' => 8, 'wrapU' => 'edge', 'wrapV' => 'mirror'])->key()]);
    }

    /** @return list<float> */
    private function bilinear(Image $image, float $u, float $v, bool $srgb): array
    {
        [$x, $y] = [$u * $image->width - 0.5, $v * $image->height - 0.5];
        [$fx, $fy] = [$x - floor($x), $y - floor($y)];
        $sum = [0.0, 0.0, 0.0, 0.0];
        foreach ([[0, 0, (1 - $fx) * (1 - $fy)], [1, 0, $fx * (1 - $fy)], [0, 1, (1 - $fx) * $fy], [1, 1, $fx * $fy]] as [$dx, $dy, $w]) {
            $tx = (((int) floor($x) + $dx) % $image->width + $image->width) % $image->width;
            $ty = (((int) floor($y) + $dy) % $image->height + $image->height) % $image->height;
            $texel = $image->texels[$ty * $image->width + $tx];
            for ($c = 0; $c < 4; ++$c) {
                $byte = ($texel >> 8 * $c) & 255;
                $value = $srgb && $c < 3 ? Srgb::toLinear($byte / 255) : $byte / 255;
                // A map of one value reads as red, opaque.
                $sum[$c] += $w * ($image->samples === 4 || $c === 0 ? $value : ($c === 3 ? 1.0 : 0.0));
            }
        }

        return $sum;
    }
}
