<?php

declare(strict_types=1);

namespace Rilta\App\Tests;

use PHPUnit\Framework\Attributes\DataProvider;
use Rilta\Core\Format\ImageFile;

/** Recipes: kept, varied, cooked into the library, and made again. */
final class RecipeTest extends ApiTestCase
{
    private const PROJECT_URL = '/api/projects/' . self::PROJECT;

    /** @return array<mixed> a recipe of one hard wave, dark on the left, 64 pixels a side */
    private function recipe(string $name = 'Dyke'): array
    {
        return $this->api('POST', self::PROJECT_URL . '/recipes', ['document' => self::wave($name)], 201);
    }

    /**
     * @param array{float, float, float} $dark
     *
     * @return array<string, mixed>
     */
    private static function wave(string $name, array $dark = [1.0, 0.0, 0.0]): array
    {
        return [
            'format' => 'rilta-recipe/1',
            'name' => $name,
            'size' => 64,
            'extent' => 3.0,
            'ingredients' => [['id' => 'ramp', 'name' => 'Ramp', 'source' => 'waves', 'values' => ['across' => 1, 'down' => 0, 'form' => 'saw', 'black' => 0.25, 'white' => 0.75]]],
            'outputs' => [
                ['role' => 'base-colour', 'coats' => [['of' => 'ramp', 'between' => 'constant', 'stops' => [['at' => 0.0, 'colour' => $dark], ['at' => 0.5, 'colour' => [0, 0, 1]]]]]],
                ['role' => 'height', 'of' => 'ramp'],
                ['role' => 'normal', 'of' => 'ramp', 'values' => ['strength' => 100]],
            ],
        ];
    }

    /** @param array<mixed> $recipe */
    private static function url(array $recipe): string
    {
        return '/api/recipes/' . self::int($recipe['id']);
    }

    /** @return array<mixed> the finished bake */
    private function cook(string $url): array
    {
        $bake = $this->api('POST', "$url/cook", null, 201);
        $this->drain();
        $done = $this->api('GET', '/api/bakes/' . self::int($bake['id']));
        self::assertSame('done', $done['state'], self::text($done['failure']));

        return $done;
    }

    public function testItsMapsComeIntoTheLibraryAndStayTiedToIt(): void
    {
        $recipe = $this->recipe();
        $url = self::url($recipe);
        $waiting = $this->api('POST', "$url/cook", null, 201);
        self::assertSame($waiting['id'], $this->api('POST', "$url/cook", null, 201)['id'], 'what waits is not asked for twice');
        $done = $this->cook($url);
        self::assertSame('dyke', self::at($done, 'facts')['set']);
        // A quarter below black and a quarter above white.
        self::assertEqualsWithDelta(['below' => 0.25, 'above' => 0.25], self::at($done, 'facts', 'outside', 'ramp'), 0.011);
        self::assertSame([], $done['files']);
        $set = self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0);
        self::assertSame(['dyke', 3.0, ['id' => $recipe['id'], 'name' => 'Dyke', 'current' => true]], [$set['name'], $set['extent'], $set['recipe']]);
        self::assertSame(['base-colour', 'height', 'normal'], array_column(self::at($set, 'maps'), 'role'));
        self::assertSame(16, self::at($set, 'maps', 1)['bits']);
        self::assertSame('made from the recipe Dyke', self::at($set, 'maps', 0)['made']);
        self::assertSame(['dyke', true], [self::at($this->api('GET', self::PROJECT_URL), 'recipes', 0)['set'], self::at($this->api('GET', self::PROJECT_URL), 'recipes', 0)['current']]);

