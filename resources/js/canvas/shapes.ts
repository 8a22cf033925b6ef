import type { Kind, Point, Thing } from '@/api/types'

export interface Size {
    width: number
    height: number
}

export const GATE = 26
export const OUTSIDE: Size = { width: 14, height: 30 }

let pen: CanvasRenderingContext2D | null = null
const widths = new Map<string, number>()

/** The width of a text as the sheet writes it. */
function textWidth(text: string): number {
    let width = widths.get(text)
    if (width === undefined) {
        pen ??= document.createElement('canvas').getContext('2d')
        if (pen) {
            pen.font = "700 14px 'Atkinson Hyperlegible', sans-serif"
        }
        width = pen?.measureText(text).width ?? text.length * 8
        widths.set(text, width)
    }
    return width
}

const within = (value: number, low: number, high: number) => Math.round(Math.min(high, Math.max(low, value)))

/** How large a thing is drawn. Long names are cut off beyond a width and shown whole on the card. */
export function sizeOf(kind: Kind, name: string): Size {
    switch (kind) {
        case 'stock':
            return { width: within(textWidth(name) + 30, 124, 200), height: 72 }
        case 'flow':
            return { width: GATE, height: GATE }
        default:
            return { width: within(textWidth(name) * 0.95 + 48, 76, 230), height: 28 }
    }
}

export function shapeOf(thing: Thing): Size & { round: boolean } {
    return { ...sizeOf(thing.kind, thing.name), round: thing.kind === 'flow' }
}

/** The words under a gate: half as wide, and down to so far below its middle. */
const WORDS = { half: 52, from: 14, to: 50 }

/** From the middle of a gate to its border; downward, to below its words where it has some. */
function roundReach(shape: Size & { words?: boolean }, x: number, y: number): number {
    return shape.words && y > 0 && Math.abs(x / y) * WORDS.from < WORDS.half && Math.abs(x) * (WORDS.to / y) < WORDS.half
        ? WORDS.to / y
        : shape.width / 2
}

/** Where the straight way from a point to the middle of a shape meets the shape's border, a little outside of it. */
export function borderToward(middle: Point, shape: Size & { round?: boolean; words?: boolean }, toward: Point, gap = 3): Point {
    const dx = toward.x - middle.x
    const dy = toward.y - middle.y
    const far = Math.hypot(dx, dy) || 1
    const reach = shape.round
        ? roundReach(shape, dx / far, dy / far)
        : Math.min(shape.width / 2 / (Math.abs(dx) / far || 1e-9), shape.height / 2 / (Math.abs(dy) / far || 1e-9))
    const share = (reach + gap) / far
    return { x: middle.x + dx * share, y: middle.y + dy * share }
}

function bezier(a: Point, b: Point, c: Point, d: Point, t: number): Point {
    const s = 1 - t
    const mix = (p: number, q: number, r: number, u: number) => s * s * s * p + 3 * s * s * t * q + 3 * s * t * t * r + t * t * t * u
    return { x: mix(a.x, b.x, c.x, d.x), y: mix(a.y, b.y, c.y, d.y) }
}

/** A leg of a ribbon that runs through a bend. */
function bent(a: Point, through: Point, b: Point, t: number): Point {
    const control = { x: 2 * through.x - (a.x + b.x) / 2, y: 2 * through.y - (a.y + b.y) / 2 }
    const s = 1 - t
    return { x: s * s * a.x + 2 * s * t * control.x + t * t * b.x, y: s * s * a.y + 2 * s * t * control.y + t * t * b.y }
}

/** A gate that lies so near to the straight way is on it, in pixels of the sheet. */
const STRAIGHT = 9

