<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\Core\Target\C\CEngine;
use Rilta\Core\Target\Engine;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/** What bakes are computed by: C where it is at hand and wished for, else PHP. All else that is computed is so by PHP. */
final class Engines
{
    private const WISHES = ['auto', 'c', 'php'];
    private const WORTH_IT = 1024;

    private ?Engine $found = null;

    public function __construct(
        private readonly Compiler $php,
        private readonly CEngine $c,
        #[Autowire('%env(RILTA_ENGINE)%')]
        private readonly string $wish,
    ) {
    }

    /**
     * @param int $size pixels a side: for small ones, compiling takes longer than it saves
     *
     * @throws \InvalidArgumentException if what is wished for is not there
     */
    public function forBakes(int $size): Engine
    {
        if (!\in_array($this->wish, self::WISHES, true)) {
            throw new \InvalidArgumentException(\sprintf('RILTA_ENGINE: expected %s, found "%s".', implode(', ', self::WISHES), $this->wish));
        }

        return $this->wish === 'php' || ($this->wish === 'auto' && $size < self::WORTH_IT) ? $this->php : $this->found ??= $this->find();
    }

    private function find(): Engine
    {
        $obstacle = $this->c->obstacle();
        if ($obstacle !== null && $this->wish === 'c') {
            throw new \InvalidArgumentException("RILTA_ENGINE=c, but nothing can be computed in C here: $obstacle.");
        }

        return $obstacle === null ? $this->c : $this->php;
    }
}
