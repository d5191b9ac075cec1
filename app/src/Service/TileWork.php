<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;
use Rilta\Core\Bake\Channel;
use Rilta\Core\Bake\TileBake;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Reader;
use Rilta\Core\Target\Engine;

/** A material's channels over its tile. */
final readonly class TileWork implements BakeWork
{
    private function __construct(private TileBake $job, private ProjectMaps $maps, private BakeFiles $results)
    {
    }

    public static function of(Bake $bake, Reader $reader, MapFiles $files, BakeFiles $results, Engine $engine): self
    {
        $maps = $files->of($bake->project);
        $material = $reader->readJson($bake->document);
        if ($bake->maps !== '' && $bake->maps !== $files->fingerprint($bake->project, $material)) {
            // Half of one version and half of another would be wrong everywhere.
            throw Refusal::invalid('A map was changed while this was being baked. Bake it again.');
        }

        return new self(new TileBake(Lowering::lower($material, $maps, true), $bake->size, $engine, $bake->longest), $maps, $results);
    }

    public function region(BakeRegion $region): array
    {
        return $this->job->region($this->maps, $region->fromRow, $region->toRow);
    }

    public function complete(Bake $bake, \Closure $beat): \Closure
    {
        $verdict = $this->job->complete(
            fn (Channel $channel): string => $this->results->rows($bake, $channel->value),
            function (Channel $channel, string $rows) use ($bake, $beat): void {
                $this->results->putImage($bake, $channel, $rows);
                $beat();
            },
            $bake->edges,
        );

        return fn (): array => [
            'channels' => array_column($this->job->channels, 'value'),
            'width' => $this->job->tile->width,
            'height' => $this->job->tile->height,
            'seamless' => $verdict->isSeamless(),
            'verdict' => $verdict->text(),
            'wrap' => $verdict->wrap,
            'glow' => $verdict->glow,
        ];
    }
}
