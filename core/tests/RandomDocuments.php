<?php

declare(strict_types=1);

namespace Rilta\Core\Tests;

use Rilta\Core\Lowering\Step;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\RowsControl;
use Rilta\Core\Material\Control\SeedControl;
use Rilta\Core\Material\Finish;
use Rilta\Core\Material\LayerMode;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Math\Vec;
use Rilta\Core\Probe\SurfaceSample;
use Rilta\Core\Step\Steps;
use Rilta\Core\Surface\Surface;

/** Documents and surface points drawn from what the catalogue declares; the same for the same seed. */
final class RandomDocuments
{
    private readonly \Random\Randomizer $dice;

    /** @param list<string> $without steps that are left out */
    public function __construct(int $seed, private readonly array $without = [])
    {
        $this->dice = new \Random\Randomizer(new \Random\Engine\Mt19937($seed));
    }

    /** @return array{format: string, name: string, lanes: list<array{id: string, name: string, steps: list<array<string, mixed>>}>, layers: list<array<string, string>>} */
    public function document(): array
    {
        $origins = array_values(array_filter(Steps::all(), static fn (Step $s): bool => $s->isOrigin()));
        $others = array_values(array_filter(Steps::all(), static fn (Step $s): bool => !$s->isOrigin()));
        $steps = [$this->step($origins[$this->dice->getInt(0, \count($origins) - 1)])];
        $splits = 0;
        $places = 0;
        for ($n = $this->dice->getInt(0, 4); $n > 0; --$n) {
            $step = $this->step($others[$this->dice->getInt(0, \count($others) - 1)]);
            // Each of these multiplies the taps; two in one lane would only be slow.
            $splits += \in_array($step['step'], ['breakup', 'hex-blend', 'scales', 'frames'], true) ? 1 : 0;
            // A place of a place, or of many repeats a metre, can magnify so much that single precision has no digits left
            // behind the point.
            $places += $step['step'] === 'place' || ($step['step'] === 'size' && ((array) $step['values'])['by'] === 'repeats') ? 1 : 0;
            if ($splits < 2 && $places < 2 && !\in_array($step['step'], $this->without, true)) {
                $steps[] = $step + ['on' => $this->dice->getInt(0, 7) > 0];
            }
        }

        return Documents::of($steps);
    }

    /**
     * A document of up to eight layers: the lowest on a lane of any steps, those over it on a plain one, with ways of lying, masks and
     * finishes of all kinds.
     *
     * @return array{format: string, name: string, lanes: list<array{id: string, name: string, steps: list<array<string, mixed>>}>, layers: list<array<string, mixed>>, surface: array<string, mixed>}
     */
    public function layered(): array
    {
        $document = $this->document();
        $document['lanes'][] = Documents::lane('plain', Documents::step('origin', ['faces' => 'y']), Documents::step('size', ['u' => $this->range(0.5, 3)]), Documents::step('turn', ['angle' => $this->range(-90, 90)]));
        $document['lanes'][] = Documents::lane('laid', Documents::step('origin', ['faces' => 'y']), Documents::step('bond', ['laid' => 'running', 'length' => $this->range(0.4, 2), 'width' => $this->range(0.4, 1), 'joint' => 0.06, 'bevel' => 0.08]), Documents::step('place', ['width' => $this->range(2, 6), 'height' => $this->range(2, 6), 'outside' => 'repeat']));
        // Many have one layer, some have eight.
        for ($i = 1, $n = max(0, $this->dice->getInt(-4, 7)); $i <= $n; ++$i) {
            $modes = LayerMode::cases();
            $mask = [];
            for ($m = $this->dice->getInt(0, 2); $m > 0; --$m) {
                $kinds = MaskKind::cases();
                $kind = $kinds[$this->dice->getInt(0, \count($kinds) - 1)];
                // Edges that are next to steps tell rounding, not mistakes.
                // Pieces and places are on one lane alone.
                $mask[] = ['kind' => $kind->value] + (\in_array($kind, [MaskKind::Joint, MaskKind::Place, MaskKind::Object], true) ? ['lane' => 'laid'] : []) + ['values' => ['low' => $this->range(-0.3, 0.3), 'high' => $this->range(0.7, 1.3), 'gamma' => $this->range(0.5, 2)] + $this->values($kind->controls())];
                foreach (['softness' => 20.0, 'fade' => 0.4, 'blur' => 0.05] as $name => $least) {
                    if (isset($mask[\count($mask) - 1]['values'][$name])) {
                        $mask[\count($mask) - 1]['values'][$name] = $least;
                    }
                }
            }
            $document['layers'][] = Documents::layer("over-$i", 'plain', $i % 2 === 0 ? 'set' : 'other', [
                'mode' => $modes[$this->dice->getInt(0, \count($modes) - 1)]->value,
                'opacity' => $this->range(20, 100),
                'width' => $this->range(20, 60),
                'mask' => $mask,
                'finish' => ['values' => $this->finish()],
            ]);
        }
        $document['surface'] = ['values' => ['kind' => ['opaque', 'cut-out', 'translucent'][$this->dice->getInt(0, 2)], 'sides' => ['front', 'both'][$this->dice->getInt(0, 1)]]];

        return $document;
    }

    /** @return array<string, mixed> some of the values of a finish */
    private function finish(): array
    {
        $values = [];
        foreach ($this->values(Finish::controls()) as $name => $value) {
            if ($this->dice->getInt(0, 4) === 0) {
                $values[$name] = $value;
            }
        }

        foreach (array_keys($values) as $name) {
            // Of maps that there are.
            if (str_ends_with($name, 'Of')) {
                $values[$name] = ['base-colour', 'normal', 'roughness'][$this->dice->getInt(0, 2)];
            }
        }

        // Levels that are next to steps, and gradients in steps, tell rounding, not mistakes. The lane of these layers has no pieces.
        return array_intersect_key(['darkest' => 0.05, 'lightest' => 0.9, 'gradientBetween' => 'smooth'], $values) + (($values['gradientBy'] ?? '') === 'piece' ? ['gradientBy' => 'object'] : []) + $values;
    }

