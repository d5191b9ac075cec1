<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\KeptMaps;
use Rilta\App\Http\Payload\SetNames;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Families;
use Rilta\App\Service\ForeignMaterials;
use Rilta\App\Service\Importer;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * What comes in: files that are looked at, and what is kept of them.
 *
 * @phpstan-import-type BroughtMaterialsJson from ForeignMaterials
 * @phpstan-import-type LookedJson from Importer
 * @phpstan-import-type MapSetJson from Library
 * @phpstan-import-type RefusalJson from Importer
 *
 * @phpstan-type KeptJson array{sets: list<MapSetJson>, refused: list<RefusalJson>}
 */
final class ImportController extends MapApi
{
    /** Of a material, that may come at once. */
    private const MOST_FILES = 50;

    /**
     * Looks at one uploaded file. Files come one by one, so that each has its own progress and its own refusal.
     *
     * @return Answer<201, LookedJson>
     */
    #[Route('/api/projects/{slug}/uploads', methods: ['POST'])]
    public function upload(string $slug, Request $request, Importer $importer): Answer
    {
        $project = $this->project($slug);
        // Browsers send this header across origins only after asking, and we never say yes.
        if (!$request->headers->has('X-Rilta')) {
            throw Refusal::malformed('Send the header X-Rilta: 1 with an upload.');
        }
        $file = $request->files->get('file');
        if (!$file instanceof UploadedFile) {
            throw Refusal::malformed('Send the image, or a ZIP archive of images, as the form field "file".');
        }
        $name = self::uploaded($file, static fn (string $name): UnreadableMap => UnreadableMap::tooManyBytes($name, (int) $request->headers->get('Content-Length', (string) ImageFile::MOST_BYTES)));

        return new Answer($importer->look($project, $file->getPathname(), $name), Response::HTTP_CREATED);
    }

    /**
     * Keeps what was confirmed.
     *
     * @return Answer<201, KeptJson>
     */
    #[Route('/api/projects/{slug}/sets', methods: ['POST'])]
    public function keep(string $slug, #[MapRequestPayload('json')] KeptMaps $kept, Importer $importer, Library $library, Families $families): Answer
    {
        $project = $this->project($slug);
        $bySet = [];
        foreach ($kept->maps as $i => $map) {
            $set = NameGuess::slug($map->set);
            $bySet[$set]['extent'] = $map->extent;
            $bySet[$set]['maps'][] = [
                'file' => trim($map->file), 'sha256' => trim($map->sha256), 'role' => $map->role, 'encoding' => $map->encoding,
                'inverted' => $map->inverted && $map->role->isScalar(),
                'channels' => $map->role === Role::Packed ? self::channels($map->channels, "/maps/$i") : [],
            ];
        }
        $sets = [];
        $refused = [];
        foreach ($bySet as $name => $one) {
            $result = $importer->keep($project, (string) $name, $one['extent'], $one['maps']);
            array_push($refused, ...$result['refused']);
            if ($result['set'] !== null) {
                $sets[] = $result['set'];
            }
        }

        foreach ($kept->families as $one) {
            $objection = $families->put($project, NameGuess::slug($one->name), array_map(NameGuess::slug(...), $one->sets));
            if ($objection !== null) {
                $refused[] = ['file' => $one->name, 'reason' => "The family $one->name was not made: $objection."];
            }
        }

        return new Answer(['sets' => array_map($library->set(...), $sets), 'refused' => $refused], Response::HTTP_CREATED);
    }

    /**
     * Takes materials of other formats in, each with the images that it reads, as map sets and documents.
     *
     * @return Answer<201, BroughtMaterialsJson>
     */
    #[Route('/api/projects/{slug}/material-files', methods: ['POST'])]
    public function materials(string $slug, Request $request, ForeignMaterials $foreign): Answer
    {
        return new Answer($foreign->bring($this->project($slug), self::sent($request, 'the material', self::MOST_FILES)), Response::HTTP_CREATED);
    }

    /**
     * Which of these sets, that are not there yet, would be alternates of one another or of those that are.
     *
     * @return Answer<200, list<array{name: string, sets: list<string>}>>
     */
    #[Needs(Right::Read)]
    #[Route('/api/projects/{slug}/alternates', methods: ['POST'])]
    public function alternates(string $slug, #[MapRequestPayload('json')] SetNames $named, Library $library): Answer
    {
        $names = array_map(NameGuess::slug(...), $named->sets);

        return new Answer($names === [] ? [] : $library->alternates($this->project($slug), array_values(array_unique($names))));
    }
}
