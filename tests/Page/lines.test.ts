import { describe, expect, it, vi } from 'vitest'
import { asCsv, asTabs } from '@/ui/download'
import { apart, endNames } from '@/charts/endNames'
import { binsOf, sharesOf } from '@/charts/histogram'
import { growth, linesOf, lookOf, nearest, paint, valueAt } from '@/charts/lines'
import { outlineOf } from '@/charts/barPlots'
import { optionsOf } from '@/charts/options'
import { phasePaths } from '@/charts/phasePlot'
import { pairs } from '@/charts/plotParts'
import { columnHead, longOf, rowsOf } from '@/charts/rows'
import { limitsOf, scaleFor, scaleOf, share, ticksOf, unseen } from '@/charts/scale'
import { axisWords, titleOf } from '@/charts/words'
import { tickWords } from '@/ui/numbers'
import { aCourse, aRun, aThing, things } from './make'

const elements = things(aThing('a', { unit: 't' }), aThing('b', { unit: 'person' }), aThing('k', { kind: 'curve' }))
const base = aCourse(aRun({ a: [0, 10, 5], b: [2, 4, 8] }, { steady: { p: 3 } }))
const kept = aCourse(aRun({ a: [1, 20, 5], b: [1, 1, 1] }), { key: 'kept:1', name: 'Dry', look: 2, main: false })

describe('the lines of a plot', () => {
    it('tell runs by hue and dash with one variable, and variables by hue with several', () => {
        const one = linesOf({ id: 't', of: ['a'] }, [base, kept], elements)
        expect(one.map((l) => [l.name, l.colour, l.dash.length > 0])).toEqual([
            ['baseline', '--ink', false],
            ['Dry', '--run-2', true],
        ])
        const several = linesOf({ id: 't', of: ['a', 'b', 'k', 'gone'] }, [base, kept], elements)
        expect(several.map((l) => [l.name, l.colour, l.dash.length > 0])).toEqual([
            ['a, baseline', '--ink', false],
            ['a, Dry', '--ink', true],
            ['b, baseline', '--run-0', false],
            ['b, Dry', '--run-0', true],
        ])
        expect(linesOf({ id: 't', of: ['a', 'b'] }, [base], elements).map((l) => l.name)).toEqual(['a', 'b'])
    })

    it('tell the elements of a thing along its dimensions apart, each with a line of its own', () => {
        const parts = [
            { key: 'a[x]', name: 'north' },
            { key: 'a[y]', name: 'south' },
        ]
        const along = things(aThing('a', { along: { over: ['terrace'], dimensions: ['terrace'], size: 2, parts } }), aThing('b'))
        const runs = [aCourse(aRun({ 'a[x]': [1, 2], 'a[y]': [3, 4], b: [5, 6] }))]
        expect(linesOf({ id: 't', of: ['a'] }, runs, along).map((l) => [l.element, l.name, l.brief, l.colour, [...l.values]])).toEqual([
            ['a', 'a, north', 'north', '--ink', [1, 2]],
            ['a', 'a, south', 'south', '--run-0', [3, 4]],
        ])
        expect(linesOf({ id: 't', of: ['a', 'b'] }, runs, along).map((l) => l.brief)).toEqual(['a, north', 'a, south', 'b'])
        // So do the columns of what is exported, and a title that does not show all of them says so.
        const plot = { id: 't', of: ['a'] }
        expect(rowsOf({ plot, courses: runs, elements: along, unit: 'day' })[0]?.slice(1)).toEqual(['a, north', 'a, south'])
        const many = aThing('a', { along: { over: ['terrace'], dimensions: ['terrace'], size: 30, parts } })
        expect(titleOf(plot, [many], 'day')).toContain('a (first 2 of 30)')
        // A table and a heat map show all of them, and do not say otherwise.
        for (const kind of ['table', 'heat'] as const) {
            expect(titleOf({ ...plot, kind }, [many], 'day')).toBe('a')
        }
    })

    it('are called by their symbol where it is narrow, else by their name', () => {
        const signed = things(aThing('a', { symbol: '\\alpha', sign: 'α' }), aThing('b', { symbol: '', sign: '' }))
        expect(linesOf({ id: 't', of: ['a', 'b'] }, [base], signed).map((l) => [l.name, l.brief])).toEqual([
            ['a', 'α'],
            ['b', 'b'],
        ])
    })

    it('have a look each in the fixed order, and no two the same', () => {
        const looks = Array.from({ length: 8 }, (_, i) => lookOf(i))
        expect(new Set(looks.map((l) => l.colour)).size).toBe(8)
        expect(new Set(looks.map((l) => l.dash.join())).size).toBe(8)
    })

    it('show what stays the same, and nothing where a run has no value', () => {
        const all = things(aThing('p', { kind: 'parameter' }), aThing('x'))
        expect([...(linesOf({ id: 't', of: ['p'] }, [base], all)[0]?.values ?? [])]).toEqual([3, 3, 3])
        expect(linesOf({ id: 't', of: ['x'] }, [base], all)).toEqual([])
    })

    it('are shares of the range over all runs, or per cent of their own start', () => {
        const shares = linesOf({ id: 't', of: ['a'], options: { measure: 'normalised' } }, [base, kept], elements)
        expect(shares.map((l) => [...l.values])).toEqual([
            [0, 0.5, 0.25],
            [0.05, 1, 0.25],
        ])
        const percent = linesOf({ id: 't', of: ['b'], options: { measure: 'percent' } }, [base], elements)
        expect([...(percent[0]?.values ?? [])]).toEqual([1, 2, 4])
        expect(linesOf({ id: 't', of: ['a'], options: { measure: 'percent' } }, [base], elements)[0]?.values[1]).toBeNaN()
        expect(percent[0]?.unit).toBe('%')
    })

    it('grow as an exponential does: by its rate all along, and nowhere where they change their sign', () => {
        const times = [0, 0.5, 1, 2, 4]
        const debt = times.map((t) => -80 * Math.exp(0.07 * t))
        expect([...growth(times, debt)].map((g) => Number(g.toFixed(12)))).toEqual([0.07, 0.07, 0.07, 0.07, 0.07])
        expect([...growth([0, 1, 2], [3, -1, -2])]).toEqual([NaN, NaN, Math.LN2])
        const told = linesOf({ id: 't', of: ['b'], options: { measure: 'growth' } }, [base], elements)[0]
        expect([told?.unit, told?.lows]).toEqual(['%', undefined])
    })

    it('stand on each other when they are stacked, in the run of the day', () => {
        const stacked = linesOf({ id: 't', of: ['a', 'b'], options: { stacked: true } }, [base, kept], elements)
        expect(stacked.map((l) => [...l.values])).toEqual([
            [0, 10, 5],
            [2, 14, 13],
        ])
    })
})

