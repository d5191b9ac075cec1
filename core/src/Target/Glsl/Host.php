<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Glsl;

use Rilta\Core\Surface\Source;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Surface\SurfaceInput;

/**
 * The two halves of a shader that carry a surface from the vertices of a mesh to lowered code: `void riltaVertex(vec3, vec3)`, which is
 * handed the position and the normal in the object, and `RiltaSurface riltaSurface()`. What is not read is not carried: it would take
 * up attributes and varyings. Of the host it needs the uniforms riltaObject, the matrix from the object into the world, and riltaEye, where
 * the eye is, both counted from where places are counted from (SinglePrecision), and the define FLIP_SIDED where backs are drawn as if
 * they were fronts. Where many objects are drawn at once (USE_INSTANCING), the attribute instanceMatrix leads from each into what
 * riltaObject leads from, and attributes riltaOwn_… have the numbers that each has for itself.
 */
final readonly class Host
{
    /** @param list<string> $inputs those that are read */
    private function __construct(public array $inputs, public string $vertex, public string $fragment)
    {
    }

    /** @param list<string> $inputs names of what code reads of a surface */
    public static function of(array $inputs): self
    {
        $all = Surface::inputs();
        $carried = [];
        foreach ($inputs as $name) {
            $input = $all[$name];
            $from = $input->source === Source::Right || $input->source === Source::Down ? $all[$input->of] : $input;
            if (\in_array($from->source, [Source::Vertex, Source::Flat, Source::Direction], true)) {
                $carried[$from->name] = $from;
            }
        }

        return new self(array_values($inputs), self::vertex($carried), self::fragment($carried, array_flip($inputs)));
    }

    /** @return array{inputs: list<string>, vertex: string, fragment: string} */
    public function json(): array
    {
        return ['inputs' => $this->inputs, 'vertex' => $this->vertex, 'fragment' => $this->fragment];
    }

    /** The attribute of a mesh in code. */
    public static function attribute(SurfaceInput $input): string
    {
        return 'rilta_' . ltrim($input->of, '_');
    }

    /** @param array<string, SurfaceInput> $carried */
    private static function vertex(array $carried): string
    {
        $dialect = new GlslDialect();
        $attributes = $lines = '';
        foreach ($carried as $input) {
            $attribute = self::attribute($input);
            $attributes .= "in {$dialect->type($input->type)} $attribute;\n";
            $lines .= '    ' . self::varying($input) . ' = ' . ($input->source === Source::Direction ? "m * $attribute" : $attribute) . ";\n";
        }

        $own = $hand = '';
        foreach (self::numbers() as $input) {
            $own .= 'in float ' . self::own($input) . '; flat out float v' . ucfirst(self::own($input)) . ";\n";
            $hand .= '    v' . ucfirst(self::own($input)) . ' = ' . self::own($input) . ";\n";
        }

        return $attributes . self::varyings('out', $carried) . <<<GLSL
            uniform mat4 riltaObject;
            #ifdef USE_INSTANCING
            flat out mat4 vRiltaObject;
            {$own}#endif
            void riltaVertex(vec3 p, vec3 n) {
                mat4 whole = riltaObject;
            #ifdef USE_INSTANCING
                whole = riltaObject * instanceMatrix;
                vRiltaObject = whole;
            {$hand}#endif
                mat3 m = mat3(whole);
                vRiltaPosition = (whole * vec4(p, 1.0)).xyz;
                // Not by the host's normal matrix, which is that of the eye where shadows are drawn as well.
                vRiltaNormal = transpose(inverse(m)) * n;
            $lines}

            GLSL;
    }

    /** @return list<SurfaceInput> numbers that each object has for itself */
    private static function numbers(): array
    {
        return array_values(array_filter(Surface::inputs(), static fn (SurfaceInput $input): bool => $input->source === Source::Object));
    }

    /** The attribute that has an object's number where many are drawn at once. */
    private static function own(SurfaceInput $input): string
    {
        return "riltaOwn_$input->of";
    }

    /**
     * @param array<string, SurfaceInput> $carried
     * @param array<string, int>          $read
     */
    private static function fragment(array $carried, array $read): string
    {
        $uniforms = $owns = $lines = '';
        foreach (self::numbers() as $input) {
            $uniforms .= 'uniform float ' . self::uniform($input) . ";\n";
            $owns .= 'flat in float v' . ucfirst(self::own($input)) . ";\n#define " . self::uniform($input) . ' v' . ucfirst(self::own($input)) . "\n";
        }
        foreach (Surface::inputs() as $name => $input) {
            $lines .= "    s.$name = " . (isset($read[$name]) || self::isAtHand($input) ? self::value($input) : (new GlslDialect())->type($input->type) . '(0.0)') . ";\n";
        }

        return self::varyings('in', $carried) . <<<GLSL
            uniform vec3 riltaEye;
            #ifdef USE_INSTANCING
            flat in mat4 vRiltaObject;
            #define riltaObject vRiltaObject
            {$owns}#else
            uniform mat4 riltaObject;
            {$uniforms}#endif
            vec3 riltaUnit(vec3 d) { return d / max(length(d), 1e-12); }
            RiltaSurface riltaSurface() {
            #ifdef FLIP_SIDED
                float side = -1.0;
            #else
                float side = gl_FrontFacing ? 1.0 : -1.0;
            #endif
                RiltaSurface s;
            $lines    return s;
            }

            GLSL;
    }

    /** Whether it costs nothing that has to be carried. */
    private static function isAtHand(SurfaceInput $input): bool
    {
        return !\in_array($input->source, [Source::Vertex, Source::Flat, Source::Direction, Source::Right, Source::Down], true);
    }

    private static function value(SurfaceInput $input): string
    {
        $of = Surface::inputs()[$input->of] ?? $input;

        return match ($input->source) {
            Source::Position => 'vRiltaPosition',
            Source::Normal => 'side * normalize(vRiltaNormal)',
            Source::Right => 'dFdx(' . self::varying($of) . ')',
            // Pixels count downwards, the device upwards.
            Source::Down => '-dFdy(' . self::varying($of) . ')',
            Source::Vertex, Source::Flat => self::varying($input),
            Source::Direction => 'riltaUnit(' . self::varying($input) . ')',
            Source::Origin => 'riltaObject[3].xyz',
            Source::Axis => 'normalize(riltaObject[' . strpos('xyz', $input->of) . '].xyz)',
            Source::Object => self::uniform($input),
            Source::Distance => 'distance(riltaEye, vRiltaPosition)',
            Source::Facing => 'side',
        };
    }

    /** @param array<string, SurfaceInput> $carried */
    private static function varyings(string $way, array $carried): string
    {
        $dialect = new GlslDialect();
        $code = "$way vec3 vRiltaPosition;\n$way vec3 vRiltaNormal;\n";
        foreach ($carried as $input) {
            $code .= ($input->source === Source::Flat ? 'flat ' : '') . "$way {$dialect->type($input->type)} " . self::varying($input) . ";\n";
        }

        return $code;
    }

    private static function varying(SurfaceInput $input): string
    {
        return $input->source === Source::Position ? 'vRiltaPosition' : "vRilta_$input->name";
    }

    /** What an object's number is called in code. */
    public static function uniform(SurfaceInput $input): string
    {
        return 'rilta' . ucfirst($input->of);
    }
}
