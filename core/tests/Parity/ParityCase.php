<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Parity;

use Rilta\Core\Field\Node;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Picture;
use Rilta\Core\Probe\ShaderCheck;
use Rilta\Core\Target\Glsl\Shader;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** One document in both targets: GLSL that computes its stations and channels, and what the PHP kernel makes of the same points. */
final readonly class ParityCase
{
    /** Points that are compared far from the world's origin. */
    private const FEW = 64;

    /** Seconds within which single precision knows how far something has turned. */
    private const EARLY = 60.0;

    /** Where lies what is far, of its distance: a unit vector. */
    private const FAR = [0.8, 0.36, -0.48];

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
                $outputs["coordinate $s.$t"] = $tap->at->uv;
                $outputs["weight $s.$t"] = $tap->weight;
            }
        }
        foreach ($this->lowered->taps() as $t => $tap) {
            [$outputs["derivative dx.$t"], $outputs["derivative dy.$t"]] = [$tap->at->dx, $tap->at->dy];
            [$outputs["direction t.$t"], $outputs["direction b.$t"]] = $tap->at->directions($this->lowered->graph);
        }
        foreach ($this->lowered->channels as $channel => $field) {
            if ($channel !== 'slope') {
                $outputs[($channel === 'normal' ? 'direction ' : 'value ') . $channel] = $field;
            }
        }

        return $outputs;
    }

    /**
     * @param array<string, list<float>> $points flat lists by input, counted from the origin
     * @param ?CRun                      $c      what runs the same as C, and compares
     * @param list<float>                $far    kilometres from the world's origin to compare it at as well
     * @param ?HlslRun                   $hlsl   what takes the same as HLSL
     *
     * @return list<array<string, mixed>>
     */
    public function describe(array $points, int $count, TestMaps $maps, ?CRun $c = null, array $far = [], ?HlslRun $hlsl = null): array
    {
        $outputs = $this->outputs();
        $check = new ShaderCheck($this->lowered, $outputs, Kernels::compiler(), $maps->everything(), $this->seconds);
        $near = $check->at($points, $count);
        $cases = [['name' => $this->name, 'kilometres' => 0.0, 'exact' => true] + $near];
        if ($hlsl !== null) {
            // They compute what is ready in single precision.
            $early = fmod($this->seconds, self::EARLY);
            $run = new LanguageRun($this->lowered, $outputs);
            $reads = $this->lowered->prelude->reads(Clock::UNIFORM);
            $hlsl->start($this->name, $run->hlsl()['code']);
            // What is the same as above is not said again.
            $other = $reads && $early !== $this->seconds ? (new ShaderCheck($this->lowered, $outputs, Kernels::compiler(), $maps->everything(), $early))->at($points, $count) : [];
            $cases[0]['languages'] = ['hlsl' => ['code' => ''] + $run->hlsl(), 'wgsl' => $run->wgsl($count)] + array_intersect_key($other, ['uniforms' => true, 'expected' => true, 'borders' => true]);
        }
        $there = $far === [] ? $check : new ShaderCheck($this->lowered, $outputs, Kernels::compiler(), $maps->everything(), $this->seconds, true);
        $exact = $there->exactWithin();
        foreach ($far as $kilometres) {
            $origin = array_map(static fn (float $share): float => round($share * 1000 * $kilometres), self::FAR);
            $cases[] = ['name' => "$this->name, at $kilometres km", 'kilometres' => $kilometres, 'exact' => $exact === null || $exact >= 1000 * $kilometres] + $there->at($points, min($count, self::FEW), $origin);
        }
        // What a program in C computes is the material; all else goes into it.
        $channels = array_intersect_key($outputs, array_flip(array_filter(array_keys($outputs), static fn (string $name): bool => preg_match('/^(value|direction normal)/', $name) === 1)));
        $c?->start($this->name, $this->lowered, $channels, array_intersect_key($check->found($points, $count), $channels), $count, $this->seconds, $maps);

        return $cases;
    }

    /**
     * The pictures of stations, which are printed with a branch for each.
     *
     * @param array<string, list<float>> $points flat lists by input
     *
     * @return array<string, mixed>
     */
    public function pictures(array $points, int $count, TestMaps $maps): array
    {
        $outputs = [];
        foreach (Picture::all($this->lowered) as $i => $picture) {
            $outputs["value picture $i $picture->name"] = $picture->colour;
        }
        $shader = Shader::of($this->lowered);
        $values = $this->lowered->uniforms($this->seconds);

        return [
            'name' => "pictures of $this->name",
            'code' => "$shader->declarations\n$shader->pictures\nvec4 riltaOutput(RiltaSurface s, int which) { return vec4(riltaPicture(which, s), 0.0); }\n" . ShaderCheck::point(),
            'uniforms' => (object) ($shader->prelude->values($values) + $values),
        ] + (new ShaderCheck($this->lowered, $outputs, Kernels::compiler(), $maps->everything(), $this->seconds))->at($points, $count);
    }
}
