import { describe, expect, it } from 'vitest'
import type { Levels, MemberRow, Muster } from '@/api/types'
import { levelAt } from '@/places/members/levels'
import { binsOf, courseOf, isCondition, reach, sorted, spansOf } from '@/places/members/lives'
import { allAt, around, between, floatsOf, planeOf, reachOf } from '@/places/members/where'
import { comings } from '@/stores/comings'

const member = (number: number, from: number | null, to: number | null, how: string, why: string) => ({
    number,
    id: `m${number}`,
    name: `boat ${number + 1}`,
    from,
    to,
    how,
    why,
})
const muster: Muster = {
    revision: 3,
    roster: 'boat',
    name: 'boat',
    columns: [{ key: 'soundness', name: 'soundness', unit: '1', steady: false }],
    belongs: [{ id: 'home', name: 'home harbour' }],
    of: 'soundness',
    times: [0, 1, 2, 3],
    kept: { saved: 4, whole: 4 },
    count: [1, 2, 2, 1],
    low: [1, 0.8, 0.6, 0.9],
    middle: [1, 0.9, 0.7, 0.9],
    high: [1, 1, 0.9, 0.9],
    members: [member(0, null, 3, '', 'sold'), member(1, 1, null, 'bought', '')],
    lives: [
        { number: 0, first: 0, values: [1, 0.8, 0.5] },
        { number: 1, first: 1, values: [1, 0.95, 0.9] },
    ],
    waits: null,
    came: { bought: 1 },
    left: { sold: 1 },
    fault: null,
}
const row = (number: number, name: string, value: number | null, home: string): MemberRow => ({
    number,
    name,
    from: null,
    how: '',
    belongs: { home },
    values: { soundness: value },
})
const rows = [row(0, 'Tern', 0.5, 'Lee'), row(1, 'Kelpie', 0.9, 'Quay'), row(2, 'boat 10', null, 'Lee'), row(3, 'boat 9', 0.5, 'Quay')]

describe('what a picture of members draws', () => {
    it('is the course of each from when on it was there', () => {
        expect(courseOf(muster, 1)).toEqual([
            [1, 1],
            [2, 0.95],
            [3, 0.9],
        ])
        expect(courseOf(muster, 7)).toEqual([])
        expect(reach(muster)).toEqual([0.5, 1])
    })

    it('tells who came and who left, and how', () => {
        expect(comings(muster)).toEqual({
            came: [{ time: 1, number: 1, words: 'bought' }],
            left: [{ time: 3, number: 0, words: 'sold' }],
        })
    })

    it('tells from when until when something holds, in the order in which it begins to', () => {
        const lives = [
            { number: 0, first: 0, values: [0, 0, 1, 1] },
            { number: 1, first: 1, values: [1, 0, 1] },
            { number: 2, first: 0, values: [0, 0, 0, 0] },
        ]
        const all = { ...muster, lives }
        expect([isCondition(all), isCondition(muster)]).toEqual([true, false])
        expect(spansOf(all)).toEqual([
            {
                number: 1,
                spans: [
                    [1, 2],
                    [3, 3],
                ],
            },
            { number: 0, spans: [[2, 3]] },
            { number: 2, spans: [] },
        ])
    })

    it('sorts members by what they have, those without a value last either way', () => {
        const names = (by: string, down: boolean) => sorted(rows, by, down).map((r) => r.name)
        expect(names('soundness', false)).toEqual(['Tern', 'boat 9', 'Kelpie', 'boat 10'])
        expect(names('soundness', true)).toEqual(['Kelpie', 'Tern', 'boat 9', 'boat 10'])
        expect(names('name', false)).toEqual(['boat 9', 'boat 10', 'Kelpie', 'Tern'])
        expect(names('home', false)).toEqual(['Tern', 'boat 10', 'Kelpie', 'boat 9'])
        expect(rows.map((r) => r.name)[0]).toBe('Tern')
    })

    it('puts each member with a value into one class, the edges being round', () => {
        const bins = binsOf(rows, 'soundness')
        expect(bins.flatMap((b) => b.numbers).sort()).toEqual([0, 1, 3])
        expect(bins.every((b) => b.to > b.from)).toBe(true)
        expect(bins.find((b) => b.numbers.includes(1))?.from).toBeLessThanOrEqual(0.9)
        expect(binsOf([], 'soundness')).toEqual([])
        expect(binsOf([row(0, 'a', 4, '')], 'soundness').flatMap((b) => b.numbers)).toEqual([0])
    })
})

describe('what a level says', () => {
    it('is its value at the saved moment at or before a time', () => {
        const level = { level: 'one' as const, values: [1, null, 3], low: [], high: [], runs: 1, lost: [], refusal: null, most: 3, mean: 2 }
        const told = { times: [0, 1, 2], levels: [level] } as unknown as Levels
        expect([0, 0.5, 1, 2, 9].map((t) => levelAt(told, level, t))).toEqual([1, 1, null, 3, 3])
        expect(levelAt(told, level, -1)).toBeNull()
    })
})

describe('where members are', () => {
    const bytes = new Uint8Array(new Float32Array([0, 1, NaN, 2, 3, 5]).buffer)
    const values = floatsOf(btoa(String.fromCharCode(...bytes)))
    const moving = { times: [0, 1, 4], count: 2, values: new Map([['x', values]]) }

    it('comes as floats, and lies on straight lines between saved moments', () => {
        expect([...values]).toEqual([0, 1, NaN, 2, 3, 5])
        expect(between([0, 1, 4], 2)).toEqual({ low: 1, high: 2, share: 1 / 3 })
        expect(between([0, 1, 4], 9).share).toBe(1)
        expect([...allAt(moving, 'x', 2.5)]).toEqual([3, 3.5])
        // Who is there at one moment only is there on its side of the middle.
        expect([...allAt(moving, 'x', 0.25)]).toEqual([0, 1.25])
        expect(allAt(moving, 'x', 0.75)[0]).toBeNaN()
        expect(allAt(moving, 'y', 1)[0]).toBeNaN()
        expect(reachOf(values)).toEqual([0, 5])
        expect(reachOf([])).toBeNull()
    })

    it('is drawn as long to the right as upwards where both measure alike', () => {
        const box = { left: 10, top: 20, width: 200, height: 100 }
        const plane = planeOf([0, 10], [0, 10], box, true)
        expect([plane.width, plane.height]).toEqual([100, 100])
        expect([plane.x(0), plane.y(0), plane.x(10), plane.y(10)]).toEqual([60, 120, 160, 20])
        expect(planeOf([0, 10], [0, 10], box, false).width).toBe(200)
    })

    it('spreads those of one area so that none covers another', () => {
        const all = Array.from({ length: 60 }, (_, i) => around(i, 60, 50))
        let near = Infinity
        all.forEach(([x, y], i) => {
            expect(Math.hypot(x, y)).toBeLessThanOrEqual(50)
            all.slice(0, i).forEach(([a, b]) => {
                near = Math.min(near, Math.hypot(x - a, y - b))
            })
        })
        // As far apart as a third of what a square for each would give.
        expect(near).toBeGreaterThan(Math.sqrt((Math.PI * 50 * 50) / 60) / 2)
    })
})
