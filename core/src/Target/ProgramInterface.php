<?php

declare(strict_types=1);

namespace Rilta\Core\Target;

use Rilta\Core\Field\Prelude;
use Rilta\Core\Field\Type;

/** What a printed program asks of its host, and what it gives. */
final readonly class ProgramInterface
{
    /** What a material is, by channel. */
    public const RESULTS = [
        'baseColour' => 'linear light, 0 to 1',
        'slope' => 'how the surface rises, along the world\'s axes',
        'normal' => 'of length 1, in the world',
        'roughness' => '0 to 1; its square is the alpha of GGX',
        'metallic' => '0 to 1',
        'occlusion' => '1 is open, 0 is closed',
        'height' => '0 to 1',
        'opacity' => '0 to 1',
        'emission' => 'linear light',
        'coverage' => 'how much there is of the surface: 0 to 1',
    ];

    /**
     * @param array<string, string>                                       $functions their names: prepare, material
     * @param array<string, string>                                       $structs   their names: surface, ready, material
     * @param array<string, array{string, Type}>                          $numbers   that a host sets, by uniform: their names and types
     * @param Prelude                                                     $prelude   what follows from them
     * @param list<array{name: string, kind: string, maps: list<string>}> $textures  of a kind: array, single, texels
     * @param list<string>                                                $inputs    of a surface
     * @param array<string, Type>                                         $results   by name
     */
    public function __construct(public array $functions, public array $structs, public array $numbers, public Prelude $prelude, public array $textures, public array $inputs, public array $results)
    {
    }
}
