<?php

declare(strict_types=1);

namespace Rilta\Core\Check;

use Rilta\Core\Mesh\MeshOptions;

/** What a check says of a mesh. */
final readonly class MeshFinding
{
    /**
     * @param string       $code  what kind it is
     * @param bool         $grave whether the picture is wrong because of it
     * @param string       $text  in words, with the figure
     * @param string       $label what mends it, in a few words; "" if nothing does here
     * @param ?MeshOptions $fix   how the file is to be read instead
     */
    public function __construct(public string $code, public bool $grave, public string $text, public string $label = '', public ?MeshOptions $fix = null)
    {
    }
}
