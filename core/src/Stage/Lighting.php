<?php

declare(strict_types=1);

namespace Rilta\Core\Stage;

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Prelude;
use Rilta\Core\Material\Control\ChoiceControl;
use Rilta\Core\Material\Control\ColourControl;
use Rilta\Core\Material\Control\Control;
use Rilta\Core\Material\Control\ControlMeta;
use Rilta\Core\Material\Control\NumberControl;
use Rilta\Core\Material\Control\SwitchControl;
use Rilta\Core\Material\Control\Unit;
use Rilta\Core\Material\InvalidDocument;

/** The light on a stage: which sky, where its sun stands and how strong it is, how bright the picture is. What is not said is the sky's own. */
final class Lighting
{
    /** @return list<Control> with the defaults of a sky */
    public static function controls(SkyKind $sky = SkyKind::ClearDay): array
    {
        $sun = $sky->sun();
        $skies = array_combine(array_column(SkyKind::cases(), 'value'), array_map(static fn (SkyKind $kind): string => $kind->label(), SkyKind::cases()));

        return [
            new ChoiceControl(new ControlMeta('sky', 'Sky', 'What surrounds the stage, and is mirrored in what shines.'), $skies, SkyKind::ClearDay->value),
            new NumberControl(new ControlMeta('turn', 'Sun from', 'Where the sun stands, clockwise as seen from above.'), Unit::Degrees, $sun['turn'], [-180.0, 180.0], [-36000.0, 36000.0], 5.0),
            new NumberControl(new ControlMeta('height', 'Sun height', 'How high the sun stands above the horizon. A low one grazes the surface and shows its relief.'), Unit::Degrees, $sun['height'], [1.0, 90.0], [0.5, 90.0], 1.0),
            new NumberControl(new ControlMeta('strength', 'Sun strength', 'How strong the sun is; at 0 there is the light of the sky alone.'), Unit::None, $sun['strength'], [0.0, 6.0], [0.0, 50.0], 0.1),
            new ColourControl(new ControlMeta('colour', 'Sun colour', 'Multiplies the light of the sun.'), [1.0, 1.0, 1.0]),
            new NumberControl(new ControlMeta('brightness', 'Sky brightness', 'How bright the sky is, of what it is by itself.'), Unit::Percent, 100.0, [0.0, 200.0], [0.0, 2000.0], 5.0),
            new NumberControl(new ControlMeta('exposure', 'Exposure', 'How bright the picture is, in stops: one more is twice the light.'), Unit::None, 0.0, [-3.0, 3.0], [-10.0, 10.0], 0.1),
            new SwitchControl(new ControlMeta('shown', 'Show the sky', 'The sky itself is seen behind the objects, or a plain ground that leaves colours alone.'), true),
        ];
    }

    /**
     * What the numbers of a light come to in a sky: its fields by the names of `Sky::FIELDS` and the place of each component, and the exposure.
     * It reads the controls by their names, and the colour's components in linear light as colour/0 to colour/2.
     */
    public static function prelude(SkyKind $sky): Prelude
    {
        $g = new Graph();
        [$turn, $height] = [$g->mul($g->uniform('turn'), \M_PI / 180), $g->mul($g->uniform('height'), \M_PI / 180)];
        $fields = [
            'sun/0' => $g->mul($g->sin($turn), $g->cos($height)),
            'sun/1' => $g->sin($height),
            'sun/2' => $g->neg($g->mul($g->cos($turn), $g->cos($height))),
            'sunStrength/0' => $g->uniform('strength'),
            'brightness/0' => $g->mul($g->uniform('brightness'), 0.01),
            'exposure' => $g->mul($g->exp2($g->uniform('exposure')), Light::EXPOSURE),
        ];
        foreach ($sky->sun()['colour'] as $i => $part) {
            $fields["sunColour/$i"] = $g->mul($g->uniform("colour/$i"), $part);
        }

        return new Prelude($fields);
    }

    /** @throws InvalidDocument at what is wrong */
    public static function check(mixed $light, string $path): void
    {
        if (!\is_array($light)) {
            throw InvalidDocument::at($path, 'expected an object');
        }
        foreach (self::controls() as $control) {
            $objection = \array_key_exists($control->name(), $light) ? $control->objection($light[$control->name()]) : null;
            if ($objection !== null) {
                throw InvalidDocument::at("$path/{$control->name()}", $objection);
            }
        }
    }
}
