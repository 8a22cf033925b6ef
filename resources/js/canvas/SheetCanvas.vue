<script setup lang="ts">
import { Maximize, Minus, Plus } from '@lucide/vue'
import { useVueFlow, VueFlow, type NodeDragEvent, type NodeMouseEvent } from '@vue-flow/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Kind, Placement, Point } from '@/api/types'
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
import { usePointerPull } from './usePointerPull'
import { usePull, type PullKind } from './usePull'
import { useSheet } from './useSheet'
import { useSheetDrag } from './useSheetDrag'
import { useSheetGeometry } from './useSheetGeometry'
import { useSheetKeys } from './useSheetKeys'

const model = useModel()
const runs = useRuns()
const view = useView()
const { nodes, edges } = useSheet()
const flow = useVueFlow()
const { screenToFlowCoordinate, viewport, fitView, zoomIn, zoomOut } = flow
const { pull, begin, finish, cancel, add } = usePull()
const stage = ref<HTMLElement>()
const drag = useSheetDrag(flow)
const { onStage, middleOf, freeSpot, travel, reveal } = useSheetGeometry(flow, stage)
const { startPull, stopPull } = usePointerPull(flow, stage, { pull, begin, finish, cancel })
const key = useSheetKeys(stage, {
    pull,
    add: (kind) => { void choose(kind, freeSpot()) },
    finish: () => { if (pull.value) void finish(selectedThing.value?.id === pull.value.thing ? undefined : selectedThing.value, pull.value.to) },
    cancel: () => {
        stopPull()
        cancel()
    },
    remove: () => { void removeSelected() },
    travel,
    nudge: drag.nudge,
})
const chooser = ref<{ screen: Point, at: Point } | null>(null)

const selectedThing = computed(() => view.selected ? model.model.elements[view.selected] : undefined)

const ringAt = computed(() => {
    const middle = selectedThing.value && !view.naming && !pull.value && !drag.dragging.value ? middleOf(selectedThing.value.id) : undefined
    return middle && onStage(middle)
})
/** What is given by points is given on its card. */
const sayingThing = computed(() => (model.model.elements[view.saying]?.points ? undefined : model.model.elements[view.saying]))
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
    <div ref="stage" class="stage" :class="{ pulling: pull, chosen: view.selection.length }" tabindex="0" role="application" aria-label="Sheet. S adds a stock, A an auxiliary, P a parameter, U a curve; arrows travel, Enter opens the formula, question mark lists the keys." aria-describedby="spoken" @keydown="key" @dblclick="openChooser">
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
