<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Reader;
use Rilta\Core\Math\Vec;
use Rilta\Core\Mesh\Assembly;
use Rilta\Core\Mesh\Edit\AssignSection;
use Rilta\Core\Mesh\Edit\CopyUvs;
use Rilta\Core\Mesh\Edit\DropUvs;
use Rilta\Core\Mesh\Edit\Faces;
use Rilta\Core\Mesh\Edit\MeshEdit;
use Rilta\Core\Mesh\Edit\MoveUvs;
use Rilta\Core\Mesh\Edit\NameUvs;
use Rilta\Core\Mesh\Edit\ProjectUvs;
use Rilta\Core\Mesh\Edit\Refine;
use Rilta\Core\Mesh\Edit\RelaxUvs;
use Rilta\Core\Mesh\Edit\UnwrapUvs;
use Rilta\Core\Mesh\Edit\Watch;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Step\Steps;
use Rilta\Core\Target\Php\Compiler;

/** Edits as documents say them, and what was painted carried along. */
final class MeshEdits
{
    /** Of one mesh, one after another. */
    public const MOST = 500;
    public const MOST_BALLS = 256;
    /** Triangles that are picked one by one. */
    public const MOST_PICKED = 20000;
    /** Metres of the edges that triangles are split down to, at least and at most. */
    public const EDGES = [0.001, 1000.0];
    /** What was painted, as long as it is carried along. */
    private const PAINT = '_CARRIED';
    /** Degrees. */
    public const ANGLES = [0.0, 180.0];
    public const UNWRAP = [5.0, 85.0];
    public const AMOUNT = [-1e6, 1e6];

    /** @param array<array-key, mixed> $said */
    private function __construct(private readonly array $said)
    {
    }

    /**
     * @param array<array-key, mixed> $said     an object: "edit" names it, the rest are its values
     * @param Compiler                $compiler what lanes are computed by
     * @param ?Watch                  $watch    is told how far those are that take long
     *
     * @throws \InvalidArgumentException that says where something else was expected
     */
    public static function read(array $said, Compiler $compiler, ?Watch $watch = null): MeshEdit
    {
        $own = new self($said);

        return match ($own->said['edit'] ?? null) {
            'refine' => new Refine($own->number('edge', null, self::EDGES), $own->balls(), $watch),
            'project' => new ProjectUvs($own->set('set'), $own->choice('how', ['flat', 'box', 'cylinder']), $own->faces(), $own->direction('from', [0.0, 0.0, 1.0]), $own->flag('fill')),
            'origin' => new OriginUvs($own->lane(), $own->stands(), $own->set('set'), $own->faces(), $own->flag('fill'), $compiler, $watch),
            'unwrap' => new UnwrapUvs($own->set('set'), $own->number('angle', 50.0, self::UNWRAP), $watch),
            'move' => new MoveUvs($own->set('set'), $own->faces(), $own->number('turn', 0.0, self::AMOUNT), $own->pair('scale', 1.0), $own->pair('shift', 0.0), $own->choice('fill', ['', 'square', 'even'])),
            'relax' => new RelaxUvs($own->set('set'), $own->faces(), $watch),
            'name' => new NameUvs($own->set('set'), $own->name('name')),
            'copy' => new CopyUvs($own->set('from'), $own->set('to')),
            'drop' => new DropUvs($own->set('set')),
            'section' => new AssignSection($own->name('name'), $own->faces()),
            default => throw self::wrong('/edit', 'expected refine, project, origin, unwrap, move, relax, copy, drop, name or section'),
        };
    }

    /**
     * A mesh after an edit, with what was painted on it before.
     *
     * @param string $paint four bytes a vertex, or ""
     *
     * @return array{Mesh, string}
     *
     * @throws \LengthException
     */
    public static function carried(Mesh $mesh, MeshEdit $edit, string $paint): array
    {
        $coloured = $mesh->painted($paint);
        if ($coloured === null) {
            // What does not fit is not of this mesh.
            return [$edit->of($mesh), ''];
        }
        $edited = $edit->of($mesh->with(self::PAINT, $coloured->attributes['COLOR_0']));
        $painted = $edited->attributes[self::PAINT]->numbers();
        $attributes = array_diff_key($edited->attributes, [self::PAINT => true]);
        $carried = '';
        foreach (array_chunk($painted, 60000) as $some) {
            $carried .= pack('C*', ...array_map(static fn (float $one): int => (int) round(255 * $one), $some));
        }

        return [new Mesh($attributes, $edited->indices, $edited->primitives), $carried];
    }

    /** The lane that begins with the origin, in a material with the parameters that it follows. */
    private function lane(): Material
    {
        try {
            return (new Reader(Steps::all()))->read([
                'format' => Material::FORMAT,
                'name' => 'Origin',
                'parameters' => $this->said['parameters'] ?? [],
                'lanes' => [['id' => 'lane', 'name' => 'Lane', 'steps' => [['step' => 'origin', 'values' => $this->said['origin'] ?? []]]]],
                'layers' => [['id' => 'layer', 'name' => 'Layer', 'lane' => 'lane', 'set' => '']],
            ]);
        } catch (InvalidDocument $e) {
            $problem = $e->problems[0];
            throw self::wrong(str_replace('/lanes/0/steps/0/values', '/origin', $problem->path), rtrim($problem->message, '.'));
        }
    }

