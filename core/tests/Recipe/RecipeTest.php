<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Recipe;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\BlendMode;
use Rilta\Core\Field\Library\Hash;
use Rilta\Core\Field\Library\Noise;
use Rilta\Core\Field\Node;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Material\InvalidDocument;
use Rilta\Core\Recipe\LoweredRecipe;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeBake;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Recipe\RecipeShader;
use Rilta\Core\Recipe\RecipeStarter;
use Rilta\Core\Recipe\Sources;
use Rilta\Core\Recipe\Spread;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;
use Rilta\Demo\Recipes;

/** Recipes against closed forms. A saw of one wave is the ruler: its value at u is u. */
final class RecipeTest extends TestCase
{
    private const RULER = ['id' => 'ruler', 'name' => 'Ruler', 'source' => 'waves', 'values' => ['across' => 1, 'down' => 0, 'form' => 'saw']];
    private const PLUMB = ['id' => 'plumb', 'name' => 'Plumb', 'source' => 'waves', 'values' => ['across' => 0, 'down' => 1, 'form' => 'saw']];

    /**
     * @param list<array<string, mixed>> $ingredients
     * @param list<array<string, mixed>> $outputs
     * @param array<string, mixed>       $more
     */
    private static function recipe(array $ingredients, array $outputs = [['role' => 'height', 'of' => 'ruler']], array $more = []): Recipe
    {
        return RecipeReader::read($more + ['format' => Recipe::FORMAT, 'name' => 'Test', 'size' => 64, 'ingredients' => $ingredients, 'outputs' => $outputs]);
    }

    /**
     * @param list<array{float, float}> $points
     *
     * @return list<list<float|int>> by component
     */
    private static function at(LoweredRecipe $lowered, Node $field, array $points): array
    {
        return Kernels::compiler()->compile($lowered->graph, ['it' => $field], ['uv' => Binding::Pairs])
            ->points(\count($points), $lowered->uniforms(), [], ['uv' => array_merge(...$points)])['it'];
    }

    /**
     * @param list<array<string, mixed>> $ingredients
     * @param list<array{float, float}>  $points
     *
     * @return list<float|int> the values of the last ingredient
     */
    private static function values(array $ingredients, array $points): array
    {
        $lowered = RecipeLowering::lower(self::recipe($ingredients, [['role' => 'height', 'of' => $ingredients[0]['id']]]));

        return self::at($lowered, array_values($lowered->values)[\count($ingredients) - 1], $points)[0];
    }

    /**
     * @param array<string, mixed> $values
     *
     * @return array<string, mixed>
     */
    private static function ruler(array $values): array
    {
        return ['values' => $values + self::RULER['values']] + self::RULER;
    }

    /** @return list<array{float, float}> */
    private static function scattered(int $count): array
    {
        mt_srand(77);

        return array_map(static fn (): array => [mt_rand() / mt_getrandmax(), mt_rand() / mt_getrandmax()], range(1, $count));
    }

    public function testValueNoiseIsItsRandomNumbersOnTheLattice(): void
    {
        $g = new Graph();
        $noise = Noise::value($g, $g->vec(2.0, 3.0), $g->vec(4.0, 4.0), $g->uint(5));
        $number = Hash::unit($g, $g->x(Hash::pcg3d($g, $g->vec($g->uint(2), $g->uint(3), $g->uint(5)))));
        self::assertEqualsWithDelta(Kernels::value($g, $number), Kernels::value($g, $noise), 1e-12);
        // Half way between two lattice points the quintic is at 1/2.
        $between = Kernels::value($g, Noise::value($g, $g->vec(2.5, 3.0), $g->vec(4.0, 4.0), $g->uint(5)))[0];
        $next = Kernels::value($g, Noise::value($g, $g->vec(3.0, 3.0), $g->vec(4.0, 4.0), $g->uint(5)))[0];
        self::assertEqualsWithDelta((Kernels::value($g, $noise)[0] + $next) / 2, $between, 1e-12);
    }

