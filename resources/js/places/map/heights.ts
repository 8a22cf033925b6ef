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
