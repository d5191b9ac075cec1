<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role as PersonRole;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\BakeOrder;
use Rilta\App\Security\Needs;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\MeshTarget;
use Rilta\Core\Bake\NormalFrame;
use Rilta\Core\Bake\StageTarget;
use Rilta\Core\Check\Fix;
use Rilta\Core\Deliver\BakeProfile;
use Rilta\Core\Deliver\Grid;
use Rilta\Core\Deliver\PackedPart;
use Rilta\Core\Field\Library\ColourDifference;
use Rilta\Core\Field\Library\LightPart;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Json\JsonObject;
use Rilta\Core\Judge\HideRepeat;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Lowering\Step;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\ReferenceControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Finish;
use Rilta\Core\Material\Layer;
use Rilta\Core\Material\LayerGroup;
use Rilta\Core\Material\LayerMode;
use Rilta\Core\Material\MaskKind;
use Rilta\Core\Material\MaskTerm;
use Rilta\Core\Material\NumberBinding;
use Rilta\Core\Material\Parameter;
use Rilta\Core\Material\ParameterKind;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Role;
use Rilta\Core\Material\Schema;
use Rilta\Core\Material\SurfaceKind;
use Rilta\Core\Material\VariantReader;
use Rilta\Core\Mend\Packing;
use Rilta\Core\Mesh\ReadyMade;
use Rilta\Core\Recipe\RecipeCatalogue;
use Rilta\Core\Recipe\RecipeSchema;
use Rilta\Core\Stage\Copies;
use Rilta\Core\Stage\Lighting;
use Rilta\Core\Stage\MeshEdits;
use Rilta\Core\Stage\PaintFill;
use Rilta\Core\Stage\Placement;
use Rilta\Core\Stage\Stage;
use Rilta\Core\Stage\Tools;
use Rilta\Core\Step\MaterialPreset;
use Rilta\Core\Step\Steps;
use Rilta\Core\Target\Glsl\DifferenceCode;
use Rilta\Core\Target\Glsl\LightCode;
use Rilta\Core\Target\Shading\ShadingTarget;
use Rilta\Core\Target\Target;
use Rilta\Core\Target\Targets;
use Symfony\Component\Routing\Attribute\Route;

