/** Times and the moments they are, in seconds since 1970, as the engine tells them; what lies between two goes evenly. */
export type Anchors = [number, number][]

/** The date at a time; undefined where the study has no calendar, or the time is not known yet. */
export function dateAt(time: number, anchors: Anchors | null | undefined): Date | undefined {
    if (!anchors || anchors.length < 2 || !Number.isFinite(time)) {
        return undefined
    }
    let low = 0
    let high = anchors.length - 2
    while (low < high) {
        const middle = (low + high + 1) >> 1
        if ((anchors[middle] as [number, number])[0] <= time) {
            low = middle
        } else {
            high = middle - 1
        }
    }
    const [[t, s], [next, after]] = [anchors[low], anchors[low + 1]] as [[number, number], [number, number]]
    return new Date(1000 * (s + ((time - t) / (next - t)) * (after - s)))
}

/** How finely a date is told: by marks so far apart. */
export type DateGrain = 'year' | 'month' | 'week' | 'day' | 'hour' | ''

const FORMATS: Record<DateGrain, Intl.DateTimeFormatOptions> = {
    year: { year: 'numeric' },
    month: { year: 'numeric', month: 'short' },
    week: { day: 'numeric', month: 'short', year: 'numeric' },
    day: { day: 'numeric', month: 'short', year: 'numeric' },
    hour: { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false },
    '': { day: 'numeric', month: 'short', year: 'numeric' },
}

export function dateWords(date: Date, grain: DateGrain): string {
    return new Intl.DateTimeFormat(undefined, { ...FORMATS[grain], timeZone: 'UTC' }).format(date)
}
