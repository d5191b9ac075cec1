<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\C\CTarget;
use Rilta\Core\Target\C\Printer;
use Rilta\Core\Tests\TestMaps;

/** Documents as C programs: compiled with all warnings as errors, run over points, and compared with what the PHP kernel finds. */
final class CRun
{
    /** Reads the texels of a map, for hosts of such programs. */
    public const TEXELS = <<<'C'
        static const uint32_t *texels(const char *path) {
            FILE *file = fopen(path, "rb");
            if (file == NULL) exit(2);
            fseek(file, 0, SEEK_END);
            const long size = ftell(file);
            rewind(file);
            uint32_t *all = malloc((size_t) size);
            if (all == NULL || fread(all, 1, (size_t) size, file) != (size_t) size) exit(3);
            fclose(file);
            return all;
        }
        C;

    private const OPTIMISED = 20;

    /** Two programs at a time: as many as the machines have that this runs on. */
    private const SIDE_BY_SIDE = 2;

    /** @var list<array{resource, string, string, array<string, list<list<float|int>>>, int}> running: process, name, file of results, what the kernel found, points */
    private array $running = [];

    public int $values = 0;
    public int $off = 0;
    public float $worst = 0.0;

    /** @param list<string> $failed documents that do not compile or run, and why */
    public function __construct(private readonly string $folder, private readonly string $points, public array $failed = [])
    {
        if (!is_dir($folder)) {
            mkdir($folder, 0o777, true);
        }
    }

    /**
     * Points as a program reads them: all inputs of one point after another.
     *
     * @param array<string, list<float>> $points flat lists by input
     */
    public static function points(array $points, int $count, string $file): void
    {
        $bytes = '';
        for ($i = 0; $i < $count; ++$i) {
            foreach (Surface::types() as $name => $type) {
                $bytes .= pack('d*', ...\array_slice($points[$name], $i * $type->width(), $type->width()));
            }
        }
        file_put_contents($file, $bytes);
    }

    /**
     * Begins with one document.
     *
     * @param array<string, Node>                  $fields floats
     * @param array<string, list<list<float|int>>> $found  by the kernel: components, points
     * @param int                                  $count  of points
     */
    public function start(string $name, Lowered $lowered, array $fields, array $found, int $count, float $seconds, TestMaps $maps): void
    {
        while (\count($this->running) >= self::SIDE_BY_SIDE) {
            $this->wait();
        }
        $base = $this->folder . '/' . substr(hash('xxh64', $name), 0, 12);
        $code = (new CTarget())->of($lowered, $lowered->graph, $fields, Surface::types());
        file_put_contents("$base.c", $code . $this->main($code, $lowered, $count, $seconds, $maps));
        // Optimising takes most of the time: of the random documents, which are alike, one in twenty is.
        $level = preg_match('/^random (\d+),/', $name, $number) === 1 && (int) $number[1] % self::OPTIMISED !== 0 ? '-O0' : '-O2';
        $gcc = "gcc -std=c99 $level -Wall -Wextra -Werror -o $base $base.c -lm && $base {$this->points} $base.out";
        $process = proc_open($gcc, [2 => ['file', "$base.log", 'w']], $pipes);
        $this->running[] = [\is_resource($process) ? $process : throw new \RuntimeException('gcc cannot be started.'), $name, $base, $found, $count];
    }

    public function finish(): void
    {
        while ($this->running !== []) {
            $this->wait();
        }
    }

    private function wait(): void
    {
        [$process, $name, $base, $found, $count] = array_shift($this->running) ?? throw new \LogicException('Nothing runs.');
        if (proc_close($process) !== 0) {
            $this->failed[] = $name . ': ' . file_get_contents("$base.log");

            return;
        }
        /** @var list<float> $values */
        $values = array_values(unpack('d*', (string) file_get_contents("$base.out")) ?: []);
        $at = 0;
        for ($i = 0; $i < $count; ++$i) {
            foreach ($found as $components) {
                foreach ($components as $component) {
                    $difference = abs($component[$i] - $values[$at++]) / max(1.0, abs($component[$i]));
                    ++$this->values;
                    $this->off += (int) !($difference <= 1e-9);
                    $this->worst = max($this->worst, $difference);
                }
            }
        }
        array_map(unlink(...), glob("$base*") ?: []);
    }

    /** The host: reads points and texels, sets the numbers, writes what comes out. */
    private function main(string $code, Lowered $lowered, int $count, float $seconds, TestMaps $maps): string
    {
        $lines = [];
        foreach ($lowered->slots as $slot) {
            $lines[] = \sprintf('u.%s = %s;', $slot->uniform, $slot->type === Type::Uint ? "{$slot->value}u" : json_encode((float) $slot->value, \JSON_PRESERVE_ZERO_FRACTION));
        }
        $lines[] = 'u.' . Clock::UNIFORM . ' = ' . Clock::ticks($seconds) . 'u;';
        foreach ($lowered->maps as $slot) {
            // Not every map that is known is read.
            if (!str_contains($code, 'm->' . Printer::texels($slot) . ',')) {
                continue;
            }
            $texels = $maps->everything()[$slot->name];
            $file = $this->folder . '/' . hash('xxh64', $slot->key()) . '.texels';
            if (!is_file($file)) {
                file_put_contents($file, pack('V*', ...$texels));
            }
            $lines[] = 'm.' . Printer::texels($slot) . " = texels(\"$file\");";
        }
        $body = implode("\n    ", $lines);

        $texels = self::TEXELS;

        return <<<C

            #include <stdio.h>
            #include <stdlib.h>
            #include <string.h>
            $texels
            int main(int count, char **args) {
                if (count < 3) return 4;
                rilta_uniforms u;
                rilta_maps m;
                memset(&u, 0, sizeof u);
                memset(&m, 0, sizeof m);
                (void) texels;
                $body
                rilta_prepare(&u);
                FILE *in = fopen(args[1], "rb"), *to = fopen(args[2], "wb");
                if (in == NULL || to == NULL) return 5;
                for (int i = 0; i < $count; ++i) {
                    rilta_surface s;
                    rilta_result out;
                    if (fread(&s, sizeof s, 1, in) != 1) return 6;
                    rilta_material(&u, &m, &s, &out);
                    fwrite(&out, sizeof out, 1, to);
                }
                fclose(to);
                return 0;
            }

            C;
    }
}