/**
 * What the browser has to know of the job: declared once, in the core.
 *
 * @phpstan-import-type BudgetJson from Profile
 * @phpstan-import-type ColourControlJson from ColourControl
 * @phpstan-import-type ControlJson from Control
 * @phpstan-import-type EncodingJson from Encoding
 * @phpstan-import-type FixJson from Fix
 * @phpstan-import-type NumberControlJson from NumberControl
 * @phpstan-import-type PackedPartJson from PackedPart
 * @phpstan-import-type PackingJson from Packing
 * @phpstan-import-type PreludeJson from Prelude
 * @phpstan-import-type RecipeCatalogueJson from RecipeCatalogue
 * @phpstan-import-type ReferenceControlJson from ReferenceControl
 * @phpstan-import-type RoleJson from Role
 *
 * @phpstan-type CatalogueJson array{
 *     steps: list<StepKindJson>,
 *     roles: list<array{
 *         value: RoleJson,
 *         label: string,
 *         encoding: EncodingJson,
 *         scalar: bool,
 *     }>,
 *     meshes: list<array{
 *         value: string,
 *         label: string,
 *         ground: bool, // whether all else stands on it
 *     }>,
 *     channels: list<string>,
 *     languages: list<array{value: string, label: string, textures: bool}>,
 *     bakeSizes: list<int>,
 *     limits: array{
 *         side: int,
 *         bytes: int,
 *         objectSeed: int,
 *         lanes: int,
 *         layers: int,
 *         steps: int,
 *         parameters: int,
 *         columns: int,
 *         rectangles: int,
 *         familyFewest: int,
 *         familyMost: int,
 *         variants: int,
 *         groups: int,
 *     },
 *     placement: list<NumberControlJson>,
 *     objectValue: NumberControlJson,
 *     layer: array{
 *         opacity: NumberControlJson,
 *         sides: list<ColourControlJson>,
 *         finish: list<array{name: string, label: string, controls: list<ControlJson>}>,
 *         width: NumberControlJson,
 *         modes: list<array{value: string, label: string}>,
 *         channels: list<string>,
 *         masks: list<array{
 *             name: string,
 *             label: string,
 *             help: string,
 *             controls: list<ControlJson>,
 *             along: ?JsonObject<string>, // the values under which it is read along a lane
 *             pattern: bool,
 *         }>,
 *         terms: int,
 *         group: NumberControlJson,
 *         set: ReferenceControlJson,
 *     },
 *     parameter: list<NumberControlJson>,
 *     units: list<string>,
 *     tie: array{factor: NumberControlJson, offset: NumberControlJson},
 *     fixes: list<array{
 *         value: FixJson,
 *         label: string,
 *         help: string,
 *         ofSet: bool,
 *     }>,
 *     sampling: array{filters: list<array{value: string, label: string}>, wraps: list<array{value: string, label: string}>, anisotropies: list<int>}, // what the sampling of a map can be, in words
 *     packings: list<PackingJson>,
 *     recipe: RecipeCatalogueJson,
 *     starts: list<array{value: string, label: string, help: string}>,
 *     surface: list<ControlJson>,
 *     parameterKinds: list<array{
 *         value: string,
 *         label: string,
 *         control: ControlJson,
 *         followers: list<string>,
 *     }>,
 *     light: array{ // What pictures are lit by: the functions riltaLit, riltaSky and riltaToned, with a sky whose fields are uniforms, or with one as it is; and the skies that there are
 *         code: string,
 *         fixed: string,
 *         prefix: string, // of the uniforms' names
 *         exposure: string, // the uniform's name
 *         skies: list<array{
 *             value: string,
 *             label: string,
 *             fields: array<string, list<float>>,
 *             controls: list<ControlJson>,
 *             prelude: PreludeJson,
 *         }>,
 *         partsUniform: string, // the uniform's name: how much is shown of what is scattered, mirrored, given off
 *         parts: list<array{
 *             value: string,
 *             label: string,
 *             help: string,
 *             shown: array{float, float, float},
 *         }>,
 *     },
 *     copies: list<NumberControlJson>,
 *     brush: list<NumberControlJson>,
 *     fill: list<NumberControlJson>,
 *     shaping: list<NumberControlJson>,
 *     crease: NumberControlJson,
 *     uvNames: list<string>, // what the sets of UVs of ready-made meshes are for
 *     scatter: list<NumberControlJson>,
 *     fillKinds: list<array{
 *         value: string,
 *         label: string,
 *         span: ?array{float, float}, // where it begins, and where it is whole; null where it is everywhere alike
 *     }>,
 *     mostPicked: int, // faces that are picked one by one, at most
 *     fetches: NumberControlJson,
 *     budget: list<NumberControlJson>, // the limits of a budget
 *     difference: array{ // how different two colours look
 *         code: string, // GLSL
 *         seen: float, // from this on a difference is seen side by side
 *     },
 *     budgets: list<BudgetJson>, // the ready-made ones
 *     delivery: array{
 *         formats: list<array{
 *             value: string,
 *             label: string,
 *             levels: bool, // whether it holds arrays and mip levels
 *         }>,
 *         sizes: list<int>,
 *         parts: list<string>,
 *         samples: array{int, int},
 *         sources: list<array{part: PackedPartJson, label: string}>, // what parts of packed images may hold
 *     },
 *     meshBake: array{
 *         places: list<int>,
 *         normals: list<array{value: 'tangent'|'object', label: string}>,
 *         objects: int, // that may lie in one file
 *     },
 *     people: list<array{value: value-of<PersonRole>, label: string, help: string}>, // what people can be in a project
 * }
 * @phpstan-type StepKindJson array{
 *     name: string,
 *     label: string,
 *     help: string,
 *     group: string, // what it is for
 *     origin: bool,
 *     idle: JsonObject<float|bool>|null, // Values with which a lane is as if the step were not there; null if there are none.
 *     controls: list<ControlJson>,
 * }
 */
