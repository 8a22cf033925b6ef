import { describe, expect, test } from 'vitest'
import { heightAt, heightWords, courseWords } from '@/places/map/heights'
import { hullOf, hullPaths, isIn, linesOf, reachOf } from '@/places/map/hull'
import { markOf } from '@/places/map/mark'
import { byId, laterId } from '@/ui/ids'
import { counted } from '@/ui/numbers'
import { offered, readEffect } from '@/places/map/typed'

describe('the line', () => {
    test('offers the shortest name that begins like what is typed', () => {
        const names = ['depth at the quay', 'Depth', 'dredging']
        expect(offered('de', names)).toBe('Depth')
        expect(offered('DEPTH A', names)).toBe('depth at the quay')
        expect(offered('  ', names)).toBeUndefined()
        expect(offered('ships', names)).toBeUndefined()
    })

    test('reads a sign or a word for it before the effect, and nothing else', () => {
        expect(readEffect('- silt')).toEqual({ sign: '-', rest: 'silt' })
        expect(readEffect('−silt')).toEqual({ sign: '-', rest: 'silt' })
        expect(readEffect('less silt')).toEqual({ sign: '-', rest: 'silt' })
        expect(readEffect('More silt')).toEqual({ sign: '+', rest: 'silt' })
        expect(readEffect('? silt')).toEqual({ sign: '?', rest: 'silt' })
        expect(readEffect('~silt')).toEqual({ late: true, rest: 'silt' })
        expect(readEffect('late silt')).toEqual({ late: true, rest: 'silt' })
        expect(readEffect('lesson')).toBeUndefined()
        expect(readEffect('silt - or mud')).toBeUndefined()
    })
})

describe('a hull', () => {
    test('rides high where there is more, and is as high as before', () => {
        const [low, usual, high] = [-1, 0, 1].map((level) => reachOf(48, level))
        for (const reach of [low, usual, high]) {
            expect((reach?.up ?? 0) + (reach?.down ?? 0)).toBeCloseTo(48)
            expect(Math.min(reach?.up ?? 0, reach?.down ?? 0)).toBeGreaterThan(4)
        }
        expect(high?.up).toBeGreaterThan(usual?.up ?? 0)
        expect(low?.up).toBeLessThan(usual?.up ?? 0)
        expect(reachOf(48, 7)).toEqual(high)
    })

    test('holds a long name in two lines of about one length', () => {
        expect(linesOf('trade')).toEqual(['trade'])
        expect(linesOf('spoil dumped near the mouth')).toEqual(['spoil dumped', 'near the mouth'])
        expect(linesOf('averyveryverylongword')).toHaveLength(1)
        expect(hullOf('spoil dumped near the mouth').width).toBeLessThan(hullOf('spoildumpednearthemouth').width)
        expect(hullPaths(hullOf('trade'), 0).whole).toMatch(/^M-46 0C/)
    })
})

describe('a mark', () => {
    const hull = hullOf('trade')
    const [from, to] = [0, 300].map((x) => ({ at: { x, y: 0 }, hull, level: 0 })) as [
        Parameters<typeof markOf>[0],
        Parameters<typeof markOf>[0],
    ]
    const ends = (path: string) => [...path.matchAll(/[ML](-?[\d.]+) (-?[\d.]+)/g)].map((m) => ({ x: Number(m[1]), y: Number(m[2]) }))

    test('begins and ends outside the hulls', () => {
        const points = ends(markOf(from, to, 0.1, { sign: '+' }).way)
        expect(points.length).toBeGreaterThan(10)
        for (const p of points) {
            expect(isIn(p, from.at, hull, 0, 3) || isIn(p, to.at, hull, 0, 3)).toBe(false)
        }
    })

    test('swells once, is twisted, or is hollow', () => {
        expect(markOf(from, to, 0, { sign: '+' }).swells.map((s) => s.open)).toEqual([false])
        expect(markOf(from, to, 0, { sign: '-' }).swells.map((s) => s.open)).toEqual([false, true])
        expect(markOf(from, to, 0, {}).swells.map((s) => s.open)).toEqual([true])
    })

    test('what is late has a wavy stretch; open tails have gaps, disputed ones fork', () => {
        const heights = (link: Parameters<typeof markOf>[3]) => ends(markOf(from, to, 0, link).line).map((p) => Math.abs(p.y))
        expect(Math.max(...heights({ sign: '+', standing: 'agreed' }))).toBeLessThan(0.01)
        expect(Math.max(...heights({ sign: '+', standing: 'agreed', late: true }))).toBeGreaterThan(4)
        const strokes = (standing: 'open' | 'agreed' | 'disputed') =>
            markOf(from, to, 0, { sign: '+', standing }).line.split('M').length - 1
        expect(strokes('open')).toBe(strokes('agreed') + 2)
        expect(Math.max(...heights({ sign: '+', standing: 'disputed' }))).toBeCloseTo(5.5, 1)
    })

    test('hulls that touch, and one that acts on itself, are drawn all the same', () => {
        for (const mark of [
            markOf(from, { ...from, at: { x: 30, y: 0 } }, 0.1, { sign: '-', late: true }),
            markOf(from, from, 0, { sign: '+' }),
        ]) {
            expect(JSON.stringify(mark)).not.toMatch(/NaN|null|Infinity/)
        }
    })
})

test('heights are told without numbers', () => {
    expect(heightWords(0.01)).toBe('as usual')
    expect(heightWords(-0.2)).toBe('a little less than usual')
    expect(heightWords(0.9)).toBe('more than usual')
    expect(courseWords(0.2, 0.4)).toBe('a little more than usual, rising')
    expect(courseWords(0.5, 0.5)).toBe('more than usual')
    expect(courseWords(0, -0.2)).toBe('as usual, falling')
})

test('what is made later has a later id, those of files come first and as they count', () => {
    const made = Array.from({ length: 50 }, () => ({ id: laterId() }))
    const files = ['l1', 'l2', 'l10', 'l38'].map((id) => ({ id }))
    const all = [...files, ...made]
    expect([...all].reverse().sort(byId)).toEqual(all)
    expect(made.every(({ id }) => /^[a-z][a-z0-9-]{0,39}$/.test(id))).toBe(true)
})

describe('a height at a beat', () => {
    test('lies on the straight line between two times, and stands still before the first and after the last', () => {
        const times = [0, 0.5, 1]
        expect(heightAt(times, [0, 1, 3], 0.25)).toBeCloseTo(0.5)
        expect(heightAt(times, [0, 1, 3], 0.75)).toBeCloseTo(2)
        expect(heightAt(times, [0, 1, 3], -4)).toBe(0)
        expect(heightAt(times, [0, 1, 3], 40)).toBe(3)
    })

    test('is as usual where nothing is told', () => {
        expect(heightAt([0, 1], undefined, 1)).toBe(0)
        expect(heightAt([], [], 1)).toBe(0)
    })
})

test('one of a thing is told as one', () => {
    expect(counted(1, 'loop')).toBe('1 loop')
    expect(counted(0, 'loop')).toBe('0 loops')
    expect(counted(2, 'study', 'studies')).toBe('2 studies')
})