    /** @return iterable<string, array{string, array<string, mixed>}> */
    public static function noises(): iterable
    {
        yield 'gradient' => ['gradient', []];
        yield 'value' => ['value', ['cells' => 5, 'down' => 9]];
        foreach (['nearest', 'second', 'border', 'cell'] as $reads) {
            yield "cellular, $reads" => ['cellular', ['reads' => $reads]];
        }
        yield 'cellular in rows' => ['cellular', ['jitter' => 0]];
        yield 'fBm' => ['fbm', ['octaves' => '6']];
        yield 'fBm of value noise' => ['fbm', ['base' => 'value', 'gain' => 70]];
        yield 'ridged' => ['ridged', ['octaves' => '4']];
        yield 'waves' => ['waves', ['across' => 3, 'down' => 2]];
        yield 'pointed waves' => ['waves', ['across' => 3, 'down' => 2, 'form' => 'pointed']];
        yield 'bent by noise' => ['gradient', ['bend' => 'noise', 'bendAmount' => 0.3]];
    }

    /** @param array<string, mixed> $values */
    #[DataProvider('noises')]
    public function testEveryNoiseRepeatsAfterOneTileAndKeepsToItsRange(string $source, array $values): void
    {
        $one = ['id' => 'it', 'name' => 'It', 'source' => $source, 'values' => ['outside' => 'remap'] + $values];
        $recipe = self::recipe([$one], [['role' => 'height', 'of' => 'it']]);
        $lowered = RecipeLowering::lower($recipe);
        $points = self::scattered(3000);
        $placed = self::at($lowered, $lowered->placed['it'], $points)[0];
        \assert($placed !== []);
        self::assertLessThan(0.01, \count(array_filter($placed, static fn (float|int $v): bool => $v < -1e-9 || $v > 1 + 1e-9)) / \count($placed), 'the documented range');
        self::assertGreaterThan(-0.2, min($placed));
        self::assertLessThan(1.2, max($placed));
        self::assertGreaterThan(0.8, max($placed) - min($placed), 'and makes use of it');
        $moved = array_map(static fn (array $p): array => [$p[0] + 1.0, $p[1] - 2.0], $points);
        self::assertEqualsWithDelta($placed, self::at($lowered, $lowered->placed['it'], $moved)[0], 1e-8);
    }

    public function testOctavesAreSummedByTheirGain(): void
    {
        $g = new Graph();
        [$p, $cells] = [$g->vec(0.37, 0.81), $g->vec(3.0, 3.0)];
        $sum = Noise::octaves($g, $p, $cells, 3, $g->float(0.4), $g->uint(9), Noise::gradient(...));
        $one = static fn (int $o): float => (float) Kernels::value($g, Noise::gradient($g, $g->mul($p, 3.0 * 2 ** $o), $g->vec(3.0 * 2 ** $o, 3.0 * 2 ** $o), $g->uint(9 + 7919 * $o)))[0];
        self::assertEqualsWithDelta(($one(0) + 0.4 * $one(1) + 0.16 * $one(2)) / 1.56, Kernels::value($g, $sum)[0], 1e-12);
    }

    public function testWhatLiesOutsideIsDealtWithAsAsked(): void
    {
        $points = [[0.1, 0.0], [0.3, 0.0], [0.5, 0.0], [0.7, 0.0], [0.95, 0.0]];
        // Black at 0.25, white at 0.5: 0.1 lies at -0.6, 0.3 at 0.2, 0.5 at 1, 0.7 at 1.8, 0.95 at 2.8.
        $of = static fn (string $outside): array => self::values([self::ruler(['black' => 0.25, 'white' => 0.5, 'outside' => $outside])], $points);
        self::assertEqualsWithDelta([0.0, 0.2, 1.0, 1.0, 1.0], $of('hold'), 1e-6);
        self::assertEqualsWithDelta([0.6, 0.2, 1.0, 1.0, 1.0], $of('absolute'), 1e-6);
        self::assertEqualsWithDelta([0.6, 0.2, 1.0, 0.2, 0.8], $of('fold'), 1e-6);
        self::assertEqualsWithDelta([0.1, 0.3, 0.5, 0.7, 0.95], $of('remap'), 1e-6);
    }

    public function testTheShareOutsideIsCounted(): void
    {
        $lowered = RecipeLowering::lower(self::recipe([self::ruler(['black' => 0.25, 'white' => 0.625])]));
        self::assertEqualsWithDelta(['ruler' => ['below' => 0.25, 'above' => 0.375]], Spread::outside($lowered, Kernels::compiler()), 0.011);
        $fitted = RecipeLowering::lower(self::recipe([self::ruler(['black' => 0.25, 'white' => 0.625, 'outside' => 'remap'])]));
        self::assertSame(['ruler' => ['below' => 0.0, 'above' => 0.0]], array_map(static fn (array $s): array => array_map(floatval(...), $s), Spread::outside($fitted, Kernels::compiler())));
    }

