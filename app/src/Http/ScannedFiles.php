<?php

declare(strict_types=1);

namespace Rilta\App\Http;

use Rilta\App\Service\Scanner;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\HttpKernel\Event\ControllerArgumentsEvent;

/** Every file that is sent is looked at for viruses, once it is known that whoever sends it may. */
#[AsEventListener]
final readonly class ScannedFiles
{
    public function __construct(private Scanner $scanner)
    {
    }

    public function __invoke(ControllerArgumentsEvent $event): void
    {
        $request = $event->getRequest();
        if (!$event->isMainRequest() || $request->isMethodSafe()) {
            return;
        }
        $sent = $request->files->all();
        array_walk_recursive($sent, function (mixed $one): void {
            $bytes = $one instanceof UploadedFile && $one->isValid() ? fopen($one->getPathname(), 'r') : false;
            if ($one instanceof UploadedFile && $bytes !== false) {
                $this->scanner->pass(mb_scrub($one->getClientOriginalName()), $bytes);
            }
        });
        // What comes as it is, without a form around it.
        if (!\in_array($request->getContentTypeFormat(), ['json', 'form'], true) && $request->getContent() !== '') {
            $this->scanner->pass('What was sent', $request->getContent());
        }
    }
}
