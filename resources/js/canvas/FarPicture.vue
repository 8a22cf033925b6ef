<script setup lang="ts">
import type { Edge, Node, ViewportTransform, VueFlowStore } from '@vue-flow/core'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useColours } from '@/charts/useColours'
import { useEffects } from '@/stores/effects'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { borderToward, linkShape, linkWeight, middleOf, ribbonOutline, ribbonSpine, ribbonWidth, surfaceOf } from './shapes'

/** A large sheet from afar, painted as one picture: it moves as a whole under the pointer and is painted anew when it rests. */
const { nodes, edges, flow } = defineProps<{ nodes: Node[]; edges: Edge[]; flow: VueFlowStore }>()

/** So much more than the stage is painted on each side, as a share of it, so that there is something to move into sight. */
const MARGIN = 0.35
/** Rest after a move, in milliseconds, until it is painted anew. */
const REST = 90
/** The size of names on the screen, the room each has at least, and the width of a basin below which it shows none; in pixels. */
const NAME = 10.5
const ROOM = 64
const LEAST = 18

const model = useModel()
const runs = useRuns()
const view = useView()
const effects = useEffects()
const { colour, painted } = useColours()
const canvas = ref<HTMLCanvasElement>()

interface Shape {
    id: string
    kind: string
    echo: boolean
    name: string
    x: number
    y: number
    width: number
    height: number
    level: number | null
    tint: string
    selected: boolean
    missing: boolean
    remark: boolean
    gripped: boolean
    turn: number
}
interface Line {
    path: Path2D
    head?: Path2D
    width: number
    kind: string
    strong: boolean
}

const boxes = computed(
    () =>
        new Map(
            nodes.map((n) => {
                // What is being dragged lies where the canvas has it.
                const live = flow.findNode(n.id)?.computedPosition ?? n.position
                return [n.id, { x: live.x, y: live.y, width: Number(n.width), height: Number(n.height), round: n.type === 'gate' }] as const
            }),
        ),
)

const shapes = computed<Shape[]>(() => {
    const chosen = new Set(view.selection)
    return nodes.flatMap((n) => {
        const box = boxes.value.get(n.id)
        const { thing: id, echo = false, flow: mouth } = n.data as { thing?: string; echo?: boolean; flow?: string }
        const gate = mouth ? boxes.value.get(mouth) : undefined
        const thing = id ? model.model.elements[id] : undefined
        if (!box) {
            return []
        }
        const problem = id ? model.problemOf.get(id) : undefined
        const missing = problem !== undefined && problem.severity !== 'remark'
        return [
            {
                id: n.id,
                kind: n.type ?? '',
                echo,
                name: thing?.name ?? '',
                ...box,
                level: n.type === 'stock' && id && !missing && runs.known(id) ? runs.level(id) : null,
                tint: (id && model.groupOf.get(id)?.tint) || '',
                selected: chosen.has(n.id),
                missing,
                remark: problem !== undefined && !missing,
                turn: gate && box ? Math.atan2(middleOf(box).y - middleOf(gate).y, middleOf(box).x - middleOf(gate).x) : 0,
                gripped: id !== undefined && runs.isGripped(id),
            },
        ]
    })
})

const ribbons = computed<Line[]>(() =>
    edges
        .filter((e) => e.type === 'ribbon')
        .flatMap((e) => {
            const { id } = e.data as { id: string }
            const [from, gate, to] = [e.source, id, e.target].map((n) => boxes.value.get(n))
            if (!from || !gate || !to) {
                return []
            }
            const { bendIn, bendOut } = model.model.placements[id] ?? {}
            const through = middleOf(gate)
            const value = runs.drawn(id) ?? 0
            const top = runs.flowScale[model.model.elements[id]?.unit ?? ''] ?? 0
            const spine = ribbonSpine(
                borderToward(middleOf(from), from, bendIn ?? through, 1),
                through,
                borderToward(middleOf(to), to, bendOut ?? through, 2),
                bendIn,
                bendOut,
            )
            return [
                { path: new Path2D(ribbonOutline(spine, ribbonWidth(value, top), value < 0)), width: 1.2, kind: 'ribbon', strong: false },
            ]
        }),
)

