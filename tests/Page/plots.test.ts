import { describe, expect, it } from 'vitest'
import type { Plot } from '@/api/types'
import { across } from '@/charts/acrossPlot'
import { multiples, over, scaledLines } from '@/charts/overTimePlot'
import type { PlotFrame } from '@/charts/plotParts'
import { aCourse, aRun, aThing, things } from './make'

/** What a drawing library is asked to draw: whether a plot says all that it shows. */
const frame: PlotFrame = {
    width: 800,
    height: 400,
    time: { start: 0, end: 4, unit: 'month' },
    playhead: 1.5,
    colour: (token) => token,
    marks: [
        { time: 0, words: '0' },
        { time: 2, words: '2' },
        { time: 4, words: '4' },
    ],
    moment: (time) => `month ${time}`,
}
const elements = things(
    aThing('kelp', { kind: 'stock', name: 'kelp', unit: 't' }),
    aThing('urchins', { kind: 'stock', name: 'urchins', unit: 'thousand' }),
    aThing('share', { name: 'share', unit: '' }),
)
const baseline = aCourse(aRun({ kelp: [10, 40, 20, 30, 25], urchins: [1, 2, 3, 4, 5], share: [0.1, 0.2, 0.3, 0.4, 0.5] }))
const dry = aCourse(aRun({ kelp: [10, 20, 90, 30, 20], urchins: [1, 1, 1, 1, 1], share: [0.1, 0.1, 0.1, 0.1, 0.1] }), {
    key: 'kept:1',
    name: 'Dry',
    look: 2,
    main: false,
})
const plot = (of: string[], options: Plot['options'] = {}): Plot => ({ id: 'p', of, options })

interface Axis {
    name?: string
    min: number
    max: number
    gridIndex?: number
    position?: string
}
interface Drawn {
    xAxis: Axis | Axis[]
    yAxis: Axis[]
    series: {
        id?: string
        name?: string
        type: string
        yAxisIndex?: number
        lineStyle?: { color: string; type?: unknown }
        markLine?: { data: Record<string, unknown>[] }
        markArea?: { data: unknown[][] }
    }[]
    title?: { text: string }[] | { text: string }
    graphic: { style: { text: string } }[]
}
const draw = (of: string[], options: Plot['options'] = {}, more: Partial<PlotFrame> = {}, courses = [baseline, dry]) =>
    over(plot(of, options), courses, elements, { ...frame, ...more }) as unknown as Drawn
const named = (d: Drawn) => d.series.filter((s) => s.name).map((s) => s.name)

describe('a plot over time', () => {
    it('names each run, its axis has the unit, and its scale holds all of them', () => {
        const drawn = draw(['kelp'])
        expect(named(drawn)).toEqual(['baseline', 'Dry'])
        expect(drawn.yAxis).toHaveLength(1)
        expect(drawn.yAxis[0]?.name).toBe('t')
        expect(drawn.yAxis[0]?.min).toBeLessThanOrEqual(10)
        expect(drawn.yAxis[0]?.max).toBeGreaterThanOrEqual(90)
        expect(drawn.xAxis).toMatchObject({ min: 0, max: 4 })
    })
    it('says both units where two are on one axis, and that there is none yet', () => {
        expect(draw(['kelp', 'urchins']).yAxis[0]?.name).toBe('t · thousand')
        expect(draw(['share']).yAxis[0]?.name).toMatch(/no unit yet|plain number/)
        expect(draw(['gone']).yAxis[0]?.name ?? '').toBe('')
    })
    it('gives each variable an axis of its own, with its name and unit, and scales it by itself', () => {
        const drawn = draw(['kelp', 'urchins'], { own: true })
        expect(drawn.yAxis.map((a) => [a.name, a.position])).toEqual([
            ['kelp, t', 'left'],
            ['urchins, thousand', 'right'],
        ])
        expect(drawn.yAxis[1]?.max).toBeLessThan(20)
        const lines = drawn.series.filter((s) => s.name)
        expect(lines.map((s) => [s.name, s.yAxisIndex])).toEqual([
            ['kelp, baseline', 0],
            ['kelp, Dry', 0],
            ['urchins, baseline', 1],
            ['urchins, Dry', 1],
        ])
        const { axes } = scaledLines(plot(['kelp', 'urchins'], { own: true }), [baseline], elements)
        expect(axes.map((a) => a.element)).toEqual(['kelp', 'urchins'])
    })
    it('shows the stretch of time that is asked for, and the playhead', () => {
        const drawn = draw(['kelp'], { from: 1, to: 3 })
        expect(drawn.xAxis).toMatchObject({ min: 1, max: 3 })
        expect(drawn.series.flatMap((s) => s.markLine?.data ?? [])).toContainEqual(expect.objectContaining({ xAxis: 1.5 }))
    })
    it('alone on a page it has its title, the names of its lines and its source', () => {
        const drawn = draw(['kelp'], {}, { title: 'Kelp over five years', source: 'Kelp and urchins, revision 3' })
        const words = drawn.graphic.map((g) => g.style.text)
        expect(drawn.title).toMatchObject({ text: 'Kelp over five years' })
        expect(words).toEqual(expect.arrayContaining(['Kelp and urchins, revision 3', 'baseline', 'Dry']))
        expect(draw(['kelp']).graphic).toEqual([])
    })
})

