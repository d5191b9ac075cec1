<?php

declare(strict_types=1);

namespace Rilta\Core\Bake;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Op;
use Rilta\Core\Field\Reachable;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Material\MapTexels;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\Tangents;
use Rilta\Core\Mesh\UvLayout;
use Rilta\Core\Raster\Gutters;
use Rilta\Core\Surface\Source;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Surface\SurfaceInput;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Target\Program;

/**
 * Computes a material's channels over the surface of an object where it stands, as pictures in one of its sets of UVs. Work is cut into
 * bands of rows that can be computed in any order; when all are there, what is covered is drawn out into the gutters.
 */
final class MeshBake
{
    /** Places that are looked at in a region. */
    private const REGION = 65536;
    /** Metres: it is seen from near by. */
    private const DISTANCE = 1.0;
    /** What is told of a place, and becomes pixels once the places of a texel have been averaged. */
    private const VALUES = ['baseColour' => 3, 'normal' => 3, 'roughness' => 1, 'metallic' => 1, 'occlusion' => 1, 'height' => 1, 'opacity' => 1, 'emission' => 3];

    public readonly UvLayout $layout;

    /** @var list<Channel> those that there are */
    public readonly array $channels;

    /** @var list<array{float, float, float}> of the vertices, in the world */
    private readonly array $places;

    private readonly Mesh $mesh;
    private readonly Program $program;
    private readonly Program $encoder;

    /** @var array<string, SurfaceInput> those that the material asks for */
    private readonly array $inputs;

    /** @var list<float>|null four numbers a corner */
    private ?array $tangents = null;

    /** @var array<string, list<float>> numbers of vertices, by attribute */
    private array $numbers = [];

    /**
     * @param Lowered                         $lowered with its heights, if they are wanted
     * @param string                          $paint   four bytes a vertex; "" for none
     * @param int                             $size    texels a side
     * @param ?array<string, array<int, int>> $texels  of the material's maps, if they have been read
     *
     * @throws \LengthException if the mesh has no such layout
     */
    public function __construct(private readonly Lowered $lowered, private readonly MeshTarget $target, Mesh $mesh, string $paint, public readonly int $size, Engine $engine, private ?array $texels = null)
    {
        // Paint of a mesh that had other vertices is none.
        $painted = $mesh->painted($paint);
        $this->mesh = $painted === null ? $mesh : $mesh->with(Surface::PAINT, $painted->attributes['COLOR_0']);
        $this->layout = new UvLayout($this->mesh, $target->set, $target->section, $size, $target->grid);
        $this->places = array_map($target->object->point(...), $this->mesh->positions->triples());
        $this->channels = array_values(array_filter(Channel::cases(), static fn (Channel $c): bool => match ($c) {
            Channel::Height => $lowered->hasHeights(),
            Channel::Opacity, Channel::Emission => isset($lowered->channels[$c->value]),
            default => true,
        }));
        $g = $lowered->graph;
        $fields = array_intersect_key($lowered->channels, self::VALUES);
        $fields['normal'] = $g->normalize($g->sub((new Surface($g))->normal(), $lowered->channels['slope']));
        $used = array_flip(Reachable::names(Op::Input, $fields));
        $this->inputs = array_intersect_key(Surface::inputs(), $used);
        $this->program = $engine->compile($g, $fields, array_map(static fn (SurfaceInput $one): Binding => Binding::wide($one->type->width()), $this->inputs));
        $this->encoder = $this->encoder($engine);
    }

    /**
     * The regions, as first row and the row after the last.
     *
     * @return list<array{int, int}>
     */
    public static function regions(int $size, int $grid): array
    {
        $rows = max(1, intdiv(self::REGION, $size * $grid * $grid));
        $regions = [];
        for ($y = 0; $y < $size; $y += $rows) {
            $regions[] = [$y, min($size, $y + $rows)];
        }

        return $regions;
    }

    /**
     * One region of every channel, as bytes: channels side by side, rows from the top; 0 where nothing lies. "covered" has a byte a texel: 0 for
     * none, 1, or 2 where triangles lie over each other.
     *
     * @return array<string, string> by channel, and "covered"
     */
    public function region(MapTexels $maps, int $from, int $to): array
    {
        $texels = ($to - $from) * $this->size;
        $blank = ['covered' => str_repeat("\0", $texels)];
        foreach ($this->channels as $channel) {
            $blank[$channel->value] = str_repeat("\0", $texels * self::stride($channel));
        }
        $rows = $this->layout->rows($from, $to);
        $count = \count($rows['texels']);
        if ($count === 0) {
            return $blank;
        }
        $this->texels ??= $this->lowered->texels($maps);
        $found = $this->program->run($this->lowered->uniforms(), $this->texels, $this->surface($rows), 0, 0, $count, 1);
        [$where, $values, $middle] = $this->averaged($rows['texels'], $found);
        $pixels = $this->encoder->run([], [], $values + $this->frames($rows, $middle), 0, 0, \count($where), 1);

        return $this->laid($blank, $where, $pixels, array_intersect_key($rows['texels'], array_filter($rows['doubled'])));
    }

