/** Heights from here on are told as different from usual, and as much. */
const [SOME, MUCH] = [0.04, 0.4]

/** A height in words: it is no measurement, so no number is told. */
export function heightWords(height: number): string {
    if (Math.abs(height) < SOME) {
        return 'as usual'
    }
    const side = height > 0 ? 'more than usual' : 'less than usual'
    return Math.abs(height) < MUCH ? `a little ${side}` : side
}

/** And which way it goes, from its height a little later. */
export function courseWords(height: number, later: number): string {
    const by = later - height
    const way = Math.abs(by) < 0.01 ? '' : by > 0 ? ', rising' : ', falling'
    return heightWords(height) + way
}

/** The height at a beat, between what is told at evenly spaced times; 0, as usual, where nothing is told. */
export function heightAt(times: readonly number[], course: readonly number[] | undefined, beat: number): number {
    if (!course || times.length < 2) {
        return 0
    }
    const [first, second] = times as [number, number]
    const place = Math.max(0, Math.min(times.length - 1, (beat - first) / (second - first)))
    const i = Math.floor(place)
    const [a, b] = [course[i] ?? 0, course[Math.min(i + 1, course.length - 1)] ?? 0]
    return a + (place - i) * (b - a)
}
