<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Judge;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\Finding as MapFinding;
use Rilta\Core\Check\Fix;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Judge\Finding;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Judge\Rule;
use Rilta\Core\Judge\Rules;
use Rilta\Core\Judge\Severity;
use Rilta\Core\Judge\StageSamples;
use Rilta\Core\Judge\Subject;
use Rilta\Core\Raster\Image;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Tests\Documents;
use Rilta\Core\Tests\Kernels;
use Rilta\Core\Tests\TestMaps;

/** Every rule with a document that has what it looks for, one that just has not, and what its fix makes of the first. */
final class RulesTest extends TestCase
{
    private const ORIGIN = ['step' => 'origin', 'values' => ['faces' => 'y']];

    /** @return iterable<string, array{string, string, array<string, mixed>, array<string, mixed>}> code, place, with it, and without it */
    public static function documents(): iterable
    {
        [$lane, $layer] = [self::lane(...), self::top(...)];
        $ground = Documents::layer('ground', 'a');
        $one = self::one(...);
        $step = Documents::step(...);

        $split = static fn (string $of): array => Documents::whole([$lane('a'), $lane('b', $step('turn', ['angle' => 20]))], [Documents::layer('low', 'a', 'other'), ['channels' => ['colour']] + $ground, $layer(['channels' => ['normal']], of: $of)]);
        yield 'roles apart' => ['split-roles', '/layers/2/lane', $split('b'), $split('a')];
        $channels = static fn (string ...$some): array => Documents::whole([$lane('a')], [['channels' => array_values($some)] + $ground]);
        yield 'normals that are not written' => ['unused-normal', '/layers/0/channels', $channels('colour', 'roughness'), $channels('colour', 'roughness', 'normal')];
        $relief = static fn (float $relief, string $set = 'set'): array => Documents::whole([$lane('a')], [Documents::layer('ground', 'a', $set, ['finish' => ['values' => ['relief' => $relief]]])]);
        yield 'relief of nothing' => ['unused-normal', '/layers/0/finish/values/relief', $relief(0.0), $relief(1.0)];
        yield 'relief without normals' => ['relief-without-normal', '/layers/0/finish/values/relief', $relief(150.0, 'bare'), $relief(150.0)];
        yield 'relief without normals, but with heights' => ['relief-without-normal', '/layers/0/finish/values/relief', $relief(150.0, 'tall'), $relief(150.0)];
        $seen = static fn (float $opacity): array => Documents::whole([$lane('a')], [$ground, $layer(['opacity' => $opacity])]);
        yield 'a layer of no opacity' => ['never-seen', '/layers/1', $seen(0.1), $seen(0.5)];
        $level = static fn (float $at): array => Documents::whole([$lane('a')], [$ground, $layer(['mask' => [['kind' => 'level', 'values' => ['at' => $at, 'fade' => 0.01, 'breaks' => 0]]]])]);
        yield 'a mask that is everywhere' => ['mask-everywhere', '/layers/1/mask', $level(900.0), $level(0.3)];
        $parameter = ['id' => 'p', 'name' => 'P', 'kind' => 'number', 'value' => 1, 'min' => 0, 'max' => 9];
        $follows = static fn (mixed $value): array => ['parameters' => [$parameter], 'variants' => [['id' => 'v', 'name' => 'V', 'values' => ['p' => 3]]]] + $one($step('size', ['u' => $value]));
        yield 'a parameter that nothing follows' => ['unused-parameter', '/parameters/0', $follows(2.0), $follows(['parameter' => 'p'])];
        $lanes = static fn (string $of): array => Documents::whole([$lane('a'), $lane('b')], [$ground, $layer([], of: $of)]);
        yield 'a lane that no layer lies on' => ['unused-lane', '/lanes/1', $lanes('a'), $lanes('b')];
        $variant = static fn (float $value): array => ['parameters' => [$parameter], 'variants' => [['id' => 'v', 'name' => 'V', 'values' => ['p' => $value]]]] + $one($step('size', ['u' => ['parameter' => 'p']]));
        yield 'a variant like none' => ['unused-variant', '/variants/0', $variant(1.0), $variant(1.1)];
        $drift = static fn (string $channel): array => Documents::whole([$lane('a', $step('scatter', ['hue' => 20, 'brightness' => 5]))], [['channels' => [$channel]] + $ground]);
        yield 'colours that drift in data' => ['drift-of-data', '/lanes/0/steps/1', $drift('roughness'), $drift('colour')];
        yield 'a turn by nothing' => ['idle-step', '/lanes/0/steps/1', $one($step('turn', ['angle' => 0])), $one($step('turn', ['angle' => 0.5]))];
        yield 'turned and turned back' => ['cancelling-steps', '/lanes/0/steps/2', $one($step('turn', ['angle' => 30]), $step('turn', ['angle' => -30])), $one($step('turn', ['angle' => 30]), $step('turn', ['angle' => -29]))];
        yield 'shifted and shifted back' => ['cancelling-steps', '/lanes/0/steps/3', $one($step('size', ['u' => 2]), $step('shift', ['u' => 0.3]), $step('shift', ['u' => -0.3])), $one($step('shift', ['u' => 0.3]), $step('size', ['u' => 2]), $step('shift', ['u' => -0.3]))];
        $pan = static fn (string $set): array => Documents::whole([$lane('a', $step('pan', ['u' => 0.2]))], [Documents::layer('ground', 'a', $set)]);
        yield 'moved past the edge' => ['loop-jumps', '/lanes/0/steps/1/values/u', $pan('edged'), $pan('set')];
        $keys = static fn (float $end): array => $one($step('reach', ['input' => 'keys', 'keys' => [['at' => 0, 'x' => 0.2, 'y' => 0], ['at' => 1, 'x' => 1, 'y' => 0], ['at' => 2, 'x' => $end, 'y' => 0]]]));
        yield 'keys that jump' => ['loop-jumps', '/lanes/0/steps/1/values/keys/2', $keys(0.9), $keys(0.2)];
        $place = static fn (float $repeats): array => $one($step('place', ['outside' => 'repeat', 'repeatsU' => $repeats]));
        yield 'a repeat that is cut' => ['cut-repeats', '/lanes/0/steps/1/values/repeatsU', $place(2.4), $place(2.0)];
        $bond = static fn (float $size): array => $one($step('bond', ['length' => 0.55, 'width' => 0.37]), $step('size', ['u' => $size]));
        yield 'pieces that maps do not fit' => ['cut-repeats', '/lanes/0/steps/2/values/u', $bond(2.4), $bond(2.2)];
        yield 'a tile with a seam' => ['cannot-tile', '/lanes/0/steps/1', $one($step('breakup')), $one($step('turn', ['angle' => 90]))];
        $open = static fn (string $kind, string $set): array => Documents::whole([$lane('a')], [Documents::layer('ground', 'a', $set)]) + ['surface' => ['values' => ['kind' => $kind]]];
        yield 'holes without mip levels' => ['cut-out-without-mips', '/layers/0/set', $open('cut-out', 'flat'), $open('cut-out', 'holes')];
        yield 'holes that nobody cuts' => ['nothing-cut', '/surface/values/kind', $open('cut-out', ''), $open('cut-out', 'holes')];
        yield 'translucent like a cut-out' => ['like-a-cut-out', '/surface/values/kind', $open('translucent', 'holes'), $open('translucent', 'veil')];
        $size = static fn (float $u): array => $one($step('size', ['u' => $u]));
        // 16 texels a repeat; 512 a metre are wanted, half of them and four times as many are told.
        yield 'too few texels' => ['wrong-density', '/lanes/0/steps/1/values/u', $size(0.07), $size(0.06)];
        yield 'too many texels' => ['wrong-density', '/lanes/0/steps/1/values/u', $size(0.0075), $size(0.0085)];
    }

