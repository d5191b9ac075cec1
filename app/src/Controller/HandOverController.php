<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\CodeBody;
use Rilta\App\Http\Payload\PointsBody;
use Rilta\App\Security\Needs;
use Rilta\App\Service\HandOver;
use Rilta\Core\Target\Sidecar;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Documents in, what others take out. Nothing is stored.
 *
 * @phpstan-import-type LayersAtJson from HandOver
 * @phpstan-import-type MaterialCodeJson from HandOver
 */
final class HandOverController extends Api
{
    /**
     * A material as code in a language, and what a host has to know of it.
     *
     * @return Answer<200, MaterialCodeJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/code', methods: ['POST'])]
    public function code(string $slug, #[MapRequestPayload('json')] CodeBody $body, HandOver $over): Answer
    {
        return new Answer($over->code($this->project($slug), $body->document, $body->variant, $body->target, $body->prefix, $body->arrays, $body->harness));
    }

    /**
     * Which layers lie at points, and how much of each is seen there.
     *
     * @return Answer<200, LayersAtJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/layers-at', methods: ['POST'])]
    public function layersAt(string $slug, #[MapRequestPayload('json')] PointsBody $body, HandOver $over): Answer
    {
        return new Answer($over->layersAt($this->project($slug), $body->document, $body->variant, $body->points, $body->seconds));
    }

    /** @return Answer<200, array<string, mixed>> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/schema/shader', methods: ['GET'])]
    public function schema(): Answer
    {
        return new Answer(Sidecar::schema());
    }
}
