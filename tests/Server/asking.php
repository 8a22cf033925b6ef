<?php

declare(strict_types=1);

// Asks again and again as long as a file is there: asking.php ADDRESS FILE; says how often, and what went wrong.
/** @var list<string> $argv */
[, $address, $file] = $argv;
[$asked, $wrong] = [0, []];
for (; is_file($file); clearstatcache()) {
    $context = stream_context_create(['http' => ['timeout' => 10, 'ignore_errors' => true, 'header' => 'Connection: close']]);
    $answer = @file_get_contents($address.($asked % 2 === 0 ? '/' : '/api/catalogue'), false, $context);
    $status = $answer === false ? 'no answer' : $http_response_header[0] ?? '';
    $asked++;
    // The catalogue is for those who are signed in.
    if (! preg_match('/ (200|401) /', "$status ")) {
        $wrong[] = $status;
    }
}
echo json_encode(['asked' => $asked, 'wrong' => array_count_values($wrong)]);
