<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Field\Op;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Expression;
use Rilta\Core\Target\Precedence;
use Rilta\Core\Target\Shading\DeclaringDialect;

/** GLSL ES 3.00 (Khronos, "The OpenGL ES Shading Language", version 3.00.6). */
final class GlslDialect extends DeclaringDialect
{
    /** Section 3.7, "Keywords": those in use, and those that are kept for later. */
    private const KEYWORDS = 'const uniform layout centroid flat smooth break continue do for while switch case default if else in out inout float int void bool true false '
        . 'invariant discard return mat2 mat3 mat4 mat2x2 mat2x3 mat2x4 mat3x2 mat3x3 mat3x4 mat4x2 mat4x3 mat4x4 vec2 vec3 vec4 ivec2 ivec3 ivec4 bvec2 bvec3 bvec4 uint uvec2 uvec3 uvec4 '
        . 'lowp mediump highp precision sampler2D sampler3D samplerCube sampler2DShadow samplerCubeShadow sampler2DArray sampler2DArrayShadow isampler2D isampler3D isamplerCube isampler2DArray '
        . 'usampler2D usampler3D usamplerCube usampler2DArray struct '
        . 'attribute varying coherent volatile restrict readonly writeonly resource atomic_uint noperspective patch sample subroutine common partition active asm class union enum typedef template this '
        . 'goto inline noinline volatile public static extern external interface long short double half fixed unsigned superp input output hvec2 hvec3 hvec4 dvec2 dvec3 dvec4 fvec2 fvec3 fvec4 '
        . 'sampler3DRect filter image1D image2D image3D imageCube iimage1D iimage2D iimage3D iimageCube uimage1D uimage2D uimage3D uimageCube image1DArray image2DArray '
        . 'sampler1D sampler1DShadow sampler1DArray sampler1DArrayShadow sampler2DRect sampler2DRectShadow sizeof cast namespace using';

    /** Section 8, "Built-in Functions", and what the code around it calls things. */
    private const TAKEN = 'radians degrees sin cos tan asin acos atan sinh cosh tanh asinh acosh atanh pow exp log exp2 log2 sqrt inversesqrt abs sign floor trunc round ceil fract mod modf min max clamp mix '
        . 'step smoothstep isnan isinf length distance dot cross normalize faceforward reflect refract transpose determinant inverse equal not any all texture fwidth main '
        . 's ready tap sine sine2 sine3 sine4 pcg2d pcg3d';

    public function type(Type $type): string
    {
        return match ($type) {
            Type::Bool => 'bool',
            Type::Uint => 'uint',
            Type::Uint2 => 'uvec2',
            Type::Uint3 => 'uvec3',
            Type::Float => 'float',
            Type::Vec2 => 'vec2',
            Type::Vec3 => 'vec3',
            Type::Vec4 => 'vec4',
        };
    }

    public function reserved(): array
    {
        return explode(' ', self::KEYWORDS . ' ' . self::TAKEN);
    }

    public function isLenient(): bool
    {
        return true;
    }

    public function signed(int $width): string
    {
        return $width === 1 ? 'int' : "ivec$width";
    }

    public function call(Op $op): string
    {
        return $op === Op::Atan2 ? 'atan' : $op->value;
    }

    public function splat(Type $type, Expression $one): Expression
    {
        return Expression::call($this->type($type), $one);
    }

    public function read(string $texture, ?int $layer, Expression $uv, Expression $dx, Expression $dy, ?Expression $weight): array
    {
        $read = Expression::call('textureGrad', new Expression($texture), $layer === null ? $uv : Expression::call('vec3', $uv, new Expression("$layer.0")), $dx, $dy);

        return [$weight === null ? $read : Expression::choice(Expression::binary('>', Precedence::Relation, $weight, new Expression('0.0')), $read, new Expression('vec4(0.0)')), []];
    }
}