/** Points along a ribbon from its start through its gate to its head, and through its bends if it has some. */
export function ribbonSpine(start: Point, gate: Point, head: Point, bendIn?: Point, bendOut?: Point): Point[] {
    const across = { x: head.x - start.x, y: head.y - start.y }
    const length = Math.hypot(across.x, across.y) || 1
    const aside = Math.abs((gate.x - start.x) * across.y - (gate.y - start.y) * across.x) / length
    if (!bendIn && !bendOut && aside < STRAIGHT) {
        return Array.from({ length: 25 }, (_, i) => ({ x: start.x + (across.x * i) / 24, y: start.y + (across.y * i) / 24 }))
    }
    const along = { x: across.x / length, y: across.y / length }
    const leg = (from: Point, to: Point) => Math.hypot(to.x - from.x, to.y - from.y) / 3
    const first = leg(start, gate)
    const second = leg(gate, head)
    const out = { x: start.x + (gate.x - start.x) / 3, y: start.y + (gate.y - start.y) / 6 }
    const into = { x: head.x - (head.x - gate.x) / 3, y: head.y - (head.y - gate.y) / 6 }
    const points: Point[] = []
    for (let i = 0; i <= 12; i++) {
        points.push(
            bendIn
                ? bent(start, bendIn, gate, i / 12)
                : bezier(start, out, { x: gate.x - along.x * first, y: gate.y - along.y * first }, gate, i / 12),
        )
    }
    for (let i = 1; i <= 12; i++) {
        points.push(
            bendOut
                ? bent(gate, bendOut, head, i / 12)
                : bezier(gate, { x: gate.x + along.x * second, y: gate.y + along.y * second }, into, head, i / 12),
        )
    }
    return points
}

