/** Courses on each other: what is more than 0 upwards, what is less downwards, each in its order. */
export function stacked(courses: readonly (readonly number[])[]) {
    const length = courses[0]?.length ?? 0
    const highs = new Array<number>(length).fill(0)
    const lows = new Array<number>(length).fill(0)
    const bands = courses.map((course) => {
        const [low, high]: [number[], number[]] = [[], []]
        for (let i = 0; i < length; i++) {
            const v = course[i] ?? 0
            const base = v < 0 ? (lows[i] ?? 0) : (highs[i] ?? 0)
            low.push(Math.min(base, base + v))
            high.push(Math.max(base, base + v))
            ;(v < 0 ? lows : highs)[i] = base + v
        }
        return { low, high }
    })
    return { bands, highs, lows, sum: highs.map((h, i) => h + (lows[i] ?? 0)) }
}
