<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Compile\Loops;

/** Lists that loops over elements look things up in, such as where an element stands in another dimension: handed over, not written into the source. */
final class LoopData
{
    /** @var list<list<int|float|string>> */
    public array $lists = [];

    /** @var array<string, int> */
    private array $known = [];

    private int $named = 0;

    /**
     * @param  list<int|float|string>  $list
     * @return string the variable that holds it
     */
    public function add(array $list): string
    {
        $content = serialize($list);
        if (! isset($this->known[$content])) {
            $this->known[$content] = count($this->lists);
            $this->lists[] = $list;
        }

        return '$list'.$this->known[$content];
    }

    /** A variable of which there is no other. */
    public function variable(string $letter): string
    {
        return '$'.$letter.'_'.++$this->named;
    }

    /** @return list<string> lines that take the lists out of the argument `$data` */
    public function lines(): array
    {
        return array_map(
            // Copied number by number, numbers are known to be such, which makes the loops over them faster.
            static fn (int $i, array $list): string => match (true) {
                is_float($list[0] ?? null) => "\$list$i = []; foreach (\$data[$i] as \$one) { \$list{$i}[] = (float) \$one; }",
                is_int($list[0] ?? null) => "\$list$i = []; foreach (\$data[$i] as \$one) { \$list{$i}[] = (int) \$one; }",
                default => "\$list$i = \$data[$i];",
            },
            array_keys($this->lists),
            $this->lists,
        );
    }
}
