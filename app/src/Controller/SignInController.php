<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Person;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\SignIn;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Address;
use Rilta\App\Http\Payload\Credentials;
use Rilta\App\Http\Payload\LinkSecret;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Audit;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SignIns;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Signing in and out.
 *
 * @phpstan-import-type AccountJson from AccountController
 */
final class SignInController extends Api
{
    /** @return Answer<200, AccountJson> */
    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in', methods: ['POST'])]
    public function password(#[MapRequestPayload('json')] Credentials $said, Request $request, SignIns $signIns, Audit $audit): Answer
    {
        try {
            [$person, $secret] = $signIns->byPassword($said->email, $said->password, $said->code, (string) $request->getClientIp(), (string) $request->headers->get('User-Agent'));
        } catch (Refusal $e) {
            $audit->note(null, null, People::normal($said->email), 'failed to sign in', '', (string) $request->getClientIp());
            throw $e;
        }

        return $this->signedIn($person, $secret, $request, $audit, 'signed in');
    }

    /** @return Answer<200, AccountJson> */
    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in/link', methods: ['POST'])]
    public function link(#[MapRequestPayload('json')] LinkSecret $said, Request $request, SignIns $signIns, Audit $audit): Answer
    {
        try {
            [$person, $secret] = $signIns->byLink($said->secret, $said->code, (string) $request->getClientIp(), (string) $request->headers->get('User-Agent'));
        } catch (Refusal $e) {
            $audit->note(null, null, 'somebody', 'failed to sign in by a link', '', (string) $request->getClientIp());
            throw $e;
        }

        return $this->signedIn($person, $secret, $request, $audit, 'signed in by a link');
    }

    /**
     * As the guest of a link to look.
     *
     * @return Answer<200, AccountJson>
     */
    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in/look', methods: ['POST'])]
    public function look(#[MapRequestPayload('json')] LinkSecret $said, Request $request, SignIns $signIns, Audit $audit): Answer
    {
        [$guest, $secret, $path] = $signIns->byShare($said->secret, (string) $request->getClientIp(), (string) $request->headers->get('User-Agent'));

        return $this->signedIn($guest, $secret, $request, $audit, 'came by a link', ['path' => $path]);
    }

    /**
     * The first person on a machine on which nobody was before, from that machine itself.
     *
     * @return Answer<200, AccountJson>
     */
    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in/begin', methods: ['POST'])]
    public function begin(Request $request, People $people, SignIns $signIns, Audit $audit): Answer
    {
        if (!self::isOwnMachine($request) || !$people->isFresh()) {
            throw Refusal::forbidden('Somebody has begun here already. Sign in, or ask for a link: bin/rilta link.');
        }
        $people->adopt();

        return $this->signedIn($people->first(), $signIns->begin($people->first(), (string) $request->getClientIp(), (string) $request->headers->get('User-Agent'), true), $request, $audit, 'began');
    }

    /** Sends a link to whoever has this address. */
    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in/forgotten', methods: ['POST'])]
    public function forgotten(#[MapRequestPayload('json')] Address $said, People $people): Response
    {
        $people->forgotten($said->email);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    #[Needs(Right::Everybody)]
    #[Route('/api/sign-in', methods: ['DELETE'])]
    public function out(Request $request, SignIns $signIns, Audit $audit): Response
    {
        $here = $request->attributes->get(SignIns::class);
        if ($here instanceof SignIn) {
            $audit->note(null, $here->person, $here->person->name, 'signed out', '', (string) $request->getClientIp());
            $signIns->end($here);
        }
        $response = new Response(status: Response::HTTP_NO_CONTENT);
        $response->headers->setCookie(SignIns::shown($request, ''));
        // Images that were fetched do not stay behind.
        $response->headers->set('Clear-Site-Data', '"cache"');

        return $response;
    }

    /** Whether a request comes from the machine itself, through nobody else. */
    public static function isOwnMachine(Request $request): bool
    {
        return \in_array($request->getClientIp(), ['127.0.0.1', '::1'], true) && !$request->headers->has('X-Forwarded-For') && !$request->headers->has('Forwarded');
    }

    /**
     * @param array{path?: string} $more
     *
     * @return Answer<200, AccountJson>
     */
    private function signedIn(Person $person, string $secret, Request $request, Audit $audit, string $how, array $more = []): Answer
    {
        $audit->note(null, $person, $person->name, $how, '', (string) $request->getClientIp());
        $response = new Answer(AccountController::card($person) + $more);
        $response->headers->setCookie(SignIns::shown($request, $secret));
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }
}