describe('the scale of a plot', () => {
    const lines = linesOf({ id: 't', of: ['a'] }, [base, kept], elements)

    it('has zero in sight, round ends, and what is fixed', () => {
        expect(scaleOf(lines, { zero: true })).toMatchObject({ low: 0, high: 20, step: 5, log: false })
        expect(scaleOf(lines, { zero: true, low: 4, high: 40 })).toMatchObject({ low: 4, high: 40, log: false })
        expect(scaleOf([], { zero: true })).toMatchObject({ low: 0, high: 1, log: false })
        expect(scaleOf(lines, { zero: true, low: 50 }).high).toBeGreaterThan(50)
        expect(limitsOf({ fit: true })).toMatchObject({ zero: false })
    })

    it('fits what is shown where that is wished, at round numbers', () => {
        const near = [1003, 1007].map((v) => scaleFor([v - 3, v + 1], { zero: false }))
        for (const { low, high, step } of near) {
            expect(high - low).toBeLessThan(12)
            expect([low / step, high / step].every((k) => Math.abs(k - Math.round(k)) < 1e-9)).toBe(true)
        }
    })

    it('opens nothing for what is only rounding, and has room for what stays the same', () => {
        expect(scaleFor([-4e-8, 1000], { zero: true })).toMatchObject({ low: 0, high: 1000 })
        for (const v of [0, 5, -3, 1e-12, 1e15]) {
            const { low, high } = scaleFor([v, v], { zero: false })
            expect(low).toBeLessThan(high)
            expect(v >= low && v <= high).toBe(true)
        }
    })

    it('has round numbers that are told apart, whatever its range', () => {
        for (let i = 0; i < 400; i++) {
            const low = ((i % 7) - 3) * 10 ** ((i % 25) - 12)
            const high = low + 1.7 ** (i % 31) * 10 ** ((i % 19) - 9)
            const scale = scaleFor([low, high], { zero: i % 2 === 0 })
            const ticks = ticksOf(scale)
            for (const unit of ['', '%', 'kg', 'year', 'person']) {
                const words = tickWords(ticks, unit)
                expect(new Set(words).size, `${words.join(' ')} for ${low} to ${high} ${unit}`).toBe(words.length)
            }
        }
    })

    it('runs over whole powers of ten when it is logarithmic, and not into rounding', () => {
        const scale = scaleOf(lines, { zero: true, log: true })
        expect(scale).toMatchObject({ low: 1, high: 100, log: true })
        expect(share(scale, 10)).toBeCloseTo(0.5, 12)
        expect(share(scale, 0)).toBeNaN()
        const noisy = linesOf({ id: 't', of: ['a'] }, [aCourse(aRun({ a: [1e-16, 0, -2, 0.5, 80] }))], elements)
        const floor = scaleOf(noisy, { zero: true, log: true })
        expect([floor.low, floor.high]).toEqual([0.1, 100])
        expect(unseen(noisy, floor)).toEqual({ notPositive: 2, below: 1 })
        expect(ticksOf(floor)).toEqual([0.1, 1, 10, 100].map((v) => expect.closeTo(v, 12)))
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
        const scales = lines.map(() => scaleOf(lines, { zero: true }))
        expect(nearest(lines, scales, 1, 0, 100)?.name).toBe('Dry')
        expect(nearest(lines, scales, 1, 52, 100)?.name).toBe('baseline')
        expect(nearest(lines, scales, 1, 30, 100)).toBeUndefined()
    })

    it('pushes names apart and keeps them inside', () => {
        for (const wanted of [[10, 11, 12], [95, 96, 97, 98], [0, 50, 100], [50], []]) {
            const placed = apart(wanted, 14, 100)
            const sorted = [...placed].sort((a, b) => a - b)
            sorted.slice(1).forEach((y, i) => {
                expect(y - (sorted[i] ?? 0)).toBeGreaterThanOrEqual(14)
            })
            expect(Math.max(0, ...placed)).toBeLessThanOrEqual(100)
        }
        expect(apart([0, 50, 100], 14, 100)).toEqual([0, 50, 100])
    })

    it('names lines that lie on each other once, none over another, and counts those without room', () => {
        const run = aRun({ a: [0, 10, 5], b: [0, 10, 5.0001] })
        const same = aCourse(run, { key: 'scenario:s', name: 'A price', look: 1, main: false })
        const all = linesOf({ id: 't', of: ['a'] }, [base, same, kept], elements)
        const scales = all.map(() => scaleOf(all, { zero: true }))
        const { names, rest } = endNames(all, scales, { height: 100, gap: 14, most: 9, from: 0, to: 2 })
        expect(names.map((n) => n.words)).toEqual(['baseline = A price', 'Dry'])
        expect(Math.abs((names[0]?.y ?? 0) - (names[1]?.y ?? 0))).toBeGreaterThanOrEqual(14)
        expect(rest).toEqual([])
        const many = Array.from({ length: 12 }, (_, i) =>
            aCourse(aRun({ a: [i, 2 * i, 3 * i] }), { key: `r${i}`, name: `Run ${i}`, look: i % 8, main: i === 0 }),
        )
        const lines = linesOf({ id: 't', of: ['a'] }, many, elements)
        const few = endNames(
            lines,
            lines.map(() => scaleOf(lines, { zero: true })),
            { height: 60, gap: 14, most: 4, from: 0, to: 2 },
        )
        expect([few.names.length, few.rest.length]).toEqual([3, 9])
        expect(few.names.map((n) => n.words)).toContain('Run 0')
    })

    it('says a constant once for all runs', () => {
        const all = things(aThing('p', { kind: 'parameter' }))
        const lines = linesOf(
            { id: 't', of: ['p'] },
            [
                aCourse(aRun({ a: [1, 1] }, { steady: { p: 3 } })),
                aCourse(aRun({ a: [1, 1] }, { steady: { p: 3 } }), { key: 'x', name: 'Dry', main: false, look: 0 }),
            ],
            all,
        )
        expect(
            endNames(
                lines,
                lines.map(() => scaleOf(lines, { zero: true })),
                { height: 80, gap: 14, most: 5, from: 0, to: 1 },
            ).names.map((n) => n.words),
        ).toEqual(['baseline = Dry'])
    })

    it('paints a peak that lies between two moments', () => {
        const drawn: [number, number][] = []
        const context = {
            clearRect: vi.fn(),
            beginPath: vi.fn(),
            moveTo: (x: number, y: number) => drawn.push([x, y]),
            lineTo: (x: number, y: number) => drawn.push([x, y]),
            stroke: vi.fn(),
            setLineDash: vi.fn(),
            fill: vi.fn(),
        } as unknown as CanvasRenderingContext2D
        const coarse = aCourse(
            aRun(
                { a: [0, 0] },
                { coarse: true, lows: new Map([['a', Float64Array.from([0, 0])]]), highs: new Map([['a', Float64Array.from([10, 0])]]) },
            ),
        )
        const lines = linesOf({ id: 't', of: ['a'] }, [coarse], elements)
        paint(context, 100, 50, lines, [scaleOf(lines, { zero: true })], 0, 1, () => '#000')
        expect(Math.min(...drawn.map(([, y]) => y))).toBe(0)
        expect(lines.flatMap(pairs).map(([, v]) => v)).toEqual([0, 0, 10, 0, 0, 0])
    })
})

