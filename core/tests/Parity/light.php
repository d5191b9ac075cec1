<?php

declare(strict_types=1);

/*
 * Writes what the parity suite compares of the light: its code, and what the kernel makes of surfaces at random in each of the skies, as the
 * bytes of a picture.
 * Usage: php core/tests/Parity/light.php FILE
 */

use Rilta\Core\Field\Graph;
use Rilta\Core\Field\Library\Light;
use Rilta\Core\Field\Library\Pixels;
use Rilta\Core\Field\Library\Sky;
use Rilta\Core\Field\Library\SkyKind;
use Rilta\Core\Field\Type;
use Rilta\Core\Target\Glsl\LightCode;
use Rilta\Core\Target\Php\Binding;
use Rilta\Core\Tests\Kernels;

require dirname(__DIR__, 3) . '/vendor/autoload.php';

const SIDE = 48;

mt_srand(20261127);
$random = static fn (): float => mt_rand() / mt_getrandmax();
$direction = static function () use ($random): array {
    [$z, $turn] = [2 * $random() - 1, 2 * \M_PI * $random()];

    return [sqrt(1 - $z * $z) * cos($turn), $z, sqrt(1 - $z * $z) * sin($turn)];
};
// Surfaces as stages see them: the nearest single-precision numbers.
/**
 * @param list<float> $numbers
 *
 * @return list<float>
 */
$single = static function (array $numbers): array {
    /** @var array<int, float> $found */
    $found = unpack('g*', pack('g*', ...$numbers)) ?: [];

    return array_values($found);
};
/** @var array<string, list<float>> $inputs */
$inputs = ['n' => [], 'view' => [], 'colour' => [], 'rough' => [], 'metal' => [], 'share' => []];
for ($i = 0; $i < SIDE * SIDE; ++$i) {
    $n = $direction();
    do {
        $view = $direction();
    } while ($n[0] * $view[0] + $n[1] * $view[1] + $n[2] * $view[2] < 0.02);
    foreach (['n' => $n, 'view' => $view, 'colour' => [$random(), $random(), $random()], 'rough' => [$random()], 'metal' => [$i % 3 === 0 ? 1.0 : ($i % 3 === 1 ? 0.0 : $random())], 'share' => [$random()]] as $name => $numbers) {
        array_push($inputs[$name], ...$single($numbers));
    }
}
$skies = [];
foreach (SkyKind::cases() as $kind) {
    $g = new Graph();
    $lit = Light::lit($g, [
        'baseColour' => $g->input('colour', Type::Vec3), 'normal' => $g->input('n', Type::Vec3), 'roughness' => $g->input('rough', Type::Float), 'metallic' => $g->input('metal', Type::Float), 'occlusion' => $g->float(1),
    ], $g->input('view', Type::Vec3), Sky::of($g, $kind), $g->input('share', Type::Float));
    $bindings = array_map(static fn (array $list): Binding => count($list) > SIDE * SIDE ? Binding::Triples : Binding::Scalars, $inputs);
    $pixels = Kernels::compiler()->compile($g, ['pixel' => Pixels::colour($g, Light::toned($g, $lit))], $bindings)->points(SIDE * SIDE, [], [], $inputs)['pixel'][0];
    $skies[] = ['name' => $kind->label(), 'fields' => Sky::numbers($kind), 'pixels' => base64_encode(pack('V*', ...$pixels))];
}
$rows = static fn (string $vector, string $scalar): string => base64_encode(pack('g*', ...array_merge(...array_map(
    static fn (int $i): array => [...array_slice($inputs[$vector], 3 * $i, 3), $inputs[$scalar][$i]],
    range(0, SIDE * SIDE - 1),
))));
file_put_contents($argv[1], json_encode([
    'side' => SIDE, 'code' => LightCode::live(), 'prefix' => LightCode::PREFIX, 'exposure' => [LightCode::EXPOSURE => [Light::EXPOSURE], LightCode::PARTS => [1.0, 1.0, 1.0]],
    'normals' => $rows('n', 'rough'), 'views' => $rows('view', 'metal'), 'colours' => $rows('colour', 'share'), 'skies' => $skies,
], \JSON_THROW_ON_ERROR));
printf("%d skies, %d surfaces in each\n", count($skies), SIDE * SIDE);