    /** Where the object stands. */
    private function stands(): Placed
    {
        $said = $this->said['stands'] ?? [];
        $stands = [];
        foreach (Placement::controls() as $name => $control) {
            $three = (\is_array($said) ? $said : [])[$name] ?? array_fill(0, 3, $control->default());
            if (!\is_array($three) || !array_is_list($three) || \count($three) !== 3) {
                throw self::wrong("/stands/$name", 'expected three numbers');
            }
            foreach ($three as $i => $number) {
                $objection = $control->objection($number);
                if ($objection !== null) {
                    throw self::wrong("/stands/$name/$i", $objection);
                }
            }
            $stands[$name] = [$control->normalise($three[0]), $control->normalise($three[1]), $control->normalise($three[2])];
        }

        return new Placed('', '', '', $stands['position'], $stands['turn'], $stands['scale']);
    }

    private function faces(): Faces
    {
        $said = $this->said['faces'] ?? [];

        return \is_array($said) ? self::chosen($said) : throw self::wrong('/faces', 'expected an object');
    }

    /**
     * @param array<array-key, mixed> $said
     *
     * @throws \InvalidArgumentException that says where something else was expected
     */
    public static function chosen(array $said): Faces
    {
        $own = new self($said);
        $triangle = static fn (): int => (int) $own->number('triangle', null, [0.0, (float) Assembly::MOST_TRIANGLES]);

        return match ($said['by'] ?? 'all') {
            'all' => Faces::all(),
            'section' => Faces::section($own->name('section')),
            'island' => Faces::island($triangle(), $own->set('set')),
            'smooth' => Faces::smooth($triangle(), $own->number('angle', 30.0, self::ANGLES)),
            'facing' => Faces::facing($own->direction('direction', null), $own->number('angle', 45.0, self::ANGLES)),
            'list' => Faces::list($own->numbers('triangles')),
            default => throw self::wrong('/faces/by', 'expected all, section, island, smooth, facing or list'),
        };
    }

    /**
     * @param array{float, float} $range
     */
    private function number(string $name, ?float $usual, array $range): float
    {
        $value = $this->said[$name] ?? $usual;
        if ((!\is_int($value) && !\is_float($value)) || !is_finite((float) $value) || $value < $range[0] || $value > $range[1]) {
            throw self::wrong("/$name", \sprintf('expected a number from %g to %g', ...$range));
        }

        return (float) $value;
    }

    /** @return int 0 for the first */
    private function set(string $name): int
    {
        $value = $this->said[$name] ?? null;

        return \is_int($value) && $value >= 1 && $value <= Assembly::MOST_SETS ? $value - 1 : throw self::wrong("/$name", \sprintf('expected the number of a UV set, 1 to %d', Assembly::MOST_SETS));
    }

    /** @param list<string> $choices the first is usual */
    private function choice(string $name, array $choices): string
    {
        $value = $this->said[$name] ?? $choices[0];

        return \is_string($value) && \in_array($value, $choices, true) ? $value : throw self::wrong("/$name", 'expected ' . implode(', ', array_filter($choices)));
    }

    /** @return list<int> of triangles */
    private function numbers(string $name): array
    {
        $said = $this->said[$name] ?? null;
        if (!\is_array($said) || !array_is_list($said) || \count($said) > self::MOST_PICKED) {
            throw self::wrong("/$name", \sprintf('expected a list of at most %d', self::MOST_PICKED));
        }

        return array_map(static fn (mixed $one, int $i): int => \is_int($one) && $one >= 0 ? $one : throw self::wrong("/$name/$i", 'expected the number of a triangle'), $said, array_keys($said));
    }

    private function flag(string $name): bool
    {
        return ($this->said[$name] ?? false) === true;
    }

    private function name(string $name): string
    {
        $value = $this->said[$name] ?? null;

        return \is_string($value) && trim($value) !== '' && mb_strlen($value) <= 80 && mb_check_encoding($value, 'UTF-8') ? trim($value) : throw self::wrong("/$name", 'expected 1 to 80 characters');
    }

    /** @return array{float, float} */
    private function pair(string $name, float $usual): array
    {
        $two = $this->said[$name] ?? [$usual, $usual];
        if (!\is_array($two) || !array_is_list($two) || \count($two) !== 2) {
            throw self::wrong("/$name", 'expected two numbers');
        }
        $own = new self($two);

        return [$own->number('0', null, self::AMOUNT), $own->number('1', null, self::AMOUNT)];
    }

    /**
     * @param array{float, float, float}|null $usual
     *
     * @return array{float, float, float} unit
     */
    private function direction(string $name, ?array $usual): array
    {
        $three = $this->said[$name] ?? $usual;
        if (!\is_array($three) || !array_is_list($three) || \count($three) !== 3) {
            throw self::wrong("/$name", 'expected a direction: three numbers');
        }
        $own = new self($three);
        $direction = [$own->number('0', null, self::AMOUNT), $own->number('1', null, self::AMOUNT), $own->number('2', null, self::AMOUNT)];

        return Vec::length($direction) > 1e-9 ? Vec::unit($direction) : throw self::wrong("/$name", 'expected a direction that is not nothing');
    }

    /** @return list<array{float, float, float, float}> */
    private function balls(): array
    {
        $said = $this->said['around'] ?? [];
        if (!\is_array($said) || !array_is_list($said) || \count($said) > self::MOST_BALLS) {
            throw self::wrong('/around', \sprintf('expected a list of at most %d', self::MOST_BALLS));
        }
        $balls = [];
        foreach ($said as $i => $ball) {
            if (!\is_array($ball) || !array_is_list($ball) || \count($ball) !== 4) {
                throw self::wrong("/around/$i", 'expected four numbers: a centre and a radius');
            }
            $own = new self($ball);
            $balls[] = [$own->number('0', null, self::AMOUNT), $own->number('1', null, self::AMOUNT), $own->number('2', null, self::AMOUNT), $own->number('3', null, [0.0, self::AMOUNT[1]])];
        }

        return $balls;
    }

    private static function wrong(string $path, string $expected): \InvalidArgumentException
    {
        return new \InvalidArgumentException("$path: $expected.");
    }
}
