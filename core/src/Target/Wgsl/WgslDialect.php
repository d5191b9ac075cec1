<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Wgsl;

use Rilta\Core\Field\Op;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Shading\ShadingDialect;

/** WGSL (W3C, "WebGPU Shading Language"). */
final class WgslDialect implements ShadingDialect
{
    /** The uniforms, all together. */
    public const UNIFORMS = 'u';

    /** Sections "Keywords", "Reserved Words" and "Context-Dependent Names". */
    private const KEYWORDS = 'alias break case const const_assert continue continuing default diagnostic discard else enable false fn for if let loop override requires return struct switch true var while '
        . 'NULL Self abstract active alignas alignof as asm asm_fragment async attribute auto await become binding_array cast catch class co_await co_return co_yield coherent column_major common compile '
        . 'compile_fragment concept const_cast consteval constexpr constinit crate debugger decltype delete demote demote_to_helper do dynamic_cast enum explicit export extends extern external fallthrough filter '
        . 'final finally friend from fxgroup get goto groupshared highp impl implements import inline instanceof interface layout lowp macro macro_rules match mediump meta mod module move mut mutable namespace new '
        . 'nil noexcept noinline nointerpolation noperspective null nullptr of operator package packoffset partition pass patch pixelfragment precise precision premerge priv protected pub public readonly ref regardless '
        . 'register reinterpret_cast require resource restrict self set shared sizeof smooth snorm static static_assert static_cast std subroutine super target template this thread_local throw trait try type typedef '
        . 'typeid typename typeof union unless unorm unsafe unsized use using varying virtual volatile wgsl where with writeonly yield';
    /** Types and functions that it has, and what the code around it calls things. */
    private const TAKEN = 'bool i32 u32 f32 f16 vec2 vec3 vec4 vec2f vec3f vec4f vec2u vec3u vec4u vec2i vec3i vec4i mat2x2 mat3x3 mat4x4 array atomic ptr sampler texture_2d texture_2d_array bitcast all any select '
        . 'abs acos acosh asin asinh atan atanh atan2 ceil clamp cos cosh cross degrees distance dot exp exp2 floor fract length log log2 max min mix modf normalize pow radians reflect refract round sign sin sinh '
        . 'smoothstep sqrt step tan tanh trunc transpose main s u ready sine sine2 sine3 sine4 pcg2d pcg3d';

    public function type(Type $type): string
    {
        return match ($type) {
            Type::Bool => 'bool',
            Type::Uint => 'u32',
            Type::Uint2 => 'vec2u',
            Type::Uint3 => 'vec3u',
            Type::Float => 'f32',
            Type::Vec2 => 'vec2f',
            Type::Vec3 => 'vec3f',
            Type::Vec4 => 'vec4f',
        };
    }

    public function reserved(): array
    {
        return explode(' ', self::KEYWORDS . ' ' . self::TAKEN);
    }

    public function isLenient(): bool
    {
        return false;
    }

    public function signed(int $width): string
    {
        return $width === 1 ? 'i32' : "vec{$width}i";
    }

    public function value(Type $type, string $name, string $is): string
    {
        return "let $name: {$this->type($type)} = $is;";
    }

    public function head(string $name, Type $result, array $params): string
    {
        return "fn $name(" . implode(', ', array_map(fn (string $param, Type $type): string => "$param: {$this->type($type)}", array_keys($params), $params)) . ") -> {$this->type($result)}";
    }

    public function call(Op $op): string
    {
        return $op->value;
    }

    public function splat(Type $type, Expression $one): Expression
    {
        return Expression::call($this->type($type), $one);
    }

    public function select(Expression $condition, Expression $then, Expression $else): Expression
    {
        return Expression::call('select', $else, $then, $condition);
    }

    public function uniform(string $name, Type $type): Expression
    {
        $member = self::UNIFORMS . ".$name";

        return $type === Type::Bool ? new Expression("($member != 0u)") : new Expression($member);
    }

    public function read(string $texture, ?int $layer, Expression $uv, Expression $dx, Expression $dy, ?Expression $weight): array
    {
        $at = $layer === null ? [$uv] : [$uv, new Expression((string) $layer)];
        if ($weight === null) {
            return [Expression::call('textureSampleGrad', new Expression($texture), new Expression("{$texture}_sampler"), ...$at, ...[$dx, $dy]), []];
        }
        // Of what is selected both are computed: a function reads only what counts.
        $name = "riltaRead_$texture";
        [$param, $given] = $layer === null ? ['', ''] : ['layer: i32, ', 'layer, '];

        return [Expression::call($name, ...$at, ...[$dx, $dy, $weight]), [$name => <<<WGSL
            // A texel, where it counts.
            fn $name(uv: vec2f, {$param}dx: vec2f, dy: vec2f, weight: f32) -> vec4f {
                if (weight > 0.0) { return textureSampleGrad($texture, {$texture}_sampler, uv, {$given}dx, dy); }
                return vec4f(0.0);
            }

            WGSL]];
    }
}
