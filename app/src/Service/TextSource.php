<?php

declare(strict_types=1);

namespace Rilta\App\Service;

/** Where projects are that folders of text are brought to agree with: here, or on another server. */
interface TextSource
{
    /**
     * What a project is called.
     *
     * @throws Refusal if there is none
     */
    public function called(string $slug): string;

    /**
     * @param \stdClass $known numbers by kind and key; what has none gets a key by its name
     * @param \stdClass $taken what has keys already, by kind and key
     *
     * @return array{\stdClass, \stdClass, array<array-key, string>} what the project says, the numbers, and what the files are called that it needs
     */
    public function of(string $slug, \stdClass $known, \stdClass $taken): array;

    /**
     * The bytes of files that a project needs.
     *
     * @param array<array-key, string> $files what they are called, by their SHA-256
     *
     * @return \Closure(string): string by SHA-256
     */
    public function files(string $slug, array $files): \Closure;

    /**
     * Does something that nobody else may do to the project at the same time, or fails without having changed anything.
     *
     * @template T
     *
     * @param \Closure(): T $do
     *
     * @return T
     */
    public function alone(string $slug, \Closure $do): mixed;

    /**
     * Makes a project say what a merge came to; all of it or nothing.
     *
     * @param \stdClass $now     what it said when it was asked last
     * @param \stdClass $said    what it is to say
     * @param \stdClass $numbers of what it has
     *
     * @return \stdClass the numbers of all that it has then
     *
     * @throws Refusal with the places of what is wrong
     */
    public function store(string $slug, \stdClass $now, \stdClass $said, \stdClass $numbers, ProjectFolder $folder): \stdClass;

    /**
     * A new project that says what a folder does.
     *
     * @return string its slug
     *
     * @throws Refusal with the places of what is wrong
     */
    public function anew(string $name, \stdClass $said, ProjectFolder $folder): string;
}
