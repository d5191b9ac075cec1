<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Hlsl;

use Rilta\Core\Field\Op;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Precedence;
use Rilta\Core\Target\Shading\DeclaringDialect;

/** HLSL of shader models 5 and 6 (Microsoft, "Reference for HLSL"). */
final class HlslDialect extends DeclaringDialect
{
    private const KEYWORDS = 'AppendStructuredBuffer asm asm_fragment BlendState bool break Buffer ByteAddressBuffer case cbuffer centroid class column_major compile compile_fragment CompileShader const continue '
        . 'ComputeShader ConsumeStructuredBuffer default DepthStencilState DepthStencilView discard do double DomainShader dword else export extern false float for fxgroup GeometryShader groupshared half Hullshader if '
        . 'in inline inout InputPatch int interface line lineadj linear LineStream matrix min16float min10float min16int min12int min16uint namespace nointerpolation noperspective NULL out OutputPatch packoffset pass '
        . 'pixelfragment PixelShader point PointStream precise RasterizerState RenderTargetView return register row_major RWBuffer RWByteAddressBuffer RWStructuredBuffer RWTexture1D RWTexture2D RWTexture3D sample sampler '
        . 'SamplerState SamplerComparisonState shared snorm stateblock stateblock_state static string struct switch StructuredBuffer tbuffer technique technique10 technique11 texture Texture1D Texture1DArray Texture2D '
        . 'Texture2DArray Texture2DMS Texture2DMSArray Texture3D TextureCube TextureCubeArray true typedef triangle triangleadj TriangleStream uint uniform unorm unsigned vector vertexfragment VertexShader void volatile while '
        . 'auto catch char const_cast delete dynamic_cast enum explicit friend goto long mutable new operator private protected public reinterpret_cast short signed sizeof static_cast template this throw try typename union using virtual';
    private const TAKEN = 'float2 float3 float4 int2 int3 int4 uint2 uint3 uint4 bool2 bool3 bool4 half2 half3 half4 double2 double3 double4 abort abs acos all any asdouble asfloat asin asint asuint atan atan2 ceil clamp '
        . 'clip cos cosh countbits cross ddx ddy degrees determinant distance dot dst errorf exp exp2 faceforward floor fma fmod frac frexp fwidth isfinite isinf isnan ldexp length lerp lit log log10 log2 mad max min modf '
        . 'msad4 mul noise normalize pow printf radians rcp reflect refract reversebits round rsqrt saturate sign sin sincos sinh smoothstep sqrt step tan tanh transpose trunc select and or '
        . 'main s ready sine sine2 sine3 sine4 pcg2d pcg3d';

    public function type(Type $type): string
    {
        return match ($type) {
            Type::Bool => 'bool',
            Type::Uint => 'uint',
            Type::Uint2 => 'uint2',
            Type::Uint3 => 'uint3',
            Type::Float => 'float',
            Type::Vec2 => 'float2',
            Type::Vec3 => 'float3',
            Type::Vec4 => 'float4',
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
        return $width === 1 ? 'int' : "int$width";
    }

    public function call(Op $op): string
    {
        return match ($op) {
            Op::Fract => 'frac',
            Op::Mix => 'lerp',
            default => $op->value,
        };
    }

    public function splat(Type $type, Expression $one): Expression
    {
        return new Expression("(({$this->type($type)}) {$one->in(Precedence::Primary)})");
    }

    public function read(string $texture, ?int $layer, Expression $uv, Expression $dx, Expression $dy, ?Expression $weight): array
    {
        $at = $layer === null ? $uv : Expression::call('float3', $uv, new Expression("$layer.0"));
        if ($weight === null) {
            return [Expression::call("$texture.SampleGrad", new Expression("{$texture}_sampler"), $at, $dx, $dy), []];
        }
        // Of what is chosen both may be computed: a function reads only what counts.
        $name = "riltaRead_$texture";
        $place = $layer === null ? 'float2' : 'float3';

        return [Expression::call($name, $at, $dx, $dy, $weight), [$name => <<<HLSL
            // A texel, where it counts.
            float4 $name($place at, float2 dx, float2 dy, float weight) {
                if (weight > 0.0) { return $texture.SampleGrad({$texture}_sampler, at, dx, dy); }
                return float4(0.0, 0.0, 0.0, 0.0);
            }

            HLSL]];
    }
}
