<?php

declare(strict_types=1);

// A simulated page of somebody else, the stand-in for the site of a school: it shows a page for readers within its own, by what the
// application tells such a page to hold. Started by bin/serve in demo mode beside the application:
// SCHOOL_FRAME=FILE php -S 127.0.0.1:10000 demo/school.php

$frame = (string) @file_get_contents((string) getenv('SCHOOL_FRAME'));
header('Content-Type: text/html; charset=utf-8');
?>
<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <title>The school of Quillhaven</title>
    <style>
        body { margin: 0; background: #eef3ee; color: #20302a; font: 17px/1.6 Georgia, serif; }
        header { padding: 20px 32px; background: #2f5d50; color: #fff; }
        header p { margin: 0; font-size: 22px; }
        main { max-width: 1000px; margin: 0 auto; padding: 24px 32px 60px; }
        iframe { display: block; border-radius: 10px; background: #fff; }
    </style>
</head>
<body>
    <header><p>The school of Quillhaven</p></header>
    <main>
        <h1>Geography, class 9: our island in summer</h1>
        <p>Try it in pairs. Write down what you expect before you move anything, then what you saw, and why.</p>
        <?= $frame === '' ? '<p>There is no page to show: the demo study was deleted.</p>' : $frame ?>

        <p>Bring your notes on Thursday.</p>
    </main>
</body>
</html>
