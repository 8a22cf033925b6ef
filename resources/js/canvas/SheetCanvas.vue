<script setup lang="ts">
import { Maximize, Minus, Plus } from '@lucide/vue'
import { useVueFlow, VueFlow, type NodeDragEvent, type NodeMouseEvent } from '@vue-flow/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Kind, Placement, Point, Thing } from '@/api/types'
import DialField from '@/card/DialField.vue'
import FormulaField from '@/card/FormulaField.vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { withUnit } from '@/ui/numbers'
import CapsuleNode from './CapsuleNode.vue'
import GateNode from './GateNode.vue'
import KindChooser from './KindChooser.vue'
import LinkEdge from './LinkEdge.vue'
import OutsideNode from './OutsideNode.vue'
import RibbonEdge from './RibbonEdge.vue'
import { shapeOf } from './shapes'
import StockNode from './StockNode.vue'
import ThingRing from './ThingRing.vue'
import { usePull, type PullKind } from './usePull'
import { useSheet } from './useSheet'
import { useSheetDrag } from './useSheetDrag'

const model = useModel()
const runs = useRuns()
const view = useView()
const { nodes, edges } = useSheet()
const flow = useVueFlow()
const { screenToFlowCoordinate, viewport, fitView, zoomIn, zoomOut, setViewport, findNode } = flow
const { pull, begin, finish, cancel, add } = usePull()
const drag = useSheetDrag(flow)
const stage = ref<HTMLElement>()
const chooser = ref<{ screen: Point, at: Point } | null>(null)

const selectedThing = computed(() => view.selected ? model.model.elements[view.selected] : undefined)

/** From a place on the sheet to one on the stage. */
const onStage = (p: Point): Point => ({ x: p.x * viewport.value.zoom + viewport.value.x, y: p.y * viewport.value.zoom + viewport.value.y })
const middleOf = (id: string): Point | undefined => {
    const node = findNode(id)
    return node ? { x: node.computedPosition.x + node.dimensions.width / 2, y: node.computedPosition.y + node.dimensions.height / 2 } : undefined
}
const ringAt = computed(() => {
    const middle = selectedThing.value && !view.naming && !pull.value && !drag.dragging.value ? middleOf(selectedThing.value.id) : undefined
    return middle && onStage(middle)
})
const sayingThing = computed(() => model.model.elements[view.saying])
const sayingAt = computed(() => {
    const middle = sayingThing.value && middleOf(sayingThing.value.id)
    if (!middle || !sayingThing.value || !stage.value) {
        return undefined
    }
    const at = onStage(middle)
    const below = shapeOf(sayingThing.value).height / 2 * viewport.value.zoom + (sayingThing.value.kind === 'flow' ? 44 : 22)
    return { left: `${Math.min(Math.max(8, at.x - 170), stage.value.clientWidth - 348)}px`, top: `${Math.min(at.y + below, stage.value.clientHeight - 120)}px` }
})
const pullLine = computed(() => {
    const from = pull.value && middleOf(pull.value.thing)
    return from && pull.value ? { a: onStage(from), b: onStage(pull.value.to) } : undefined
})

/** What a screen reader hears of the selected thing: kind, name, value, what feeds it. */
const spoken = computed(() => {
    const thing = selectedThing.value
    if (!thing) {
        return ''
    }
    const fed = model.model.links.filter((l) => l.to === thing.id && l.kind !== 'unused').map((l) => model.model.elements[l.from]?.name)
    const problem = model.model.problems.find((p) => p.element === thing.id)
    const value = runs.value(thing.id)
    return `${thing.kind} ${thing.name}${value === undefined ? '' : `, ${withUnit(value, thing.unit)}`}${fed.length ? `, fed by ${fed.join(', ')}` : ''}${problem ? `. ${problem.sentence}` : ''}`
})