    /**
     * @param array<string, mixed> ...$steps
     *
     * @return array<string, mixed>
     */
    private static function lane(string $id, array ...$steps): array
    {
        return Documents::lane($id, self::ORIGIN, ...array_values($steps));
    }

    /**
     * @param array<string, mixed> ...$steps
     *
     * @return array<string, mixed>
     */
    private static function one(array ...$steps): array
    {
        return Documents::whole([self::lane('a', ...$steps)], [Documents::layer('ground', 'a')]);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function top(array $more, string $set = 'set', string $of = 'a'): array
    {
        return Documents::layer('top', $of, $set, $more);
    }

    /**
     * @param array<string, mixed> $has
     * @param array<string, mixed> $hasNot
     */
    #[DataProvider('documents')]
    public function testItIsFoundWhereItIsAndMended(string $code, string $path, array $has, array $hasNot): void
    {
        self::assertSame([], self::found($code, $hasNot), 'where it is not');
        $found = self::found($code, $has);
        self::assertSame([$path], array_column($found, 'path'));
        self::assertMatchesRegularExpression('/\w{3}.*[.!]$/u', $found[0]->text);
        if ($found[0]->change === null) {
            return;
        }
        self::assertNotSame('', $found[0]->fix);
        $mended = $found[0]->change->applied($has);
        self::assertSame([], Documents::reader()->salvage($mended)->problems);
        self::assertSame([], self::found($code, $mended), 'after its fix');
        // Nothing that was not meant is another.
        $rest = static fn (array $document): array => array_diff_key($document, array_flip(array_map(static fn (array $one): string => explode('/', $one['path'])[1], $found[0]->change->operations)));
        self::assertSame($rest($has), $rest($mended));
    }

    public function testFacesThatAreNotSeenAreFoundOnAFloorAndNotOnACube(): void
    {
        $document = Documents::whole([Documents::lane('a', Documents::step('origin', ['faces' => 'xyz', 'space' => 'world']))], [Documents::layer('ground', 'a')]);
        self::assertSame([], self::found('many-faces', $document, 'cube'));
        $found = self::found('many-faces', $document, 'floor');
        self::assertSame('/lanes/0/steps/0/values/faces', $found[0]->path);
        self::assertStringContainsString('100.0 % of what wears it looks along Y; the others cost 8 of 12 map reads', $found[0]->text);
        $mended = $found[0]->change?->applied($document) ?? [];
        self::assertSame([], self::found('many-faces', $mended, 'floor'));
        self::assertSame([], self::found('many-faces', $document, null), 'without a stage nobody knows');
    }

    public function testAFixIsTheNearestThatFits(): void
    {
        $document = self::one(Documents::step('bond', ['length' => 0.55, 'width' => 0.37]), Documents::step('size', ['u' => 2.4]));
        $found = self::found('cut-repeats', $document)[0];
        self::assertSame(['A repeat of 2.4 m holds 4.36 pieces of 0.55 m: pieces and maps drift apart.', 'A repeat of 2.2 m', [['op' => 'replace', 'path' => '/lanes/0/steps/2/values/u', 'value' => 2.2]]], [$found->text, $found->fix, $found->change?->operations]);
        $found = self::found('wrong-density', self::one(Documents::step('size', ['u' => 0.07])))[0];
        self::assertSame('A size of 0.031 m', $found->fix, '16 texels a repeat are 512 a metre');
    }

    public function testOverABudgetTheDearestStepIsNamed(): void
    {
        $document = Documents::of([Documents::step('origin', ['space' => 'world']), Documents::step('size'), Documents::step('breakup')]);
        $found = self::found('over-budget', $document, profile: Profile::ready()['small']);
        self::assertSame(['/lanes/0/steps/2', '/lanes/0/steps/2'], array_column($found, 'path'));
        self::assertStringContainsString('36 map reads, and “Small” allows 16. Breakup costs most: 24 map reads and', $found[0]->text);
        $light = Documents::of([self::ORIGIN, Documents::step('size')]);
        self::assertSame([], self::found('over-budget', $light, profile: Profile::ready()['small']));
        self::assertSame([], self::found('over-budget', $document));
    }

    public function testWhatIsKnownOfMapsIsToldWhereTheyAreRead(): void
    {
        $document = Documents::of([self::ORIGIN]);
        $known = ['set/normal' => [new MapFinding('green', true, 'Its green channel points down.', fixes: [Fix::FlipGreen])], 'other/normal' => [new MapFinding('seam', false, 'It jumps.')]];
        $found = self::found('map-finding', $document, maps: $known);
        self::assertSame([['/layers/0/set', 'set/normal', 'flip-green', Severity::Wrong]], array_map(static fn (Finding $one): array => [$one->path, $one->map, $one->mend, $one->severity], $found));
    }

    public function testEveryRuleSaysWhatItLooksForAndWhatIsWrongComesFirst(): void
    {
        $rules = Rules::all(Documents::reader());
        self::assertCount(\count($rules), array_unique(array_map(static fn (Rule $rule): string => $rule->code(), $rules)));
        foreach ($rules as $rule) {
            self::assertMatchesRegularExpression('/^[a-z]+(-[a-z]+)+$/', $rule->code());
            self::assertMatchesRegularExpression('/^[A-Z].*\.$/', $rule->help(), $rule->code());
        }
        $tried = array_unique(array_column(array_values(iterator_to_array(self::documents())), 0));
        self::assertSame([], array_diff(array_map(static fn (Rule $rule): string => $rule->code(), $rules), $tried, ['many-faces', 'over-budget', 'map-finding']), 'each has its documents');
        $document = Documents::of([self::ORIGIN, Documents::step('turn', ['angle' => 0]), Documents::step('pan', ['u' => 1])], 'edged');
        $severities = array_map(static fn (array $one): string => ($one[1]->severity ?? $one[0]->severity())->value, Rules::found(Documents::reader(), self::subject($document)));
        self::assertSame('wrong', $severities[0]);
        self::assertSame('note', $severities[\count($severities) - 1]);
    }

    /** The guide lists them as they are declared; RILTA_WRITE_GUIDE=1 writes it. */
    public function testTheGuideListsAllRules(): void
    {
        $file = __DIR__ . '/../../../docs/guide.md';
        $guide = (string) file_get_contents($file);
        $list = "| what | how grave | why it matters |\n|---|---|---|\n" . implode('', array_map(static fn (Rule $rule): string => \sprintf("| %s (`%s`) | %s | %s |\n", $rule->label(), $rule->code(), $rule->severity()->value, $rule->help()), Rules::all(Documents::reader())));
        if (getenv('RILTA_WRITE_GUIDE') === '1') {
            file_put_contents($file, preg_replace('~(<!-- rules -->\n).*(<!-- /rules -->)~s', "$1$list$2", $guide));
        }
        self::assertStringContainsString("<!-- rules -->\n$list<!-- /rules -->", (string) file_get_contents($file));
    }

    /** Rules hold of documents with all that there is. */
    public function testRandomDocumentsAreLookedThrough(): void
    {
        $random = new \Rilta\Core\Tests\RandomDocuments(5);
        for ($i = 0; $i < 12; ++$i) {
            $document = $random->layered();
            $maps = TestMaps::whole();
            $subject = new Subject($document, Documents::reader()->read($document), $maps, Kernels::compiler(), samples: StageSamples::of(Stage::read(Stage::first()), null, true), profile: Profile::ready()['small']);
            foreach (Rules::found(Documents::reader(), $subject) as [$rule, $finding]) {
                self::assertDoesNotMatchRegularExpression('/\b(nan|inf)\b/i', $finding->text, $rule->code());
                if ($finding->change !== null) {
                    self::assertSame([], Documents::reader()->salvage($finding->change->applied($document))->problems, "$i: {$rule->code()} $finding->path");
                }
            }
        }
    }

    /**
     * @param array<mixed>                    $document
     * @param array<string, list<MapFinding>> $maps
     *
     * @return list<Finding> of one rule
     */
    private static function found(string $code, array $document, ?string $mesh = 'cube', ?Profile $profile = null, array $maps = []): array
    {
        $found = array_filter(Rules::found(Documents::reader(), self::subject($document, $mesh, $profile, $maps)), static fn (array $one): bool => $one[0]->code() === $code);

        return array_column(array_values($found), 1);
    }

    /**
     * @param array<mixed>                    $document
     * @param array<string, list<MapFinding>> $known
     */
    private static function subject(array $document, ?string $mesh = 'cube', ?Profile $profile = null, array $known = []): Subject
    {
        $noise = static fn (): Image => new Image(16, 16, 4, array_map(static fn (int $i): int => ($i * 7919 & 0xFFFFFF) | 0xFF000000, range(1, 256)));
        $opacity = static fn (int $veiled): Image => new Image(16, 16, 1, array_map(static fn (int $i): int => $i < $veiled ? 120 : ($i % 2 === 0 ? 0 : 255), range(0, 255)));
        $maps = TestMaps::noise()
            ->add('other', ['base-colour' => $noise()])
            ->add('bare', ['base-colour' => $noise()])
            ->add('tall', ['base-colour' => $noise(), 'height' => $opacity(256)])
            ->add('edged', ['base-colour' => $noise()], sampling: new Sampling(wrapU: 'edge'))
            ->add('holes', ['base-colour' => $noise(), 'opacity' => $opacity(0)])
            ->add('veil', ['base-colour' => $noise(), 'opacity' => $opacity(200)])
            ->add('flat', ['base-colour' => $noise(), 'opacity' => $opacity(0)], sampling: new Sampling(mips: false));
        $object = ['id' => 'a', 'name' => 'A', 'mesh' => $mesh ?? 'cube', 'position' => [0, 0, 0], 'turn' => [0, 0, 0], 'scale' => [1, 1, 1], 'seed' => 1, 'value' => 0];
        $samples = $mesh === null ? null : StageSamples::of(Stage::read(['objects' => [$object]] + Stage::first()), null);

        return new Subject($document, Documents::reader()->read($document), $maps, Kernels::compiler(), $known, $samples, $profile);
    }
}
