/** Days of the time units that dates can be told in; months and years go by the calendar. */
const DAYS: Record<string, number> = { second: 1 / 86_400, minute: 1 / 1_440, hour: 1 / 24, day: 1, week: 7, month: 30.44, quarter: 91.31, year: 365.25 }
const SPELLINGS: Record<string, string> = { yr: 'year', mo: 'month', wk: 'week', hr: 'hour', h: 'hour', sec: 'second', s: 'second', min: 'minute' }

function known(unit: string): string | undefined {
    const word = unit.trim().toLowerCase()
    const single = word.length > 3 ? word.replace(/s$/, '') : word
    const name = SPELLINGS[single] ?? single
    return name in DAYS ? name : undefined
}

/** The calendar date so long after another; undefined for units that have none. */
export function dateAfter(start: string, elapsed: number, unit: string): Date | undefined {
    const name = known(unit)
    const from = new Date(`${start}T00:00:00Z`)
    if (!name || Number.isNaN(from.getTime())) {
        return undefined
    }
    const months = { month: 1, quarter: 3, year: 12 }[name]
    if (months === undefined) {
        return new Date(from.getTime() + elapsed * (DAYS[name] as number) * 86_400_000)
    }
    // Whole months by the calendar, the rest as a part of the month it falls into.
    const all = elapsed * months
    const whole = Math.floor(all + 1e-9)
    const at = (n: number) => Date.UTC(from.getUTCFullYear(), from.getUTCMonth() + n, from.getUTCDate())
    return new Date(at(whole) + Math.max(0, all - whole) * (at(whole + 1) - at(whole)))
}

/** A date as finely as marks so far apart (in the unit) need it. */
export function dateWords(date: Date, apart: number, unit: string): string {
    const days = apart * (DAYS[known(unit) ?? 'day'] as number)
    const options: Intl.DateTimeFormatOptions = days >= 360 ? { year: 'numeric' }
        : days >= 25 ? { year: 'numeric', month: 'short' }
            : days >= 1 ? { day: 'numeric', month: 'short', year: 'numeric' }
                : { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hour12: false }
    return new Intl.DateTimeFormat(undefined, { ...options, timeZone: 'UTC' }).format(date)
}