describe('small plots side by side', () => {
    const drawn = (options: Plot['options'], courses = [baseline, dry], of = ['kelp', 'urchins']) =>
        multiples(plot(of, options), courses, elements, frame) as unknown as Drawn
    it('are one for each run, all on one scale, the unit at the left ones', () => {
        const each = drawn({})
        const titles = (each.title as { text: string }[]).map((t) => t.text)
        expect(titles).toEqual(['baseline', 'Dry'])
        expect(new Set(each.yAxis.map((a) => `${a.min} ${a.max}`)).size).toBe(1)
        expect(each.yAxis.map((a) => a.name)).toEqual(['t · thousand', ''])
        expect((each.xAxis as Axis[]).map((a) => a.name)).toEqual(['month', 'month'])
    })
    it('or one for each variable, where the hue tells the run', () => {
        const each = drawn({ each: true })
        expect((each.title as { text: string }[]).map((t) => t.text)).toEqual(['kelp', 'urchins'])
        const colours = each.series.filter((s) => s.name).map((s) => s.lineStyle?.color)
        expect(new Set(colours)).toEqual(new Set(['--ink', '--run-2']))
    })
    it('lie in rows that fit, up to twelve runs', () => {
        const many = Array.from({ length: 12 }, (_, i) => ({ ...dry, key: `kept:${i}`, name: `Run ${i}`, look: i }))
        const each = drawn({}, many, ['kelp']) as unknown as Drawn & { grid: { left: string; top: number; height: number }[] }
        expect(each.grid).toHaveLength(12)
        expect(new Set(each.grid.map((g) => g.left)).size).toBe(4)
        for (const g of each.grid) {
            expect(g.height).toBeGreaterThan(20)
            expect(g.top + g.height).toBeLessThanOrEqual(400)
        }
    })
})

describe('what lies across a plot', () => {
    it('is a line with its name at a number, a band between two, whichever is first, and shaded times', () => {
        const bands = [
            { name: 'enough', at: 30 },
            { name: 'wanted', at: 60, to: 40 },
        ] as never
        const drawn = across(frame, bands, [{ from: 1, until: 2, name: 'storm' }], false)
        expect(drawn.markLine.data).toMatchObject([{ yAxis: 30, label: { formatter: 'enough', show: true } }])
        const [band, period] = drawn.markArea.data as Record<string, unknown>[][]
        expect([band?.[0]?.yAxis, band?.[1]?.yAxis, band?.[0]?.name]).toEqual([40, 60, 'wanted'])
        expect([period?.[0]?.xAxis, period?.[1]?.xAxis, period?.[0]?.name]).toEqual([1, 2, 'storm'])
    })
    it('has no label where there are no words', () => {
        const drawn = across(frame, [{ name: '', at: 3 }] as never, [], true)
        expect(drawn.markLine.data.map((d) => (d.label as { show: boolean }).show)).toEqual([false, false])
    })
})
