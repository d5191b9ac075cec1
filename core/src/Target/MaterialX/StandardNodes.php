<?php

declare(strict_types=1);

namespace Rilta\Core\Target\MaterialX;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\TextureBinding;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Surface\Surface;

/**
 * Fields as the standard nodes of MaterialX 1.39: numbers and vectors, images, places and directions in the world. Whole numbers, which all that is
 * random is made of, and the footprint of a pixel have no nodes there.
 *
 * https://github.com/AcademySoftwareFoundation/MaterialX/blob/main/documents/Specification/MaterialX.StandardNodes.md
 */
final class StandardNodes
{
    private const TYPES = ['', 'float', 'vector2', 'vector3', 'vector4'];
    /** Nodes of one or two operands of the same type as the result. */
    private const PLAIN = [
        'add' => ['add', 'in1', 'in2'], 'sub' => ['subtract', 'in1', 'in2'], 'mul' => ['multiply', 'in1', 'in2'], 'div' => ['divide', 'in1', 'in2'], 'min' => ['min', 'in1', 'in2'], 'max' => ['max', 'in1', 'in2'], 'pow' => ['power', 'in1', 'in2'],
        'atan2' => ['atan2', 'iny', 'inx'], 'abs' => ['absval', 'in'], 'floor' => ['floor', 'in'], 'fract' => ['fract', 'in'], 'sqrt' => ['sqrt', 'in'], 'sin' => ['sin', 'in'], 'cos' => ['cos', 'in'], 'normalize' => ['normalize', 'in'],
        'mix' => ['mix', 'bg', 'fg', 'mix'], 'clamp' => ['clamp', 'in', 'low', 'high'], 'smoothstep' => ['smoothstep', 'low', 'high', 'in'], 'cross' => ['crossproduct', 'in1', 'in2'],
    ];
    private const WRAPS = ['repeat' => 'periodic', 'mirror' => 'mirror', 'edge' => 'clamp'];

    /** @var list<string> */
    private array $lines = [];

    /** @var array<string, string> what reads each node that there is, by what it is */
    private array $known = [];

    /** @var array<int, string> by id of fields */
    private array $read = [];

    /** @var array<int, string> by id of fields: what is lacking, "" for nothing */
    private array $lacking = [];

    /** @var array<int, Node> functions written out, by id of the call */
    private array $bodies = [];

    /** @var array<string, true> */
    private array $uniforms = [];

    /** @var array<string, TextureBinding> */
    private array $maps = [];

    private bool $oneSided = false;

    /**
     * @param Prelude               $prelude uniforms that follow from others
     * @param array<string, string> $files   of maps, by their names
     */
    public function __construct(private readonly Graph $graph, private readonly Prelude $prelude, private readonly array $files)
    {
    }

    /** What a field asks for that no standard node gives, in words; null if all of it is there. */
    public function lacks(Node $field): ?string
    {
        if (!isset($this->lacking[$field->id])) {
            $why = $this->own($field) ?? '';
            foreach ($why === '' ? $this->parts($field) : [] as $part) {
                $why = $this->lacks($part) ?? '';
                if ($why !== '') {
                    break;
                }
            }
            $this->lacking[$field->id] = $why;
        }

        return $this->lacking[$field->id] === '' ? null : $this->lacking[$field->id];
    }

    /**
     * The attribute that an input reads a field by: nodename, value or interfacename. Its nodes are there from then on.
     *
     * @throws \LogicException if it lacks anything
     */
    public function of(Node $field): string
    {
        return $this->read[$field->id] ??= $this->printed($field);
    }

    /**
     * A node of its own.
     *
     * @param array<string, array{string, string}> $inputs type, and the attribute that it is read by, by name
     */
    public function node(string $category, string $type, array $inputs): string
    {
        $body = '';
        foreach ($inputs as $name => [$of, $read]) {
            $body .= \sprintf('<input name="%s" type="%s" %s/>', $name, $of, $read);
        }
        $key = "$category $type $body";
        if (!isset($this->known[$key])) {
            $name = 'n' . \count($this->known);
            $this->known[$key] = "nodename=\"$name\"";
            $this->lines[] = "<$category name=\"$name\" type=\"$type\">$body</$category>";
        }

        return $this->known[$key];
    }

