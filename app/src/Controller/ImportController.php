<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Http\Body;
use Rilta\App\Service\Families;
use Rilta\App\Service\Importer;
use Rilta\App\Service\Library;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\ImageFile;
use Rilta\Core\Format\NameGuess;
use Rilta\Core\Format\UnreadableMap;
use Rilta\Core\Material\Encoding;
use Rilta\Core\Material\Family;
use Rilta\Core\Material\Role;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;

/** What comes in: files that are looked at, and what is kept of them. */
final class ImportController extends MapApi
{
    private const MOST_MAPS = 200;

    /** Looks at one uploaded file. Files come one by one, so that each has its own progress and its own refusal. */
    #[Route('/api/projects/{slug}/uploads', methods: ['POST'])]
    public function upload(string $slug, Request $request, Importer $importer): JsonResponse
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
        $name = mb_scrub(mb_substr(basename(str_replace('\\', '/', $file->getClientOriginalName())), 0, 200));
        if (\in_array($file->getError(), [\UPLOAD_ERR_INI_SIZE, \UPLOAD_ERR_FORM_SIZE], true)) {
            throw UnreadableMap::tooManyBytes($name, (int) $request->headers->get('Content-Length', (string) ImageFile::MOST_BYTES));
        }
        if (!$file->isValid()) {
            throw Refusal::malformed("$name did not arrive whole; send it again.");
        }

        return $this->json($importer->look($project, $file->getPathname(), $name), Response::HTTP_CREATED);
    }

    /** Keeps what was confirmed. */
    #[Route('/api/projects/{slug}/sets', methods: ['POST'])]
    public function keep(string $slug, Request $request, Importer $importer, Library $library, Families $families): JsonResponse
    {
        $project = $this->project($slug);
        $body = Body::of($request);
        $bySet = [];
        foreach ($body->objects('maps', self::MOST_MAPS) as $i => $map) {
            $set = NameGuess::slug($map->text('set', 80));
            $role = Role::tryFrom($map->text('role', 20));
            $encoding = Encoding::tryFrom($map->text('encoding', 10));
            if ($role === null || $encoding === null) {
                throw Refusal::invalid('A map has no known role or encoding.', [['path' => "/maps/$i", 'message' => 'expected a role and an encoding of the catalogue']]);
            }
            $bySet[$set]['extent'] = $map->number('extent', 0.001, 10000.0);
            $bySet[$set]['maps'][] = [
                'file' => $map->text('file', 200), 'sha256' => $map->text('sha256', 64), 'role' => $role, 'encoding' => $encoding,
                'inverted' => $map->has('inverted') && $map->flag('inverted') && $role->isScalar(),
                'channels' => $role === Role::Packed ? self::channels($map, "/maps/$i") : [],
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

        foreach (($body->has('families') ? $body->objects('families', self::MOST_MAPS) : []) as $one) {
            $name = $one->text('name', 80);
            $objection = $families->put($project, NameGuess::slug($name), array_map(NameGuess::slug(...), $one->texts('sets', Family::MOST)));
            if ($objection !== null) {
                $refused[] = ['file' => $name, 'reason' => "The family $name was not made: $objection."];
            }
        }

        return $this->json(['sets' => array_map($library->set(...), $sets), 'refused' => $refused], Response::HTTP_CREATED);
    }

    /** Which of these sets, that are not there yet, would be alternates of one another or of those that are. */
    #[Route('/api/projects/{slug}/alternates', methods: ['POST'])]
    public function alternates(string $slug, Request $request, Library $library): JsonResponse
    {
        $names = array_map(NameGuess::slug(...), Body::of($request)->texts('sets', self::MOST_MAPS));

        return $this->json($names === [] ? [] : $library->alternates($this->project($slug), array_values(array_unique($names))));
    }
}
