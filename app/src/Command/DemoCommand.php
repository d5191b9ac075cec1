<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Doctrine\ORM\EntityManagerInterface;
use Rilta\App\Entity\Comment;
use Rilta\App\Entity\FamilyRecord;
use Rilta\App\Entity\MapRecord;
use Rilta\App\Entity\MapSetRecord;
use Rilta\App\Entity\MaterialRecord;
use Rilta\App\Entity\Project;
use Rilta\App\Entity\RecipeRecord;
use Rilta\App\Service\Blobs;
use Rilta\App\Service\Deliveries;
use Rilta\App\Service\DeliveryProfiles;
use Rilta\App\Service\Deriving;
use Rilta\App\Service\Importer;
use Rilta\App\Service\MapFiles;
use Rilta\App\Service\Materials;
use Rilta\App\Service\Mending;
use Rilta\App\Service\OwnMeshes;
use Rilta\App\Service\ProjectPaints;
use Rilta\App\Service\Recipes as RecipeStore;
use Rilta\App\Service\Stages;
use Rilta\App\Service\Swatches;
use Rilta\Core\Field\Sampling;
use Rilta\Core\Format\MapFolder;
use Rilta\Core\Judge\Profile;
use Rilta\Core\Lowering\Lowering;
use Rilta\Core\Material\Cut;
use Rilta\Core\Material\Reader;
use Rilta\Core\Material\Role;
use Rilta\Demo\Meshes;
use Rilta\Demo\Places;
use Rilta\Demo\Recipes;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Output\OutputInterface;

/** Loads Ebbwater Station where it is missing. What people have changed stays as it is. */
#[AsCommand('demo', 'Loads the demo project, where it is missing')]
final class DemoCommand extends Command
{
    private const SLUG = 'ebbwater-station';
    /** A small material, which the demo hands over. */
    private const DELIVERED = 'Lamp glass';

    public function __construct(
        private readonly EntityManagerInterface $entities,
        private readonly Importer $importer,
        private readonly Blobs $blobs,
        private readonly Materials $materials,
        private readonly Swatches $swatches,
        private readonly Reader $reader,
        private readonly MapFiles $files,
        private readonly Mending $mending,
        private readonly Deriving $deriving,
        private readonly RecipeStore $recipes,
        private readonly OwnMeshes $meshes,
        private readonly Stages $stages,
        private readonly ProjectPaints $paints,
        private readonly DeliveryProfiles $profiles,
        private readonly Deliveries $deliveries,
        private readonly string $folder,
    ) {
        parent::__construct();
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        $project = $this->entities->getRepository(Project::class)->findOneBy(['slug' => self::SLUG]);
        if ($project !== null) {
            $output->writeln('Ebbwater Station is there already.');

            return Command::SUCCESS;
        }
        // All or nothing: an interrupted load begins anew.
        $this->entities->wrapInTransaction(fn () => $this->load($output));
        $output->writeln('Making mip levels and small pictures of all maps');
        $this->entities->clear();
        foreach ($this->entities->getRepository(MapRecord::class)->findBy(['derived' => false]) as $map) {
            $this->deriving->derive($map);
        }

        return Command::SUCCESS;
    }

