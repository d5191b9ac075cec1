<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Revision;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\MaterialBody;
use Rilta\App\Http\Payload\MaterialStart;
use Rilta\App\Http\Payload\Name;
use Rilta\App\Http\Payload\RevisionName;
use Rilta\App\Http\Payload\TemplateMark;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Materials;
use Rilta\App\Service\Refusal;
use Rilta\App\Service\Swatches;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type MaterialJson from Materials
 * @phpstan-import-type RevisionJson from Materials
 */
final class MaterialController extends Api
{
    /** @return Answer<201, MaterialJson> */
    #[Route('/api/projects/{slug}/materials', methods: ['POST'])]
    public function create(string $slug, #[MapRequestPayload('json')] MaterialStart $start, Materials $materials, MapFiles $files): Answer
    {
        $project = $this->project($slug);
        $document = $start->document;
        if ($document === null) {
            $set = trim($start->set ?? '');
            $facts = $files->of($project)->find($set)
                ?? throw Refusal::invalid("There is no map set \"$set\".", [['path' => '/set', 'message' => 'expected the name of a map set of the project']]);
            $document = $start->start->document(trim((string) $start->name), $facts);
        }
        $record = $materials->create($project, $document);

        return new Answer($materials->describe($record), Response::HTTP_CREATED, $record->version);
    }

    /** @return Answer<200, MaterialJson> */
    #[Route('/api/materials/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id, Materials $materials): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');

        return new Answer($materials->describe($record), version: $record->version);
    }

    /** @return Answer<200, MaterialJson> */
    #[Route('/api/materials/{id}', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function save(int $id, Request $request, #[MapRequestPayload('json')] MaterialBody $body, Materials $materials, Security $security): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->save($record, $this->ifMatch($request), $body->document, self::key($request), $body->together, self::who($security), $body->passing);

        return new Answer($materials->describe($record), version: $record->version);
    }

    /** @return Answer<200, MaterialJson> */
    #[Route('/api/materials/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function rename(int $id, #[MapRequestPayload('json')] Name $name, Materials $materials): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->rename($record, trim($name->name));

        return new Answer($materials->describe($record), version: $record->version);
    }

    /** Into the bin, where it stays for 30 days. */
    #[Route('/api/materials/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, Materials $materials): Response
    {
        $materials->bin($this->find(MaterialRecord::class, $id, 'material'), true);

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /**
     * Out of the bin.
     *
     * @return Answer<200, MaterialJson>
     */
    #[Route('/api/materials/{id}/bring-back', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function bringBack(int $id, Materials $materials): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->bin($record, false);

        return new Answer($materials->describe($record), version: $record->version);
    }

    /** @return Answer<201, MaterialJson> */
    #[Route('/api/materials/{id}/duplicate', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function duplicate(int $id, Materials $materials): Answer
    {
        $copy = $materials->duplicate($this->find(MaterialRecord::class, $id, 'material'));

        return new Answer($materials->describe($copy), Response::HTTP_CREATED, $copy->version);
    }

    /**
     * Keeps the loser of a conflict as a revision beside the current document.
     *
     * @return Answer<201, MaterialJson>
     */
    #[Route('/api/materials/{id}/aside', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function aside(int $id, #[MapRequestPayload('json')] MaterialBody $body, Materials $materials): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $materials->setAside($record, $body->document);

        return new Answer($materials->describe($record), Response::HTTP_CREATED, $record->version);
    }

    /**
     * What it was, the latest first.
     *
     * @return Answer<200, list<RevisionJson>>
     */
    #[Route('/api/materials/{id}/revisions', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function revisions(int $id, Materials $materials): Answer
    {
        return new Answer($materials->revisions($this->find(MaterialRecord::class, $id, 'material')));
    }

    /** @return Answer<200, RevisionJson> */
    #[Route('/api/revisions/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function revision(int $id): Answer
    {
        $revision = $this->find(Revision::class, $id, 'revision');

        return new Answer(Materials::card($revision) + ['document' => Materials::stored($revision->document)]);
    }

    /**
     * Names a revision; an empty name takes it away.
     *
     * @return Answer<200, RevisionJson>
     */
    #[Route('/api/revisions/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function name(int $id, #[MapRequestPayload('json')] RevisionName $name): Answer
    {
        $revision = $this->find(Revision::class, $id, 'revision');
        $revision->name = trim($name->name);
        $this->entities->flush();

        return new Answer(Materials::card($revision));
    }

    /**
     * Whether new materials may start from it.
     *
     * @return Answer<200, MaterialJson>
     */
    #[Route('/api/materials/{id}/template', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function template(int $id, #[MapRequestPayload('json')] TemplateMark $mark, Materials $materials): Answer
    {
        $record = $this->find(MaterialRecord::class, $id, 'material');
        $record->template = $mark->template;
        $this->entities->flush();

        return new Answer($materials->describe($record), version: $record->version);
    }

    #[Route('/api/materials/{id}/swatch-{key}.png', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function swatch(int $id, Swatches $swatches): Response
    {
        return $this->immutable($swatches->path($this->find(MaterialRecord::class, $id, 'material')), 'image/png');
    }
}
