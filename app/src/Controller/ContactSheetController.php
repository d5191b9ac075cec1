<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\ContactSheet;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Name;
use Rilta\App\Security\Needs;
use Rilta\App\Service\ContactSheets;
use Rilta\App\Service\Refusal;
use Rilta\Core\Material\Checks;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type ContactSheetJson from ContactSheets
 */
final class ContactSheetController extends Api
{
    /** @return Answer<200, list<ContactSheetJson>> */
    #[Route('/api/materials/{id}/contact-sheets', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function sheets(int $id, ContactSheets $sheets): Answer
    {
        return new Answer(array_map(ContactSheets::card(...), $sheets->of($this->find(MaterialRecord::class, $id, 'material'))));
    }

    /**
     * Keeps a contact sheet: a PNG as the body, its name in the query.
     *
     * @return Answer<201, ContactSheetJson>
     */
    #[Needs(Right::Comment)]
    #[Route('/api/materials/{id}/contact-sheets', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function keep(int $id, Request $request, ContactSheets $sheets): Answer
    {
        $material = $this->find(MaterialRecord::class, $id, 'material');
        if ($request->headers->get('Content-Type') !== 'image/png') {
            throw Refusal::malformed('Send image/png.');
        }
        $name = self::said($request, 'name', Checks::LONGEST_NAME);
        if ($name === '') {
            throw Refusal::malformed('"name": expected 1 to ' . Checks::LONGEST_NAME . ' characters.');
        }

        return new Answer(ContactSheets::card($sheets->keep($material, $name, $request->getContent())), Response::HTTP_CREATED);
    }

    /** @return Answer<200, ContactSheetJson> */
    #[Needs(Right::Comment)]
    #[Route('/api/contact-sheets/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function rename(int $id, #[MapRequestPayload('json')] Name $name, ContactSheets $sheets): Answer
    {
        $sheet = $this->find(ContactSheet::class, $id, 'contact sheet');
        $sheets->rename($sheet, trim($name->name));

        return new Answer(ContactSheets::card($sheet));
    }

    #[Needs(Right::Comment)]
    #[Route('/api/contact-sheets/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, ContactSheets $sheets): Response
    {
        $sheets->delete($this->find(ContactSheet::class, $id, 'contact sheet'));

        return new Response(status: Response::HTTP_NO_CONTENT);
    }

    #[Route('/api/contact-sheets/{id}-{key}.png', methods: ['GET'], requirements: ['id' => '\d{1,9}', 'key' => '[0-9a-f]{12}'])]
    public function picture(int $id, ContactSheets $sheets): Response
    {
        return (new Response($sheets->picture($this->find(ContactSheet::class, $id, 'contact sheet')), headers: ['Content-Type' => 'image/png']))->setPublic()->setMaxAge(31536000)->setImmutable();
    }
}