const at = (p: Point) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`

export function polyline(points: Point[]): string {
    return points.map((p, i) => (i ? 'L' : 'M') + at(p)).join('')
}

/** A ribbon around its spine: as wide as the flow at its start, narrower toward its head, and pointed there. */
export function ribbonOutline(spine: Point[], width: number, reversed: boolean): string {
    const points = reversed ? [...spine].reverse() : spine
    const left: Point[] = []
    const right: Point[] = []
    const last = points.length - 1
    points.forEach((p, i) => {
        const before = points[Math.max(0, i - 1)] as Point
        const after = points[Math.min(last, i + 1)] as Point
        const length = Math.hypot(after.x - before.x, after.y - before.y) || 1
        const share = i / last
        const half = share > 0.985 ? 0 : (width / 2) * (1 - 0.42 * share)
        const nx = (-(after.y - before.y) / length) * half
        const ny = ((after.x - before.x) / length) * half
        left.push({ x: p.x + nx, y: p.y + ny })
        right.unshift({ x: p.x - nx, y: p.y - ny })
    })
    return `${polyline([...left, ...right])}Z`
}

/** How wide a ribbon is: by its share of the largest flow of its unit. */
export const ribbonWidth = (value: number, top: number) => (top > 0 ? 5 + 19 * Math.min(1, Math.abs(value) / top) : 6)

/** How wide a link is that is drawn as strongly as it acts, by its share of what its target is made of. */
export const linkWeight = (share: number) => 0.6 + 4.4 * share

/** How far below the top of a basin its surface lies, of a level from 0 to 1. */
export const surfaceOf = (height: number, level: number) => height - 2 - (height - 6) * level

export interface Box {
    id: string
    x: number
    y: number
    width: number
    height: number
}

/** Bows that a link tries, as shares of its length, the most even first. */
const BOWS = [0.16, -0.16, 0.3, -0.3, 0.45, -0.45]

export const middleOf = (b: Omit<Box, 'id'>): Point => ({ x: b.x + b.width / 2, y: b.y + b.height / 2 })

function controlOf(from: Point, to: Point, bow: number): Point {
    const dx = to.x - from.x
    const dy = to.y - from.y
    return { x: (from.x + to.x) / 2 - dy * bow, y: (from.y + to.y) / 2 + dx * bow }
}

const quadratic = (a: Point, c: Point, b: Point, t: number): Point => ({
    x: (1 - t) ** 2 * a.x + 2 * (1 - t) * t * c.x + t * t * b.x,
    y: (1 - t) ** 2 * a.y + 2 * (1 - t) * t * c.y + t * t * b.y,
})

/** The bow with which a link between two boxes runs through the fewest others; undefined for the usual one. */
export function bestBow(from: string, to: string, boxes: Box[]): number | undefined {
    const a = boxes.find((b) => b.id === from)
    const b = boxes.find((box) => box.id === to)
    if (!a || !b) {
        return undefined
    }
    const start = middleOf(a)
    const end = middleOf(b)
    const reach = Math.hypot(end.x - start.x, end.y - start.y)
    const others = boxes.filter(
        (box) =>
            box !== a &&
            box !== b &&
            box.x < Math.max(start.x, end.x) + reach * 0.5 &&
            box.x + box.width > Math.min(start.x, end.x) - reach * 0.5 &&
            box.y < Math.max(start.y, end.y) + reach * 0.5 &&
            box.y + box.height > Math.min(start.y, end.y) - reach * 0.5,
    )
    const usual = usualBow(start, end)
    let best: { bow: number; hits: number } | undefined
    for (const bow of [usual, ...BOWS]) {
        const control = controlOf(start, end, bow)
        let hits = 0
        for (let i = 1; i < 14; i++) {
            const p = quadratic(start, control, end, i / 14)
            for (const box of others) {
                if (p.x > box.x - 3 && p.x < box.x + box.width + 3 && p.y > box.y - 3 && p.y < box.y + box.height + 3) {
                    hits++
                }
            }
        }
        if (!best || hits < best.hits) {
            best = { bow, hits }
        }
        if (best.hits === 0) {
            break
        }
    }
    return best?.bow === usual ? undefined : best?.bow
}

function usualBow(from: Point, to: Point): number {
    const dx = to.x - from.x
    const dy = to.y - from.y
    const far = Math.hypot(dx, dy) || 1
    return (Math.min(46, far * 0.16) / far) * (dx * dy > 0 ? -1 : 1)
}

export interface LinkShape {
    path: string
    head: string
    label: Point
    middle: Point
    sign: Point
    strokes: string
}

/**
 * A causal link: a bow from border to border, with its head, and the places of its sign and of the strokes that say it is late.
 * `by` pulls its middle aside from the straight way; else `bow` says how far it swings out, as a share of its length.
 */
export function linkShape(
    from: Point,
    fromShape: Size & { round?: boolean; words?: boolean },
    to: Point,
    toShape: Size & { round?: boolean; words?: boolean },
    by?: Point,
    bow = usualBow(from, to),
): LinkShape {
    const bend = by ? { x: (from.x + to.x) / 2 + 2 * by.x, y: (from.y + to.y) / 2 + 2 * by.y } : controlOf(from, to, bow)
    const a = borderToward(from, fromShape, bend, 2)
    const tip = borderToward(to, toShape, bend, 4)
    const angle = Math.atan2(tip.y - bend.y, tip.x - bend.x)
    const wing = (turn: number): Point => ({ x: tip.x - 8 * Math.cos(angle + turn), y: tip.y - 8 * Math.sin(angle + turn) })
    const end = { x: tip.x - 6 * Math.cos(angle), y: tip.y - 6 * Math.sin(angle) }
    const middle = quadratic(a, bend, tip, 0.5)
    const across = Math.atan2(tip.y - a.y, tip.x - a.x) + Math.PI / 2
    const stroke = (shift: number) => {
        const c = quadratic(a, bend, tip, 0.5 + shift)
        return `M${at({ x: c.x - 6 * Math.cos(across), y: c.y - 6 * Math.sin(across) })}L${at({ x: c.x + 6 * Math.cos(across), y: c.y + 6 * Math.sin(across) })}`
    }
    const length = Math.hypot(tip.x - a.x, tip.y - a.y) || 1
    return {
        path: `M${at(a)}Q${at(bend)} ${at(end)}`,
        head: `M${at(tip)}L${at(wing(0.42))}L${at(wing(-0.42))}Z`,
        label: middle,
        middle,
        sign: quadratic(a, bend, tip, Math.max(0.5, 1 - 24 / length)),
        strokes: stroke(-2.5 / length) + stroke(2.5 / length),
    }
}