        // Another colour: the maps are no longer what the recipe makes, until they are made again.
        $document = self::wave('Dyke', [0.0, 1.0, 0.0]);
        $saved = $this->api('PUT', $url, ['document' => $document], 200, ['If-Match' => '"1"']);
        self::assertSame([2, false], [$saved['version'], $saved['current']]);
        $this->cook($url);
        $again = self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0);
        self::assertSame([$set['id'], [2, 1, 1], true], [$again['id'], array_column(self::at($again, 'maps'), 'number'), self::at($again, 'recipe')['current']], 'only what is different has a new version');
    }

    public function testMapsThatWereTakenOutCanBeMadeAgain(): void
    {
        $url = self::url($this->recipe());
        $this->cook($url);
        foreach (self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0, 'maps') as $map) {
            $this->api('DELETE', '/api/maps/' . self::int(\is_array($map) ? $map['id'] : null), null, 204);
        }
        self::assertSame([null, false], [$this->api('GET', $url)['set'], $this->api('GET', $url)['current']]);
        self::assertSame('dyke', self::at($this->cook($url), 'facts')['set']);
        self::assertCount(3, self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0, 'maps'));
        self::assertTrue($this->api('GET', $url)['current']);
    }

    public function testItsPixelsAreThoseOfTheClosedForm(): void
    {
        $this->cook(self::url($this->recipe()));
        $maps = self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0, 'maps');
        $image = function (int $at) use ($maps): ImageFile {
            $this->client->request('GET', '/api/maps/' . self::int(self::at($maps, $at)['id']) . '/file');

            return ImageFile::fromBytes($this->client->getInternalResponse()->getContent(), 'file.png');
        };
        $colour = $image(0)->decode()->texels;
        self::assertSame([0xFF0000FF, 0xFF0000FF, 0xFFFF0000], [$colour[5], $colour[31], $colour[32]]);
        $height = $image(1)->first()->texels;
        // Pixel 31 has its centre at 31.5/64.
        self::assertEqualsWithDelta(65535 * (31.5 / 64 - 0.25) / 0.5, $height[31], 1.0);
        self::assertSame([0, 65535], [$height[15], $height[48]]);
        // In the middle of the ramp: 0.02 m of relief over half of 3 m.
        $normal = $image(2)->decode()->texels[31];
        $slope = 0.02 / 1.5;
        self::assertEqualsWithDelta(127.5 - 127.5 * $slope / sqrt(1 + $slope ** 2), $normal & 255, 1.0);
    }

    public function testCopiesAndVariationsHaveNamesAndSeedsOfTheirOwn(): void
    {
        $recipe = $this->recipe('dyke');
        $url = self::url($recipe);
        self::assertSame(['dyke copy', 'dyke copy 2'], array_column($this->api('POST', "$url/again", ['copies' => 2, 'otherSeeds' => false], 201), 'name'));
        $varied = $this->api('POST', "$url/again", ['copies' => 3, 'otherSeeds' => true], 201);
        self::assertSame(['dyke-01', 'dyke-02', 'dyke-03'], array_column($varied, 'name'));
        $seeds = array_map(static fn (int $i): int => self::int(self::at($varied, $i, 'document')['seed']), [0, 1, 2]);
        self::assertCount(4, array_unique([...$seeds, self::int(self::at($recipe, 'document')['seed'])]));
        self::assertSame(['dyke-04'], array_column($this->api('POST', "$url/again", ['copies' => 1, 'otherSeeds' => true], 201), 'name'));
        foreach (['dyke-01', 'dyke-02'] as $i => $name) {
            self::assertSame($name, self::at($this->cook(self::url(self::at($varied, $i))), 'facts')['set']);
        }
        self::assertSame([['name' => 'dyke', 'sets' => ['dyke-01', 'dyke-02']]], $this->api('GET', self::PROJECT_URL)['alternates'], 'variations are offered as a family');
    }

    public function testASetOfTheSameNameIsNotOverwritten(): void
    {
        $this->importSet('dyke');
        self::assertSame('dyke-2', self::at($this->cook(self::url($this->recipe('dyke'))), 'facts')['set']);
    }

    public function testWhoeverSavesOverAnotherIsTold(): void
    {
        $url = self::url($this->recipe());
        $this->api('PUT', $url, ['document' => self::wave('Dam')], 200, ['If-Match' => '"1"']);
        $conflict = $this->api('PUT', $url, ['document' => self::wave('Weir')], 412, ['If-Match' => '"1"']);
        self::assertSame('Dam', self::at($conflict, 'theirs')['name']);
        $this->api('PUT', $url, ['document' => self::wave('Weir')], 428);
    }

    public function testADeletedRecipeLeavesItsMaps(): void
    {
        $url = self::url($this->recipe());
        $this->cook($url);
        $this->api('DELETE', $url, null, 204);
        self::assertNull(self::at($this->api('GET', self::PROJECT_URL . '/sets'), 'sets', 0)['recipe']);
        self::assertNotNull(self::at($this->api('GET', self::PROJECT_URL), 'recipes', 0)['deletedAt']);
        self::assertNull($this->api('POST', "$url/bring-back")['deletedAt']);
        self::assertSame('Sea dyke', $this->api('PATCH', $url, ['name' => 'Sea dyke'])['name']);
        self::assertSame('Sea dyke', self::at($this->api('GET', $url), 'document')['name']);
    }

    public function testWhatIsHeightDependentWaitsForAllHeights(): void
    {
        $recipe = $this->api('POST', self::PROJECT_URL . '/recipes', ['document' => ['size' => 512] + self::wave('Big')], 201);
        $bake = $this->api('POST', self::url($recipe) . '/cook', null, 201);
        $passes = [];
        while ($this->work() > 0 && \count($passes) < 20) {
            $passes[] = self::at($this->api('GET', '/api/bakes/' . self::int($bake['id'])), 'regions')['done'];
        }
        self::assertSame([1, 2, 3, 4, 5, 6, 7, 8, 9], $passes, 'the last one puts them together');
        self::assertSame('done', $this->api('GET', '/api/bakes/' . self::int($bake['id']))['state']);
    }

    public function testThePreviewHasCodeForEachPicture(): void
    {
        $views = self::at($this->api('POST', '/api/recipe-preview', ['document' => self::wave('Dyke')]), 'views');
        self::assertSame(['ingredient ramp', 'bar base-colour 0', 'map base-colour', 'map height', 'map normal'], array_column($views, 'key'));
        self::assertSame([null, null, null, null, 'ramp'], array_column($views, 'ground'));
        self::assertContains('/ingredients/0/values/black', array_column(self::at($views, 0, 'slots'), 'path'));
    }

    /** @return iterable<string, array{array<string, mixed>, string}> */
    public static function mistakes(): iterable
    {
        yield 'another format' => [['format' => 'rilta-recipe/9'], '/format'];
        yield 'no size that is one' => [['size' => 100], '/size'];
        yield 'no ingredients' => [['ingredients' => []], '/ingredients'];
        yield 'a noise that there is not' => [['ingredients' => [['id' => 'ramp', 'name' => 'Ramp', 'source' => 'foam']]], '/ingredients/0/source'];
        yield 'half a cell' => [['ingredients' => [['id' => 'ramp', 'name' => 'Ramp', 'source' => 'gradient', 'values' => ['cells' => 1.5]]]], '/ingredients/0/values/cells'];
        yield 'a blend of itself' => [['ingredients' => [['id' => 'ramp', 'name' => 'Ramp', 'source' => 'blend', 'terms' => [['of' => 'ramp']]]]], '/ingredients/0/terms/0/of'];
        yield 'two maps of one role' => [['outputs' => [['role' => 'height', 'of' => 'ramp'], ['role' => 'height', 'of' => 'ramp']]], '/outputs/1/role'];
        yield 'stops out of order' => [['outputs' => [['role' => 'base-colour', 'coats' => [['of' => 'ramp', 'stops' => [['at' => 1.0], ['at' => 0.5]]]]]]], '/outputs/0/coats/0/stops/1/at'];
        yield 'a map of nothing' => [['outputs' => [['role' => 'roughness', 'of' => 'sea']]], '/outputs/0/of'];
        yield 'an unknown member' => [['outputs' => [['role' => 'roughness', 'of' => 'ramp', 'coats' => []]]], '/outputs/0/coats'];
        yield 'a seed below 0' => [['seed' => -1], '/seed'];
    }

    /** @param array<string, mixed> $change */
    #[DataProvider('mistakes')]
    public function testAMistakeIsToldWithItsPlace(array $change, string $path): void
    {
        $answer = $this->api('POST', self::PROJECT_URL . '/recipes', ['document' => $change + self::wave('Dyke')], 422);
        self::assertContains($path, array_column(self::at($answer, 'problems'), 'path'), json_encode($answer, \JSON_THROW_ON_ERROR));
    }
}