final class CatalogueController extends Api
{
    /** @return Answer<200, CatalogueJson> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/catalogue', methods: ['GET'])]
    public function catalogue(): Answer
    {
        return new Answer([
            'steps' => array_merge(...array_map(static fn (string $group, array $steps): array => array_map(static fn (Step $s): array => [
                'name' => $s->name(),
                'label' => $s->label(),
                'help' => $s->help(),
                'group' => $group,
                'origin' => $s->isOrigin(),
                'idle' => $s->idle() === null ? null : new JsonObject($s->idle()),
                'controls' => array_map(static fn (Control $c): array => $c->describe(), $s->controls()),
            ], $steps), array_keys(Steps::groups()), Steps::groups())),
            'roles' => array_map(static fn (Role $r): array => [
                'value' => $r->value, 'label' => $r->label(), 'encoding' => $r->encoding()->value, 'scalar' => $r->isScalar(),
            ], Role::cases()),
            'fixes' => array_map(static fn (Fix $f): array => ['value' => $f->value, 'label' => $f->label(), 'help' => $f->help(), 'ofSet' => $f->isOfSet()], Fix::cases()),
            'light' => ['code' => LightCode::live(), 'fixed' => LightCode::fixed(), 'prefix' => LightCode::PREFIX, 'exposure' => LightCode::EXPOSURE, 'partsUniform' => LightCode::PARTS, 'parts' => array_map(static fn (LightPart $p): array => ['value' => $p->value, 'label' => $p->label(), 'help' => $p->help(), 'shown' => $p->shown()], LightPart::cases()), 'skies' => array_values(array_map(static fn (SkyKind $k): array => ['value' => $k->value, 'label' => $k->label(), 'fields' => Sky::numbers($k), 'prelude' => Lighting::prelude($k)->json(), 'controls' => array_map(static fn (Control $c): array => $c->describe(), Lighting::controls($k))], SkyKind::cases()))],
            'uvNames' => ReadyMade::UV_NAMES,
            'mostPicked' => MeshEdits::MOST_PICKED,
            'meshes' => array_map(static fn (ReadyMade $p): array => ['value' => $p->value, 'label' => $p->label(), 'ground' => $p->isGround()], ReadyMade::cases()),
            'budgets' => array_values(array_map(static fn (Profile $p): array => $p->document(), Profile::ready())),
            'budget' => array_map(static fn (NumberControl $c): array => $c->describe(), Profile::controls()),
            'difference' => ['code' => DifferenceCode::printed(), 'seen' => ColourDifference::SEEN],
            'fetches' => HideRepeat::fetches()->describe(),
            'placement' => array_values(array_map(static fn (NumberControl $c): array => $c->describe(), Placement::controls())),
            'objectValue' => Placement::value()->describe(),
            'copies' => array_map(static fn (NumberControl $c): array => $c->describe(), Copies::controls()),
            'scatter' => array_map(static fn (NumberControl $c): array => $c->describe(), Copies::scattering()),
            'fillKinds' => PaintFill::kinds(),
            'brush' => array_map(static fn (NumberControl $c): array => $c->describe(), Tools::brush()),
            'fill' => array_map(static fn (NumberControl $c): array => $c->describe(), Tools::fill()),
            'shaping' => array_map(static fn (NumberControl $c): array => $c->describe(), Tools::shaping()),
            'crease' => Tools::crease()->describe(),
            'layer' => ['opacity' => Layer::opacity()->describe(), 'group' => LayerGroup::opacity()->describe(), 'set' => Layer::set()->describe(), 'width' => Layer::width()->describe(), 'modes' => self::choices(array_combine(array_column(LayerMode::cases(), 'value'), array_map(static fn (LayerMode $m): string => $m->label(), LayerMode::cases()))), 'channels' => Layer::CHANNELS, 'masks' => array_values(array_map(static fn (MaskKind $k): array => ['name' => $k->value, 'label' => $k->label(), 'help' => $k->help(), 'along' => $k->along() === null ? null : new JsonObject($k->along()), 'pattern' => $k->isPattern(), 'controls' => array_map(static fn (Control $c): array => $c->describe(), $k->controls())], MaskKind::cases())), 'terms' => MaskTerm::MOST, 'sides' => array_map(static fn (ColourControl $c): array => $c->describe(), Layer::sides()), 'finish' => array_map(static fn (string $name, array $group): array => ['name' => $name, 'label' => $group['label'], 'controls' => array_map(static fn (Control $c): array => $c->describe(), $group['controls'])], array_keys(Finish::groups()), array_values(Finish::groups()))],
            'surface' => array_map(static fn (Control $c): array => $c->describe(), SurfaceKind::controls()),
            'starts' => array_map(static fn (MaterialPreset $s): array => ['value' => $s->value, 'label' => $s->label(), 'help' => $s->help()], MaterialPreset::cases()),
            'parameter' => array_values(array_map(static fn (NumberControl $c): array => $c->describe(), Parameter::controls())),
            'parameterKinds' => array_values(array_map(static fn (ParameterKind $k): array => ['value' => $k->value, 'label' => $k->label(), 'followers' => $k->followers(), 'control' => $k->control()->describe()], ParameterKind::cases())),
            'tie' => array_map(static fn (NumberControl $c): array => $c->describe(), NumberBinding::controls()),
            'sampling' => ['filters' => self::choices(Sampling::FILTERS), 'wraps' => self::choices(Sampling::WRAPS), 'anisotropies' => Sampling::ANISOTROPIES],
            'packings' => Packing::presets(),
            'recipe' => RecipeCatalogue::describe(),
            'units' => array_column(Unit::cases(), 'value'),
            'languages' => array_values(array_map(static fn (Target $target): array => ['value' => $target->name(), 'label' => $target->label(), 'textures' => $target instanceof ShadingTarget], Targets::all())),
            'bakeSizes' => BakeOrder::SIZES,
            'meshBake' => ['objects' => StageTarget::MOST_OBJECTS, 'places' => MeshTarget::PLACES, 'normals' => array_map(static fn (NormalFrame $one): array => ['value' => $one->value, 'label' => $one->label()], NormalFrame::cases())],
            'delivery' => ['formats' => array_map(static fn (PictureFormat $one): array => ['value' => $one->value, 'label' => $one->label(), 'levels' => $one->hasLevels()], PictureFormat::cases()), 'sizes' => BakeProfile::SIZES, 'parts' => BakeProfile::PARTS, 'samples' => [Grid::FEWEST, Grid::MOST], 'sources' => PackedPart::offers()],
            'channels' => array_column(Channel::cases(), 'value'),
            'people' => array_map(static fn (PersonRole $one): array => ['value' => $one->value, 'label' => $one->label(), 'help' => $one->help()], PersonRole::cases()),
            'limits' => ['side' => ImageFile::LARGEST_SIDE, 'bytes' => ImageFile::MOST_BYTES, 'objectSeed' => Stage::LARGEST_SEED, 'lanes' => Reader::MOST_LANES, 'layers' => Reader::MOST_LAYERS, 'groups' => LayerGroup::MOST, 'steps' => Reader::MOST_STEPS, 'parameters' => Reader::MOST_PARAMETERS, 'variants' => VariantReader::MOST, 'columns' => Cut::MOST_COLUMNS, 'rectangles' => Cut::MOST_RECTANGLES, 'familyFewest' => Family::FEWEST, 'familyMost' => Family::MOST],
        ]);
    }

    /**
     * @param array<string, string> $labels
     *
     * @return list<array{value: string, label: string}>
     */
    private static function choices(array $labels): array
    {
        return array_map(static fn (string $value, string $label): array => ['value' => $value, 'label' => $label], array_keys($labels), $labels);
    }

    /** @return Answer<200, array<string, mixed>> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/schema/material', methods: ['GET'])]
    public function schema(): Answer
    {
        return new Answer(Schema::of(Steps::all()));
    }

    /** @return Answer<200, array<string, mixed>> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/schema/recipe', methods: ['GET'])]
    public function recipeSchema(): Answer
    {
        return new Answer(RecipeSchema::schema());
    }
}
