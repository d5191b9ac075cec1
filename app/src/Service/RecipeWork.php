<?php

declare(strict_types=1);

namespace Rilta\App\Service;

use Rilta\App\Entity\Bake;
use Rilta\App\Entity\BakeRegion;
use Rilta\Core\Format\Png;
use Rilta\Core\Recipe\Output;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeBake;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Recipe\Spread;
use Rilta\Core\Target\Engine;

/** The maps of a recipe; when they are done, they are in the library. */
final readonly class RecipeWork implements BakeWork
{
    private Recipe $recipe;
    private RecipeBake $job;

    public function __construct(Bake $bake, private Recipes $recipes, private BakeFiles $results, private Engine $engine)
    {
        $this->recipe = RecipeReader::readJson($bake->document);
        $this->job = new RecipeBake(RecipeLowering::lower($this->recipe), $bake->size, $engine);
    }

    public function region(BakeRegion $region): array
    {
        return $this->job->band($region->pass, $region->fromRow, $region->toRow, fn (string $name): string => $this->results->rows($region->bake, $name));
    }

    public function complete(Bake $bake, \Closure $beat): \Closure
    {
        $images = [];
        foreach ($this->recipe->outputs as $output) {
            $png = self::png($this->job, $output, $bake->size, $this->results->rows($bake, $output->role->value));
            $images[$output->role->value] = $this->recipes->image($bake, $output->role, $png);
            $beat();
        }
        $outside = Spread::outside(RecipeLowering::lower($this->recipe), $this->engine);

        return fn (): array => ['set' => $this->recipes->keep($bake, $this->recipe, $images), 'outside' => $outside];
    }

    /** @param string $rows as the bake gives them */
    public static function png(RecipeBake $job, Output $output, int $size, string $rows): string
    {
        $channels = $job->channels($output->role->value);

        return Png::bytes($size, $size, $channels === 2 ? 1 : $channels, $rows, $channels === 2);
    }
}