    public function testWhiteAtBlackIsAnEdgeAndWhiteBelowBlackTurnsThePictureOver(): void
    {
        self::assertEqualsWithDelta([0.0, 1.0], self::values([self::ruler(['black' => 0.5, 'white' => 0.5])], [[0.4, 0.0], [0.6, 0.0]]), 1e-6);
        self::assertEqualsWithDelta([0.75, 0.25], self::values([self::ruler(['black' => 1.0, 'white' => 0.0])], [[0.25, 0.0], [0.75, 0.0]]), 1e-9);
    }

    public function testLevelsComeLast(): void
    {
        $found = self::values([self::ruler(['gamma' => 2.0, 'low' => 0.9, 'high' => 0.1])], [[0.25, 0.0], [0.81, 0.0]]);
        self::assertEqualsWithDelta([0.9 - 0.8 * 0.5, 0.9 - 0.8 * 0.9], $found, 1e-6);
    }

    public function testABendMovesThePointThatIsRead(): void
    {
        $points = self::scattered(200);
        $straight = self::values([self::ruler([])], $points);
        self::assertSame($straight, self::values([self::ruler(['bend' => 'noise', 'bendAmount' => 0])], $points), 'an amount of 0 is nothing');
        // Bent by the plumb line: v moves u by (2v - 1) times the amount.
        $bent = self::values([self::PLUMB, self::ruler(['bend' => 'ingredient', 'bendBy' => 'plumb', 'bendAmount' => 0.1])], $points);
        foreach ($points as $i => [$u, $v]) {
            $at = $u + 0.1 * (2 * $v - 1);
            self::assertEqualsWithDelta($at - floor($at), $bent[$i], 1e-6);
        }
    }

    /** @return iterable<string, array{string, \Closure(float, float): float}> */
    public static function modes(): iterable
    {
        yield 'mix' => ['mix', static fn (float $b, float $a): float => $a];
        yield 'add' => ['add', static fn (float $b, float $a): float => $b + $a];
        yield 'subtract' => ['subtract', static fn (float $b, float $a): float => $b - $a];
        yield 'multiply' => ['multiply', static fn (float $b, float $a): float => $b * $a];
        yield 'least' => ['least', static fn (float $b, float $a): float => min($b, $a)];
        yield 'most' => ['most', static fn (float $b, float $a): float => max($b, $a)];
        yield 'difference' => ['difference', static fn (float $b, float $a): float => abs($b - $a)];
        yield 'overlay' => ['overlay', static fn (float $b, float $a): float => $b < 0.5 ? 2 * $a * $b : 1 - 2 * (1 - $a) * (1 - $b)];
    }

    /** @param \Closure(float, float): float $closed */
    #[DataProvider('modes')]
    public function testBlendsAreTheirClosedForms(string $how, \Closure $closed): void
    {
        self::assertSame(array_column(BlendMode::cases(), 'value'), array_keys(iterator_to_array(self::modes())), 'every mode is tested');
        $points = self::scattered(100);
        foreach ([[100.0, ''], [40.0, ''], [80.0, 'ruler']] as [$amount, $mask]) {
            $blend = ['id' => 'both', 'name' => 'Both', 'source' => 'blend', 'terms' => [
                ['of' => 'ruler', 'how' => 'multiply', 'amount' => 3],
                ['of' => 'plumb', 'how' => $how, 'amount' => $amount, 'mask' => $mask],
            ]];
            $found = self::values([self::RULER, self::PLUMB, $blend], $points);
            foreach ($points as $i => [$u, $v]) {
                $share = $amount / 100 * ($mask === '' ? 1.0 : $u);
                $expected = max(0.0, min(1.0, $u + ($closed($u, $v) - $u) * $share));
                self::assertEqualsWithDelta($expected, $found[$i], 1e-6, "$how by $amount% at $u, $v");
            }
        }
    }

