/** What became of points: those that are new, those with another value (before and now), and those that are gone. */
export function differencesOf(before: readonly (readonly [number, number])[], now: readonly (readonly [number, number])[]) {
    const known = new Map(before.map(([t, v]) => [t, v]))
    const there = new Set(now.map(([t]) => t))
    const isOther = (a: number, b: number) => Math.abs(a - b) > 1e-12 * Math.max(Math.abs(a), Math.abs(b))
    return {
        fresh: now.filter(([t]) => !known.has(t)),
        changed: now.flatMap(([t, v]) => {
            const old = known.get(t)
            return old !== undefined && isOther(old, v) ? [{ time: t, before: old, now: v }] : []
        }),
        gone: before.filter(([t]) => !there.has(t)),
    }
}
