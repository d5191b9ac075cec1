<?php

declare(strict_types=1);

namespace Rilta\Core\Tests\Material;

use PHPUnit\Framework\TestCase;
use Rilta\Core\Check\MeshCheck;
use Rilta\Core\Check\MeshFinding;
use Rilta\Core\Format\MeshFile;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Finish;
use Rilta\Core\Material\LayerMode;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\Material;
use Rilta\Core\Material\Parameter;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\StepKind;
use Rilta\Core\Mesh\Mesh;
use Rilta\Core\Mesh\MeshMeasures;
use Rilta\Core\Mesh\MeshOptions;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Mesh\ReadyMeshes;
use Rilta\Core\Stage\Placed;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Step\Steps;
use Rilta\Demo\Meshes;
use Rilta\Demo\Places;

/** People learn from the demo: everything that a material can be made of is in one of its materials. */
final class DemoTest extends TestCase
{
    private const FOLDER = __DIR__ . '/../../../demo';

    /** @return list<Material> */
    private static function materials(): array
    {
        $reader = new Reader(Steps::all());

        return array_map(static fn (string $file): Material => $reader->readJson((string) file_get_contents($file)), glob(self::FOLDER . '/materials/*.json') ?: []);
    }

    /**
     * @param list<string> $all
     * @param list<string> $shown
     */
    private static function assertShown(array $all, array $shown, string $what): void
    {
        self::assertSame([], array_values(array_diff($all, $shown)), "$what in no material of the demo");
    }

    public function testEveryStepIsShown(): void
    {
        $used = [];
        foreach (self::materials() as $material) {
            foreach ($material->lanes as $lane) {
                foreach ($lane->steps as $step) {
                    $used[] = $step->kind->name();
                }
            }
        }
        self::assertShown(array_map(static fn (StepKind $kind): string => $kind->name(), Steps::all()), $used, 'steps');
    }

    public function testEveryTermBlendAndKindOfParameterIsShown(): void
    {
        [$kinds, $hows, $forms, $modes, $parameters] = [[], [], [], [], []];
        foreach (self::materials() as $material) {
            foreach ($material->layers as $layer) {
                $modes[] = $layer->mode->value;
                foreach ($layer->mask as $i => $term) {
                    $kinds[] = $term->kind->value;
                    $hows[] = $i === 0 ? '' : $term->values->choice('how');
                    $forms[] = $term->kind === MaskKind::Noise ? $term->values->choice('form') : '';
                }
            }
            array_push($parameters, ...array_map(static fn (Parameter $p): string => $p->kind->value, $material->parameters));
        }
        self::assertShown(array_column(MaskKind::cases(), 'value'), $kinds, 'terms');
        self::assertShown(self::choices('how'), $hows, 'ways to combine terms');
        self::assertShown(self::choices('form'), $forms, 'noises');
        self::assertShown(array_column(LayerMode::cases(), 'value'), $modes, 'blends');
        self::assertShown(array_column(ParameterKind::cases(), 'value'), $parameters, 'kinds of parameter');
    }

    /** @return list<string> what can be chosen of a noise */
    private static function choices(string $name): array
    {
        foreach (MaskKind::Noise->controls() as $control) {
            if ($control instanceof ChoiceControl && $control->name() === $name) {
                return $control->schema()['enum'];
            }
        }
        self::fail("A noise has no $name.");
    }

    public function testEveryGroupOfTheFinishAndEveryDerivedChannelIsShown(): void
    {
        $changed = [];
        foreach (self::materials() as $material) {
            foreach ($material->layers as $layer) {
                array_push($changed, ...$layer->finish->given);
            }
        }
        foreach (Finish::groups() as $name => $group) {
            $controls = array_map(static fn (Control $control): string => $control->name(), $group['controls']);
            self::assertNotSame([], array_intersect($controls, $changed), "$name is finished in no material of the demo");
        }
        self::assertShown(['roughnessSource', 'metallicSource', 'occlusionSource', 'heightSource', 'reliefSource'], $changed, 'derived channels');
    }