    public function testGradientsGoFromStopToStop(): void
    {
        $stops = [['at' => 0.2, 'colour' => [0, 0, 0]], ['at' => 0.6, 'colour' => [1, 1, 1]], ['at' => 0.6, 'colour' => [1, 0, 0]]];
        $of = static function (string $between, string $space, float $t) use ($stops): array {
            $lowered = RecipeLowering::lower(self::recipe([self::RULER], [['role' => 'base-colour', 'coats' => [['of' => 'ruler', 'between' => $between, 'space' => $space, 'stops' => $stops]]]]));

            return array_map(static fn (array $c): float => round((float) $c[0], 6), self::at($lowered, $lowered->outputs['base-colour'], [[$t, 0.5]]));
        };
        self::assertEqualsWithDelta([0.0, 0.0, 0.0, 1.0], $of('linear', 'linear', 0.1), 1e-6);
        self::assertEqualsWithDelta([0.25, 0.25, 0.25, 1.0], $of('linear', 'linear', 0.3), 1e-6);
        self::assertEqualsWithDelta([1.0, 0.0, 0.0, 1.0], $of('linear', 'linear', 0.61), 1e-6, 'stops at one place make an edge');
        $eased = 3 * 0.25 ** 2 - 2 * 0.25 ** 3;
        self::assertEqualsWithDelta([$eased, $eased, $eased, 1.0], $of('smooth', 'linear', 0.3), 1e-6);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0, 1.0], $of('constant', 'linear', 0.59), 1e-6);
        // Half way to white, Oklab has half the lightness, whose cube is the light.
        self::assertEqualsWithDelta([0.125, 0.125, 0.125, 1.0], $of('linear', 'oklab', 0.4), 2e-3);
        self::assertEqualsWithDelta([1.0, 0.0, 0.0, 1.0], $of('linear', 'oklab', 0.9), 2e-3, 'the stop itself is not changed');
    }

    public function testCoatsLieOverOneAnotherAndAlphaIsAnIngredient(): void
    {
        $white = [['at' => 0, 'colour' => [1, 1, 1]]];
        $coats = [
            ['of' => 'ruler', 'space' => 'linear', 'stops' => [['at' => 0, 'colour' => [0, 0, 0]], ['at' => 1, 'colour' => [1, 0, 0]]]],
            ['of' => 'ruler', 'how' => 'mix', 'amount' => 50, 'mask' => 'plumb', 'space' => 'linear', 'stops' => $white],
        ];
        $lowered = RecipeLowering::lower(self::recipe([self::RULER, self::PLUMB], [['role' => 'base-colour', 'alpha' => 'plumb', 'coats' => $coats]]));
        [$r, $g, $b, $a] = self::at($lowered, $lowered->outputs['base-colour'], [[0.25, 0.8]]);
        self::assertEqualsWithDelta([0.25 * 0.6 + 0.4, 0.4, 0.4, 0.8], [$r[0], $g[0], $b[0], $a[0]], 1e-6);
    }

    /**
     * @return array<string, string> bytes by image
     */
    private static function baked(Recipe $recipe, int $rows): array
    {
        $bake = new RecipeBake(RecipeLowering::lower($recipe), $recipe->size, Kernels::compiler());
        $images = [];
        foreach ($recipe->grounds() === [] ? [0] : [0, 1] as $pass) {
            for ($y = 0; $y < $recipe->size; $y += $rows) {
                foreach ($bake->band($pass, $y, min($recipe->size, $y + $rows), static fn (string $name): string => $images[$name]) as $name => $bytes) {
                    $images[$name] = ($images[$name] ?? '') . $bytes;
                }
            }
        }

        return $images;
    }

    public function testBandsMakeTheSameImageHoweverTheyAreCut(): void
    {
        $recipe = RecipeReader::read(['size' => 64] + (array) json_decode(RecipeStarter::recipe('Start')->json(), true));
        $whole = self::baked($recipe, 64);
        self::assertSame($whole, self::baked($recipe, 7));
        self::assertSame($whole, (new RecipeBake(RecipeLowering::lower($recipe), $recipe->size, Kernels::compiler()))->whole());
        self::assertSame(['ground-ground', 'base-colour', 'roughness', 'height', 'normal', 'occlusion'], array_keys($whole));
        self::assertSame([2 * 64 ** 2, 3 * 64 ** 2, 64 ** 2, 2 * 64 ** 2, 3 * 64 ** 2, 64 ** 2], array_map(\strlen(...), array_values($whole)));
        $bands = RecipeBake::bands($recipe, 1024);
        self::assertSame([0, 1], array_values(array_unique(array_column($bands, 'pass'))));
        self::assertSame(2 * 1024, array_sum(array_map(static fn (array $b): int => $b['to'] - $b['from'], $bands)));
    }

    public function testNormalsHaveTheSlopeOfTheRelief(): void
    {
        // A pointed wave rises by its relief over half a tile.
        $wave = self::ruler(['form' => 'pointed']);
        foreach ([[0.5, 1.0, 100.0], [0.1, 2.0, 100.0], [0.1, 2.0, -300.0]] as [$relief, $extent, $strength]) {
            $recipe = self::recipe([$wave], [['role' => 'normal', 'of' => 'ruler', 'values' => ['strength' => $strength]]], ['relief' => $relief, 'extent' => $extent]);
            $bytes = self::baked($recipe, 64)['normal'];
            $slope = $relief / ($extent / 2) * $strength / 100;
            $length = sqrt(1 + $slope ** 2);
            foreach ([10 => 1.0, 50 => -1.0] as $x => $rises) {
                $found = array_map(\ord(...), str_split(substr($bytes, 3 * (64 * 20 + $x), 3)));
                self::assertEqualsWithDelta([127.5 * (1 - $rises * $slope / $length), 127.5, 127.5 * (1 + 1 / $length)], $found, 0.75);
            }
        }
        // Rising downwards looks up.
        $down = self::baked(self::recipe([['values' => ['across' => 0, 'down' => 1, 'form' => 'pointed']] + self::PLUMB], [['role' => 'normal', 'of' => 'plumb']], ['relief' => 0.5, 'extent' => 1.0]), 64)['normal'];
        self::assertGreaterThan(200, \ord($down[3 * (64 * 10 + 5) + 1]));
    }

    public function testOcclusionIsTheHiddenShareOfTheSky(): void
    {
        $flat = self::recipe([self::ruler(['low' => 0.5, 'high' => 0.5])], [['role' => 'occlusion', 'of' => 'ruler']]);
        self::assertSame([255], array_values(array_unique(array_map(\ord(...), str_split(self::baked($flat, 64)['occlusion'])))));
        // At the foot of a step as high as the reach is far: the horizon stands at 45° on one side.
        $step = self::ruler(['black' => 0.5, 'white' => 0.5]);
        $recipe = self::recipe([$step], [['role' => 'occlusion', 'of' => 'ruler', 'values' => ['reach' => 100 / 64]]], ['relief' => 1 / 64, 'extent' => 1.0]);
        $row = substr(self::baked($recipe, 64)['occlusion'], 64 * 30, 64);
        // One texel of height, one texel away: half of one direction, a third of the two diagonals.
        self::assertEqualsWithDelta(255 * (1 - (1 / 2 + 2 / 3) / 8), \ord($row[31]), 1.0);
        self::assertSame([255, 255], [\ord($row[32]), \ord($row[16])], 'above, and far from it, all is open');
    }

    public function testSeedsReproduceAndVary(): void
    {
        $noise = ['id' => 'ruler', 'name' => 'Noise', 'source' => 'gradient', 'values' => ['seed' => 4]];
        $of = static fn (int $seed): string => self::baked(self::recipe([$noise], more: ['seed' => $seed]), 64)['height'];
        self::assertSame($of(3), $of(3));
        self::assertNotSame($of(3), $of(4));
        $correlation = static function (string $a, string $b): float {
            [$x, $y] = [array_values((array) unpack('n*', $a)), array_values((array) unpack('n*', $b))];
            $mean = static fn (array $v): float => array_sum($v) / \count($v);
            [$mx, $my] = [$mean($x), $mean($y)];
            $xy = $xx = $yy = 0.0;
            foreach ($x as $i => $v) {
                [$p, $q] = [(\is_int($v) ? $v : 0) - $mx, (\is_int($y[$i]) ? $y[$i] : 0) - $my];
                $xy += $p * $q;
                $xx += $p * $p;
                $yy += $q * $q;
            }

            return $xy / sqrt($xx * $yy);
        };
        self::assertLessThan(0.35, abs($correlation($of(3), $of(4))), 'seeds side by side have nothing in common');
    }

    public function testTheDocumentIsTheSameAfterReading(): void
    {
        foreach (Recipes::documents() as $recipe) {
            self::assertSame($recipe->json(), RecipeReader::readJson($recipe->json())->json());
        }
    }

    public function testCommittedMapsAreWhatTheirRecipeMakes(): void
    {
        $folder = \dirname(__DIR__, 3) . '/demo/maps';
        foreach (Recipes::documents() as $recipe) {
            self::assertFileExists("$folder/$recipe->name/set.json", 'run bin/rilta console cook');
            // A few rows tell as much as all of them.
            $found = (new RecipeBake(RecipeLowering::lower($recipe), $recipe->size, Kernels::compiler()))->band(0, 100, 104, static fn (): string => '');
            foreach (array_intersect_key(['base-colour' => 3, 'roughness' => 1, 'opacity' => 1], $found) as $role => $channels) {
                $image = ImageFile::open("$folder/$recipe->name/$recipe->name-$role.png");
                $texels = \array_slice($channels === 1 ? $image->first()->texels : $image->decode()->texels, 100 * $recipe->size, 4 * $recipe->size);
                $bytes = array_map(\ord(...), str_split($found[$role]));
                $expected = $channels === 1 ? $bytes : array_map(static fn (array $rgb): int => $rgb[0] | $rgb[1] << 8 | $rgb[2] << 16 | 0xFF000000, array_chunk($bytes, 3));
                self::assertTrue($expected === $texels, "$recipe->name-$role.png is not what its recipe makes; run bin/rilta console cook $recipe->name");
            }
        }
    }

    public function testDocumentsThatAreBrokenAnywhereAreRefusedInWords(): void
    {
        mt_srand(5);
        $source = (string) file_get_contents(\dirname(__DIR__, 3) . '/demo/recipes/tidal-silt.json');
        $told = 0;
        $wrong = [null, -1, 1e300, '', 'x', [], [1], true, ['a' => 1], \PHP_INT_MAX];
        for ($i = 0; $i < 400; ++$i) {
            $data = json_decode($source, true, 64, \JSON_THROW_ON_ERROR);
            $at = &$data;
            for ($depth = mt_rand(1, 6); $depth > 0 && \is_array($at) && $at !== []; --$depth) {
                $at = &$at[array_rand($at)];
            }
            $at = $wrong[mt_rand(0, \count($wrong) - 1)];
            unset($at);
            try {
                RecipeLowering::lower(RecipeReader::read($data));
            } catch (InvalidDocument $e) {
                ++$told;
                self::assertNotSame('', $e->getMessage());
            }
        }
        self::assertGreaterThan(250, $told);
        $this->expectException(InvalidDocument::class);
        RecipeReader::readJson('{"format":');
    }

    public function testOnlyWhatIsBeforeCanBeUsed(): void
    {
        foreach (['ruler', 'plumb', 'nobody'] as $of) {
            try {
                self::recipe([self::RULER, ['id' => 'mix', 'name' => 'Mix', 'source' => 'blend', 'terms' => [['of' => $of, 'mask' => 'mix']]], self::PLUMB]);
                self::fail('a mask of itself');
            } catch (InvalidDocument $e) {
                self::assertSame($of === 'ruler' ? ['/ingredients/1/terms/0/mask'] : ['/ingredients/1/terms/0/of', '/ingredients/1/terms/0/mask'], array_column($e->problems, 'path'));
                self::assertStringContainsString('an ingredient that comes before (ruler)', $e->getMessage());
            }
        }
    }

    public function testEachPictureHasItsOwnCodeAndNumbersAreUniforms(): void
    {
        $recipe = static fn (float $black): Recipe => self::recipe([self::ruler(['black' => $black]), self::PLUMB], [['role' => 'roughness', 'of' => 'ruler'], ['role' => 'normal', 'of' => 'plumb']]);
        $code = static fn (float $black): array => array_column(RecipeShader::views(RecipeLowering::lower($recipe($black))), 'code', 'key');
        self::assertSame($code(0.0), $code(0.25), 'another number is no other code');
        self::assertStringNotContainsString('plumb', $code(0.0)['map roughness'], 'what a picture does not need is not in its code');
        self::assertStringContainsString('uniform highp sampler2DArray heights;', $code(0.0)['map normal']);
        self::assertSame(['waves', Sources::BLEND], array_map(static fn ($s): string => $s->name, \array_slice(Sources::all(), -2)));
    }
}
