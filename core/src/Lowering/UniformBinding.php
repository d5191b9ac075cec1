<?php

declare(strict_types=1);

namespace Rilta\Core\Lowering;

use Rilta\Core\Field\Type;

/** A uniform of the lowered graph and the number of the document that fills it. */
final readonly class UniformBinding
{
    /**
     * @param string    $uniform its name in every target
     * @param string    $path    JSON Pointer to the number
     * @param float|int $value   the number at the time of lowering
     * @param Type      $type    Float, or Uint for seeds
     */
    public function __construct(public string $uniform, public string $path, public float|int $value, public Type $type)
    {
    }
}
