import { beforeAll, describe, expect, it } from 'vitest'
import { borderToward, linkShape, ribbonOutline, ribbonSpine, sizeOf } from '@/canvas/shapes'

// Without a canvas the width of a text is guessed from its length.
beforeAll(() => {
    HTMLCanvasElement.prototype.getContext = () => null
})

const numbers = (path: string) => [...path.matchAll(/-?\d+(?:\.\d+)?/g)].map((m) => Number(m[0]))
const box = { width: 120, height: 70 }

describe('the border of a shape', () => {
    it.each([
        [
            { x: 300, y: 0 },
            { x: 63, y: 0 },
        ],
        [
            { x: -300, y: 0 },
            { x: -63, y: 0 },
        ],
        [
            { x: 0, y: 200 },
            { x: 0, y: 38 },
        ],
        [
            { x: 0, y: -200 },
            { x: 0, y: -38 },
        ],
    ])('toward %o lies a little outside', (toward, expected) => {
        const point = borderToward({ x: 0, y: 0 }, box, toward)
        expect(point.x).toBeCloseTo(expected.x, 6)
        expect(point.y).toBeCloseTo(expected.y, 6)
    })

    it('lies on the circle of a round shape whatever the direction', () => {
        for (let angle = 0; angle < 6.3; angle += 0.3) {
            const point = borderToward(
                { x: 5, y: 5 },
                { width: 26, height: 26, round: true },
                { x: 5 + 90 * Math.cos(angle), y: 5 + 90 * Math.sin(angle) },
                0,
            )
            expect(Math.hypot(point.x - 5, point.y - 5)).toBeCloseTo(13, 9)
        }
    })

    it('does not fail where both points are the same', () => {
        const point = borderToward({ x: 1, y: 1 }, box, { x: 1, y: 1 })
        expect(Number.isFinite(point.x + point.y)).toBe(true)
    })
})

describe('a ribbon', () => {
    const spine = ribbonSpine({ x: 0, y: 0 }, { x: 100, y: 30 }, { x: 200, y: 0 })

    it('runs from its start through its gate to its head', () => {
        expect(spine[0]).toEqual({ x: 0, y: 0 })
        expect(spine[12]).toEqual({ x: 100, y: 30 })
        expect(spine.at(-1)).toEqual({ x: 200, y: 0 })
    })

    it('is as wide as told at its start, narrower later, and pointed at its head', () => {
        const straight = ribbonSpine({ x: 0, y: 0 }, { x: 100, y: 0 }, { x: 200, y: 0 })
        const points = numbers(ribbonOutline(straight, 20, false))
        const at = (x: number) => points.filter((_, i) => i % 2 === 1 && Math.abs((points[i - 1] as number) - x) < 1).map(Math.abs)
        expect(Math.max(...at(0))).toBeCloseTo(10, 1)
        expect(Math.max(...at(100))).toBeLessThan(9)
        expect(Math.max(...at(200))).toBeCloseTo(0, 1)
    })

    it('turns round when the flow is negative', () => {
        const points = numbers(ribbonOutline(spine, 20, true))
        expect(points.slice(0, 2).map(Math.round)[0]).toBeGreaterThan(190)
    })
})

describe('a causal link', () => {
    it('ends at the border of what it leads to, with its head pointing inward', () => {
        const shape = linkShape({ x: 0, y: 0 }, box, { x: 300, y: 100 }, { width: 26, height: 26, round: true })
        const [tipX, tipY] = numbers(shape.head) as [number, number]
        expect(Math.hypot(tipX - 300, tipY - 100)).toBeGreaterThan(13)
        expect(Math.hypot(tipX - 300, tipY - 100)).toBeLessThan(22)
        expect(shape.path).toMatch(/^M[\d. -]+Q[\d. -]+$/)
    })

    it('bows, so that two links between the same things do not lie on each other', () => {
        const there = linkShape({ x: 0, y: 0 }, box, { x: 300, y: 100 }, box).label
        const back = linkShape({ x: 300, y: 100 }, box, { x: 0, y: 0 }, box).label
        expect(Math.hypot(there.x - back.x, there.y - back.y)).toBeGreaterThan(10)
    })
})

describe('sizes', () => {
    it('follow the name within limits', () => {
        expect(sizeOf('stock', 'a').width).toBe(124)
        expect(sizeOf('stock', 'x'.repeat(200)).width).toBe(200)
        expect(sizeOf('flow', 'whatever it is called')).toEqual({ width: 26, height: 26 })
        expect(sizeOf('parameter', 'a rather long name for a parameter').width).toBeGreaterThan(sizeOf('parameter', 'short').width)
    })
})