describe('plots of other kinds', () => {
    const setting = {
        width: 800,
        height: 400,
        time: { start: 0, end: 2, unit: 'day' },
        playhead: 1,
        colour: (t: string) => t,
        title: 'T <b>',
        source: 'S',
        marks: [{ time: 0, words: '0' }],
        moment: (t: number) => `day ${t}`,
    }
    const series = (options: unknown) => (options as { series: { type: string; data: unknown[]; name?: string }[] }).series

    it('is in per cent of the start where that is asked for, on both axes', () => {
        const plot = { id: 'p', of: ['b', 'b'], kind: 'phase' as const, options: { measure: 'percent' as const } }
        expect(phasePaths(plot, [base], elements).paths[0]?.points.map(([x, y]) => [x, y])).toEqual([
            [1, 1],
            [2, 2],
            [4, 4],
        ])
        expect(titleOf(plot, [aThing('kelp'), aThing('urchins')], 'year')).toBe('urchins against kelp, per cent of the start')
    })

    it('put one variable against another, each axis fitted, with a dot at the playhead', () => {
        const options = optionsOf({ id: 'p', of: ['a', 'b'], kind: 'phase' }, [base], elements, setting) as {
            xAxis: { min: number; max: number; name: string }
            yAxis: { min: number; max: number; name: string }
        }
        const all = series(options)
        expect(all.find((s) => s.type === 'scatter' && JSON.stringify(s.data) === '[[10,4]]')).toBeDefined()
        expect(all.find((s) => s.type === 'line')?.data).toEqual([
            [0, 2, 0],
            [10, 4, 1],
            [5, 8, 2],
        ])
        expect([options.yAxis.min, options.yAxis.max, options.yAxis.name, options.xAxis.name]).toEqual([2, 8, 'b (person)', 'a (t)'])
        const { paths, x } = phasePaths(
            { id: 'p', of: ['a', 'b'], kind: 'phase', options: { 'across-low': -10, 'across-high': 30 } },
            [base, kept],
            elements,
        )
        expect([x.low, x.high, paths.length]).toEqual([-10, 30, 2])
        expect(new Set(paths.map((p) => p.colour)).size).toBe(2)
    })

    it('put bars at chosen times, for every run', () => {
        const all = series(optionsOf({ id: 'p', of: ['a'], kind: 'bars', options: { times: [0, 1] } }, [base, kept], elements, setting))
        expect(all.map((s) => s.data)).toEqual([
            [0, 10],
            [1, 20],
        ])
        expect(series(optionsOf({ id: 'p', of: ['a'], kind: 'bars' }, [base], elements, setting))[0]?.data).toEqual([5])
    })

    it('count how much of the time a variable was where, between round edges', () => {
        const [line] = linesOf({ id: 't', of: ['a'] }, [aCourse(aRun({ a: [0, 1, 1, 9, 10, NaN] }))], elements)
        expect(line && sharesOf(line, [0, 2, 4, 6, 8, 10]).map((n) => Math.round(n * 6))).toEqual([3, 0, 0, 0, 2])
        const bins = binsOf(line ? [line] : [], {})
        expect(bins.edges.slice(0, 3)).toEqual([0, 0.5, 1])
        expect(binsOf(line ? [line] : [], { bins: 5 }).edges).toEqual([0, 2, 4, 6, 8, 10])
        expect(outlineOf({ edges: [0, 2, 4], step: 1, shares: [] }, [0.5, 0.25])).toEqual([
            [0, 0],
            [0, 0.5],
            [2, 0.5],
            [2, 0.25],
            [4, 0.25],
            [4, 0],
        ])
        expect(series(optionsOf({ id: 'p', of: ['a'], kind: 'histogram' }, [base, kept], elements, setting)).map((s) => s.type)).toEqual([
            'line',
            'line',
        ])
    })

    it('give each run a small plot of its own, on one scale', () => {
        const options = optionsOf({ id: 'p', of: ['a'], kind: 'multiples' }, [base, kept], elements, setting) as {
            grid: unknown[]
            yAxis: { max: number }[]
        }
        expect(options.grid).toHaveLength(2)
        expect(options.yAxis.map((y) => y.max)).toEqual([20, 20])
    })

    it('give each variable or element one of its own, in which the hue tells the run', () => {
        const options = optionsOf(
            { id: 'p', of: ['a', 'b'], kind: 'multiples', options: { each: true } },
            [base, kept],
            elements,
            setting,
        ) as {
            grid: unknown[]
            title: { text: string }[]
            series: { xAxisIndex: number; lineStyle: { color: string } }[]
        }
        expect(options.grid).toHaveLength(2)
        expect(options.title.map((t) => t.text).slice(-2)).toEqual(['a', 'b'])
        const ofFirst = options.series.filter((s) => s.xAxisIndex === 0)
        expect(ofFirst).toHaveLength(2)
        expect(new Set(ofFirst.map((s) => s.lineStyle.color)).size).toBe(2)
    })

    it('draw lines over time with axes of their own where that is wished, each with its measure and unit', () => {
        const names = (options: object) =>
            (optionsOf({ id: 'p', of: ['a', 'b'], options }, [base], elements, setting) as { yAxis: { name: string }[] }).yAxis.map(
                (y) => y.name,
            )
        expect(names({ own: true })).toEqual(['a, t', 'b, person'])
        expect(names({})).toEqual(['t · person'])
        expect(names({ measure: 'difference' })).toEqual(['difference, t · difference, person'])
        expect(names({ measure: 'percent' })).toEqual(['% of the start'])
    })

    it('have lines, bands and shaded times where they are told, with plain values only', () => {
        const options = {
            marks: [{ at: 45, name: 'harmful' }, { at: 2, to: 4 }, { at: 'b' }],
            periods: [{ from: 0, until: 1, name: 'drought' }],
        }
        const made = optionsOf({ id: 'p', of: ['a'], options }, [base], elements, setting) as {
            yAxis: { max: number }[]
            series: { id: string; markLine?: { data: { yAxis?: number }[] }; markArea?: { data: unknown[] } }[]
        }
        expect(made.series[0]?.markLine?.data.some((d) => d.yAxis === 45)).toBe(true)
        expect(made.series[0]?.markArea?.data).toHaveLength(2)
        expect(made.yAxis[0]?.max).toBeGreaterThanOrEqual(45)
        expect(made.series.map((s) => s.id)).toContain('mark 2 b')
        const measured = optionsOf(
            { id: 'p', of: ['a'], options: { ...options, measure: 'percent' } },
            [base],
            elements,
            setting,
        ) as typeof made
        expect(measured.series[0]?.markLine?.data.some((d) => d.yAxis === 45)).toBe(false)
    })
})

