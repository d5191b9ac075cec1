<?php

declare(strict_types=1);

namespace Rilta\Core\Target\Shading;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Identifier;
use Rilta\Core\Field\Node;
use Rilta\Core\Field\Type;
use Rilta\Core\Lowering\Clock;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Surface\Source;
use Rilta\Core\Surface\Surface;
use Rilta\Core\Surface\SurfaceInput;
use Rilta\Core\Target\Options;
use Rilta\Core\Target\ProgramInterface;
use Rilta\Core\Target\Target;

/**
 * A material as functions of a shading language: `riltaPrepare` makes of the numbers what is the same all over a picture, and
 * `riltaMaterial` makes of that and of a point of a surface what the material is there.
 *
 * @phpstan-import-type MapArrayJson from MapArrays
 */
abstract class ShadingTarget implements Target
{
    /** What an entry hands out, four numbers at a time. */
    private const WIDE = 4;

    final public function program(Lowered $lowered, Options $options = new Options()): string
    {
        return $this->of($lowered, $lowered->graph, MaterialCode::lit($lowered->channels), $options);
    }

    final public function interface(Lowered $lowered, Options $options = new Options()): ProgramInterface
    {
        $code = $this->code($lowered, $lowered->graph, MaterialCode::lit($lowered->channels), $options->arrays);

        return new ProgramInterface(
            ['prepare' => $options->name('riltaPrepare'), 'material' => $options->name('riltaMaterial')],
            ['surface' => $options->name('RiltaSurface'), 'ready' => $options->name('RiltaReady'), 'material' => $options->name('RiltaMaterial')],
            array_combine(array_keys($code->numbers), array_map(fn (string $name, Type $type): array => [$this->number($name, $options), $type], array_keys($code->numbers), $code->numbers)),
            $code->prelude,
            array_map(static fn (array $texture): array => ['name' => $options->name($texture['uniform']), 'kind' => $options->arrays ? 'array' : 'single', 'maps' => $texture['slots']], $code->textures),
            $code->inputs,
            $code->results,
        );
    }

    /** What a number of the host's is called. */
    protected function number(string $name, Options $options): string
    {
        return $options->name($name);
    }

    /**
     * A program that computes any fields that are made of a material.
     *
     * @param array<string, Node> $fields of the graph, by what their members of the result are called
     */
    final public function of(Lowered $lowered, Graph $graph, array $fields, Options $options = new Options()): string
    {
        $code = $this->code($lowered, $graph, $fields, $options->arrays);
        $paths = array_column($lowered->slots, 'path', 'uniform');
        $notes = array_map(static fn (string $path): string => isset($options->notes[$path]) ? "{$options->notes[$path]} ($path)" : $path, $paths) + [Clock::UNIFORM => 'the time, in 1/' . Clock::TICKS . ' s'];
        $inputs = Surface::inputs();
        $read = array_intersect_key(Surface::types(), array_flip($code->inputs));
        $text = $this->numbers($code->numbers, $notes);
        foreach ($code->textures as $i => $texture) {
            $text .= $this->texture($i, $texture, $options->arrays);
        }
        $text .= "\n// A point of a surface.\n" . $this->struct('RiltaSurface', $read === [] ? ['facing' => Type::Float] : $read, array_map(static fn (SurfaceInput $input): string => $input->meaning(), $inputs))
            . "\n// What follows from the numbers alone, and is the same all over a picture.\n" . $this->struct('RiltaReady', $code->ready === [] ? ['none' => Type::Float] : $code->ready, [])
            . "\n// What the material is at a point.\n" . $this->struct('RiltaMaterial', $code->results, ProgramInterface::RESULTS)
            . "\n" . implode("\n", $code->functions)
            . "\n// Once for a picture: by the host in double precision, or here.\n" . $this->function('RiltaReady', 'riltaPrepare', [], $code->prepare[0], $this->made('RiltaReady', $code->ready === [] ? ['0.0'] : array_values($code->prepare[1])))
            . "\n// For each point.\n" . $this->function('RiltaMaterial', 'riltaMaterial', ['s' => 'RiltaSurface', Printer::READY => 'RiltaReady'], $code->material[0], $this->made('RiltaMaterial', array_values($code->material[1])))
            . ($options->harness ? "\n" . $this->harness($code->inputs, $code->results) : '');
        $names = ['RiltaSurface', 'RiltaReady', 'RiltaMaterial', 'RiltaNumbers', 'RiltaShown', 'riltaPrepare', 'riltaMaterial', ...array_keys($code->functions), ...$this->names($code)];

        return $this->head($options) . $options->heading() . $options->named($text, $names);
    }

