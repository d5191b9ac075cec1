<?php

declare(strict_types=1);

namespace Rilta\App\Command;

use Rilta\App\Service\RecipeWork;
use Rilta\Core\Format\Png;
use Rilta\Core\Recipe\CodedRecipeBake;
use Rilta\Core\Recipe\Recipe;
use Rilta\Core\Recipe\RecipeBake;
use Rilta\Core\Recipe\RecipeLowering;
use Rilta\Core\Target\Php\Compiler;
use Rilta\Demo\Recipes;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputArgument;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\InputOption;
use Symfony\Component\Console\Output\OutputInterface;

/** Computes the demo's maps from their recipes. */
#[AsCommand('cook', 'Computes the maps of the demo\'s recipes')]
final class CookCommand extends Command
{
    public function __construct(private readonly Compiler $compiler)
    {
        parent::__construct();
    }

    protected function configure(): void
    {
        $this->addArgument('recipe', InputArgument::OPTIONAL, 'The name of one; all of them without it')
            ->addOption('size', null, InputOption::VALUE_REQUIRED, 'Pixels a side; recipes that are documents say it themselves', '1024')
            ->addOption('out', null, InputOption::VALUE_REQUIRED, 'Folder for the map sets', 'demo/maps');
    }

    protected function execute(InputInterface $input, OutputInterface $output): int
    {
        [$size, $out, $wanted] = [$input->getOption('size'), $input->getOption('out'), $input->getArgument('recipe')];
        if (!is_numeric($size) || $size < 16 || $size > 4096 || !\is_string($out)) {
            $output->writeln('<error>--size: expected 16 to 4096.</error>');

            return Command::FAILURE;
        }
        foreach (Recipes::all() as $recipe) {
            if ($wanted === null || $wanted === $recipe->name()) {
                $output->writeln($recipe->name());
                $maps = array_map(Png::ofImage(...), (new CodedRecipeBake($this->compiler))->maps($recipe, (int) $size));
                self::put("$out/{$recipe->name()}", $recipe->name(), $maps, ['extent' => $recipe->extent()]);
            }
        }
        foreach (Recipes::documents() as $recipe) {
            if ($wanted === null || $wanted === $recipe->name) {
                $output->writeln($recipe->name);
                self::put("$out/$recipe->name", $recipe->name, $this->baked($recipe), ['extent' => $recipe->extent, 'recipe' => $recipe->name]);
            }
        }

        return Command::SUCCESS;
    }

    /** @return array<string, string> PNGs by role, in the size that the recipe says */
    private function baked(Recipe $recipe): array
    {
        $bake = new RecipeBake(RecipeLowering::lower($recipe), $recipe->size, $this->compiler);
        $images = $bake->whole();
        $maps = [];
        foreach ($recipe->outputs as $output) {
            $maps[$output->role->value] = RecipeWork::png($bake, $output, $recipe->size, $images[$output->role->value]);
        }

        return $maps;
    }

    /**
     * @param array<string, string> $maps  PNGs by role
     * @param array<string, mixed>  $facts
     */
    private static function put(string $folder, string $name, array $maps, array $facts): void
    {
        if (!is_dir($folder)) {
            mkdir($folder, 0o775, true);
        }
        $files = [];
        foreach ($maps as $role => $png) {
            $files[$role] = "$name-$role.png";
            file_put_contents("$folder/$files[$role]", $png);
        }
        // What is known of the set besides, how it is cut or sampled, stays.
        $before = is_file("$folder/set.json") ? json_decode((string) file_get_contents("$folder/set.json"), true) : null;
        $before = \is_array($before) ? $before : [];
        foreach (\is_array($before['maps'] ?? null) ? $before['maps'] : [] as $role => $one) {
            if (\is_array($one) && isset($files[$role])) {
                $files[$role] = ['file' => $files[$role]] + $one;
            }
        }
        file_put_contents("$folder/set.json", json_encode($facts + ['maps' => $files] + $before, \JSON_PRETTY_PRINT | \JSON_THROW_ON_ERROR) . "\n");
    }
}