describe('what a plot says of itself', () => {
    it('names its measure in title and axis', () => {
        expect(titleOf({ id: 'p', of: ['a'], options: { measure: 'difference' } }, [aThing('kelp')], 'year')).toBe(
            'kelp: difference from the baseline',
        )
        expect(titleOf({ id: 'p', of: ['a'], kind: 'histogram' }, [aThing('kelp')], 'year')).toContain('how much of the time')
        expect(titleOf({ id: 'p', of: ['a', 'b'], kind: 'phase' }, [aThing('kelp'), aThing('urchins')], 'year')).toBe(
            'urchins against kelp',
        )
        expect([axisWords('t', 'difference'), axisWords('%', 'difference'), axisWords('t', undefined), axisWords('1', undefined)]).toEqual([
            'difference, t',
            'difference, % points',
            't',
            'a plain number',
        ])
    })

    it('exports what it shows: measured values, pairs, classes', () => {
        const from = { courses: [base, kept], elements: things(aThing('a', { unit: 't' }), aThing('b', { unit: '%' })), unit: 'day' }
        expect(rowsOf({ ...from, plot: { id: 'p', of: ['a'], options: { measure: 'percent' } } })[0]).toEqual([
            'day',
            'a (%), per cent of the start, baseline',
            'a (%), per cent of the start, Dry',
        ])
        expect(rowsOf({ ...from, plot: { id: 'p', of: ['a'], options: { measure: 'percent' } } })[2]).toEqual([1, null, 2000])
        expect(rowsOf({ ...from, plot: { id: 'p', of: ['b'] } }).slice(0, 2)).toEqual([
            ['day', 'b (%), baseline', 'b (%), Dry'],
            [0, 200, 100],
        ])
        const pairs = rowsOf({ ...from, plot: { id: 'p', of: ['a', 'b'], kind: 'phase' } })
        expect(pairs[0]).toEqual(['run', 'day', 'a (t)', 'b (%)'])
        expect(pairs[1]).toEqual(['baseline', 0, 0, 200])
        const bins = rowsOf({ ...from, plot: { id: 'p', of: ['a'], kind: 'histogram' } })
        expect(bins[0]?.slice(0, 3)).toEqual(['from (t)', 'to (t)', '% of the time, a (t), baseline'])
        expect(bins.slice(1).reduce((sum, row) => sum + Number(row[2]), 0)).toBeCloseTo(100, 9)
        const [line] = linesOf({ id: 'p', of: ['a'] }, [base], elements)
        expect(line && columnHead(line, { plot: { id: 'p', of: ['a'] }, courses: [base] })).toBe('a (t)')
    })
})

describe('tables that leave', () => {
    it('quote what needs it and let no spreadsheet take text for a formula', () => {
        expect(
            asCsv([
                ['a, "b"', 'x'],
                [1.5, null],
                ['=cmd()', '-5'],
            ]),
        ).toBe('"a, ""b""",x\r\n1.5,\r\n\'=cmd(),\'-5\r\n')
        expect(
            asTabs([
                ['a\tb', 2],
                [null, 'x'],
            ]),
        ).toBe('a b\t2\n\tx')
    })
})

it('values may have a row for each, and gaps have none', () => {
    expect(
        longOf([
            ['year', 'kelp (t), baseline', 'kelp (t), measured'],
            [0, 5, null],
            [1, 6, 0],
        ]),
    ).toEqual([
        ['year', 'series', 'value'],
        [0, 'kelp (t), baseline', 5],
        [1, 'kelp (t), baseline', 6],
        [1, 'kelp (t), measured', 0],
    ])
})
