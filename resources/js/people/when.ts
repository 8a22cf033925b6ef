const DAY = 86_400_000
const UNITS: [Intl.RelativeTimeFormatUnit, number][] = [
    ['day', DAY],
    ['hour', DAY / 24],
    ['minute', DAY / 1440],
]

/** How long ago something was, or how long it is until: "3 hours ago", "yesterday"; the day itself beyond a month. */
export function sinceWords(at: string, now = Date.now()): string {
    const away = new Date(at).getTime() - now
    if (Math.abs(away) > 30 * DAY) {
        return dayWords(at)
    }
    const [unit, size] = UNITS.find(([, size]) => Math.abs(away) >= size) ?? ['minute', DAY / 1440]
    const count = Math.trunc(away / size)
    return count === 0 ? 'just now' : new Intl.RelativeTimeFormat(undefined, { numeric: 'auto' }).format(count, unit)
}

export function dayWords(at: string): string {
    return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'long', year: 'numeric' }).format(new Date(at))
}

export function momentWords(at: string): string {
    return new Intl.DateTimeFormat(undefined, { day: 'numeric', month: 'long', hour: '2-digit', minute: '2-digit' }).format(new Date(at))
}
