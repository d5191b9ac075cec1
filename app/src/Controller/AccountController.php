<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\AccessToken;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Right;
use Rilta\App\Entity\SignIn;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\AccountChange;
use Rilta\App\Http\Payload\CodesBegun;
use Rilta\App\Http\Payload\CodeShown;
use Rilta\App\Http\Payload\TokenOrder;
use Rilta\App\Security\Needs;
use Rilta\App\Service\AccessTokens;
use Rilta\App\Service\People;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\SecondFactor;
use Rilta\App\Service\SignIns;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * Whoever is signed in: their name and password, where they are signed in, and what lets programs in in their name.
 *
 * @phpstan-type AccountJson array{
 *     id: int,
 *     name: string,
 *     email: string,
 *     administrator: bool,
 *     password: bool, // whether one was chosen
 *     guest: bool, // came by a link that others have too
 *     path?: string, // where a link leads
 *     codes: bool, // whether one-time codes are asked for
 * }
 * @phpstan-type MeJson array{
 *     open: bool, // whether nobody signs in here
 *     fresh: bool, // whether one click is enough
 *     person: ?AccountJson,
 *     codes: bool, // whether everybody has to show one-time codes
 * }
 * @phpstan-type SignedInJson array{
 *     id: int,
 *     since: string,
 *     seen: string,
 *     address: string,
 *     browser: string,
 *     here: bool,
 * }
 * @phpstan-type AccessTokenJson array{
 *     id: int,
 *     name: string,
 *     scopes: list<string>,
 *     since: string,
 *     until: string,
 *     seen: ?string,
 *     secret?: string, // told once, when it is made
 * }
 */
