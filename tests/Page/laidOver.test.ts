import { describe, expect, test } from 'vitest'
import type { Plot } from '@/api/types'
import { linesOf, nearest, pointAt, valueAt } from '@/charts/lines'
import { laidOver } from '@/charts/laidOver'
import { pairs, whiskers } from '@/charts/plotParts'
import { columnHead } from '@/charts/rows'
import { scaleOf } from '@/charts/scale'
import { merged, valueOf } from '@/places/ask/modes'
import { aThing } from './make'

const modes = {
    m1: {
        id: 'm1',
        kind: 'feared' as const,
        of: 'depth',
        points: [
            [2026, 4],
            [2036, 2],
        ] as [number, number][],
    },
    m2: {
        id: 'm2',
        kind: 'hoped' as const,
        of: 'trade',
        points: [
            [2026, 4],
            [2036, 2],
        ] as [number, number][],
    },
    m3: { id: 'm3', kind: 'seen' as const, of: 'depth', points: [[2026, 4]] as [number, number][] },
}
const plot = (more: Partial<Plot> = {}): Plot => ({ id: 'p', of: ['depth'], ...more })

describe('reference modes over runs', () => {
    test('lie where values over time are shown as they are, and nowhere else', () => {
        expect(laidOver(plot(), { modes }).map((c) => c.name)).toEqual(['feared'])
        expect(laidOver(plot({ of: ['depth', 'trade'] }), { modes })).toHaveLength(2)
        for (const other of [
            plot({ kind: 'phase' }),
            plot({ kind: 'bars' }),
            plot({ options: { measure: 'difference' } }),
            plot({ options: { stacked: true } }),
        ]) {
            expect(laidOver(other, { modes })).toEqual([])
        }
        expect(laidOver(plot(), {})).toEqual([])
    })

    test('have a line and a column of their own, and say nothing beyond their ends', () => {
        const courses = laidOver(plot(), { modes })
        const [line] = linesOf(plot(), courses, { depth: aThing('depth', { unit: 'm' }) })
        expect(line?.name).toBe('feared')
        expect(line && columnHead(line, { plot: plot(), courses, named: true })).toBe('depth (m), feared')
        expect(line && valueAt(line, 2031)).toBe(3)
        expect(line && valueAt(line, 2025)).toBeUndefined()
        expect(line && valueAt(line, 2037)).toBeUndefined()
    })
})

describe('evidence over runs', () => {
    const evidence = {
        e1: {
            id: 'e1',
            of: 'depth',
            points: [
                [2026, 4],
                [2030, 3],
                [2036, 2],
            ] as [number, number][],
        },
    }

    test('lies as points, of which nothing is told between them', () => {
        const courses = laidOver(plot(), { evidence })
        const [line] = linesOf(plot(), courses, { depth: aThing('depth', { unit: 'm' }) })
        expect(line?.dots).toBe(true)
        expect(line && valueAt(line, 2030)).toBe(3)
        expect(line && valueAt(line, 2028)).toBeUndefined()
        expect(laidOver(plot({ kind: 'phase' }), { evidence })).toEqual([])
    })

    test('is reached from a little time beside a point, and tells the moment of the point', () => {
        const [line] = linesOf(plot(), laidOver(plot(), { evidence }), { depth: aThing('depth', { unit: 'm' }) })
        expect(line && pointAt(line, 2029.6, 0.5)).toEqual({ time: 2030, value: 3 })
        expect(line && pointAt(line, 2028, 0.5)).toBeUndefined()
        const lines = line ? [line] : []
        const scales = lines.map(() => scaleOf(lines, { zero: true }))
        expect(nearest(lines, scales, 2029.6, 25, 100, { reach: 0.5 })?.dots).toBe(true)
        expect(nearest(lines, scales, 2029.6, 25, 100)).toBeUndefined()
    })

    test('says from which column it is where there are several of a variable', () => {
        const both = { ...evidence, e2: { ...evidence.e1, id: 'e2', column: 'soundings' } }
        expect(laidOver(plot(), { evidence: both }).map((c) => c.name)).toEqual(['measured, e1', 'measured, soundings'])
    })

    test('is of an element where it says which', () => {
        const [course] = laidOver(plot(), { evidence: { e2: { ...evidence.e1, id: 'e2', at: ['north', 'old'] } } })
        expect([...(course?.run.values.keys() ?? [])]).toEqual(['depth[north,old]'])
    })
})

describe('a course that is drawn', () => {
    test('takes the place of what was there over its own span', () => {
        expect(
            merged(
                [
                    [0, 1],
                    [5, 2],
                    [10, 3],
                ],
                [
                    [4, 9],
                    [6, 8],
                ],
            ),
        ).toEqual([
            [0, 1],
            [4, 9],
            [6, 8],
            [10, 3],
        ])
        expect(merged([], [[1, 1]])).toEqual([[1, 1]])
        expect(
            merged(
                [
                    [0, 1],
                    [10, 3],
                ],
                [[10, 7]],
            ),
        ).toEqual([
            [0, 1],
            [10, 7],
        ])
    })

    test('is told where it is drawn', () => {
        expect(
            valueOf(
                [
                    [0, 1],
                    [10, 2],
                ],
                5,
            ),
        ).toBe('1.5')
        expect(
            valueOf(
                [
                    [0, 1],
                    [10, 2],
                ],
                11,
            ),
        ).toBe('none')
        expect(valueOf([], 1)).toBe('none')
    })
})

describe('how exact what was measured is', () => {
    const evidence = (more: object) => ({
        e1: {
            id: 'e1',
            of: 'depth',
            column: 'Depth',
            points: [
                [2000, 4],
                [2001, -2],
            ] as [number, number][],
            ...more,
        },
    })
    const line = (more: object) =>
        linesOf(plot(), laidOver(plot(), { evidence: evidence(more) }), { depth: aThing('depth', { unit: 'm' }) })[0]
    test('is a stroke through each point, in the unit or in per cent', () => {
        expect(line({})?.lows).toBeUndefined()
        const own = line({ error: 0.5 })
        expect([...(own?.lows ?? [])]).toEqual([3.5, -2.5])
        expect([...(own?.highs ?? [])]).toEqual([4.5, -1.5])
        expect([...(line({ error: 10, errorIn: '%' })?.highs ?? [])]).toEqual([4.4, -1.8])
        // A column that says it goes before what is usual.
        expect([...(line({ error: 0.5, errors: [0.25, 0] })?.highs ?? [])]).toEqual([4.25, -1.5])
        expect([...(line({ errors: [0, 1] })?.highs ?? [])]).toEqual([4, -1])
        // The axis has room for it, a plot draws it, and points stay points.
        expect(scaleOf([own as never], { zero: false }).low).toBeLessThanOrEqual(-2.5)
        const colour = () => '#000'
        expect(whiskers(own as never, colour)[0]?.data.slice(0, 3)).toEqual([
            [2000, 3.5],
            [2000, 4.5],
            [2000, null],
        ])
        expect(whiskers(line({}) as never, colour)).toEqual([])
        expect(pairs(own as never)).toEqual([
            [2000, 4],
            [2001, -2],
        ])
    })
    test('means and sums lie in the middle of their periods', () => {
        expect([...(line({ over: 'mean', ends: [2001, 2003] })?.times ?? [])]).toEqual([2000.5, 2002])
    })
})