const links = computed<Line[]>(() =>
    edges
        .filter((e) => e.type === 'link')
        .flatMap((e) => {
            const from = boxes.value.get(e.source)
            const to = boxes.value.get(e.target)
            const { key, kind, by, bow } = e.data as { key: string; kind: string; by?: { x: number; y: number }; bow?: number }
            if (!from || !to) {
                return []
            }
            const shape = linkShape(middleOf(from), from, middleOf(to), to, by, bow)
            return [
                {
                    path: new Path2D(shape.path),
                    head: new Path2D(shape.head),
                    width: view.strengths ? linkWeight(effects.at[key]?.share ?? 0) : 1.1,
                    kind,
                    strong: view.link === key,
                },
            ]
        }),
)

/** The viewport that was painted last. */
let last: ViewportTransform | undefined

function basin(pen: CanvasRenderingContext2D, s: Shape) {
    pen.beginPath()
    pen.roundRect(s.x, s.y, s.width, s.height, [4, 4, 14, 14])
}

function paintShape(pen: CanvasRenderingContext2D, s: Shape, zoom: number) {
    const thin = Math.max(1.2, 0.8 / zoom)
    pen.lineWidth = thin
    pen.setLineDash(s.missing ? [5, 4] : [])
    pen.fillStyle = colour(s.tint ? `--${s.tint}` : '--card')
    if (s.kind === 'outside') {
        // The horizon, open away from its ribbon.
        pen.save()
        pen.translate(s.x + s.width / 2, s.y + s.height / 2)
        pen.rotate(s.turn)
        pen.beginPath()
        pen.moveTo(-2, -11)
        pen.quadraticCurveTo(6, 0, -2, 11)
        pen.strokeStyle = colour('--ink')
        pen.stroke()
        pen.restore()
        return
    }
    if (s.kind === 'stock') {
        basin(pen, s)
        pen.fill()
        if (s.level !== null) {
            const surface = s.y + surfaceOf(s.height, s.level)
            pen.save()
            pen.clip()
            pen.fillStyle = colour('--basin-tint')
            pen.fillRect(s.x, surface, s.width, s.y + s.height - surface)
            pen.strokeStyle = colour('--basin')
            pen.beginPath()
            pen.moveTo(s.x, surface)
            pen.lineTo(s.x + s.width, surface)
            pen.stroke()
            pen.restore()
        }
        basin(pen, s)
        pen.strokeStyle = colour('--ink')
    } else {
        pen.beginPath()
        pen.roundRect(s.x, s.y, s.width, s.height, s.height / 2)
        pen.fill()
        pen.strokeStyle = colour(s.kind === 'gate' ? '--ink' : '--line')
    }
    pen.stroke()
    pen.setLineDash([])
    if (s.echo) {
        pen.beginPath()
        pen.moveTo(s.x + 8, s.y - 4)
        pen.lineTo(s.x + s.width - 8, s.y - 4)
        pen.stroke()
    }
    if (s.gripped) {
        pen.fillStyle = colour('--plum')
        pen.fillRect(s.x + 12, s.y + s.height - 8, s.width - 24, 5)
    }
    if (s.missing || s.remark) {
        const size = Math.max(8, 4 / zoom)
        pen.fillStyle = colour(s.missing ? '--brick' : '--ochre')
        pen.beginPath()
        if (s.missing) {
            pen.arc(s.x + s.width, s.y, size, 0, 2 * Math.PI)
        } else {
            pen.moveTo(s.x + s.width, s.y - size)
            pen.lineTo(s.x + s.width + size, s.y + size)
            pen.lineTo(s.x + s.width - size, s.y + size)
        }
        pen.fill()
    }
    if (s.selected) {
        pen.strokeStyle = colour('--ember')
        pen.lineWidth = Math.max(2, 2 / zoom)
        const off = Math.max(6, 3 / zoom)
        pen.beginPath()
        pen.roundRect(s.x - off, s.y - off, s.width + 2 * off, s.height + 2 * off, s.kind === 'stock' ? [8, 8, 18, 18] : s.height / 2 + off)
        pen.stroke()
    }
}

/** Names of stocks stand as large as they can be read, a little wider than their basins if need be. */
function paintName(pen: CanvasRenderingContext2D, s: Shape, { x, y, zoom }: ViewportTransform) {
    if (s.width * zoom < LEAST) {
        return
    }
    const room = Math.max(ROOM, s.width * zoom * 1.5)
    let name = s.name
    while (name.length > 2 && pen.measureText(name).width > room) {
        name = `${name.slice(0, -2)}…`
    }
    const at = [(s.x + s.width / 2) * zoom + x, (s.y + s.height / 2) * zoom + y] as const
    pen.strokeText(name, ...at)
    pen.fillText(name, ...at)
}