final class AccountController extends Api
{
    public function __construct(EntityManagerInterface $entities, private readonly Security $security, private readonly People $people, private readonly SignIns $signIns, private readonly AccessTokens $tokens, private readonly SecondFactor $second, #[Autowire('%env(bool:RILTA_OPEN)%')] private readonly bool $open, #[Autowire('%env(bool:RILTA_CODES)%')] private readonly bool $codes)
    {
        parent::__construct($entities);
    }

    /**
     * Who asks, if that is known; and whether anybody has to be known here.
     *
     * @return Answer<200, MeJson>
     */
    #[Needs(Right::Everybody)]
    #[Route('/api/me', methods: ['GET'])]
    public function me(Request $request): Answer
    {
        $person = $this->security->getUser();

        return new Answer([
            'open' => $this->open,
            // On a machine on which nobody was before, one click is enough.
            'fresh' => !$this->open && !$person instanceof Person && SignInController::isOwnMachine($request) && $this->people->isFresh(),
            // Whether they have to show one-time codes before anything else.
            'codes' => !$this->open && $this->codes,
            'person' => $person instanceof Person ? self::card($person) : null,
        ]);
    }

    /** @return Answer<200, AccountJson> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me', methods: ['PATCH'])]
    public function change(#[MapRequestPayload('json')] AccountChange $change, Request $request): Answer
    {
        $person = $this->person($request);
        $here = $request->attributes->get(SignIns::class);
        if ($change->password !== null || $change->email !== null) {
            $this->askAgain($person, $change->before ?? '', $request);
        }
        if ($change->email !== null) {
            $taken = $this->entities->getRepository(Person::class)->findOneBy(['email' => People::normal($change->email)]);
            $person->email = $taken === null || $taken === $person ? People::normal($change->email) : throw Refusal::invalid('This address is somebody else’s.', [['path' => '/email', 'message' => 'expected an address of your own']]);
        }
        $person->name = trim($change->name ?? $person->name);
        if ($change->password !== null) {
            $this->people->choose($person, $change->password);
            // Whoever had found out the one before is out.
            $this->signIns->endOthers($person, $here instanceof SignIn ? $here : null);
        }
        $this->entities->flush();

        return new Answer(self::card($person));
    }

    /**
     * What an app for one-time codes is to know; it counts once a code of it was shown.
     *
     * @return Answer<201, array{secret: string, address: string}>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/codes', methods: ['POST'])]
    public function offerCodes(Request $request): Answer
    {
        $person = $this->person($request);
        if ($person->codeStep !== null) {
            throw Refusal::invalid('Codes are asked for already: turn them off first.');
        }
        $secret = $this->second->offer($person);
        $response = new Answer(['secret' => $secret, 'address' => 'otpauth://totp/' . rawurlencode("Rilta:$person->email") . "?secret=$secret&issuer=Rilta"], Response::HTTP_CREATED);
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }

    /**
     * From now on codes are asked for; those on paper are told this once.
     *
     * @return Answer<200, array{recovery: list<string>}>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/codes', methods: ['PUT'])]
    public function beginCodes(#[MapRequestPayload('json')] CodesBegun $said, Request $request): Answer
    {
        $person = $this->person($request);
        $this->askAgain($person, $said->before, $request);
        $response = new Answer(['recovery' => $this->second->begin($person, $said->code)]);
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }

    /** Whoever found a browser open does not take the account with it. */
    private function askAgain(Person $person, string $password, Request $request): void
    {
        $here = $request->attributes->get(SignIns::class);
        $byLink = $here instanceof SignIn && $here->byLink && $here->since > new \DateTimeImmutable('-1 hour');
        if ($person->password !== null && !$byLink && !$this->people->isTheirs($person, $password)) {
            throw Refusal::invalid('The password until now is another.', [['path' => '/before', 'message' => 'expected the password until now']]);
        }
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/me/codes', methods: ['DELETE'])]
    public function endCodes(#[MapRequestPayload('json')] CodeShown $said, Request $request): Response
    {
        $person = $this->person($request);
        if (!$this->second->accepts($person, $said->code)) {
            throw Refusal::invalid('This is no code of now.', [['path' => '/code', 'message' => 'expected the six digits that the app shows, or a code on paper']]);
        }
        $this->second->end($person);

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /** @return Answer<200, list<SignedInJson>> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/sign-ins', methods: ['GET'])]
    public function signIns(Request $request): Answer
    {
        $here = $request->attributes->get(SignIns::class);

        return new Answer(array_map(static fn (SignIn $one): array => [
            'id' => $one->id(), 'since' => $one->since->format(\DATE_ATOM), 'seen' => $one->seen->format(\DATE_ATOM), 'address' => $one->address, 'browser' => $one->browser, 'here' => $one === $here,
        ], $this->signIns->of($this->person($request))));
    }

    /** Signs a browser out, wherever it is. */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/sign-ins/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function end(int $id, Request $request): Response
    {
        $one = $this->find(SignIn::class, $id, 'browser');
        $this->signIns->end($one->person === $this->person($request) ? $one : throw Refusal::notFound("browser $id"));

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /** @return Answer<200, list<AccessTokenJson>> */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/tokens', methods: ['GET'])]
    public function tokens(Request $request): Answer
    {
        return new Answer(array_map(self::token(...), $this->tokens->of($this->person($request))));
    }

    /**
     * A token; what it shows is told this once.
     *
     * @return Answer<201, AccessTokenJson>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/me/tokens', methods: ['POST'])]
    public function makeToken(#[MapRequestPayload('json')] TokenOrder $order, Request $request): Answer
    {
        [$token, $secret] = $this->tokens->make($this->person($request), trim($order->name), $order->scopes, (int) $order->days);
        $response = new Answer(self::token($token) + ['secret' => $secret], Response::HTTP_CREATED);
        $response->headers->set('Cache-Control', 'no-store');

        return $response;
    }

    #[Needs(Right::SignedIn)]
    #[Route('/api/me/tokens/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function endToken(int $id, Request $request): Response
    {
        $token = $this->find(AccessToken::class, $id, 'token');
        $this->tokens->end($token->person === $this->person($request) ? $token : throw Refusal::notFound("token $id"));

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    /** @return AccountJson */
    public static function card(Person $person): array
    {
        return ['id' => $person->id(), 'name' => $person->name, 'email' => $person->email, 'administrator' => $person->administrator, 'password' => $person->password !== null, 'guest' => $person->guest, 'codes' => $person->codeStep !== null];
    }

    /** @return AccessTokenJson */
    private static function token(AccessToken $one): array
    {
        return ['id' => $one->id(), 'name' => $one->name, 'scopes' => $one->scopes, 'since' => $one->since->format(\DATE_ATOM), 'until' => $one->until->format(\DATE_ATOM), 'seen' => $one->seen?->format(\DATE_ATOM)];
    }

    /** Programs do not look after accounts. */
    private function person(Request $request): Person
    {
        $person = $this->security->getUser();

        return match (true) {
            $this->open && !$person instanceof Person => throw Refusal::forbidden('This server runs for one person alone, who does not sign in.'),
            !$person instanceof Person => throw Refusal::signedOut('Sign in to go on.'),
            $person->guest => throw Refusal::forbidden('A guest has no account.'),
            !$request->attributes->get(SignIns::class) instanceof SignIn => throw Refusal::forbidden('A token is not for accounts: sign in in a browser.'),
            default => $person,
        };
    }
}