function thingUnder(x: number, y: number): Thing | undefined {
    for (const element of document.elementsFromPoint(x, y)) {
        const id = element.closest<HTMLElement>('.vue-flow__node')?.dataset.id
        if (id && model.model.elements[id]) {
            return model.model.elements[id]
        }
    }
    return undefined
}

/** A pull ends where the pointer is let go after a way, or else with the next press. */
function startPull(kind: PullKind, event: PointerEvent) {
    if (!selectedThing.value) {
        return
    }
    begin(kind, selectedThing.value.id, screenToFlowCoordinate({ x: event.clientX, y: event.clientY }))
    const start = { x: event.clientX, y: event.clientY }
    const move = (e: PointerEvent) => {
        if (pull.value) {
            pull.value.to = screenToFlowCoordinate({ x: e.clientX, y: e.clientY })
        }
    }
    const end = (e: PointerEvent) => {
        if (Math.hypot(e.clientX - start.x, e.clientY - start.y) < 8 && e.type === 'pointerup') {
            return
        }
        stop()
        if (pull.value) {
            void finish(thingUnder(e.clientX, e.clientY), screenToFlowCoordinate({ x: e.clientX, y: e.clientY }))
        }
    }
    const press = (e: PointerEvent) => {
        if (stage.value?.contains(e.target as globalThis.Node)) {
            e.preventDefault()
            e.stopPropagation()
            end(e)
        } else {
            stop()
            cancel()
        }
    }
    const stop = () => {
        window.removeEventListener('pointermove', move)
        window.removeEventListener('pointerup', end)
        window.removeEventListener('pointerdown', press, true)
    }
    window.addEventListener('pointermove', move)
    window.addEventListener('pointerup', end)
    window.setTimeout(() => { window.addEventListener('pointerdown', press, true) })
    stopPull = stop
}
let stopPull = () => {}

/** By keyboard a flow reaches to the outside at once; a link waits for a thing to be chosen with the arrows. */
function reach(kind: PullKind) {
    const thing = selectedThing.value
    const at = thing && middleOf(thing.id)
    if (!thing || !at) {
        return
    }
    begin(kind, thing.id, at)
    if (kind !== 'link') {
        void finish(undefined, { x: at.x + (kind === 'inflow' ? -270 : 270), y: at.y })
    }
    stage.value?.focus()
}

function press({ node, event }: NodeMouseEvent) {
    const id = node.id.split('~')[0] as string
    if (event instanceof MouseEvent && event.shiftKey) {
        view.selection = view.selection.includes(id) ? view.selection.filter((s) => s !== id) : [...view.selection, id]
    } else if (view.naming !== id) {
        view.select(id)
    }
    if (!view.naming) {
        stage.value?.focus({ preventScroll: true })
    }
}

function pressPaper() {
    chooser.value = null
    view.select()
    stage.value?.focus({ preventScroll: true })
}

function openChooser(event: MouseEvent) {
    if (!(event.target as Element).closest('.vue-flow__pane')) {
        return
    }
    const box = stage.value?.getBoundingClientRect()
    if (box) {
        chooser.value = { screen: { x: Math.min(event.clientX - box.left, box.width - 290), y: Math.min(event.clientY - box.top, box.height - 170) }, at: screenToFlowCoordinate({ x: event.clientX, y: event.clientY }) }
    }
}

async function choose(kind: Kind, at = chooser.value?.at) {
    chooser.value = null
    if (at) {
        await add(kind, at, {}, kind === 'flow' ? { source: { x: at.x - 110, y: at.y }, target: { x: at.x + 110, y: at.y } } : {})
    }
}

