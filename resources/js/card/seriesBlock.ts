import type { DimensionView } from '@/api/types'
import { cellsOf, likeness, numberIn } from './block'

/** What is understood of a table of times and courses, one for each element, that is pasted onto a series. */
export interface SeriesBlock {
    /** By ids of elements with commas, points with increasing times. */
    courses: Map<string, [number, number][]>
    /** Heads that are no elements. */
    unknown: string[]
    /** Cells that hold no number, as `B3`. */
    unread: string[]
}

/** The place that a head names: an element, or one of each dimension with commas between. */
function placeOf(head: string, dimensions: readonly DimensionView[]): string | undefined {
    const words = dimensions.length === 1 ? [head] : head.split(/[,/|]/)
    const ids = dimensions.map((d, i) => d.elements.find((e) => likeness(e.name) === likeness(words[i] ?? ''))?.id)
    return words.length === dimensions.length && ids.every((id) => id !== undefined) ? ids.join(',') : undefined
}

/** Times go down and elements across; the first line has the names. */
export function readSeries(text: string, dimensions: readonly DimensionView[]): SeriesBlock {
    const [top = [], ...lines] = cellsOf(text)
    const places = top.slice(1).map((head) => placeOf(head, dimensions))
    const courses = new Map<string, [number, number][]>()
    const unread: string[] = []
    for (const [i, line] of lines.entries()) {
        const time = numberIn(line[0] ?? '')
        if (Number.isNaN(time)) {
            unread.push(`A${i + 2}`)
            continue
        }
        for (const [j, place] of places.entries()) {
            const cell = line[j + 1] ?? ''
            const value = numberIn(cell)
            if (place === undefined || cell === '') {
                continue
            }
            if (Number.isNaN(value)) {
                unread.push(`${String.fromCharCode(66 + (j % 25))}${i + 2}`)
            } else {
                courses.set(place, [...(courses.get(place) ?? []), [time, value]])
            }
        }
    }
    for (const points of courses.values()) {
        points.sort((a, b) => a[0] - b[0])
    }
    return { courses, unknown: top.slice(1).filter((head, j) => head !== '' && places[j] === undefined), unread }
}