    public static function value(float|int ...$numbers): string
    {
        return 'value="' . implode(', ', array_map(static fn (float|int $x): string => (string) json_encode((float) $x, \JSON_PRESERVE_ZERO_FRACTION), $numbers)) . '"';
    }

    public static function text(string $text): string
    {
        return 'value="' . htmlspecialchars($text, \ENT_XML1 | \ENT_QUOTES) . '"';
    }

    /** @return list<string> all nodes, what they read before them */
    public function lines(): array
    {
        return $this->lines;
    }

    /** @return list<string> the uniforms that are read */
    public function uniforms(): array
    {
        return array_keys($this->uniforms);
    }

    /** Whether the side that is seen would make a difference: here it is always the front. */
    public function areOneSided(): bool
    {
        return $this->oneSided;
    }

    /** @return array<string, TextureBinding> the maps that are read */
    public function maps(): array
    {
        return $this->maps;
    }

    /** What the operation itself asks for. */
    private function own(Node $field): ?string
    {
        if ($field->op === Op::ToFloat && self::isClock($field->args[0])) {
            return null;
        }

        return match (true) {
            $field->op === Op::Input => match (true) {
                preg_match('/^(position|normal|facing|objectOrigin|object[XYZ]|uv\d?[TB]?)$/D', $field->name()) === 1 => null,
                $field->name() === 'painted' => 'what was painted',
                $field->name() === 'section' => 'sections',
                $field->name() === 'viewDistance' => 'the distance to the eye',
                str_starts_with($field->name(), 'object') => 'which object it is',
                default => 'how much a pixel covers',
            },
            $field->op === Op::SampleLevel => 'single texels of maps',
            $field->op === Op::Param => throw new \LogicException('A parameter without its function.'),
            $field->type->scalar() === Type::Uint || \in_array($field->op, [Op::ToFloat, Op::ToUint], true) => 'what is random',
            default => null,
        };
    }

    /** @return list<Node> */
    private function parts(Node $field): array
    {
        return match (true) {
            $field->op === Op::Call => [$this->body($field)],
            $field->op === Op::Sample => [$field->args[0]],
            $field->op === Op::ToFloat => [],
            $field->op === Op::Uniform => isset($this->prelude->fields[$field->name()]) ? [$this->prelude->fields[$field->name()]] : [],
            default => $field->args,
        };
    }

    private function body(Node $call): Node
    {
        return $this->bodies[$call->id] ??= ($call->callee()->build)($this->graph, $call->args);
    }

    private static function isClock(Node $field): bool
    {
        return $field->op === Op::Uniform && $field->name() === Clock::UNIFORM;
    }

