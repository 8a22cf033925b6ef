<?php

declare(strict_types=1);

/*
 * The boats of the demo study "New boats for old", drawn once with a fixed seed: name, year built, length and home harbour, as
 * demo/files/boats.csv. Nothing of it was measured.
 *
 *     php demo/boats.php
 */

$names = explode(', ', 'Slack Water, Kelpie, Tern, Homeward, Barley, First Light, Mackerel Sky, Nightjar, Bittern, Quiet Hand, Salt and Bread, '.
    'Dunlin, Grey Wether, Long Ebb, Merry Anne, Sandpiper, Two Brothers, Whimbrel, Good Intent, Harvest Home, Ivy, Jackdaw, Lantern, '.
    'Morning Call, North Stack, Old Promise, Petrel, Red Thrift, Seapink, Turnstone, Undaunted, Velvet Crab, Wild Goose, Yellow Iris, '.
    'Arctic Tern, Bluebell, Curlew, Dogfish, Eider, Fair Isle, Gannet, Heron, Island Maid, Juniper, Kittiwake, Lapwing, Marram, '.
    'New Leaf, Oyster Girl, Plover, Quill, Ringed Plover, Shearwater, Thrift, Urchin, Vesper, Water Rail, Xebec, Yarrow, Zephyr');
$harbours = ['North cove', 'Lee', 'Quay'];
mt_srand(1878);
$lines = ['name,built,length [m],home harbour'];
foreach ($names as $k => $name) {
    // Many were built when there was a grant, from 1986 to 1992.
    $built = mt_rand(0, 9) < 5 ? mt_rand(1986, 1992) : mt_rand(1978, 1999);
    $length = round(5.5 + 6.0 * (mt_rand(0, 1000) / 1000) ** 1.5, 1);
    $lines[] = "$name,$built,$length,".$harbours[[0, 0, 0, 1, 1, 2][mt_rand(0, 5)]];
}
file_put_contents(__DIR__.'/files/boats.csv', implode("\n", $lines)."\n");