    public function testItsStageCanBeReadAndWearsVariants(): void
    {
        $stage = Stage::read(json_decode((string) file_get_contents(self::FOLDER . '/stage.json'), true));
        $worn = array_values(array_filter(array_map(static fn (Placed $object): string => $object->variant, $stage->objects), static fn (string $id): bool => $id !== ''));
        self::assertNotSame([], $worn);
        foreach (self::materials() as $material) {
            if ($material->name === 'Observatory dome') {
                self::assertShown($worn, array_column($material->variants->all, 'id'), 'variants');

                return;
            }
        }
        self::fail('The demo has no dome.');
    }

    /** Materials and meshes are called by their names in places, and something is painted there that a material reads. */
    public function testAllThatPlacesNameIsThere(): void
    {
        $materials = array_map(static fn (Material $material): string => $material->name, self::materials());
        $meshes = [...(new ReadyMeshes())->names(), ...array_map(static fn (string $file): string => (string) preg_replace('/\.\w+$/D', '', $file), array_keys(Meshes::files())), ...array_keys(Places::worked())];
        $painted = 0;
        foreach (Places::documents() as $document) {
            self::assertSame([], array_filter(array_column($document['objects'], 'mesh'), static fn (mixed $one): bool => !\in_array($one, $meshes, true)));
            $worn = array_column($document['objects'], 'wears');
            foreach (array_column($document['objects'], 'sections') as $sections) {
                array_push($worn, ...array_column(\is_array($sections) ? $sections : [], 'wears'));
            }
            self::assertSame([], array_filter($worn, static fn (mixed $one): bool => !\in_array($one, $materials, true)));
            $painted += \count(array_column($document['objects'], 'paint'));
        }
        self::assertSame(1, $painted);
        self::assertSame(4 * ReadyMade::Ground->mesh()->positions->count(), \strlen(Places::walked()));
        self::assertGreaterThan(300, \count(array_filter(str_split(Places::walked(), 4), static fn (string $four): bool => \ord($four[0]) > 127)));
    }

    /** Where there is no graphics device, corners of triangles take longer than pixels do. */
    public function testPlacesAreLightEnoughForADeviceThatIsMadeOfSoftware(): void
    {
        $count = array_map(static fn (Mesh $mesh): int => $mesh->triangles, array_column(array_map(static fn (ReadyMade $one): array => [$one->value, $one->mesh()], ReadyMade::cases()), 1, 0));
        foreach (Meshes::files() as $name => $bytes) {
            $count[(string) preg_replace('/\.\w+$/D', '', $name)] = MeshFile::read($bytes, $name)->triangles;
        }
        foreach (Places::worked() as $name => ['mesh' => $mesh]) {
            $count[$name] = $count[$mesh];
        }
        foreach (Places::documents() as $name => $document) {
            $triangles = array_sum(array_map(static fn (mixed $mesh): int => $count[\is_string($mesh) ? $mesh : ''], array_column($document['objects'], 'mesh')));
            self::assertGreaterThan(1000, $triangles);
            self::assertLessThan(100_000, $triangles, $name);
        }
    }

    /** Files of meshes are read as people would bring them, and nothing is gravely wrong with them. */
    public function testItsMeshesAreReadWithTheirSections(): void
    {
        $sections = [];
        foreach (Meshes::files() as $name => $bytes) {
            $mesh = MeshFile::read($bytes, $name);
            $sections[$name] = array_column($mesh->primitives, 'material');
            self::assertSame([], array_filter(MeshCheck::of(MeshMeasures::of($mesh), $mesh->triangles, new MeshOptions()), static fn (MeshFinding $one): bool => $one->grave), $name);
        }
        self::assertSame(['Planter.glb' => ['Wall', 'Rim', 'Soil'], 'Quay block.glb' => ['Right', 'Left', 'Top', 'Bottom', 'Front', 'Back'], 'Pebble.glb' => ['Stone'], 'Tide hut.obj' => ['Walls', 'Door', 'Roof']], $sections);
    }
}
