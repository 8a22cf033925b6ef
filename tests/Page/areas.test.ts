import { describe, expect, it } from 'vitest'
import type { AreasRead } from '@/api/types'
import { asGeoJson, endsOf, scaleOf, shareOf, valueAt } from '@/places/data/areas'

const course = (points: [number, number][], ends?: number[]) => ({
    times: points.map((p) => p[0]),
    values: points.map((p) => p[1]),
    ...(ends ? { ends } : {}),
})

describe('what an area has at a moment', () => {
    it('lies between the moments of a run', () => {
        const run = course([
            [0, 10],
            [2, 20],
            [4, 0],
        ])
        expect([0, 1, 2, 3, 4].map((t) => valueAt(run, t))).toEqual([10, 15, 20, 10, 0])
        expect([valueAt(run, -1), valueAt(run, 5), valueAt(undefined, 1), valueAt(course([]), 1)]).toEqual([null, null, null, null])
        expect(valueAt(course([[0, NaN]]), 0)).toBeNull()
    })
    it('holds what was measured over its own period, and no longer', () => {
        const measured = course(
            [
                [2000, 5],
                [2003, 7],
            ],
            [2001, 2004],
        )
        expect([1999, 2000, 2000.9, 2001, 2003.5, 2004].map((t) => valueAt(measured, t))).toEqual([null, 5, 5, null, 7, null])
    })
    it('takes the usual distance where no period is told', () => {
        expect(endsOf([0, 2, 4, 10], undefined)).toEqual([2, 4, 6, 12])
        expect(endsOf([1, 5], [2, 6])).toEqual([2, 6])
        expect(endsOf([7], undefined)).toEqual([8])
    })
})

describe('the colours of areas', () => {
    const two = [course([[0, 12]]), course([[0, 118]])]
    it('run over all that is seen, from zero where it is near', () => {
        expect(scaleOf(two, false)).toEqual({ low: 0, high: 118, limits: null })
        expect(scaleOf([course([[0, 90]]), course([[0, 100]])], false)).toMatchObject({ low: 90, high: 100 })
        expect(scaleOf([course([[0, 5]])], false)).toMatchObject({ low: 0, high: 5 })
        expect(scaleOf([], true)).toEqual({ low: 0, high: 1, limits: null })
    })
    it('come in steps with round limits that hold all values', () => {
        const scale = scaleOf(two, true)
        expect(scale.limits).toEqual([0, 20, 40, 60, 80, 100, 120])
        // A value on a limit belongs to what is above; the greatest to the last.
        expect([shareOf(19, scale), shareOf(20, scale), shareOf(120, scale)].map((s) => Math.round(s * 120))).toEqual([10, 30, 110])
        expect(scaleOf([course([[0, -0.013]]), course([[0, 0.021]])], true).limits).toEqual([
            -0.015, -0.01, -0.005, 0, 0.005, 0.01, 0.015, 0.02, 0.025,
        ])
    })
    it('go two ways from zero, by one measure', () => {
        const scale = scaleOf([course([[0, -50]]), course([[0, 100]])], false)
        expect([shareOf(-50, scale), shareOf(0, scale), shareOf(100, scale)]).toEqual([-0.5, 0, 1])
        const below = scaleOf([course([[0, -50]]), course([[0, -10]])], false)
        expect([shareOf(-50, below), shareOf(-10, below)]).toEqual([-1, -0])
    })
})

describe('areas as a file', () => {
    it('have their values, and outlines against the clock', () => {
        const read = {
            areas: [
                {
                    properties: { name: 'Gull' },
                    geometry: {
                        type: 'MultiPolygon',
                        coordinates: [
                            [
                                [
                                    [0, 0],
                                    [0, 1],
                                    [1, 1],
                                    [0, 0],
                                ],
                            ],
                        ],
                    },
                },
                { properties: { name: 'Rock' }, geometry: { type: 'MultiPolygon', coordinates: [] } },
            ],
        } as unknown as AreasRead
        const file = JSON.parse(
            asGeoJson(read, (i) => (i === 0 ? 'north' : null), [
                { name: 'landed (t), baseline, year 2', value: (e) => (e === 'north' ? 7 : null) },
            ]),
        ) as { features: { properties: unknown; geometry: { coordinates: number[][][][] } }[] }
        expect(file.features.map((f) => f.properties)).toEqual([{ name: 'Gull', 'landed (t), baseline, year 2': 7 }, { name: 'Rock' }])
        expect(file.features[0]?.geometry.coordinates[0]?.[0]).toEqual([
            [0, 0],
            [1, 1],
            [0, 1],
            [0, 0],
        ])
    })
})