    /**
     * When all rows are there: the pictures with their gutters.
     *
     * @param \Closure(string): string        $rows as region() gave them, laid end to end, by channel and "covered"
     * @param \Closure(Channel, string): void $put  takes the rows of each, as they are to be kept
     *
     * @return array{covered: float, doubled: float, glow: float, mirrored: float, density: array{lowest: float, median: float, highest: float}} share of the picture; of that,
     *                                                                                                                                           where triangles lie over each other; what the picture of emission is to be multiplied by; share of the
     *                                                                                                                                           surface that lies mirrored; texels a metre
     */
    public function complete(\Closure $rows, \Closure $put): array
    {
        $covered = $rows('covered');
        $gutters = Gutters::of($covered, $this->size);
        $glow = 1.0;
        foreach ($this->channels as $channel) {
            $bytes = $gutters->drawnOut($rows($channel->value), self::stride($channel));
            if ($channel === Channel::Emission) {
                [$bytes, $glow] = Glow::image($bytes);
            }
            $put($channel, $bytes);
        }

        $many = \strlen($covered) - substr_count($covered, "\0");

        return ['covered' => fdiv($many, \strlen($covered)), 'doubled' => fdiv(substr_count($covered, "\2"), max(1, $many)), 'glow' => $glow] + $this->layout->measured($this->places);
    }

    /** Bytes a pixel, until all rows are there. */
    private static function stride(Channel $channel): int
    {
        return $channel === Channel::Emission ? Glow::STRIDE : $channel->samples() * ($channel->isDeep() ? 2 : 1);
    }

    /**
     * What the material asks of each place.
     *
     * @param array{texels: list<int>, triangles: list<int>, b: list<float>, c: list<float>, doubled: list<bool>} $rows
     *
     * @return array<string, list<float>> by input
     */
    private function surface(array $rows): array
    {
        $object = $this->target->object;
        $lists = [];
        $all = Surface::inputs();
        foreach ($this->inputs as $name => $input) {
            $width = $input->type->width();
            $constant = match ($input->source) {
                Source::Origin => $object->position,
                Source::Axis => $object->axes[['x' => 0, 'y' => 1, 'z' => 2][$input->of] ?? 0],
                Source::Object => [(float) ['seed' => $object->seed, 'value' => $object->value][$input->of]],
                Source::Distance => [self::DISTANCE],
                Source::Facing => [1.0],
                default => null,
            };
            $of = \in_array($input->source, [Source::Right, Source::Down], true) ? $all[$input->of] : $input;
            $numbers = $constant === null ? $this->numbers($of) : null;
            if ($numbers === null) {
                $lists[$name] = array_merge(...array_fill(0, \count($rows['texels']), $constant ?? $input->none));
                continue;
            }
            $lists[$name] = match ($input->source) {
                Source::Right, Source::Down => $this->changes($rows['triangles'], $numbers, $width, $input->source === Source::Down),
                Source::Flat => $this->flat($rows['triangles'], $numbers),
                default => $this->mixed($rows, $numbers, $width),
            };
            if ($input->source === Source::Normal || $input->source === Source::Direction) {
                $lists[$name] = self::units($lists[$name]);
            }
        }

        return $lists;
    }

    /**
     * The numbers of all vertices for an input; places and directions in the world.
     *
     * @return list<float>|null if the mesh says nothing
     */
    private function numbers(SurfaceInput $input): ?array
    {
        if (isset($this->numbers[$input->name])) {
            return $this->numbers[$input->name];
        }
        $object = $this->target->object;
        $attribute = match ($input->source) {
            Source::Position => $this->mesh->positions,
            Source::Normal => $this->mesh->attributes['NORMAL'] ?? throw new \LogicException('A mesh without normals.'),
            default => $this->mesh->attributes[$input->of] ?? null,
        };
        if ($attribute === null) {
            return null;
        }

        return $this->numbers[$input->name] = match ($input->source) {
            Source::Position => array_merge(...$this->places),
            // Turned and stretched after they have been mixed would be the same but for their lengths, which are made 1.
            Source::Normal => array_merge(...array_map($object->normalAsScaled(...), $attribute->triples())),
            Source::Direction => array_merge(...array_map($object->direction(...), $attribute->triples())),
            default => $attribute->numbers(),
        };
    }