    private function printed(Node $field): string
    {
        $width = $field->type->width();
        $type = self::TYPES[$width];
        $args = $field->args;
        $float = fn (Node $one): array => ['float', $this->of($one)];
        $plain = self::PLAIN[$field->op->value] ?? null;
        if ($plain !== null) {
            $inputs = [];
            foreach (\array_slice($plain, 1) as $i => $name) {
                $inputs[$name] = [$type, $this->wide($args[$i], $width)];
            }

            return $this->node($plain[0], $type, $inputs);
        }

        return match ($field->op) {
            Op::Constant => self::value(...array_map(static fn (float|int|bool $x): float => (float) $x, $field->constants())),
            Op::Input => $this->input($field->name()),
            Op::Uniform => $this->uniform($field->name()),
            Op::Neg => $this->node('multiply', $type, ['in1' => [$type, $this->of($args[0])], 'in2' => [$type, self::value(...array_fill(0, $width, -1.0))]]),
            Op::Exp2 => $this->node('power', $type, ['in1' => [$type, self::value(...array_fill(0, $width, 2.0))], 'in2' => [$type, $this->of($args[0])]]),
            Op::Log2 => $this->node('multiply', $type, ['in1' => [$type, $this->node('ln', $type, ['in' => [$type, $this->of($args[0])]])], 'in2' => [$type, self::value(...array_fill(0, $width, 1 / \M_LN2))]]),
            // There what is true is 1, and what is false 0.
            Op::Less => $this->node('ifgreater', 'float', ['value1' => $float($args[1]), 'value2' => $float($args[0]), 'in1' => ['float', self::value(1.0)], 'in2' => ['float', self::value(0.0)]]),
            Op::LessEqual => $this->node('ifgreatereq', 'float', ['value1' => $float($args[1]), 'value2' => $float($args[0]), 'in1' => ['float', self::value(1.0)], 'in2' => ['float', self::value(0.0)]]),
            Op::And => $this->node('min', 'float', ['in1' => $float($args[0]), 'in2' => $float($args[1])]),
            Op::Or => $this->node('max', 'float', ['in1' => $float($args[0]), 'in2' => $float($args[1])]),
            Op::Not => $this->node('subtract', 'float', ['in1' => ['float', self::value(1.0)], 'in2' => $float($args[0])]),
            Op::Select => $this->node('ifgreater', $type, ['value1' => $float($args[0]), 'value2' => ['float', self::value(0.5)], 'in1' => [$type, $this->of($args[1])], 'in2' => [$type, $this->of($args[2])]]),
            Op::Vec => $this->combined(array_merge(...array_map(fn (Node $one): array => array_map(fn (int $i): string => $this->component($one, $i), range(0, $one->type->width() - 1)), $args))),
            Op::Pick => $this->picked($field),
            Op::Dot => $args[0]->type->width() === 1 ? $this->node('multiply', 'float', ['in1' => $float($args[0]), 'in2' => $float($args[1])]) : $this->node('dotproduct', 'float', ['in1' => [$of = self::TYPES[$args[0]->type->width()], $this->of($args[0])], 'in2' => [$of, $this->of($args[1])]]),
            Op::Length => $args[0]->type->width() === 1 ? $this->node('absval', 'float', ['in' => $float($args[0])]) : $this->node('magnitude', 'float', ['in' => [self::TYPES[$args[0]->type->width()], $this->of($args[0])]]),
            Op::Call => $this->of($this->body($field)),
            Op::Sample => $this->sampled($field),
            Op::ToFloat => $this->node('multiply', 'float', ['in1' => ['float', $this->node('time', 'float', [])], 'in2' => ['float', self::value(Clock::TICKS)]]),
            default => throw new \LogicException("No standard node is {$field->op->value}."),
        };
    }

    private function uniform(string $name): string
    {
        if (isset($this->prelude->fields[$name])) {
            return $this->of($this->prelude->fields[$name]);
        }
        $this->uniforms[$name] = true;

        return "interfacename=\"$name\"";
    }

    private function input(string $name): string
    {
        $world = ['space' => ['string', self::text('world')]];
        if ($name === 'position' || $name === 'normal') {
            return $this->node($name, 'vector3', $world);
        }
        if ($name === 'facing') {
            $this->oneSided = true;

            return self::value(1.0);
        }
        if ($name === 'objectOrigin') {
            return $this->inWorld(0.0, 0.0, 0.0);
        }
        $axis = ['objectX' => [1.0, 0.0, 0.0], 'objectY' => [0.0, 1.0, 0.0], 'objectZ' => [0.0, 0.0, 1.0]][$name] ?? null;
        if ($axis !== null) {
            return $this->node('normalize', 'vector3', ['in' => ['vector3', $this->node('subtract', 'vector3', ['in1' => ['vector3', $this->inWorld(...$axis)], 'in2' => ['vector3', $this->inWorld(0.0, 0.0, 0.0)]])]]);
        }
        preg_match('/^(uv\d?)([TB]?)$/D', $name, $m);
        $set = ['index' => ['integer', self::text(self::index($m[1] ?? ''))]];

        return match ($m[2] ?? '') {
            // There the origin is the lower left corner.
            '' => $this->flipped($this->set($m[1] ?? '')),
            'T' => $this->node('tangent', 'vector3', $world + $set),
            default => $this->node('multiply', 'vector3', ['in1' => ['vector3', $this->node('bitangent', 'vector3', $world + $set)], 'in2' => ['vector3', self::value(-1.0, -1.0, -1.0)]]),
        };
    }

