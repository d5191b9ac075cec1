<?php

declare(strict_types=1);

namespace Rilta\App\Controller;

use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Entity\Right;
use Rilta\App\Http\Answer;
use Rilta\App\Http\Payload\Name;
use Rilta\App\Http\Payload\RecipeBody;
use Rilta\App\Http\Payload\RecipeCopies;
use Rilta\App\Http\Payload\RecipeStart;
use Rilta\App\Security\Needs;
use Rilta\App\Service\Bakery;
use Rilta\App\Service\Recipes;
use Rilta\Core\Lowering\Structure;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Recipe\RecipeReader;
use Rilta\Core\Recipe\RecipeShader;
use Rilta\Core\Recipe\RecipeStarter;
use Symfony\Bundle\SecurityBundle\Security;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Attribute\MapRequestPayload;
use Symfony\Component\Routing\Attribute\Route;

/**
 * @phpstan-import-type BakeJson from Bakery
 * @phpstan-import-type RecipeJson from Recipes
 * @phpstan-import-type RecipeViewJson from RecipeShader
 * @phpstan-import-type StructureJson from Structure
 *
 * @phpstan-type LoweredRecipeJson array{views: list<RecipeViewJson>, structure: StructureJson}
 */
final class RecipeController extends Api
{
    /** @return Answer<201, RecipeJson> */
    #[Route('/api/projects/{slug}/recipes', methods: ['POST'])]
    public function create(string $slug, #[MapRequestPayload('json')] RecipeStart $start, Recipes $recipes): Answer
    {
        $project = $this->project($slug);
        $recipe = $start->document !== null ? RecipeReader::read($start->document) : RecipeStarter::recipe(trim((string) $start->name));

        return $this->answer($recipes, $recipes->create($project, $recipe), Response::HTTP_CREATED);
    }

    /** @return Answer<200, RecipeJson> */
    #[Route('/api/recipes/{id}', methods: ['GET'], requirements: ['id' => '\d{1,9}'])]
    public function show(int $id, Recipes $recipes): Answer
    {
        return $this->answer($recipes, $this->find(RecipeRecord::class, $id, 'recipe'));
    }

    /** @return Answer<200, RecipeJson> */
    #[Route('/api/recipes/{id}', methods: ['PUT'], requirements: ['id' => '\d{1,9}'])]
    public function save(int $id, Request $request, #[MapRequestPayload('json')] RecipeBody $body, Recipes $recipes, Security $security): Answer
    {
        $record = $this->find(RecipeRecord::class, $id, 'recipe');
        $recipes->save($record, $this->ifMatch($request), RecipeReader::read($body->document), self::key($request), $body->together, self::who($security));

        return $this->answer($recipes, $record);
    }

    /** Into the bin, where it stays for 30 days. */
    #[Route('/api/recipes/{id}', methods: ['DELETE'], requirements: ['id' => '\d{1,9}'])]
    public function delete(int $id, Recipes $recipes): Response
    {
        $recipes->bin($this->find(RecipeRecord::class, $id, 'recipe'), true);

        return new Response(null, Response::HTTP_NO_CONTENT);
    }

    /**
     * Out of the bin.
     *
     * @return Answer<200, RecipeJson>
     */
    #[Route('/api/recipes/{id}/bring-back', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function bringBack(int $id, Recipes $recipes): Answer
    {
        $record = $this->find(RecipeRecord::class, $id, 'recipe');
        $recipes->bin($record, false);

        return $this->answer($recipes, $record);
    }

    /** @return Answer<200, RecipeJson> */
    #[Route('/api/recipes/{id}', methods: ['PATCH'], requirements: ['id' => '\d{1,9}'])]
    public function rename(int $id, #[MapRequestPayload('json')] Name $name, Recipes $recipes): Answer
    {
        $record = $this->find(RecipeRecord::class, $id, 'recipe');
        $recipes->rename($record, trim($name->name));

        return $this->answer($recipes, $record);
    }

    /**
     * The same again, or variations that differ by their seeds.
     *
     * @return Answer<201, list<RecipeJson>>
     */
    #[Route('/api/recipes/{id}/again', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function again(int $id, #[MapRequestPayload('json')] RecipeCopies $wanted, Recipes $recipes): Answer
    {
        $record = $this->find(RecipeRecord::class, $id, 'recipe');
        $made = $recipes->again($record, (int) $wanted->copies, $wanted->otherSeeds);

        return new Answer(array_map($recipes->describe(...), $made), Response::HTTP_CREATED);
    }

    /**
     * Has the maps made, as the recipe is now.
     *
     * @return Answer<201, BakeJson>
     */
    #[Route('/api/recipes/{id}/cook', methods: ['POST'], requirements: ['id' => '\d{1,9}'])]
    public function cook(int $id, Bakery $bakery): Answer
    {
        return new Answer($bakery->describe($bakery->cook($this->find(RecipeRecord::class, $id, 'recipe'))), Response::HTTP_CREATED);
    }

    /**
     * Code for the preview. Nothing is stored.
     *
     * @return Answer<200, LoweredRecipeJson>
     */
    #[Needs(Right::SignedIn)]
    #[Route('/api/recipe-preview', methods: ['POST'])]
    public function lower(#[MapRequestPayload('json')] RecipeBody $body): Answer
    {
        $lowered = RecipeLowering::lower(RecipeReader::read($body->document));

        return new Answer(['structure' => $lowered->structure()->json(), 'views' => RecipeShader::views($lowered)]);
    }

    /**
     * @template S of int
     *
     * @param S $status
     *
     * @return Answer<S, RecipeJson>
     */
    private function answer(Recipes $recipes, RecipeRecord $record, int $status = Response::HTTP_OK): Answer
    {
        return new Answer($recipes->describe($record), $status, $record->version);
    }
}
