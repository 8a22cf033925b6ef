import type { Point } from '@/api/types'
import { hullOf, hullPaths, reachOf } from './hull'
import { markOf } from './mark'
import type { MapLink } from './useMap'

export interface Pictured {
    title: string
    factors: readonly { id: string; name: string; at: Point; level: number }[]
    links: readonly MapLink[]
    bowOf: (link: MapLink) => number
}

/** In the colours of paper: a drawing is printed and passed on. */
const INK = { ink: '#211e3b', line: '#6d697e', paper: '#faf8f3', card: '#ffffff', deck: '#cde7e3', soft: '#56536f' }
const WIDTHS = { weak: 1.1, usual: 1.8, strong: 3 } as const
const EDGE = 60

const escaped = (text: string) => text.replace(/[&<>"]/g, (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[c] ?? c)
const n = (value: number) => value.toFixed(1)

/** The map as a drawing that stands alone, with its title and the meaning of its marks. */
export function drawingOf({ title, factors, links, bowOf }: Pictured): string {
    const afloat = new Map(factors.map((f) => [f.id, { at: f.at, hull: hullOf(f.name), level: f.level, name: f.name }]))
    const all = [...afloat.values()]
    const [left, right] = [
        Math.min(0, ...all.map((a) => a.at.x - a.hull.width / 2)) - EDGE,
        Math.max(300, ...all.map((a) => a.at.x + a.hull.width / 2)) + EDGE,
    ]
    const [top, bottom] = [Math.min(0, ...all.map((a) => a.at.y - 50)) - EDGE - 30, Math.max(120, ...all.map((a) => a.at.y + 50)) + EDGE]
    const marks = links.flatMap((l) => {
        const [from, to] = [afloat.get(l.from), afloat.get(l.to)]
        if (!from || !to) {
            return []
        }
        const mark = markOf(from, to, bowOf(l), l)
        const stroke = `fill="none" stroke="${INK.line}" stroke-width="${WIDTHS[l.strength]}" stroke-linejoin="round" stroke-linecap="round"`
        return [
            `<path d="${mark.line}${mark.head}" ${stroke}/>`,
            ...mark.swells.map(
                (s) => `<path d="${s.path}" fill="${s.open ? INK.paper : INK.line}" stroke="${INK.line}" stroke-width="1.4"/>`,
            ),
            ...(l.sign === '?'
                ? [
                      `<text x="${n(mark.middle.x)}" y="${n(mark.middle.y + 4)}" text-anchor="middle" font-size="12" font-weight="700">?</text>`,
                  ]
                : []),
        ]
    })
    const hulls = all.map(({ at, hull, level }) => {
        const paths = hullPaths(hull, level)
        const { up, down } = reachOf(hull.height, level)
        const text = hull.lines
            .map(
                (line, i) =>
                    `<text y="${n((down - up) / 2 + (i - (hull.lines.length - 1) / 2) * 18 + 5)}" text-anchor="middle" font-size="16">${escaped(line)}</text>`,
            )
            .join('')
        return `<g transform="translate(${n(at.x)} ${n(at.y)})"><path d="${paths.whole}" fill="${INK.card}"/><path d="${paths.deck}" fill="${INK.deck}"/><path d="M${n(-hull.width / 2 - 12)} 0H${n(hull.width / 2 + 12)}" stroke="${INK.line}"/><path d="${paths.whole}" fill="none" stroke="${INK.line}" stroke-width="1.4"/>${text}</g>`
    })
    const key =
        'Swollen once: acts the same way. Twisted: turned over. Hollow: open which way. Wavy: late. Gapped tail: open; forked: disputed. No height is a measurement.'
    const [width, height] = [right - left, bottom - top]
    return [
        `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${n(left)} ${n(top)} ${n(width)} ${n(height)}" width="${n(width)}" height="${n(height)}" font-family="'Atkinson Hyperlegible', Verdana, sans-serif" fill="${INK.ink}">`,
        `<title>${escaped(title)}</title><rect x="${n(left)}" y="${n(top)}" width="${n(width)}" height="${n(height)}" fill="${INK.paper}"/>`,
        `<text x="${n(left + 24)}" y="${n(top + 36)}" font-size="22" font-weight="700">${escaped(title)}</text>`,
        ...marks,
        ...hulls,
        `<text x="${n(left + 24)}" y="${n(bottom - 18)}" font-size="13" fill="${INK.soft}">${key}</text></svg>`,
    ].join('\n')
}
