import { describe, expect, it, vi } from 'vitest'
import { asCsv, asTabs } from '@/charts/download'
import { apart, linesOf, lookOf, nearest, paint, scaleOf, share, valueAt } from '@/charts/lines'
import { histogramOf, optionsOf, pairs } from '@/charts/options'
import { aCourse, aRun, aThing, things } from './make'

const elements = things(aThing('a', { unit: 't' }), aThing('b', { unit: 'person' }), aThing('k', { kind: 'curve' }))
const base = aCourse(aRun({ a: [0, 10, 5], b: [2, 4, 8] }, { steady: { p: 3 } }))
const kept = aCourse(aRun({ a: [1, 20, 5], b: [1, 1, 1] }), { key: 'kept:1', name: 'Dry', look: 2, main: false })

describe('the lines of a plot', () => {
    it('tell runs by hue and dash with one variable, and variables by hue with several', () => {
        const one = linesOf({ id: 't', of: ['a'] }, [base, kept], elements)
        expect(one.map((l) => [l.name, l.colour, l.dash.length > 0])).toEqual([['baseline', '--ink', false], ['Dry', '--run-2', true]])
        const several = linesOf({ id: 't', of: ['a', 'b', 'k', 'gone'] }, [base, kept], elements)
        expect(several.map((l) => [l.name, l.colour, l.dash.length > 0])).toEqual([['a, baseline', '--ink', false], ['a, Dry', '--ink', true], ['b, baseline', '--run-0', false], ['b, Dry', '--run-0', true]])
        expect(linesOf({ id: 't', of: ['a', 'b'] }, [base], elements).map((l) => l.name)).toEqual(['a', 'b'])
    })

    it('have a look each in the fixed order, and no two the same', () => {
        const looks = Array.from({ length: 8 }, (_, i) => lookOf(i))
        expect(new Set(looks.map((l) => l.colour)).size).toBe(8)
        expect(new Set(looks.map((l) => l.dash.join())).size).toBe(8)
    })

    it('show what stays the same, and nothing where a run has no value', () => {
        const all = things(aThing('p', { kind: 'parameter' }), aThing('x'))
        expect([...linesOf({ id: 't', of: ['p'] }, [base], all)[0]?.values ?? []]).toEqual([3, 3, 3])
        expect(linesOf({ id: 't', of: ['x'] }, [base], all)).toEqual([])
    })

    it('are shares of the range over all runs, or per cent of their own start', () => {
        const shares = linesOf({ id: 't', of: ['a'], options: { measure: 'normalised' } }, [base, kept], elements)
        expect(shares.map((l) => [...l.values])).toEqual([[0, 0.5, 0.25], [0.05, 1, 0.25]])
        const percent = linesOf({ id: 't', of: ['b'], options: { measure: 'percent' } }, [base], elements)
        expect([...percent[0]?.values ?? []]).toEqual([100, 200, 400])
        expect(linesOf({ id: 't', of: ['a'], options: { measure: 'percent' } }, [base], elements)[0]?.values[1]).toBeNaN()
        expect(percent[0]?.unit).toBe('%')
    })

    it('stand on each other when they are stacked, in the run of the day', () => {
        const stacked = linesOf({ id: 't', of: ['a', 'b'], options: { stacked: true } }, [base, kept], elements)
        expect(stacked.map((l) => [...l.values])).toEqual([[0, 10, 5], [2, 14, 13]])
    })
})

describe('the scale of a plot', () => {
    const lines = linesOf({ id: 't', of: ['a'] }, [base, kept], elements)

    it('has zero in sight, round ends, and what is fixed', () => {
        expect(scaleOf(lines, {})).toMatchObject({ low: 0, high: 20, log: false })
        expect(scaleOf(lines, { low: 4, high: 40 })).toEqual({ low: 4, high: 40, log: false })
        expect(scaleOf([], {})).toEqual({ low: 0, high: 1, log: false })
        expect(scaleOf(lines, { low: 50 }).high).toBeGreaterThan(50)
    })

    it('runs over whole powers of ten when it is logarithmic', () => {
        const scale = scaleOf(lines, { log: true })
        expect(scale).toEqual({ low: 1, high: 100, log: true })
        expect(share(scale, 10)).toBeCloseTo(0.5, 12)
        expect(share(scale, 0)).toBeNaN()
    })
})