    private function load(OutputInterface $output): void
    {
        $project = new Project(self::SLUG, 'Ebbwater Station', 'A tidal observatory on a salt marsh: plaster, basalt, copper, salt.');
        $this->entities->persist($project);
        $this->entities->flush();
        $recipes = [];
        foreach (Recipes::documents() as $recipe) {
            $output->writeln("Recipe $recipe->name");
            $recipes[$recipe->name] = $this->recipes->create($project, $recipe);
        }
        foreach (glob("$this->folder/maps/*/set.json") ?: [] as $file) {
            $this->set($project, $file, $recipes, $output);
        }
        foreach (Meshes::files() as $name => $bytes) {
            $output->writeln('Mesh ' . $name);
            $refused = $this->meshes->bring($project, [$name => $bytes])['refused'];
            if ($refused !== []) {
                throw new \RuntimeException($refused[0]['reason']);
            }
        }
        $folder = new MapFolder("$this->folder/maps", '');
        foreach ($folder->families() as $name) {
            $this->entities->persist(new FamilyRecord($project, $name, $folder->family($name)->sets ?? [$name]));
        }
        $this->entities->flush();
        $this->pack($project, 'patinated-copper', [Role::Occlusion, Role::Roughness, Role::Metallic], $output);
        foreach (self::documents($this->folder) as $file) {
            $document = json_decode((string) file_get_contents($file), true, 64, \JSON_THROW_ON_ERROR);
            // The demo has no mistakes.
            Lowering::lower($this->reader->read($document), $this->files->of($project));
            $record = $this->materials->create($project, $document);
            $output->writeln("Material $record->name: computing its swatch");
            $this->swatches->path($record);
        }
        foreach (glob("$this->folder/budgets/*.json") ?: [] as $file) {
            $project->budgets[] = Profile::read(json_decode((string) file_get_contents($file), true))->document();
        }
        foreach (glob("$this->folder/own-profiles/*.json") ?: [] as $file) {
            $project->profiles[] = $this->profiles->own(json_decode((string) file_get_contents($file), true));
        }
        $this->stages($project);
        $this->comments($project);
        $delivered = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'name' => self::DELIVERED]) ?? throw new \RuntimeException('The demo has no ' . self::DELIVERED . '.');
        foreach (['renderer', 'visitor-tablet'] as $profile) {
            $this->deliveries->ask($project, [$delivered->id()], [''], $profile);
        }
    }

    /** What people of the demo have said. */
    private function comments(Project $project): void
    {
        $all = json_decode((string) file_get_contents("$this->folder/comments.json"), true, 64, \JSON_THROW_ON_ERROR);
        $word = static fn (mixed $one, string $name): string => \is_array($one) && \is_string($one[$name] ?? null) ? $one[$name] : '';
        foreach (\is_array($all) ? $all : [] as $one) {
            $material = $this->entities->getRepository(MaterialRecord::class)->findOneBy(['project' => $project, 'name' => $word($one, 'material')]) ?? throw new \RuntimeException("The demo has no material {$word($one, 'material')}.");
            $pin = array_filter(['path' => $word($one, 'path'), 'label' => $word($one, 'label')]);
            $comment = new Comment($material, null, $word($one, 'who'), $word($one, 'text'), $pin, null, $material->version);
            $comment->resolvedBy = $word($one, 'resolvedBy');
            $comment->resolvedAt = $comment->resolvedBy === '' ? null : new \DateTimeImmutable();
            $this->entities->persist($comment);
            foreach (\is_array($one) && \is_array($one['answers'] ?? null) ? $one['answers'] : [] as $answer) {
                $this->entities->persist(new Comment($material, null, $word($answer, 'who'), $word($answer, 'text'), [], $comment, $material->version));
            }
        }
    }

    /** The stages of the demo: what objects are and wear is named there, and numbered here. */
    private function stages(Project $project): void
    {
        $numbers = [];
        foreach ($this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $project]) as $one) {
            $numbers[$one->name] = $one->id();
        }
        $meshes = [];
        foreach ($this->meshes->all($project) as $one) {
            $meshes[$one->label] = $one->name();
        }
        foreach (Places::worked() as $name => ['mesh' => $mesh, 'edits' => $edits]) {
            $meshes[$name] = $meshes[$mesh];
            foreach ($edits as $edit) {
                $meshes[$name] = $this->meshes->edited($project, $meshes[$name], $edit, '')[0]->name();
            }
        }
        $made = [];
        foreach (Places::documents() as $name => $document) {
            $text = json_encode($document, \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES);
            $text = (string) preg_replace_callback('/"wears":"([^"]+)"/', static fn (array $found): string => '"wears":' . ($numbers[$found[1]] ?? throw new \RuntimeException("The demo has no material $found[1].")), $text);
            $text = (string) preg_replace_callback('/"mesh":"([^"]+)"/', static fn (array $found): string => '"mesh":"' . ($meshes[$found[1]] ?? $found[1]) . '"', $text);
            $text = str_replace('"paint":"' . Places::WALKED . '"', '"paint":"' . $this->paints->keep(Places::walked()) . '"', $text);
            $made[$name] = $this->stages->create($project, $name, json_decode($text, true));
        }
        foreach ($this->entities->getRepository(MaterialRecord::class)->findBy(['project' => $project]) as $material) {
            $material->stage = $made[Places::FIRST];
        }
        $this->entities->flush();
    }

    /** @param array<string, RecipeRecord> $recipes by name */
    private function set(Project $project, string $file, array $recipes, OutputInterface $output): void
    {
        $name = basename(\dirname($file));
        $facts = json_decode((string) file_get_contents($file), true, 64, \JSON_THROW_ON_ERROR);
        if (!\is_array($facts) || !\is_array($facts['maps'] ?? null) || !is_numeric($facts['extent'] ?? null)) {
            throw new \RuntimeException("$file: expected extent and maps.");
        }
        $maps = [];
        $samplings = [];
        foreach ($facts['maps'] as $roleName => $map) {
            $role = Role::from((string) $roleName);
            $samplings[$role->value] = \is_array($map) && \is_array($map['sampling'] ?? null) ? Sampling::of($map['sampling'])->describe() : [];
            $map = \is_array($map) ? $map['file'] ?? '' : $map;
            $map = \is_string($map) ? $map : '';
            $bytes = (string) file_get_contents(\dirname($file) . '/' . $map);
            $maps[] = ['file' => $map, 'sha256' => $this->blobs->put($bytes), 'role' => $role, 'encoding' => $role->encoding(), 'inverted' => false, 'channels' => []];
        }
        $output->writeln("Map set $name");
        $refused = $this->importer->keep($project, $name, (float) $facts['extent'], $maps)['refused'];
        if ($refused !== []) {
            throw new \RuntimeException("$file: " . $refused[0]['reason']);
        }
        $kept = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]) ?? throw new \LogicException("$name was not kept.");
        $kept->cut = \is_array($facts['sheet'] ?? null) ? Cut::of($facts['sheet'])->describe() : null;
        $recipe = \is_string($facts['recipe'] ?? null) ? $recipes[$facts['recipe']] ?? null : null;
        if ($recipe !== null) {
            $kept->cookedFrom($recipe, $recipe->document);
        }
        foreach ($kept->maps() as $record) {
            $record->sampling = $samplings[$record->role->value] ?? [];
        }
    }

    /** @param list<Role> $roles for red, green and blue */
    private function pack(Project $project, string $name, array $roles, OutputInterface $output): void
    {
        $set = $this->entities->getRepository(MapSetRecord::class)->findOneBy(['project' => $project, 'name' => $name]) ?? throw new \RuntimeException("The demo has no set $name.");
        $packed = $this->mending->pack($set, array_map(static fn (Role $role): array => ['map' => $set->of($role), 'channel' => 0, 'inverted' => false, 'low' => 0.0, 'high' => 1.0], $roles));
        $output->writeln('Packed ' . $packed->name());
    }

    /** @return list<string> in the order of the list beside them */
    private static function documents(string $folder): array
    {
        $names = file("$folder/materials/order.txt", \FILE_IGNORE_NEW_LINES | \FILE_SKIP_EMPTY_LINES) ?: [];

        return array_map(static fn (string $n): string => "$folder/materials/$n.json", $names);
    }
}