    /** @return array{step: string, values: array<string, mixed>} */
    public function step(Step $step): array
    {
        return Documents::step($step->name(), $this->values($step->controls()));
    }

    /**
     * @param list<Control> $controls
     *
     * @return array<string, mixed>
     */
    private function values(array $controls): array
    {
        $values = [];
        foreach ($controls as $control) {
            if ($control instanceof NumberControl) {
                ['soft' => $soft, 'whole' => $whole] = $control->describe();
                // Of single precision, since that is what shaders are handed.
                $value = $this->range($soft[0], $soft[1]);
                $values[$control->name()] = $whole ? round($value) : $value;
            } elseif ($control instanceof ChoiceControl) {
                $options = $control->describe()['options'];
                $values[$control->name()] = $options[$this->dice->getInt(0, \count($options) - 1)]['value'];
            } elseif ($control instanceof RowsControl) {
                $values[$control->name()] = $this->rows($control);
            } elseif ($control instanceof ColourControl) {
                $values[$control->name()] = [$this->range(0, 1), $this->range(0, 1), $this->range(0, 1)];
            } elseif ($control instanceof ReferenceControl) {
                $names = match (true) {
                    !$control->isOfLibrary() => ['', 'ground'],
                    $control->isMap() => ['', 'set/normal', 'set/roughness'],
                    $control->isFamily() => ['', 'both'],
                    default => ['', 'sheet'],
                };
                $values[$control->name()] = $names[$this->dice->getInt(0, \count($names) - 1)];
            } elseif ($control instanceof SeedControl) {
                $values[$control->name()] = $this->dice->getInt(0, 0xFFFFFFFF);
            } else {
                $values[$control->name()] = $this->dice->getInt(0, 1) === 1;
            }
        }

        return $values;
    }

    /** @return list<array<string, float|string>> three rows between the others, if so many may be there */
    private function rows(RowsControl $control): array
    {
        $facts = $control->describe();
        $rows = [];
        for ($i = 0; $i < 3; ++$i) {
            $row = $facts['named'] ? ['name' => "Row $i"] : [];
            foreach ($facts['columns'] as $k => ['name' => $name, 'soft' => [$low, $high], 'whole' => $whole]) {
                // The first column grows, whether it has to or not.
                $value = $k === 0 ? $this->range($low + ($high - $low) * $i / 3, $low + ($high - $low) * ($i + 0.9) / 3) : $this->range($low, $high);
                $row[$name] = $whole ? round($value) : $value;
            }
            $rows[] = $row;
        }

        return $rows;
    }

    /** A surface point as an object turned and moved at random shows it. */
    public function footprint(): SurfaceSample
    {
        $n = Vec::unit([$this->range(-1, 1), $this->range(-1, 1), $this->range(-1, 1)]);
        $along = Vec::unit(Vec::cross($n, [0.3, 0.5, -0.7]));
        $x = Vec::unit([$this->range(-1, 1), $this->range(-1, 1), $this->range(-1, 1)]);
        $y = Vec::unit(Vec::cross($x, [0.1, -0.9, 0.4]));
        $point = SurfaceSample::at(
            [$this->range(-6, 6), $this->range(-6, 6), $this->range(-6, 6)],
            $n,
            [$this->range(-2, 2), $this->range(-2, 2)],
            $this->range(0.001, 0.05),
        );
        $inputs = [
            ...$this->unwraps($n, $along),
            'painted' => array_map(abs(...), [...$n, $x[0]]),
            'section' => [(float) $this->dice->getInt(0, 5)],
            'objectValue' => [$this->range(0, 1)],
            'objectSeed' => [(float) $this->dice->getInt(0, 9999)],
            'viewDistance' => [$this->range(0.5, 90)],
            'facing' => [$this->range(0, 1) < 0.5 ? 1.0 : -1.0],
            'objectOrigin' => [$this->range(-2, 2), $this->range(-2, 2), $this->range(-2, 2)],
            'objectX' => $x,
            'objectY' => $y,
            'objectZ' => Vec::cross($x, $y),
        ] + $point->inputs;

        return new SurfaceSample(array_map(static fn (array $v): array => array_map(self::single(...), $v), $inputs));
    }

    /**
     * Sets of UVs, each turned on its own.
     *
     * @param array{float, float, float} $n
     * @param array{float, float, float} $along
     *
     * @return array<string, list<float>>
     */
    private function unwraps(array $n, array $along): array
    {
        $inputs = [];
        foreach (Surface::UV_SETS as $set) {
            $inputs += [
                $set => [$this->range(-2, 2), $this->range(-2, 2)],
                "{$set}Dx" => [$this->range(-0.01, 0.01), $this->range(-0.01, 0.01)],
                "{$set}Dy" => [$this->range(-0.01, 0.01), $this->range(-0.01, 0.01)],
                "{$set}T" => $along,
                "{$set}B" => Vec::cross($n, $along),
            ];
            $along = Vec::cross($n, $along);
        }

        return $inputs;
    }

    private function range(float $low, float $high): float
    {
        return self::single($low + ($high - $low) * $this->dice->getInt(0, 0xFFFFFF) / 0xFFFFFF);
    }

    /** The nearest number of single precision. */
    public static function single(float $value): float
    {
        $found = unpack('g', pack('g', $value));

        return \is_array($found) && \is_float($found[1]) ? $found[1] : $value;
    }
}