    /**
     * What a program is made of.
     *
     * @param array<string, Node> $fields
     */
    final public function code(Lowered $lowered, Graph $graph, array $fields, bool $arrays = true): MaterialCode
    {
        return MaterialCode::of($lowered, $graph, $fields, $this->dialect(), $arrays);
    }

    abstract protected function dialect(): ShadingDialect;

    /** What stands before all else. */
    abstract protected function head(Options $options): string;

    /**
     * The declaration of a struct.
     *
     * @param array<string, Type>   $types by member; at least one
     * @param array<string, string> $notes by member
     */
    abstract protected function struct(string $name, array $types, array $notes): string;

    /**
     * The declaration of the numbers that a host sets.
     *
     * @param array<string, Type>   $numbers
     * @param array<string, string> $notes   by number
     */
    abstract protected function numbers(array $numbers, array $notes): string;

    /**
     * The declaration of a texture.
     *
     * @param MapArrayJson $texture
     */
    abstract protected function texture(int $place, array $texture, bool $array): string;

    /**
     * The statement that returns a struct.
     *
     * @param list<string> $members
     */
    abstract protected function made(string $struct, array $members): string;

    /**
     * A function.
     *
     * @param array<string, string> $params types by name
     */
    abstract protected function function(string $result, string $name, array $params, string $lines, string $return): string;

    /**
     * An entry that calls it for a pixel, and hands out what the material is, four numbers at a time.
     *
     * @param list<string>        $inputs
     * @param array<string, Type> $results
     */
    abstract protected function harness(array $inputs, array $results): string;

    /** @return list<string> names that are declared outside of functions and structs, but for functions and structs */
    protected function names(MaterialCode $code): array
    {
        $textures = array_column($code->textures, 'uniform');

        return [...array_keys($code->numbers), ...$textures, ...array_map(static fn (string $name): string => "{$name}_sampler", $textures)];
    }

    /**
     * Members with their notes behind them.
     *
     * @param array<string, Type>            $types
     * @param array<string, string>          $notes
     * @param \Closure(string, Type): string $member
     */
    final protected static function members(array $types, array $notes, \Closure $member, string $indent = '    '): string
    {
        $text = '';
        foreach ($types as $name => $type) {
            $text .= $indent . $member(Identifier::of($name), $type) . (isset($notes[$name]) ? " // {$notes[$name]}" : '') . "\n";
        }

        return $text;
    }

    /**
     * What a fragment has to be handed for the inputs that are read, and what each comes to: the inputs that change to the next pixel
     * are derivatives of others, and sides are known to devices.
     *
     * @param list<string> $inputs
     *
     * @return array{list<SurfaceInput>, array<string, array{Source, string}>} carried ones; by input, how it is made of which
     */
    final protected static function carried(array $inputs): array
    {
        $all = Surface::inputs();
        $carried = $made = [];
        foreach ($inputs as $name) {
            $input = $all[$name];
            $of = $input->source === Source::Right || $input->source === Source::Down ? $input->of : $name;
            if ($input->source !== Source::Facing) {
                $carried[$of] = $all[$of];
            }
            $made[$name] = [$input->source, $of];
        }

        return [array_values($carried), $made];
    }

    /**
     * Results as vectors of four: the members of what `m` is, by components, and zeros at the end.
     *
     * @param array<string, Type> $results
     *
     * @return list<string> lists of four expressions
     */
    final public static function packed(array $results): array
    {
        $parts = [];
        foreach ($results as $name => $type) {
            foreach ($type->width() === 1 ? [''] : str_split(substr('xyzw', 0, $type->width())) as $letter) {
                $parts[] = 'm.' . Identifier::of($name) . ($letter === '' ? '' : ".$letter");
            }
        }

        return array_map(static fn (array $four): string => implode(', ', array_pad($four, self::WIDE, '0.0')), array_chunk($parts, self::WIDE));
    }
}
