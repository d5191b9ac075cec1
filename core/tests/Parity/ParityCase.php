<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Target\Glsl\Declarations;
use Rilta\Core\Target\Glsl\Printer;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/**
 * One document in both targets: GLSL that computes its stations and channels, and what the PHP kernel makes of the
 * same points.
 */
final readonly class ParityCase
{
    /** @param float $seconds on the clock */
    public function __construct(private string $name, private Lowered $lowered, private float $seconds = 0.0)
    {
    }

    /**
     * What is compared, by name; the first word is the kind, which decides how near it has to be.
     *
     * @return array<string, Node>
     */
    private function outputs(): array
    {
        $outputs = [];
        foreach ($this->lowered->stations as $s => $station) {
            foreach ($station->taps as $t => $tap) {
                $outputs["coordinate $s.$t"] = $tap->uv;
                $outputs["weight $s.$t"] = $tap->weight;
            }
        }
        foreach ($this->lowered->taps() as $t => $tap) {
            foreach (['dx', 'dy'] as $part) {
                $outputs["derivative $part.$t"] = $tap->$part;
            }
            [$outputs["direction t.$t"], $outputs["direction b.$t"]] = $tap->directions($this->lowered->graph);
        }
        foreach ($this->lowered->channels as $channel => $field) {
            if ($channel !== 'slope') {
                $outputs[($channel === 'normal' ? 'direction ' : 'value ') . $channel] = $field;
            }
        }

        return $outputs;
    }

    /**
     * @param array<string, list<float>> $points flat lists by input
     * @param ?CRun                      $c      what runs the same as C, and compares
     *
     * @return array<string, mixed>
     */
    public function describe(array $points, int $count, TestMaps $maps, ?CRun $c = null): array
    {
        $outputs = $this->outputs();
        $bindings = array_map(static fn (\Rilta\Core\Field\Type $t): Binding => match ($t->width()) {
            1 => Binding::Scalars,
            2 => Binding::Pairs,
            default => Binding::Triples,
        }, Surface::types());
        $found = Kernels::compiler()->compile($this->lowered->graph, $outputs, $bindings)
            ->points($count, $this->lowered->uniforms($this->seconds), $maps->everything(), $points);
        // What a program in C computes is the material; all else goes into it.
        $channels = array_intersect_key($outputs, array_flip(array_filter(array_keys($outputs), static fn (string $name): bool => preg_match('/^(value|direction normal)/', $name) === 1)));
        $c?->start($this->name, $this->lowered, $channels, array_intersect_key($found, $channels), $count, $this->seconds, $maps);
        $expected = '';
        foreach ($outputs as $name => $_) {
            for ($c = 0; $c < 4; ++$c) {
                $expected .= pack('g*', ...($found[$name][$c] ?? array_fill(0, $count, 0.0)));
            }
        }
        $shader = Shader::of($this->lowered);

        return [
            'name' => $this->name,
            'count' => $count,
            'outputs' => array_keys($outputs),
            'code' => $this->code($shader, $outputs),
            'uniforms' => (object) $this->lowered->uniforms($this->seconds),
            'arrays' => $shader->arrays,
            'expected' => base64_encode($expected),
        ];
    }

    /** @param array<string, Node> $outputs */
    private function code(Shader $shader, array $outputs): string
    {
        $printer = new Printer(Declarations::places($shader->arrays));
        [$lines, $results] = $printer->body($this->lowered->graph, $outputs);
        $code = Declarations::surface() . Declarations::used($printer, $shader->arrays) . "\nvec4 riltaOutput(RiltaSurface s, int which) {\n$lines\n    switch (which) {\n";
        foreach (array_values($results) as $i => $result) {
            $width = array_values($outputs)[$i]->type->width();
            $code .= "    case $i: return vec4($result" . str_repeat(', 0.0', 4 - $width) . ");\n";
        }

        return $code . "    }\n    return vec4(0.0);\n}\nRiltaSurface riltaPoint(int i) {\n    RiltaSurface s;\n" . $this->fetches() . "    return s;\n}\n";
    }

    /** Each input is one row of the texture of points. */
    private function fetches(): string
    {
        $code = '';
        foreach (array_keys(Surface::types()) as $row => $name) {
            $letters = substr('xyzw', 0, Surface::types()[$name]->width());
            $code .= "    s.$name = texelFetch(points, ivec2(i, $row), 0).$letters;\n";
        }

        return $code;
    }
}