    /** A place on the object, in the world. */
    private function inWorld(float ...$place): string
    {
        return $this->node('transformpoint', 'vector3', ['in' => ['vector3', self::value(...$place)], 'fromspace' => ['string', self::text('object')], 'tospace' => ['string', self::text('world')]]);
    }

    private function sampled(Node $field): string
    {
        $map = $field->map();
        $this->maps[$map->name] = $map;
        $type = match (true) {
            $map->samples === 1 => 'float',
            $map->srgb => 'color4',
            default => 'vector4',
        };
        $file = self::text($this->files[$map->name] ?? throw new \LogicException("No file of $map->name.")) . ($map->srgb ? ' colorspace="srgb_texture"' : '');
        $image = $this->node('image', $type, [
            'file' => ['filename', $file],
            'texcoord' => ['vector2', $this->upwards($field->args[0])],
            'uaddressmode' => ['string', self::text(self::WRAPS[$map->sampling->wrapU] ?? 'periodic')],
            'vaddressmode' => ['string', self::text(self::WRAPS[$map->sampling->wrapV] ?? 'periodic')],
            'filtertype' => ['string', self::text($map->sampling->filter === 'sharp' ? 'closest' : 'linear')],
        ]);

        return match ($type) {
            'float' => $this->combined([$image, self::value(0.0), self::value(0.0), self::value(1.0)]),
            'color4' => $this->node('convert', 'vector4', ['in' => ['color4', $image]]),
            default => $image,
        };
    }

    /** A coordinate of an image from its lower left corner. */
    private function upwards(Node $uv): string
    {
        return $uv->op === Op::Input && \in_array($uv->name(), Surface::UV_SETS, true) ? $this->set($uv->name()) : $this->flipped($this->of($uv));
    }

    private function set(string $name): string
    {
        return $this->node('texcoord', 'vector2', ['index' => ['integer', self::text(self::index($name))]]);
    }

    private static function index(string $set): string
    {
        return (string) array_search($set, Surface::UV_SETS, true);
    }

    private function flipped(string $uv): string
    {
        $v = $this->node('subtract', 'float', ['in1' => ['float', self::value(1.0)], 'in2' => ['float', $this->extracted($uv, 2, 1)]]);

        return $this->combined([$this->extracted($uv, 2, 0), $v]);
    }

    private function picked(Node $field): string
    {
        $parts = array_map(fn (string $letter): string => $this->component($field->args[0], (int) strpos('xyzw', $letter)), str_split($field->name()));

        return \count($parts) === 1 ? $parts[0] : $this->combined($parts);
    }

    private function component(Node $field, int $i): string
    {
        if ($field->type->width() === 1) {
            return $this->of($field);
        }
        if ($field->isConstant()) {
            return self::value((float) $field->constants()[$i]);
        }
        if ($field->op === Op::Vec) {
            foreach ($field->args as $part) {
                if ($i < $part->type->width()) {
                    return $this->component($part, $i);
                }
                $i -= $part->type->width();
            }
        }

        return $this->extracted($this->of($field), $field->type->width(), $i);
    }

    private function extracted(string $read, int $width, int $i): string
    {
        if (preg_match('/^value="(.*)"$/D', $read, $m) === 1) {
            return self::value((float) explode(', ', $m[1])[$i]);
        }

        return $this->node('extract', 'float', ['in' => [self::TYPES[$width], $read], 'index' => ['integer', self::text((string) $i)]]);
    }

    /** @param list<string> $parts */
    private function combined(array $parts): string
    {
        $inputs = [];
        foreach ($parts as $i => $part) {
            $inputs['in' . ($i + 1)] = ['float', $part];
        }

        return $this->node('combine' . \count($parts), self::TYPES[\count($parts)], $inputs);
    }

    /** A field, or the same number in every component. */
    private function wide(Node $field, int $width): string
    {
        if ($field->type->width() === $width) {
            return $this->of($field);
        }
        $one = $this->of($field);

        return preg_match('/^value="(.*)"$/D', $one, $m) === 1 ? self::value(...array_fill(0, $width, (float) $m[1])) : $this->combined(array_fill(0, $width, $one));
    }
}
