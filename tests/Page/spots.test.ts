import { describe, expect, it } from 'vitest'
import { hidden, spotNear, type Seen, type Taken } from '@/canvas/freeSpot'
import { buttonAt, ringSpot, rowBox } from '@/canvas/ringSpot'

/** Numbers that look like chance, the same each time. */
function dice(seed: number) {
    let state = seed
    return () => {
        state = (state * 16807) % 2147483647
        return state / 2147483647
    }
}
const WHOLE: Seen = { left: 0, top: 0, right: 1280, bottom: 800 }
const box = (x: number, y: number, width = 170, height = 70, words = 18): Taken => ({ x, y, width, height, words })
/** Whether a new thing around a point, 170 × 88, covers something. */
const covers = (p: { x: number; y: number }, t: Taken) =>
    p.x + 85 > t.x && p.x - 85 < t.x + t.width && p.y + 44 > t.y && p.y - 44 < t.y + t.height + t.words

describe('where a new thing is put', () => {
    it('is where it was asked for, if nothing stands there', () => {
        expect(spotNear({ x: 300, y: 200 }, WHOLE, [], false)).toEqual({ x: 300, y: 200 })
        expect(spotNear({ x: 300, y: 200 }, WHOLE, [box(600, 500)], true)).toEqual({ x: 300, y: 200 })
    })
    it('is below rather than above, and above rather than aside, of what it is for', () => {
        const there = box(215, 156)
        const below = spotNear({ x: 300, y: 200 }, WHOLE, [there], true)
        expect(below).toEqual({ x: 300, y: 290 })
        const above = spotNear({ x: 300, y: 200 }, WHOLE, [there, box(215, 250)], true)
        expect(above).toEqual({ x: 300, y: 110 })
    })
    it('is in sight, even where one out of sight is nearer', () => {
        const narrow: Seen = { left: 0, top: 0, right: 400, bottom: 800 }
        const spot = spotNear({ x: 390, y: 100 }, narrow, [box(305, 0, 170, 400)], false)
        expect(spot.x).toBeLessThanOrEqual(400)
        expect(covers(spot, box(305, 0, 170, 400))).toBe(false)
    })
    it('covers nothing on a hundred crowded sheets', () => {
        const next = dice(7)
        for (let sheet = 0; sheet < 100; sheet++) {
            const taken = Array.from({ length: 25 }, () => box(Math.round(next() * 1200), Math.round(next() * 700)))
            const spot = spotNear({ x: next() * 1280, y: next() * 800 }, WHOLE, taken, sheet % 2 === 0)
            expect(taken.filter((t) => covers(spot, t))).toEqual([])
        }
    })
    it('is below everything where all is taken', () => {
        expect(spotNear({ x: 0, y: 0 }, WHOLE, [box(-5000, -5000, 10_000, 10_000)], false)).toEqual({ x: 0, y: 720 })
    })
})

describe('what a box hides', () => {
    it('is counted in square pixels, with the words under a thing', () => {
        const seen: Seen = { left: 0, top: 0, right: 100, bottom: 100 }
        expect(hidden(seen, [box(50, 50, 100, 40, 10)])).toBe(50 * 50)
        expect(hidden(seen, [box(50, 90, 100, 40, 10), box(0, 0, 10, 10, 0)])).toBe(50 * 10 + 100)
        expect(hidden(seen, [box(100, 0), box(-200, 0), box(0, 100), box(0, -200)])).toBe(0)
    })
})

describe('the row of buttons around a thing', () => {
    const window = { width: 1280, height: 800 }
    const reaches = { above: 40, below: 58 }

    it('lies on both sides alike, and bends away from the thing in its middle', () => {
        const spot = { below: false, aside: 0, away: 0 }
        const row = Array.from({ length: 7 }, (_, i) => buttonAt(i, 7, 40, spot))
        expect(row.map((b) => b.x)).toEqual([-105, -70, -35, 0, 35, 70, 105])
        row.forEach((b, i) => expect(b.y).toBeCloseTo(row[6 - i]?.y ?? NaN))
        expect(Math.min(...row.map((b) => b.y))).toBe(row[3]?.y)
        expect(buttonAt(2, 7, 40, { ...spot, below: true }).y).toBeCloseTo(-(row[2]?.y ?? NaN))
        expect(buttonAt(2, 7, 40, { ...spot, aside: 50 }).x).toBe(15)
    })
    it('stands above where there is room, below at the top edge, and leaves what stands there to be seen', () => {
        expect(ringSpot(6, { x: 640, y: 400 }, reaches, window, [])).toEqual({ below: false, aside: 0, away: 0 })
        expect(ringSpot(6, { x: 640, y: 60 }, reaches, window, []).below).toBe(true)
        expect(ringSpot(6, { x: 640, y: 400 }, reaches, window, [box(560, 290, 170, 60)]).below).toBe(true)
        const both = [box(560, 290, 170, 60), box(560, 470, 170, 60)]
        const spot = ringSpot(6, { x: 640, y: 400 }, reaches, window, both)
        const plain = { below: false, aside: 0, away: 0 }
        const covered = (s: typeof spot) => hidden(rowBox(6, { x: 640, y: 400 }, s.below ? 58 : 40, s), both)
        expect(covered(spot)).toBeLessThanOrEqual(covered(plain))
    })
    it('is inside the window wherever a thing stands in it, also with many buttons', () => {
        for (const count of [3, 6, 9]) {
            for (let x = 250; x <= 1030; x += 60) {
                for (let y = 30; y <= 770; y += 37) {
                    const spot = ringSpot(count, { x, y }, reaches, window, [])
                    const row = rowBox(count, { x, y }, spot.below ? reaches.below : reaches.above, spot)
                    expect(row.left > 0 && row.right < 1280 && row.top > 0 && row.bottom < 800, `${count} at ${x}, ${y}`).toBe(true)
                }
            }
        }
    })
})
