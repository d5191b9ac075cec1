<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Step;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Lowering\Lowered;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\LayerMode;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Step\Steps;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Values with which a step does nothing: what is read with them is what is read without the step. */
final class IdleTest extends TestCase
{
    private const WHERE = [[0.31, 0.2, 0.47], [-1.7, 0.9, 2.3], [4.4, -0.6, -3.1]];

    /** @return iterable<string, array{string, array<string, mixed>}> every choice of every step that can idle, the other numbers away from their defaults */
    public static function idling(): iterable
    {
        foreach (Steps::all() as $step) {
            $idle = $step->idle();
            if ($idle === null) {
                continue;
            }
            $numbers = [];
            foreach ($step->controls() as $control) {
                if ($control instanceof NumberControl) {
                    // Away from the default, and a whole number where it has to be one.
                    $numbers[$control->name()] = $control->held($control->default() + 3.0);
                }
            }
            foreach ([[], ...self::choices($step->controls())] as $choice) {
                yield $step->name() . ' ' . implode(' ', $choice) => [$step->name(), $idle + $choice + $numbers];
            }
        }
    }

    /**
     * @param list<Control> $controls
     *
     * @return list<array<string, string>>
     */
    private static function choices(array $controls): array
    {
        $choices = [];
        foreach ($controls as $control) {
            foreach ($control instanceof ChoiceControl ? $control->schema()['enum'] : [] as $value) {
                $choices[] = [$control->name() => $value];
            }
        }

        return $choices;
    }

    /** @param array<string, mixed> $values */
    #[DataProvider('idling')]
    public function testAnIdleStepIsNotThere(string $step, array $values): void
    {
        $lane = [Documents::step('origin', ['seam' => 40.0]), Documents::step('size', ['u' => 0.7])];
        [$with, $without] = [Documents::lower([...$lane, Documents::step($step, $values), Documents::step('turn', ['angle' => 20.0])]), Documents::lower([...$lane, Documents::step('turn', ['angle' => 20.0])])];
        foreach (self::WHERE as $i => $where) {
            foreach (['baseColour', 'normal', 'roughness'] as $channel) {
                self::assertEqualsWithDelta(self::read($without, $channel, $where, 3.7 * $i), self::read($with, $channel, $where, 3.7 * $i), 1e-6, "$channel at " . implode(', ', $where));
            }
        }
    }

    public function testWhatIsIdleIsANumberOrASwitchOfTheStep(): void
    {
        foreach (Steps::all() as $step) {
            $controls = array_column(array_map(static fn (Control $c): array => [$c->name(), $c], $step->controls()), 1, 0);
            foreach ($step->idle() ?? [] as $name => $value) {
                self::assertInstanceOf($value === false ? SwitchControl::class : NumberControl::class, $controls[$name] ?? null, "{$step->name()} $name");
            }
        }
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function layers(): iterable
    {
        foreach (LayerMode::cases() as $mode) {
            yield $mode->value => [['mode' => $mode->value]];
            yield "$mode->value, in a group" => [['mode' => $mode->value, 'group' => 'g']];
            yield "$mode->value, constants" => [['mode' => $mode->value, 'set' => '', 'finish' => ['values' => ['tint' => [0.8, 0.1, 0.2], 'glow' => [1.0, 0.5, 0.2]]]]];
        }
    }

    /**
     * The lowest of three stays; one above it is hidden, with one above that.
     *
     * @param array<string, mixed> $more
     */
    #[DataProvider('layers')]
    public function testAHiddenLayerIsOneOfNoOpacity(array $more): void
    {
        [$hidden, $faint] = [self::between(['on' => false] + $more), self::between(['opacity' => 0.0] + $more)];
        foreach (self::WHERE as $where) {
            foreach (array_keys($hidden->channels) as $channel) {
                self::assertEqualsWithDelta(self::read($hidden, $channel, $where, 0.0), self::read($faint, $channel, $where, 0.0), 1e-9, "$channel at " . implode(', ', $where));
            }
        }
    }

    /** @param array<string, mixed> $middle what is said of the layer between two others */
    private static function between(array $middle): Lowered
    {
        $over = ['opacity' => 60.0, 'mask' => [['kind' => 'layer', 'values' => ['layer' => 'middle', 'of' => 'mask']]]];
        $document = Documents::whole([Documents::lane('a', Documents::step('origin'))], [
            Documents::layer('low', 'a'),
            Documents::layer('middle', 'a', 'set', $middle + ['mask' => [['kind' => 'noise', 'values' => ['size' => 0.4]]]]),
            Documents::layer('high', 'a', 'set', isset($middle['group']) ? [...$over, 'group' => 'g'] : $over),
        ]);
        $document['groups'] = isset($middle['group']) ? [['id' => 'g', 'name' => 'G', 'opacity' => 70.0]] : [];

        return Lowering::lower(Documents::reader()->read($document), TestMaps::noise());
    }

    /**
     * @param array{float, float, float} $where
     *
     * @return list<float>
     */
    private static function read(Lowered $lowered, string $channel, array $where, float $seconds): array
    {
        return Kernels::value($lowered->graph, $lowered->channels[$channel], SurfaceSample::at($where, [0.5, 0.6, 0.62], [0.3, 0.8])->inputs, $lowered->uniforms($seconds), TestMaps::noise()->everything());
    }
}
