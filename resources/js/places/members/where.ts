/** All members at saved moments: some variables of each, in rows of one moment. */
export interface Moving {
    times: number[]
    count: number
    values: Map<string, Float32Array>
}

/** 32-bit floats, the first byte the least, in base 64. */
export function floatsOf(text: string): Float32Array {
    const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
    return new Float32Array(bytes.buffer)
}

/** Which moments a time lies between, and how far it is towards the second. */
export function between(times: readonly number[], time: number): { low: number; high: number; share: number } {
    let [low, high] = [0, Math.max(0, times.length - 1)]
    while (high - low > 1) {
        const middle = (low + high) >> 1
        if ((times[middle] ?? 0) <= time) {
            low = middle
        } else {
            high = middle
        }
    }
    const [from, to] = [times[low] ?? 0, times[high] ?? 0]
    return { low, high, share: to > from ? Math.min(1, Math.max(0, (time - from) / (to - from))) : 0 }
}

/**
 * What each member has at a time: on a straight line between two moments; who is there at only one of them has what it has there, on that
 * side of the middle. NaN for those who are not there.
 */
export function allAt(moving: Moving, key: string, time: number, into = new Float32Array(moving.count)): Float32Array {
    const all = moving.values.get(key)
    const { low, high, share } = between(moving.times, time)
    for (let m = 0; m < moving.count; m++) {
        const [a, b] = [all?.[low * moving.count + m] ?? NaN, all?.[high * moving.count + m] ?? NaN]
        into[m] = Number.isNaN(a) || Number.isNaN(b) ? (share < 0.5 ? a : b) : a + share * (b - a)
    }
    return into
}

/** The least and the largest of a variable, over all moments. */
export function reachOf(values: ArrayLike<number> | undefined): [number, number] | null {
    let [low, high] = [Infinity, -Infinity]
    for (let i = 0; i < (values?.length ?? 0); i++) {
        const v = values?.[i] ?? NaN
        low = v < low ? v : low
        high = v > high ? v : high
    }
    return low <= high ? [low, high] : null
}

/** Both axes as long per unit, so that the plane is not pulled; in the middle of a box. */
export interface Plane {
    x: (v: number) => number
    y: (v: number) => number
    left: number
    top: number
    width: number
    height: number
}
export function planeOf(
    across: readonly [number, number],
    up: readonly [number, number],
    box: { left: number; top: number; width: number; height: number },
    alike: boolean,
): Plane {
    const [wide, tall] = [across[1] - across[0] || 1, up[1] - up[0] || 1]
    let [kx, ky] = [box.width / wide, box.height / tall]
    if (alike) {
        kx = ky = Math.min(kx, ky)
    }
    const [width, height] = [kx * wide, ky * tall]
    const [left, top] = [box.left + (box.width - width) / 2, box.top + (box.height - height) / 2]
    return { x: (v) => left + (v - across[0]) * kx, y: (v) => top + height - (v - up[0]) * ky, left, top, width, height }
}

/** Where one of several stands around a middle, so that none covers another: on a spiral of seeds (H. Vogel, 1979). */
export function around(i: number, count: number, reach: number): [number, number] {
    const far = reach * Math.sqrt((i + 0.5) / Math.max(1, count))
    const turn = i * Math.PI * (3 - Math.sqrt(5))
    return [far * Math.cos(turn), far * Math.sin(turn)]
}
