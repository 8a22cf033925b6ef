<?php

declare(strict_types=1);

// Reads a list of edits from standard input, as the engine reads those that the page sends, and prints a line for each it refuses.

use MerryOrbit\Core\Edit\EditReader;
use MerryOrbit\Core\Edit\EditRefused;
use MerryOrbit\Core\Model\Model;

require __DIR__.'/../../core/autoload.php';

$edits = json_decode((string) file_get_contents('php://stdin'), true, 512, JSON_THROW_ON_ERROR);
foreach (is_array($edits) ? $edits : [] as $edit) {
    try {
        EditReader::read($edit, static fn (): Model => new Model('pasted'));
    } catch (EditRefused $e) {
        echo json_encode($edit), ': ', $e->getMessage(), "\n";
    }
}
