import type { Thing } from '@/api/types'

/** How well a name fits what was typed; the smaller the better, undefined where it does not fit at all. */
function rank(name: string, wanted: string): number | undefined {
    const [text, sought] = [name.toLowerCase(), wanted.trim().toLowerCase()]
    if (text === sought) {
        return 0
    }
    if (text.startsWith(sought)) {
        return 1
    }
    if (text.split(/[\s_]+/).some((word) => word.startsWith(sought))) {
        return 2
    }
    if (text.includes(sought)) {
        return 3
    }
    return sought.split(/\s+/).every((word) => text.includes(word)) ? 4 : undefined
}

/** Things whose names fit, the best first. */
export function matching(things: Thing[], wanted: string): Thing[] {
    return things
        .map((thing) => ({ thing, rank: rank(thing.name, wanted) }))
        .filter((one): one is { thing: Thing; rank: number } => one.rank !== undefined)
        .sort((a, b) => a.rank - b.rank || a.thing.name.length - b.thing.name.length)
        .map((one) => one.thing)
}
