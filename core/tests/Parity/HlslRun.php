<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

/** HLSL as compilers that are not ours take it: glslang makes SPIR-V of it, which is validated, and SPIRV-Cross makes GLSL of that, which a browser can run. */
final class HlslRun
{
    /** As many as the machines have processors that this runs on. */
    private const SIDE_BY_SIDE = 2;

    /** @var list<array{resource, string, string}> running: process, name, files */
    private array $running = [];

    /** @var array<string, string> GLSL ES 3.00 by name */
    private array $made = [];

    /** @param list<string> $failed programs that are refused, and why */
    public function __construct(private readonly string $folder, public array $failed = [])
    {
        if (!is_dir($folder)) {
            mkdir($folder, 0o777, true);
        }
    }

    public function start(string $name, string $hlsl): void
    {
        while (\count($this->running) >= self::SIDE_BY_SIDE) {
            $this->wait();
        }
        $base = $this->folder . '/' . substr(hash('xxh64', $name), 0, 12);
        file_put_contents("$base.hlsl", $hlsl);
        $process = proc_open("glslangValidator -D -V -S frag -e main $base.hlsl -o $base.spv && spirv-val $base.spv && spirv-cross $base.spv --es --version 300 --output $base.glsl", [1 => ['file', "$base.log", 'w'], 2 => ['file', "$base.log", 'a']], $pipes);
        $this->running[] = [\is_resource($process) ? $process : throw new \RuntimeException('glslangValidator cannot be started.'), $name, $base];
    }

    /** @return array<string, string> GLSL ES 3.00 by name */
    public function finish(): array
    {
        while ($this->running !== []) {
            $this->wait();
        }

        return $this->made;
    }

    private function wait(): void
    {
        [$process, $name, $base] = array_shift($this->running) ?? throw new \LogicException('Nothing runs.');
        if (proc_close($process) !== 0) {
            $this->failed[] = "$name: " . mb_substr((string) file_get_contents("$base.log"), 0, 600);

            return;
        }
        // What it leaves at less than full precision is none of ours.
        $this->made[$name] = str_replace('precision mediump float;', 'precision highp float;', (string) file_get_contents("$base.glsl"));
        array_map(unlink(...), glob("$base*") ?: []);
    }
}