function paint() {
    const pen = canvas.value?.getContext('2d')
    const { width, height } = flow.dimensions.value
    if (!canvas.value || !pen || !width || !height) {
        return
    }
    const sharp = window.devicePixelRatio
    const beside = { x: Math.round(width * MARGIN), y: Math.round(height * MARGIN) }
    const size = { width: Math.round((width + 2 * beside.x) * sharp), height: Math.round((height + 2 * beside.y) * sharp) }
    if (canvas.value.width !== size.width || canvas.value.height !== size.height) {
        Object.assign(canvas.value, size)
        Object.assign(canvas.value.style, {
            width: `${size.width / sharp}px`,
            height: `${size.height / sharp}px`,
            left: `${-beside.x}px`,
            top: `${-beside.y}px`,
        })
    }
    last = { ...flow.viewport.value }
    const { zoom } = last
    const place = { x: last.x + beside.x, y: last.y + beside.y, zoom }
    pen.setTransform(1, 0, 0, 1, 0, 0)
    pen.clearRect(0, 0, size.width, size.height)
    pen.setTransform(sharp * zoom, 0, 0, sharp * zoom, sharp * place.x, sharp * place.y)
    for (const line of ribbons.value) {
        pen.fillStyle = colour('--ribbon-tint')
        pen.fill(line.path)
        pen.lineWidth = Math.max(line.width, 0.7 / zoom)
        pen.strokeStyle = colour('--ribbon')
        pen.stroke(line.path)
    }
    for (const line of links.value) {
        pen.strokeStyle = pen.fillStyle = colour(line.kind === 'unused' ? '--ochre' : line.strong ? '--ink' : '--ink-soft')
        pen.lineWidth = Math.max(line.strong ? 2 : line.width, 0.5 / zoom)
        pen.setLineDash(line.kind === 'start' ? [1.5, 4] : line.kind === 'unused' ? [7, 5] : [])
        pen.stroke(line.path)
        if (line.head) {
            pen.fill(line.head)
        }
    }
    pen.setLineDash([])
    for (const shape of shapes.value) {
        paintShape(pen, shape, zoom)
    }
    pen.setTransform(sharp, 0, 0, sharp, 0, 0)
    pen.font = `700 ${Math.max(NAME, 22 * zoom)}px 'Atkinson Hyperlegible', sans-serif`
    pen.textAlign = 'center'
    pen.textBaseline = 'middle'
    pen.lineJoin = 'round'
    pen.lineWidth = 3
    pen.strokeStyle = colour('--paper')
    pen.fillStyle = colour('--ink')
    for (const shape of shapes.value) {
        if (shape.kind === 'stock') {
            paintName(pen, shape, place)
        }
    }
    move()
}

/** The picture follows the pointer as it is. */
function move() {
    const { x, y, zoom } = flow.viewport.value
    const { width, height } = flow.dimensions.value
    if (canvas.value && last) {
        const scale = zoom / last.zoom
        // Its own corner lies beyond the stage's by the margin.
        const corner = { x: -Math.round(width * MARGIN), y: -Math.round(height * MARGIN) }
        canvas.value.style.transform = `translate(${x - last.x * scale + corner.x * (scale - 1)}px, ${y - last.y * scale + corner.y * (scale - 1)}px) scale(${scale})`
    }
}

let frame = 0
function paintSoon() {
    cancelAnimationFrame(frame)
    frame = requestAnimationFrame(paint)
}
watch([shapes, ribbons, links, painted, flow.dimensions], paintSoon)

let rest = 0
watch(
    flow.viewport,
    ({ x, y, zoom }) => {
        move()
        window.clearTimeout(rest)
        const { width, height } = flow.dimensions.value
        const gone =
            !last || Math.abs(x - last.x) > width * MARGIN || Math.abs(y - last.y) > height * MARGIN || Math.abs(zoom / last.zoom - 1) > 0.4
        if (gone) {
            paintSoon()
        } else {
            rest = window.setTimeout(paintSoon, REST)
        }
    },
    { deep: true },
)
onMounted(paint)
onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    window.clearTimeout(rest)
})
</script>

<template>
    <canvas ref="canvas" class="far-picture" aria-hidden="true" />
</template>

<style scoped>
.far-picture {
    position: absolute;
    transform-origin: 0 0;
    pointer-events: none;
}
</style>
