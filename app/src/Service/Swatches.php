<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\MaterialRecord;
use Rilta\Core\Bake\Thumbnail;
use Rilta\Core\Format\Png;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Target\Php\Compiler;
use Symfony\Component\Lock\LockFactory;

/** Pictures of materials for the shelf, computed once for each document and its maps. */
final readonly class Swatches
{
    private const WIDTH = 400;
    private const HEIGHT = 300;
    /** Counts up when the picture itself is changed. */
    private const EDITION = 6;

    public function __construct(private Materials $materials, private MapFiles $files, private Derived $derived, private Compiler $compiler, private LockFactory $locks)
    {
    }

    /**
     * Changes with all that the picture shows.
     *
     * @param ?ProjectMaps $maps of the project, where several materials are asked about at one moment
     */
    public function key(MaterialRecord $record, ?ProjectMaps $maps = null): string
    {
        $maps = $this->files->fingerprint($record->project, $this->materials->material($record), $maps);

        return substr(hash('sha256', implode("\n", [self::EDITION, $record->document, $maps])), 0, 20);
    }

    /**
     * Where the picture is to be had. It changes with the document and with any change of the library, so that no document has to be read
     * for a list of them; the file behind it changes with what is shown.
     *
     * @param string $edition of the project's library
     */
    public static function url(int $id, int $version, string $edition): string
    {
        return \sprintf('/api/materials/%d/swatch-%s.png', $id, substr(hash('sha256', self::EDITION . " $id $version $edition"), 0, 20));
    }

    public function path(MaterialRecord $record): string
    {
        return $this->derived->file('swatches/' . $this->key($record) . '.png', function () use ($record): string {
            // One at a time: a shelf full of new swatches would keep every processor and connection from all else.
            $lock = $this->locks->createLock('swatch');
            if (!$lock->acquire()) {
                throw Refusal::busy('Another swatch is being computed; ask again.');
            }
            $maps = $this->files->of($record->project);
            $lowered = Lowering::salvage($this->materials->material($record), $maps);

            return Png::ofImage((new Thumbnail($this->compiler, $maps))->picture($lowered, self::WIDTH, self::HEIGHT), 3);
        });
    }
}
