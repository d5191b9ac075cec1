<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Entity\Role as PersonRole;
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
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\PictureFormat;
use Rilta\Core\Judge\HideRepeat;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Lowering\Step;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\Cut;
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
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\Routing\Attribute\Route;

/** What the browser has to know of the job: declared once, in the core. */
final class CatalogueController extends Api
{
    #[Needs(Right::SignedIn)]
    #[Route('/api/catalogue', methods: ['GET'])]
    public function catalogue(): JsonResponse
    {
        return $this->json([
            'steps' => array_merge(...array_map(static fn (string $group, array $steps): array => array_map(static fn (Step $s): array => [
                'name' => $s->name(),
                'label' => $s->label(),
                'help' => $s->help(),
                'group' => $group,
                'origin' => $s->isOrigin(),
                'idle' => $s->idle() === null ? null : (object) $s->idle(),
                'controls' => array_map(static fn (Control $c): array => $c->describe(), $s->controls()),
            ], $steps), array_keys(Steps::groups()), Steps::groups())),
            'roles' => array_map(static fn (Role $r): array => [
                'value' => $r->value, 'label' => $r->label(), 'encoding' => $r->encoding()->value, 'scalar' => $r->isScalar(),
            ], Role::cases()),
            'fixes' => array_map(static fn (Fix $f): array => ['value' => $f->value, 'label' => $f->label(), 'help' => $f->help(), 'ofSet' => $f->isOfSet()], Fix::cases()),
            'light' => ['code' => LightCode::live(), 'fixed' => LightCode::fixed(), 'prefix' => LightCode::PREFIX, 'exposure' => LightCode::EXPOSURE, 'partsUniform' => LightCode::PARTS, 'parts' => array_map(static fn (LightPart $p): array => ['value' => $p->value, 'label' => $p->label(), 'help' => $p->help(), 'shown' => $p->shown()], LightPart::cases()), 'skies' => array_map(static fn (SkyKind $k): array => ['value' => $k->value, 'label' => $k->label(), 'fields' => Sky::numbers($k), 'prelude' => Lighting::prelude($k)->program(), 'controls' => array_map(static fn (Control $c): array => $c->describe(), Lighting::controls($k))], SkyKind::cases())],
            'uvNames' => ReadyMade::UV_NAMES,
            'mostPicked' => MeshEdits::MOST_PICKED,
            'meshes' => array_map(static fn (ReadyMade $p): array => ['value' => $p->value, 'label' => $p->label(), 'ground' => $p->isGround()], ReadyMade::cases()),
            'budgets' => array_values(array_map(static fn (Profile $p): array => $p->document(), Profile::ready())),
            'budget' => array_map(static fn (Control $c): array => $c->describe(), Profile::controls()),
            'difference' => ['code' => DifferenceCode::printed(), 'seen' => ColourDifference::SEEN],
            'fetches' => HideRepeat::fetches()->describe(),
            'placement' => array_values(array_map(static fn (Control $c): array => $c->describe(), Placement::controls())),
            'objectValue' => Placement::value()->describe(),
            'copies' => array_map(static fn (Control $c): array => $c->describe(), Copies::controls()),
            'scatter' => array_map(static fn (Control $c): array => $c->describe(), Copies::scattering()),
            'fillKinds' => PaintFill::kinds(),
            'brush' => array_map(static fn (Control $c): array => $c->describe(), Tools::brush()),
            'fill' => array_map(static fn (Control $c): array => $c->describe(), Tools::fill()),
            'shaping' => array_map(static fn (Control $c): array => $c->describe(), Tools::shaping()),
            'crease' => Tools::crease()->describe(),
            'layer' => ['opacity' => Layer::opacity()->describe(), 'group' => LayerGroup::opacity()->describe(), 'set' => Layer::set()->describe(), 'width' => Layer::width()->describe(), 'modes' => self::choices(array_combine(array_column(LayerMode::cases(), 'value'), array_map(static fn (LayerMode $m): string => $m->label(), LayerMode::cases()))), 'channels' => Layer::CHANNELS, 'masks' => array_map(static fn (MaskKind $k): array => ['name' => $k->value, 'label' => $k->label(), 'help' => $k->help(), 'along' => $k->along() === null ? null : (object) $k->along(), 'pattern' => $k->isPattern(), 'controls' => array_map(static fn (Control $c): array => $c->describe(), $k->controls())], MaskKind::cases()), 'terms' => MaskTerm::MOST, 'sides' => array_map(static fn (Control $c): array => $c->describe(), Layer::sides()), 'finish' => array_map(static fn (string $name, array $group): array => ['name' => $name, 'label' => $group['label'], 'controls' => array_map(static fn (Control $c): array => $c->describe(), $group['controls'])], array_keys(Finish::groups()), array_values(Finish::groups()))],
            'surface' => array_map(static fn (Control $c): array => $c->describe(), SurfaceKind::controls()),
            'starts' => array_map(static fn (MaterialPreset $s): array => ['value' => $s->value, 'label' => $s->label(), 'help' => $s->help()], MaterialPreset::cases()),
            'parameter' => array_values(array_map(static fn (Control $c): array => $c->describe(), Parameter::controls())),
            'parameterKinds' => array_map(static fn (ParameterKind $k): array => ['value' => $k->value, 'label' => $k->label(), 'followers' => $k->followers(), 'control' => $k->control()->describe()], ParameterKind::cases()),
            'tie' => array_map(static fn (Control $c): array => $c->describe(), NumberBinding::controls()),
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

    #[Needs(Right::SignedIn)]
    #[Route('/api/schema/material', methods: ['GET'])]
    public function schema(): JsonResponse
    {
        return $this->json(Schema::of(Steps::all()));
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/schema/recipe', methods: ['GET'])]
    public function recipeSchema(): JsonResponse
    {
        return $this->json(RecipeSchema::schema());
    }
}