describe('reading a plot', () => {
    const [line] = linesOf({ id: 't', of: ['a'] }, [base], elements)

    it('gives the value between moments in proportion, and none beyond the ends', () => {
        expect([0, 0.5, 1.5, 2].map((t) => line && valueAt(line, t))).toEqual([0, 5, 7.5, 5])
        expect([-1, 2.5].map((t) => line && valueAt(line, t))).toEqual([undefined, undefined])
    })

    it('finds the line under the pointer, within reach', () => {
        const lines = linesOf({ id: 't', of: ['a'] }, [base, kept], elements)
        const scales = lines.map(() => scaleOf(lines, {}))
        expect(nearest(lines, scales, 1, 0, 100)?.name).toBe('Dry')
        expect(nearest(lines, scales, 1, 52, 100)?.name).toBe('baseline')
        expect(nearest(lines, scales, 1, 30, 100)).toBeUndefined()
    })

    it('pushes names apart and keeps them inside', () => {
        for (const wanted of [[10, 11, 12], [95, 96, 97, 98], [0, 50, 100], [50], []]) {
            const placed = apart(wanted, 14, 100)
            const sorted = [...placed].sort((a, b) => a - b)
            sorted.slice(1).forEach((y, i) => { expect(y - (sorted[i] ?? 0)).toBeGreaterThanOrEqual(14) })
            expect(Math.max(0, ...placed)).toBeLessThanOrEqual(100)
        }
        expect(apart([0, 50, 100], 14, 100)).toEqual([0, 50, 100])
    })

    it('paints a peak that lies between two moments', () => {
        const drawn: [number, number][] = []
        const context = { clearRect: vi.fn(), beginPath: vi.fn(), moveTo: (x: number, y: number) => drawn.push([x, y]), lineTo: (x: number, y: number) => drawn.push([x, y]), stroke: vi.fn(), setLineDash: vi.fn(), fill: vi.fn() } as unknown as CanvasRenderingContext2D
        const coarse = aCourse(aRun({ a: [0, 0] }, { coarse: true, lows: new Map([['a', Float64Array.from([0, 0])]]), highs: new Map([['a', Float64Array.from([10, 0])]]) }))
        const lines = linesOf({ id: 't', of: ['a'] }, [coarse], elements)
        paint(context, 100, 50, lines, [scaleOf(lines, {})], 0, 1, () => '#000')
        expect(Math.min(...drawn.map(([, y]) => y))).toBe(0)
        expect(lines.flatMap(pairs).map(([, v]) => v)).toEqual([0, 0, 10, 0, 0, 0])
    })
})

describe('plots of other kinds', () => {
    const setting = { height: 400, time: { start: 0, end: 2, unit: 'day' }, playhead: 1, colour: (t: string) => t, title: 'T <b>', source: 'S' }
    const series = (options: unknown) => (options as { series: { type: string, data: unknown[], name?: string }[] }).series

    it('put one variable against another, with a dot at the playhead', () => {
        const all = series(optionsOf({ id: 'p', of: ['a', 'b'], kind: 'phase' }, [base], elements, setting))
        const dot = all.find((s) => s.type === 'scatter')
        expect(dot?.data).toEqual([[10, 4]])
        const path = all.filter((s) => s.type === 'line').flatMap((s) => s.data as number[][])
        expect(path).toContainEqual([0, 2, 0])
        expect(path).toContainEqual([5, 8, 2])
    })

    it('put bars at chosen times, for every run', () => {
        const all = series(optionsOf({ id: 'p', of: ['a'], kind: 'bars', options: { times: [0, 1] } }, [base, kept], elements, setting))
        expect(all.map((s) => s.data)).toEqual([[0, 10], [1, 20]])
        expect(series(optionsOf({ id: 'p', of: ['a'], kind: 'bars' }, [base], elements, setting))[0]?.data).toEqual([5])
    })

    it('count how often a variable was where', () => {
        const [line] = linesOf({ id: 't', of: ['a'] }, [aCourse(aRun({ a: [0, 1, 1, 9, 10, NaN] }))], elements)
        expect(line && histogramOf(line, 0, 10, 5).map((n) => Math.round(n * 6 / 100))).toEqual([3, 0, 0, 0, 2])
        expect(series(optionsOf({ id: 'p', of: ['a'], kind: 'histogram' }, [base], elements, setting))).toHaveLength(1)
    })

    it('give each run a small plot of its own, on one scale', () => {
        const options = optionsOf({ id: 'p', of: ['a'], kind: 'multiples' }, [base, kept], elements, setting) as { grid: unknown[], yAxis: { max: number }[] }
        expect(options.grid).toHaveLength(2)
        expect(options.yAxis.map((y) => y.max)).toEqual([20, 20])
    })

    it('draw lines over time with scales of their own where that is wished', () => {
        const options = optionsOf({ id: 'p', of: ['a', 'b'], options: { own: true } }, [base], elements, setting) as { yAxis: { name: string }[] }
        expect(options.yAxis.map((y) => y.name)).toEqual(['a (t)', 'b (person)'])
    })
})

describe('tables that leave', () => {
    it('quote what needs it and let no spreadsheet take text for a formula', () => {
        expect(asCsv([['a, "b"', 'x'], [1.5, null], ['=cmd()', '-5']])).toBe('"a, ""b""",x\r\n1.5,\r\n\'=cmd(),\'-5\r\n')
        expect(asTabs([['a\tb', 2], [null, 'x']])).toBe('a b\t2\n\tx')
    })
})
