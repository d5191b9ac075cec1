<?php

declare(strict_types=1);

// Symfony describes its own configuration in a file, for editors.
$finder = (new PhpCsFixer\Finder())->in([__DIR__ . '/core', __DIR__ . '/app', __DIR__ . '/demo/recipes', __DIR__ . '/demo/meshes', __DIR__ . '/supplier'])->notPath('config/reference.php')->append([__FILE__]);

return (new PhpCsFixer\Config())
    ->setRiskyAllowed(true)
    ->setParallelConfig(PhpCsFixer\Runner\Parallel\ParallelConfigFactory::detect())
    ->setCacheFile(__DIR__ . '/var/php-cs-fixer.cache')
    ->setRules([
        '@Symfony' => true,
        '@Symfony:risky' => true,
        '@PHP82Migration' => true,
        'declare_strict_types' => true,
        'concat_space' => ['spacing' => 'one'],
        'yoda_style' => false,
        'phpdoc_align' => ['align' => 'vertical'],
        'phpdoc_to_comment' => false,
        'single_line_throw' => false,
        'increment_style' => ['style' => 'pre'],
        'nullable_type_declaration_for_default_null_value' => true,
        'trailing_comma_in_multiline' => ['elements' => ['arrays', 'arguments', 'parameters', 'match']],
        'global_namespace_import' => false,
        'phpdoc_summary' => false,
        // It joins '.' . 'xyzw'[$i] to '.xyzw'[$i], which means something else.
        'no_useless_concat_operator' => false,
        'php_unit_method_casing' => false,
    ])
    ->setFinder($finder);
