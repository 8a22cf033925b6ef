import type { AreasRead } from '@/api/types'
import { niceStep } from '@/ui/numbers'

/** A course over time, of one element in one run. */
export interface AreaCourse {
    times: ArrayLike<number>
    values: ArrayLike<number>
    /** Measured values hold until here, one for each; a run is looked up between its moments. */ ends?: readonly number[]
}

/** What a course has at a moment; null where it tells nothing. */
export function valueAt(course: AreaCourse | undefined, time: number): number | null {
    if (!course?.times.length) {
        return null
    }
    const { times, values, ends } = course
    let low = 0
    let high = times.length - 1
    if (time < (times[0] ?? 0) || (!ends && time > (times[high] ?? 0) + 1e-9)) {
        return null
    }
    while (low < high) {
        const middle = (low + high + 1) >> 1
        if ((times[middle] ?? 0) <= time) {
            low = middle
        } else {
            high = middle - 1
        }
    }
    const [t0, v0] = [times[low] ?? 0, values[low] ?? NaN]
    if (ends) {
        return time < (ends[low] ?? Infinity) && Number.isFinite(v0) ? v0 : null
    }
    const [t1, v1] = [times[low + 1], values[low + 1]]
    const value = t1 === undefined || v1 === undefined || t1 <= t0 ? v0 : v0 + ((time - t0) / (t1 - t0)) * (v1 - v0)
    return Number.isFinite(value) ? value : null
}

/** When a measured value is followed by the next: after its own period, or as long as most lie apart. */
export function endsOf(times: readonly number[], ends: readonly number[] | undefined): number[] {
    if (ends?.length === times.length) {
        return [...ends]
    }
    const gaps = times
        .slice(1)
        .map((t, i) => t - (times[i] ?? 0))
        .filter((g) => g > 0)
        .sort((a, b) => a - b)
    const usual = gaps[gaps.length >> 1] ?? 1
    return times.map((t) => t + usual)
}

export interface AreaScale {
    low: number
    high: number
    /** Limits between colours, if there are few of them; with the ends. */ limits: number[] | null
}

/** One scale for all that is seen beside each other, over all times, so that colours mean the same. */
export function scaleOf(courses: readonly AreaCourse[], inSteps: boolean): AreaScale {
    let [low, high] = [Infinity, -Infinity]
    for (const { values } of courses) {
        for (let i = 0; i < values.length; i++) {
            const v = values[i] ?? NaN
            if (v < low) low = v
            if (v > high) high = v
        }
    }
    if (low > high) {
        return { low: 0, high: 1, limits: null }
    }
    // What is everywhere the same has a scale of its size.
    if (low === high) {
        ;[low, high] = low === 0 ? [0, 1] : [Math.min(0, low), Math.max(0, high)]
    }
    low = low > 0 && low < high / 2 ? 0 : low
    if (!inSteps) {
        return { low, high, limits: null }
    }
    const step = niceStep((high - low) / 7)
    const first = Math.floor(low / step + 1e-9)
    const last = Math.ceil(high / step - 1e-9)
    const limits = Array.from({ length: last - first + 1 }, (_, i) => Number(((first + i) * step).toPrecision(12)))
    return { low: limits[0] ?? low, high: limits.at(-1) ?? high, limits }
}

/** Where a value lies on the scale, from 0 to 1; with values on both sides of zero from −1 to 1. In steps, the middle of its own. */
export function shareOf(value: number, scale: AreaScale): number {
    let shown = value
    if (scale.limits) {
        // Limits that are not above the value; the greatest value is in the last step.
        const at = Math.min(scale.limits.length - 2, Math.max(0, scale.limits.filter((l) => l <= value).length - 1))
        shown = ((scale.limits[at] ?? 0) + (scale.limits[at + 1] ?? 0)) / 2
    }
    if (scale.low < 0 && scale.high > 0) {
        return shown / Math.max(-scale.low, scale.high)
    }
    const share = (shown - scale.low) / (scale.high - scale.low)
    return scale.high <= 0 ? -(1 - share) : Math.min(1, Math.max(0, share))
}

/** The areas as GeoJSON (RFC 7946, outlines against the clock), each with its values at the times. */
export function asGeoJson(
    read: AreasRead,
    element: (area: number) => string | null,
    columns: readonly { name: string; value: (element: string) => number | null }[],
): string {
    return JSON.stringify({
        type: 'FeatureCollection',
        features: read.areas.map((area, i) => {
            const id = element(i)
            return {
                type: 'Feature',
                properties: {
                    ...area.properties,
                    ...(id === null ? {} : Object.fromEntries(columns.map((c) => [c.name, c.value(id)]))),
                },
                geometry: {
                    type: 'MultiPolygon',
                    coordinates: area.geometry.coordinates.map((polygon) => polygon.map((ring) => [...ring].reverse())),
                },
            }
        }),
    })
}
