<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Report;

use League\CommonMark\GithubFlavoredMarkdownConverter;

/** A report as one page of HTML that needs nothing else: to read, to send, and to print on A4 or Letter without cut pictures. */
final class PaperHtml
{
    private readonly GithubFlavoredMarkdownConverter $markdown;

    public function __construct()
    {
        // What people wrote is text: HTML in it is shown as it was typed, and no link runs a script.
        $this->markdown = new GithubFlavoredMarkdownConverter([
            'html_input' => 'escape',
            'allow_unsafe_links' => false,
            'max_nesting_level' => 30,
        ]);
    }

    public function of(Paper $paper): string
    {
        $body = '';
        $contents = '';
        $section = 0;
        foreach ($paper->pieces as $piece) {
            if ($piece['kind'] === 'heading' && $piece['level'] === 2) {
                $section++;
                $contents .= "<li><a href=\"#s$section\">".self::escaped($piece['text']).'</a></li>';
            }
            $body .= match ($piece['kind']) {
                'heading' => self::heading($piece['level'], $piece['text'], $section),
                'text' => '<div class="text">'.$this->text($piece['text'])."</div>\n",
                'table' => $this->table($piece),
                'picture' => "<figure>{$piece['svg']}<figcaption>".self::escaped($piece['caption'])."</figcaption></figure>\n",
            };
        }
        $title = self::escaped($paper->title);
        $of = self::escaped($paper->of);
        $style = strtr(self::STYLE, ['PAPER' => $paper->size === 'letter' ? 'letter' : 'A4']);
        $list = $contents === '' ? '' : "<nav aria-label=\"Contents\"><ol>$contents</ol></nav>\n";

        return <<<HTML
        <!doctype html>
        <html lang="en">
        <head>
        <meta charset="utf-8">
        <meta name="viewport" content="width=device-width, initial-scale=1">
        <meta http-equiv="Content-Security-Policy" content="default-src 'none'; style-src 'unsafe-inline'; img-src data:">
        <title>$title</title>
        <style>$style</style>
        </head>
        <body>
        <header><h1>$title</h1><p class="of">$of</p></header>
        $list<main>
        $body</main>
        </body>
        </html>

        HTML;
    }

    private static function heading(int $level, string $text, int $section): string
    {
        $id = $level === 2 ? " id=\"s$section\"" : '';

        return "<h$level$id>".self::escaped($text)."</h$level>\n";
    }

    private function text(string $markdown): string
    {
        return $this->markdown->convert(PaperMarkdown::text($markdown))->getContent();
    }

    /** @param  array{head: list<string>, rows: list<list<string>>, caption: string, code: list<int>, ...}  $piece */
    private function table(array $piece): string
    {
        $cell = static fn (string $text, int $i): string => $text !== '' && in_array($i, $piece['code'], true)
            ? '<td><code>'.self::escaped($text).'</code></td>'
            : '<td>'.self::escaped($text).'</td>';
        $rows = '';
        foreach ($piece['rows'] as $row) {
            $rows .= '<tr>'.implode('', array_map($cell, $row, array_keys($row)))."</tr>\n";
        }
        $head = implode('', array_map(static fn (string $h): string => '<th scope="col">'.self::escaped($h).'</th>', $piece['head']));
        $caption = $piece['caption'] === '' ? '' : '<caption>'.self::escaped($piece['caption']).'</caption>';

        return "<table>$caption<thead><tr>$head</tr></thead><tbody>\n$rows</tbody></table>\n";
    }

    private static function escaped(string $text): string
    {
        return htmlspecialchars($text, ENT_QUOTES | ENT_SUBSTITUTE | ENT_HTML5, 'UTF-8');
    }

    private const STYLE = <<<'CSS'

    @page { size: PAPER; margin: 20mm 18mm 22mm; }
    :root { color-scheme: only light; }
    * { box-sizing: border-box; }
    body { max-width: 44rem; margin: 0 auto; padding: 3rem 1.5rem 5rem; background: #fff; color: #221d38;
        font: 16px/1.55 "Atkinson Hyperlegible", "Atkinson Hyperlegible Next", system-ui, sans-serif; }
    h1 { margin: 0 0 .5rem; font-size: 2.3rem; line-height: 1.1; text-wrap: balance; }
    h2 { margin: 3rem 0 .8rem; padding-top: .6rem; border-top: 1.5px solid #221d38; font-size: 1.5rem; line-height: 1.2; }
    h3 { margin: 1.8rem 0 .4rem; font-size: 1.12rem; }
    h4 { margin: 1.2rem 0 .3rem; font-size: 1rem; }
    p, ul, ol { margin: 0 0 .8rem; }
    .of, figcaption, caption { color: #575271; font-size: .88rem; }
    nav ol { margin: 1.5rem 0 0; padding: 0; columns: 2; list-style: none; counter-reset: n; }
    nav li { counter-increment: n; break-inside: avoid; }
    nav li::before { content: counter(n) ". "; color: #575271; }
    a { color: inherit; text-underline-offset: 3px; }
    figure { margin: 1.2rem 0 1.6rem; }
    figure svg { display: block; width: 100%; height: auto; max-height: 60rem; }
    figcaption { margin-top: .4rem; }
    table { width: 100%; margin: .6rem 0 1.4rem; border-collapse: collapse; font-size: .86rem; line-height: 1.4; }
    caption { padding-bottom: .3rem; text-align: left; }
    th { border-bottom: 1.5px solid #221d38; text-align: left; vertical-align: bottom; }
    th, td { padding: .3rem .7rem .3rem 0; vertical-align: top; overflow-wrap: break-word; }
    td { border-bottom: 1px solid #dcd9cf; }
    code { font: .92em "Atkinson Hyperlegible Mono", ui-monospace, monospace; overflow-wrap: anywhere; }
    blockquote { margin: 0 0 .8rem; padding-left: 1rem; border-left: 2px solid #dcd9cf; }
    @media print {
        body { max-width: none; padding: 0; font-size: 10.5pt; }
        h2, h3, h4, caption { break-after: avoid; }
        figure, tr, li, blockquote { break-inside: avoid; }
        figure svg { max-height: 200mm; }
        p { orphans: 3; widows: 3; }
        nav a { text-decoration: none; }
    }

    CSS;
}