/** A free spot near the selection, or in the middle of what is seen. */
function freeSpot(): Point {
    const box = stage.value?.getBoundingClientRect()
    const beside = selectedThing.value && middleOf(selectedThing.value.id)
    const start = beside ? { x: beside.x, y: beside.y + 110 } : screenToFlowCoordinate({ x: (box?.left ?? 0) + (box?.width ?? 0) / 2, y: (box?.top ?? 0) + (box?.height ?? 0) / 2 })
    const taken = Object.values(model.model.placements).map((p) => p.at)
    for (let i = 0; i < 40; i++) {
        const spot = { x: start.x + (i % 5) * 150 * (i % 2 ? 1 : -1), y: start.y + Math.floor(i / 5) * 90 }
        if (taken.every((t) => Math.abs(t.x - spot.x) > 140 || Math.abs(t.y - spot.y) > 70)) {
            return spot
        }
    }
    return start
}

/** To the nearest thing that lies in a direction. */
function travel(dx: number, dy: number) {
    const here = selectedThing.value && middleOf(selectedThing.value.id)
    if (!here) {
        const first = model.things[0]
        if (first) {
            view.select(first.id)
        }
        return
    }
    let best: { id: string, cost: number } | undefined
    for (const thing of model.things) {
        const there = middleOf(thing.id)
        if (!there || thing.id === view.selected) {
            continue
        }
        const along = (there.x - here.x) * dx + (there.y - here.y) * dy
        const aside = Math.abs((there.x - here.x) * dy) + Math.abs((there.y - here.y) * dx)
        if (along > 4 && (!best || along + 2 * aside < best.cost)) {
            best = { id: thing.id, cost: along + 2 * aside }
        }
    }
    if (best) {
        view.select(best.id)
        reveal(best.id)
    }
}

function reveal(id: string) {
    const middle = middleOf(id)
    const box = stage.value
    if (!middle || !box) {
        return
    }
    const at = onStage(middle)
    const by = { x: Math.max(0, 70 - at.x) + Math.min(0, box.clientWidth - 70 - at.x), y: Math.max(0, 60 - at.y) + Math.min(0, box.clientHeight - 90 - at.y) }
    if (by.x || by.y) {
        void setViewport({ x: viewport.value.x + by.x, y: viewport.value.y + by.y, zoom: viewport.value.zoom })
    }
}

const ARROWS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }

function key(event: KeyboardEvent) {
    if (event.target !== stage.value || event.altKey) {
        return
    }
    if (view.adding || view.naming) {
        // The name field is about to come: what is typed is meant for it.
        view.typedAhead += event.key.length === 1 && !event.ctrlKey && !event.metaKey ? event.key : ''
        event.preventDefault()
        return
    }
    const arrow = ARROWS[event.key]
    const control = event.ctrlKey || event.metaKey
    const plain: Record<string, () => void> = {
        s: () => { void choose('stock', freeSpot()) },
        a: () => { void choose('auxiliary', freeSpot()) },
        p: () => { void choose('parameter', freeSpot()) },
        Enter: () => {
            if (pull.value) {
                void finish(selectedThing.value?.id === pull.value.thing ? undefined : selectedThing.value, pull.value.to)
            } else if (view.selected) {
                view.saying = view.selected
            }
        },
        F2: () => { view.naming = view.selected ?? '' },
        Escape: () => {
            if (pull.value) {
                stopPull()
                cancel()
            } else {
                view.select()
            }
        },
        Delete: () => { void removeSelected() },
        Backspace: () => { void removeSelected() },
        ' ': () => { view.playing = !view.playing },
    }
    const name = event.key.length === 1 ? event.key.toLowerCase() : event.key
    if (arrow) {
        if (control) {
            drag.nudge(view.selection, arrow[0] * 10, arrow[1] * 10)
        } else {
            travel(...arrow)
        }
    } else if (!control && plain[name]) {
        plain[name]()
    } else {
        return
    }
    event.preventDefault()
}

async function removeSelected() {
    const ids = view.selection
    view.select()
    await model.remove(ids)
}

function dragStop(event: NodeDragEvent) {
    const placements = drag.stop(event)
    if (Object.keys(placements).length) {
        void model.place(placements as Record<string, Placement>)
    }
}

