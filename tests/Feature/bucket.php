<?php

declare(strict_types=1);

// A stand-in for a store of objects that speaks the S3 protocol as far as a disk needs it: BUCKET_FOLDER=… php -S HOST:PORT bucket.php
// A request that is not signed is refused; whether the signature is right is not looked at.

$folder = (string) getenv('BUCKET_FOLDER');
[$path] = explode('?', (string) $_SERVER['REQUEST_URI']);
[, $bucket, $key] = [...explode('/', rawurldecode($path), 3), '', ''];
$place = static fn (string $of): string => "$folder/".bin2hex($of);
$xml = static function (string $body, int $status = 200): never {
    http_response_code($status);
    header('Content-Type: application/xml');
    echo '<?xml version="1.0" encoding="UTF-8"?>', $body;
    exit();
};
$escaped = static fn (string $text): string => htmlspecialchars($text, ENT_XML1);
if (! str_starts_with((string) ($_SERVER['HTTP_AUTHORIZATION'] ?? ''), 'AWS4-HMAC-SHA256 Credential=reef/')) {
    $xml('<Error><Code>AccessDenied</Code></Error>', 403);
}
if ($bucket !== 'coves') {
    $xml('<Error><Code>NoSuchBucket</Code></Error>', 404);
}
$method = (string) $_SERVER['REQUEST_METHOD'];
if ($method === 'GET' && isset($_GET['acl'])) {
    $xml('<AccessControlPolicy><Owner><ID>reef</ID></Owner><AccessControlList></AccessControlList></AccessControlPolicy>');
}
if ($method === 'POST' && isset($_GET['delete'])) {
    preg_match_all('~<Key>(.*?)</Key>~', (string) file_get_contents('php://input'), $found);
    foreach ($found[1] as $one) {
        @unlink($place(html_entity_decode($one, ENT_XML1)));
    }
    $xml('<DeleteResult></DeleteResult>');
}
if ($method === 'GET' && isset($_GET['list-type'])) {
    [$prefix, $delimiter] = [(string) ($_GET['prefix'] ?? ''), (string) ($_GET['delimiter'] ?? '')];
    $most = (int) ($_GET['max-keys'] ?? 1000);
    $objects = $folders = [];
    foreach (scandir($folder) ?: [] as $file) {
        $name = ctype_xdigit($file) ? (string) hex2bin($file) : '';
        if ($name === '' || ! str_starts_with($name, $prefix) || count($objects) >= $most) {
            continue;
        }
        $end = $delimiter === '' ? false : strpos($name, $delimiter, strlen($prefix));
        if ($end !== false) {
            $folders[substr($name, 0, $end + 1)] = true;

            continue;
        }
        $size = filesize("$folder/$file");
        $time = gmdate('Y-m-d\TH:i:s.000\Z', (int) filemtime("$folder/$file"));
        $objects[] = "<Contents><Key>{$escaped($name)}</Key><LastModified>$time</LastModified><Size>$size</Size></Contents>";
    }
    $common = array_map(
        static fn (string $f): string => "<CommonPrefixes><Prefix>{$escaped($f)}</Prefix></CommonPrefixes>",
        array_keys($folders),
    );
    $xml('<ListBucketResult><IsTruncated>false</IsTruncated>'.implode('', [...$objects, ...$common]).'</ListBucketResult>');
}
if ($method === 'PUT') {
    $from = (string) ($_SERVER['HTTP_X_AMZ_COPY_SOURCE'] ?? '');
    if ($from !== '') {
        $source = $place(explode('/', ltrim(rawurldecode($from), '/'), 2)[1] ?? '');
        if (! is_file($source)) {
            $xml('<Error><Code>NoSuchKey</Code></Error>', 404);
        }
        copy($source, $place($key));
        $xml('<CopyObjectResult><ETag>"x"</ETag></CopyObjectResult>');
    }
    file_put_contents($place($key), (string) file_get_contents('php://input'));
    header('ETag: "x"');
    exit();
}
if ($method === 'DELETE') {
    @unlink($place($key));
    http_response_code(204);
    exit();
}
if (! is_file($place($key))) {
    $method === 'HEAD' ? http_response_code(404) || exit() : $xml('<Error><Code>NoSuchKey</Code></Error>', 404);
    exit();
}
header('Content-Length: '.filesize($place($key)));
header('Last-Modified: '.gmdate('D, d M Y H:i:s \G\M\T', (int) filemtime($place($key))));
if ($method === 'GET') {
    readfile($place($key));
}
