<?php declare(strict_types=1);
// Plain PHP, not compiled: the page opens also where no cache can be written.
use Illuminate\Foundation\Vite;

?>
<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <meta name="color-scheme" content="light dark">
    <title>Merry Orbit</title>
    <link rel="icon" href="/icon.svg" type="image/svg+xml">
    <?= app(Vite::class)('resources/js/main.ts') ?>

</head>
<body>
    <div id="app"></div>
    <noscript>Merry Orbit draws and plots models in the browser and needs JavaScript for it.</noscript>
</body>
</html>
