<?php

declare(strict_types=1);

namespace MerryOrbit\Core\Data;

/** Gathers what is noticed in a table, by the places of its file. */
final class Remarks
{
    /** So many are told one by one: nobody reads on. */
    private const MOST = 1_000;

    /** @var list<DataRemark> */
    private array $said;

    private int $more = 0;

    public function __construct(private readonly Understood $u)
    {
        $this->said = $u->remarks;
    }

    /** @param  value-of<DataRemark::ABOUT>  $about */
    public function say(?int $row, ?int $column, string $sentence, string $about = DataRemark::NOTE): void
    {
        if (count($this->said) >= self::MOST) {
            $this->more++;

            return;
        }
        $this->said[] = $this->u->at($row, $column, $sentence, $about);
    }

    /**
     * Of all that stands in one line: of a column at its head, across of a row at its first cell.
     *
     * @param  value-of<DataRemark::ABOUT>  $about
     * @param  bool  $isOfFile  whether the line counts as in the file, from 1
     */
    public function sayOfLine(int $column, string $sentence, string $about = DataRemark::NOTE, bool $isOfFile = false): void
    {
        $this->say(max($this->u->head, 0), $isOfFile ? $this->u->columnOf($column) : $column, $sentence, $about);
    }

    /** @return list<DataRemark> */
    public function all(): array
    {
        return $this->more === 0
            ? $this->said
            : [...$this->said, new DataRemark(null, null, 'And '.number_format($this->more).' more remarks.')];
    }
}