/** The outline asks for a new thing. */
watch(() => view.wanted, (kind) => {
    if (kind) {
        view.wanted = ''
        void choose(kind, freeSpot())
    }
})
const fit = () => fitView({ padding: 0.08, maxZoom: 1, duration: 0 })
onMounted(() => { void nextTick(() => window.setTimeout(() => { void fit() }, 30)) })
// What is selected in the outline or on a card comes into sight; under the pointer nothing moves.
watch(() => view.selected, (id) => { if (id && !stage.value?.matches(':hover')) void nextTick(() => { reveal(id) }) })
watch(() => [view.naming, view.saying], ([naming, saying], [wasNaming, wasSaying]) => {
    if (!naming && !saying && (wasNaming || wasSaying) && (document.activeElement === document.body || document.activeElement?.closest('.stage'))) {
        void nextTick(() => stage.value?.focus({ preventScroll: true }))
    }
})
defineExpose({ fit })
</script>

<template>
    <div ref="stage" class="stage" :class="{ pulling: pull, chosen: view.selection.length }" tabindex="0" role="application" aria-label="Sheet. S adds a stock, A an auxiliary, P a parameter; arrows travel, Enter opens the formula, question mark lists the keys." aria-describedby="spoken" @keydown="key" @dblclick="openChooser">
        <VueFlow :nodes="nodes" :edges="edges" :nodes-draggable="!pull" :pan-on-drag="!pull" :elements-selectable="false" :nodes-connectable="false" :nodes-focusable="false" :edges-focusable="false" :zoom-on-double-click="false" :disable-keyboard-a11y="true" :delete-key-code="null" :min-zoom="0.2" :max-zoom="2.5" :node-drag-threshold="3" @node-click="press" @pane-click="pressPaper" @node-drag-start="drag.start" @node-drag="drag.move" @node-drag-stop="dragStop">
            <template #node-stock="{ id }"><StockNode :id="id" /></template>
            <template #node-gate="{ id }"><GateNode :id="id" /></template>
            <template #node-capsule="{ id }"><CapsuleNode :id="id" /></template>
            <template #node-outside="{ id }"><OutsideNode :id="id" /></template>
            <template #edge-ribbon="p"><RibbonEdge v-bind="p" /></template>
            <template #edge-link="p"><LinkEdge v-bind="p" /></template>
        </VueFlow>
        <svg v-if="pullLine" class="pull" aria-hidden="true">
            <line :x1="pullLine.a.x" :y1="pullLine.a.y" :x2="pullLine.b.x" :y2="pullLine.b.y" :class="pull?.kind" />
            <circle :cx="pullLine.b.x" :cy="pullLine.b.y" r="5" />
        </svg>
        <ThingRing v-if="ringAt && selectedThing && !view.saying" :style="{ left: `${ringAt.x}px`, top: `${ringAt.y}px` }" :thing="selectedThing" :zoom="viewport.zoom" :below="ringAt.y < (selectedThing.kind === 'stock' ? 100 : 74)" :tracked="model.model.tracks.includes(selectedThing.id)" @pull="startPull" @reach="reach" @say="view.saying = selectedThing.id" @track="model.attempt({ kind: 'track', id: selectedThing.id, shown: !model.model.tracks.includes(selectedThing.id) })" />
        <div v-if="sayingThing && sayingAt" class="saying" :style="sayingAt" @keydown.stop @dblclick.stop>
            <FormulaField :key="sayingThing.id" :thing="sayingThing" autofocus @done="view.saying = ''" />
            <DialField v-if="sayingThing.kind === 'parameter' && typeof sayingThing.value === 'number'" :thing="sayingThing" compact class="on-the-spot" />
        </div>
        <KindChooser v-if="chooser" :style="{ left: `${chooser.screen.x}px`, top: `${chooser.screen.y}px` }" @choose="choose($event)" @close="chooser = null; stage?.focus()" />
        <p v-if="model.loaded && !model.things.length" class="begin">Double-click the paper, or press <kbd>S</kbd>, to add a first stock: something that fills and empties.</p>
        <p v-if="pull" class="hint" role="status">{{ pull.kind === 'link' ? 'Click the thing that depends on it, or empty paper for a new one' : 'Click a stock to connect it, or empty paper for the outside' }} · Esc to stop</p>
        <p v-else class="hint">Double-click paper to add · <b>?</b> keys</p>
        <div class="zoom">
            <button type="button" aria-label="Zoom out" @click="zoomOut()"><Minus :size="15" :stroke-width="1.6" /></button>
            <span>{{ Math.round(viewport.zoom * 100) }}</span>
            <button type="button" aria-label="Zoom in" @click="zoomIn()"><Plus :size="15" :stroke-width="1.6" /></button>
            <button type="button" aria-label="Fit the sheet" title="Fit the sheet" @click="fit"><Maximize :size="14" :stroke-width="1.6" /></button>
        </div>
        <span id="spoken" class="visually-hidden" aria-live="polite">{{ spoken }}</span>
    </div>
