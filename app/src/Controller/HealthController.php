<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Person;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Health;
use Rilta\App\Service\Refusal;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** For whoever watches over the server: whether it answers, whether it can work, and figures. */
final class HealthController extends Api
{
    /** @return Answer<200, array{answers: bool}> */
    #[Needs(Right::Everybody)]
    #[Route('/api/health', methods: ['GET'])]
    public function health(): Answer
    {
        return new Answer(['answers' => true]);
    }

    /**
     * Whether the database, the place for files and the workers are there; 503 says that some are not.
     *
     * @return Answer<200|503, array{ready: bool, parts: array{database: bool, files: bool, workers: bool}}>
     */
    #[Needs(Right::Everybody)]
    #[Route('/api/ready', methods: ['GET'])]
    public function ready(Health $health): Answer
    {
        $parts = $health->parts();
        $response = new Answer(['ready' => !\in_array(false, $parts, true), 'parts' => $parts], \in_array(false, $parts, true) ? Response::HTTP_SERVICE_UNAVAILABLE : Response::HTTP_OK);
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }

    /** Figures as Prometheus reads them; from the machine itself, or by whoever looks after it. */
    #[Needs(Right::Everybody)]
    #[Route('/api/metrics', methods: ['GET'])]
    public function metrics(Request $request, Health $health, Security $security): Response
    {
        $person = $security->getUser();
        if (!SignInController::isOwnMachine($request) && !($person instanceof Person && $person->administrator)) {
            throw Refusal::forbidden('Figures are for the machine itself, and for whoever looks after it.');
        }

        return new Response($health->figures(), headers: ['Content-Type' => 'text/plain; version=0.0.4; charset=utf-8', 'Cache-Control' => 'no-store']);
    }
}
