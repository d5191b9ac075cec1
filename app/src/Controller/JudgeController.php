<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\RepeatSearch;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\FindingsBody;
use Rilta\App\Http\Payload\MaterialBody;
use Rilta\App\Http\Payload\RepeatSearchBody;
use Rilta\App\Http\Payload\RepetitionBody;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Judging;
use Rilta\App\Service\RepeatSearches;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Documents in, figures out.
 *
 * @phpstan-import-type CostsJson from Judging
 * @phpstan-import-type FindingsJson from Judging
 * @phpstan-import-type RepeatSearchJson from RepeatSearches
 * @phpstan-import-type RepetitionJson from Judging
 */
final class JudgeController extends Api
{
    /**
     * How much of a surface comes again, over the distance from which it is seen.
     *
     * @return Answer<200, RepetitionJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/repetition', methods: ['POST'])]
    public function repetition(string $slug, #[MapRequestPayload('json')] RepetitionBody $body, Judging $judging): Answer
    {
        return Answer::text($judging->repetition($this->project($slug), $body->document, $body->variant, $body->without, $body->fine));
    }

    /**
     * What is wrong with a material, its maps and how it looks on a stage, and what could be done.
     *
     * @return Answer<200, FindingsJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/findings', methods: ['POST'])]
    public function findings(string $slug, #[MapRequestPayload('json')] FindingsBody $body, Judging $judging): Answer
    {
        return Answer::text($judging->findings($this->project($slug), $body->document, $body->variant, $body->stage, $body->profile));
    }

    /**
     * What a material costs, and what each of its parts does.
     *
     * @return Answer<200, CostsJson>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/costs', methods: ['POST'])]
    public function costs(string $slug, #[MapRequestPayload('json')] MaterialBody $body, Judging $judging): Answer
    {
        return Answer::text($judging->costs($this->project($slug), $body->document));
    }

    /**
     * Has the workers look for what hides the repeat of a material.
     *
     * @return Answer<202, RepeatSearchJson>
     */
    #[Route('/api/projects/{slug}/repeat-searches', methods: ['POST'])]
    public function searchRepeat(string $slug, #[MapRequestPayload('json')] RepeatSearchBody $body, RepeatSearches $searches): Answer
    {
        return new Answer(RepeatSearches::describe($searches->ask($this->project($slug), $body->document, (int) $body->fetches)), 202);
    }

    /**
     * How far a search has come, and what it found.
     *
     * @return Answer<200, RepeatSearchJson>
     */
    #[Route('/api/repeat-searches/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function repeatSearch(int $id): Answer
    {
        return new Answer(RepeatSearches::describe($this->find(RepeatSearch::class, $id, 'search')));
    }

    /** @return Answer<200, RepeatSearchJson> */
    #[Route('/api/repeat-searches/{id}/cancel', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cancelRepeatSearch(int $id, RepeatSearches $searches): Answer
    {
        $search = $this->find(RepeatSearch::class, $id, 'search');
        $searches->cancel($search);

        return new Answer(RepeatSearches::describe($search));
    }
}