    /**
     * @param array{texels: list<int>, triangles: list<int>, b: list<float>, c: list<float>, doubled: list<bool>} $rows
     * @param list<float>                                                                                         $numbers of all vertices
     *
     * @return list<float>
     */
    private function mixed(array $rows, array $numbers, int $width): array
    {
        $list = [];
        foreach ($rows['triangles'] as $i => $triangle) {
            [$p, $q, $r] = $this->layout->corners($triangle);
            [$b, $c] = [$rows['b'][$i], $rows['c'][$i]];
            $a = 1 - $b - $c;
            for ($k = 0; $k < $width; ++$k) {
                $list[] = $a * $numbers[$width * $p + $k] + $b * $numbers[$width * $q + $k] + $c * $numbers[$width * $r + $k];
            }
        }

        return $list;
    }

    /**
     * How numbers change to the next place: the same all over a triangle.
     *
     * @param list<int>   $triangles
     * @param list<float> $numbers
     *
     * @return list<float>
     */
    private function changes(array $triangles, array $numbers, int $width, bool $down): array
    {
        $known = [];
        $list = [];
        foreach ($triangles as $triangle) {
            if (!isset($known[$triangle])) {
                [$p, $q, $r] = $this->layout->corners($triangle);
                $steps = $this->layout->steps($triangle);
                [$b, $c] = $down ? [$steps[2], $steps[3]] : [$steps[0], $steps[1]];
                for ($k = 0; $k < $width; ++$k) {
                    $known[$triangle][] = $b * ($numbers[$width * $q + $k] - $numbers[$width * $p + $k]) + $c * ($numbers[$width * $r + $k] - $numbers[$width * $p + $k]);
                }
            }
            foreach ($known[$triangle] as $number) {
                $list[] = $number;
            }
        }

        return $list;
    }

    /**
     * @param list<int>   $triangles
     * @param list<float> $numbers
     *
     * @return list<float>
     */
    private function flat(array $triangles, array $numbers): array
    {
        return array_map(fn (int $triangle): float => $numbers[$this->layout->corners($triangle)[2]], $triangles);
    }

    /**
     * @param list<float> $list
     *
     * @return list<float>
     */
    private static function units(array $list): array
    {
        for ($i = 0, $n = \count($list); $i < $n; $i += 3) {
            $length = sqrt($list[$i] ** 2 + $list[$i + 1] ** 2 + $list[$i + 2] ** 2);
            if ($length > 0.0) {
                $list[$i] /= $length;
                $list[$i + 1] /= $length;
                $list[$i + 2] /= $length;
            }
        }

        return array_values($list);
    }

    /**
     * The mean of the places of each texel.
     *
     * @param list<int>                            $texels of the places
     * @param array<string, list<list<float|int>>> $found  by value, by component
     *
     * @return array{list<int>, array<string, list<float>>, list<int>} texels; values, as inputs of the encoder; for each texel the place in the middle of its own
     */
    private function averaged(array $texels, array $found): array
    {
        $runs = $where = [];
        foreach ($texels as $i => $texel) {
            if ($where === [] || $texel !== end($where)) {
                $where[] = $texel;
                $runs[] = $i;
            }
        }
        $runs[] = \count($texels);
        $values = [];
        foreach ($found as $name => $parts) {
            $list = [];
            foreach ($where as $k => $_) {
                [$from, $to] = [$runs[$k], $runs[$k + 1]];
                foreach ($parts as $part) {
                    $sum = 0.0;
                    for ($i = $from; $i < $to; ++$i) {
                        $sum += $part[$i];
                    }
                    $list[] = $sum / ($to - $from);
                }
            }
            $values[$name] = $list;
        }

        return [$where, $values, array_map(static fn (int $k): int => intdiv($runs[$k] + $runs[$k + 1] - 1, 2), array_keys($where))];
    }

