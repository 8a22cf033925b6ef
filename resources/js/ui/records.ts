/** A record without one of its keys. */
export function without<T>(record: Record<string, T>, key: string): Record<string, T> {
    return Object.fromEntries(Object.entries(record).filter(([k]) => k !== key))
}

/** A place behind all others. */
export function placeBehind(all: Record<string, { place: number }>): number {
    return Math.max(0, ...Object.values(all).map((one) => one.place)) + 1
}
