<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Person;
use Rilta\App\Entity\Project;
use Rilta\App\Service\Refusal;
use Rilta\Core\Format\MeshFile;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;

/** What the controllers share: finding things, answering, versions. */
abstract class Api
{
    public function __construct(protected readonly EntityManagerInterface $entities)
    {
    }

    protected function project(string $slug): Project
    {
        return $this->entities->getRepository(Project::class)->findOneBy(['slug' => $slug]) ?? throw Refusal::notFound("project \"$slug\"");
    }

    /**
     * @template T of object
     *
     * @param class-string<T> $class
     *
     * @return T
     */
    protected function find(string $class, int $id, string $what): object
    {
        return $this->entities->find($class, $id) ?? throw Refusal::notFound("$what $id");
    }

    /** A whole number of the query; 0 where nothing is said. */
    protected static function whole(Request $request, string $name, int $most): int
    {
        $value = self::said($request, $name, 12);

        return match (true) {
            $value === '' => 0,
            preg_match('/^\d{1,9}$/D', $value) === 1 && (int) $value <= $most => (int) $value,
            default => throw Refusal::malformed("\"$name\": expected a whole number from 0 to $most."),
        };
    }

    /** Words of the query. */
    protected static function said(Request $request, string $name, int $longest = 200): string
    {
        $value = $request->query->all()[$name] ?? '';

        return \is_string($value) && mb_strlen($value, '8bit') <= 4 * $longest ? mb_scrub(mb_substr(trim($value), 0, $longest)) : throw Refusal::malformed("\"$name\": expected at most $longest characters.");
    }

    /**
     * What a file that came whole is called.
     *
     * @param \Closure(string): \Throwable $large what is thrown if it is larger than the server takes, by its name
     */
    protected static function uploaded(UploadedFile $file, \Closure $large): string
    {
        $name = mb_scrub(mb_substr(basename(str_replace('\\', '/', $file->getClientOriginalName())), 0, 200));
        if (\in_array($file->getError(), [\UPLOAD_ERR_INI_SIZE, \UPLOAD_ERR_FORM_SIZE], true)) {
            throw $large($name);
        }

        return $file->isValid() ? $name : throw Refusal::malformed("$name did not arrive whole; send it again.");
    }

    /**
     * Files that belong together.
     *
     * @return array<string, string> bytes, by name
     */
    protected static function sent(Request $request, string $what, int $most): array
    {
        $sent = $request->files->all('files');
        if ($sent === [] || \count($sent) > $most) {
            throw Refusal::malformed(\sprintf('Send %s, with the files that belong to it, or a ZIP of all, as the form fields "files[]": 1 to %d.', $what, $most));
        }
        $large = static fn (string $name): Refusal => Refusal::tooLarge(\sprintf('%s is larger than %d MiB.', $name, MeshFile::MOST_BYTES / 1048576));
        $files = [];
        foreach ($sent as $one) {
            $file = $one instanceof UploadedFile ? $one : throw Refusal::malformed('Send files as the form fields "files[]".');
            $files[self::uploaded($file, $large)] = (string) file_get_contents($file->getPathname());
        }

        return $files;
    }

    /** The version that a change starts from. */
    protected function ifMatch(Request $request): int
    {
        $tag = $request->headers->get('If-Match') ?? throw Refusal::unconditional();

        return preg_match('/^"(\d{1,9})"$/D', $tag, $m) === 1 ? (int) $m[1] : throw Refusal::malformed('If-Match: expected a version like "3".');
    }

    /** What the browser calls this save, so that sent twice it is one; "" for nothing. */
    protected static function key(Request $request): string
    {
        $key = $request->headers->get('Idempotency-Key') ?? '';

        return $key === '' || preg_match('/^[A-Za-z0-9_-]{8,64}$/D', $key) === 1 ? $key : throw Refusal::malformed('Idempotency-Key: expected 8 to 64 letters, digits, - and _.');
    }

    /** What whoever asks is called; "" on an open server. */
    protected static function who(Security $security): string
    {
        $person = $security->getUser();

        return $person instanceof Person ? $person->name : '';
    }

    /**
     * The same, unless the browser has it already.
     *
     * @template A of JsonResponse
     *
     * @param A $response
     *
     * @return A
     */
    protected function unchanged(Request $request, JsonResponse $response): JsonResponse
    {
        $response->setEtag(hash('xxh128', (string) $response->getContent()));
        $response->headers->set('Cache-Control', 'private, no-cache');
        $response->isNotModified($request);

        return $response;
    }

    /** A file whose address changes with its content. */
    protected function immutable(string $path, string $type, ?string $encoding = null): BinaryFileResponse
    {
        $response = new BinaryFileResponse($path, 200, ['Content-Type' => $type]);
        if ($encoding !== null) {
            $response->headers->set('Content-Encoding', $encoding);
        }
        $response->setPublic();
        $response->setMaxAge(31536000);
        $response->setImmutable();

        return $response;
    }
}