    /**
     * What normals are told along, for each texel.
     *
     * @param array{texels: list<int>, triangles: list<int>, b: list<float>, c: list<float>, doubled: list<bool>} $rows
     * @param list<int>                                                                                           $middle a place of each texel
     *
     * @return array<string, list<float>>
     */
    private function frames(array $rows, array $middle): array
    {
        $object = $this->target->object;
        $frames = ['alongX' => [], 'alongY' => [], 'alongZ' => []];
        if ($this->target->frame === NormalFrame::Object) {
            foreach (array_keys($frames) as $k => $name) {
                $frames[$name] = array_merge(...array_fill(0, \count($middle), $object->axes[$k]));
            }

            return $frames;
        }
        $tangents = $this->tangents ??= Tangents::corners($this->mesh, $this->target->set);
        $normals = $this->numbers(Surface::inputs()['normal']) ?? [];
        foreach ($middle as $i) {
            $triangle = $rows['triangles'][$i];
            $weights = [1 - $rows['b'][$i] - $rows['c'][$i], $rows['b'][$i], $rows['c'][$i]];
            [$t, $n] = [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
            foreach ($this->layout->corners($triangle) as $k => $vertex) {
                $at = 4 * (3 * $triangle + $k);
                $t = Vec::add($t, Vec::scale([$tangents[$at], $tangents[$at + 1], $tangents[$at + 2]], $weights[$k]));
                $n = Vec::add($n, Vec::scale([$normals[3 * $vertex], $normals[3 * $vertex + 1], $normals[3 * $vertex + 2]], $weights[$k]));
            }
            $x = self::unit($object->direction($t));
            $z = self::unit($n);
            // As whoever reads it makes it.
            $y = Vec::scale(self::unit(Vec::cross($z, $x)), $tangents[12 * $triangle + 3]);
            array_push($frames['alongX'], ...$x);
            array_push($frames['alongY'], ...$y);
            array_push($frames['alongZ'], ...$z);
        }

        return $frames;
    }

    /**
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    private static function unit(array $v): array
    {
        return Vec::length($v) > 0.0 ? Vec::unit($v) : $v;
    }

    private function encoder(Engine $engine): Program
    {
        $g = new Graph();
        $types = [1 => Type::Float, 3 => Type::Vec3];
        $bindings = $outputs = [];
        $value = static function (string $name, int $width) use ($g, $types, &$bindings): Node {
            $bindings[$name] = Binding::wide($width);

            return $g->input($name, $types[$width]);
        };
        foreach ($this->channels as $channel) {
            $outputs[$channel->value] = match ($channel) {
                Channel::BaseColour => Pixels::colour($g, $value('baseColour', 3)),
                Channel::Normal => self::normal($g, $value),
                Channel::Height => Pixels::deep($g, $value('height', 1)),
                Channel::Emission => Glow::deep($g, $value('emission', 3)),
                default => Pixels::data($g, $value($channel->value, 1)),
            };
        }

        return $engine->compile($g, $outputs, $bindings);
    }

    /**
     * The numbers that make it of its frame, whose first direction need not be square on the others.
     *
     * @param \Closure(string, int): Node $value
     */
    private static function normal(Graph $g, \Closure $value): Node
    {
        [$normal, $x, $y, $z] = [$value('normal', 3), $value('alongX', 3), $value('alongY', 3), $value('alongZ', 3)];
        [$yz, $zx, $xy] = [$g->cross($y, $z), $g->cross($z, $x), $g->cross($x, $y)];
        $det = $g->dot($x, $yz);
        // Of a left-handed frame it is below 0; its size is taken away by the length.
        $sign = $g->select($g->less($det, 0.0), -1.0, 1.0);
        $told = $g->normalize($g->mul($g->vec($g->dot($normal, $yz), $g->dot($normal, $zx), $g->dot($normal, $xy)), $sign));

        return Pixels::rgb($g, $g->add($g->mul($told, 0.5), 0.5));
    }

    /**
     * Pixels where they belong.
     *
     * @param array<string, string>                $blank
     * @param list<int>                            $where   texels
     * @param array<string, list<list<float|int>>> $pixels  by channel
     * @param array<int, int>                      $doubled texels where triangles lie over each other
     *
     * @return array<string, string>
     */
    private function laid(array $blank, array $where, array $pixels, array $doubled): array
    {
        foreach ($this->channels as $channel) {
            $blank[$channel->value] = self::scattered($blank[$channel->value], $where, $channel->bytes($pixels[$channel->value]), self::stride($channel));
        }
        $covered = $blank['covered'];
        foreach ($where as $texel) {
            $covered[$texel] = "\1";
        }
        foreach ($doubled as $texel) {
            $covered[$texel] = "\2";
        }

        return ['covered' => $covered] + $blank;
    }

    /**
     * @param list<int> $where  texels
     * @param string    $packed their bytes, one after the other
     */
    private static function scattered(string $bytes, array $where, string $packed, int $stride): string
    {
        foreach ($where as $i => $texel) {
            for ($k = 0; $k < $stride; ++$k) {
                $bytes[$stride * $texel + $k] = $packed[$stride * $i + $k];
            }
        }

        return $bytes;
    }
}