</template>

<style scoped>
.stage {
    position: relative;
    height: 100%;
    overflow: hidden;
    contain: strict;
    background-color: var(--paper);
    background-image: radial-gradient(var(--dot) 1px, transparent 1px);
    background-size: 24px 24px;
}
.stage:focus-visible {
    outline-offset: -2px;
}
/* The ring around a selected thing shows where the focus is. */
.stage.chosen:focus-visible {
    outline: none;
}
.stage :deep(.vue-flow__node) {
    cursor: grab;
}
.stage :deep(.vue-flow__node.dragging) {
    cursor: grabbing;
}
.stage :deep(.vue-flow__pane) {
    cursor: default;
}
.stage :deep(.vue-flow__edge) {
    pointer-events: none;
}
.pulling,
.pulling :deep(.vue-flow__node),
.pulling :deep(.vue-flow__pane) {
    cursor: crosshair;
}
.pull {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    pointer-events: none;
    z-index: 11;
}
.pull line {
    stroke: var(--ink);
    stroke-width: 1.4;
    stroke-dasharray: 5 4;
}
.pull line.inflow,
.pull line.outflow {
    stroke: var(--ribbon);
    stroke-width: 5;
    stroke-dasharray: none;
    opacity: 0.6;
}
.pull circle {
    fill: var(--ember);
}
.saying {
    position: absolute;
    width: 340px;
    padding: 10px;
    border: 1px solid var(--line);
    border-radius: 12px;
    background: var(--card);
    box-shadow: var(--shadow);
    z-index: 25;
}
.on-the-spot {
    padding: 18px 10px 10px;
}
.begin {
    position: absolute;
    left: 50%;
    top: 42%;
    transform: translate(-50%, -50%);
    width: min(420px, 80%);
    text-align: center;
    font-size: 16px;
    color: var(--ink-soft);
    pointer-events: none;
}
kbd {
    padding: 1px 7px;
    border: 1px solid var(--line);
    border-radius: 5px;
    font: 13px var(--mono);
    color: var(--ink);
}
.hint,
.zoom {
    position: absolute;
    bottom: 12px;
    height: 26px;
    padding: 0 14px;
    border: 1px solid var(--hairline);
    border-radius: 13px;
    background: var(--card);
    color: var(--ink-soft);
    font-size: 13px;
    line-height: 24px;
    z-index: 6;
}
.hint {
    left: 14px;
    pointer-events: none;
}
.zoom {
    right: 14px;
    display: flex;
    align-items: center;
    gap: 8px;
    padding: 0 10px;
}
.zoom button {
    display: grid;
    place-items: center;
    min-width: 24px;
    height: 24px;
    border-radius: 6px;
}
.zoom button:hover {
    background: var(--hover);
    color: var(--ink);
}
</style>
