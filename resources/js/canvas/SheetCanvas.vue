<script setup lang="ts">
import { Gauge, Map as MapIcon, Maximize, Minus, Plus } from '@lucide/vue'
import { useVueFlow, VueFlow, type NodeDragEvent, type NodeMouseEvent } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Kind, Placement, Point } from '@/api/types'
import '@vue-flow/minimap/dist/style.css'
import DialField from '@/card/DialField.vue'
import FormulaField from '@/card/FormulaField.vue'
import { useEffects } from '@/stores/effects'
import { useKeys } from '@/stores/keys'
import { useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
import { withUnit } from '@/ui/numbers'
import { arranged, type Arrangement } from '@/ui/arrange'
import BendHandles from './BendHandles.vue'
import CapsuleNode from './CapsuleNode.vue'
import FarPicture from './FarPicture.vue'
import FarThing from './FarThing.vue'
import GateNode from './GateNode.vue'
import KindChooser from './KindChooser.vue'
import LinkEdge from './LinkEdge.vue'
import OutsideNode from './OutsideNode.vue'
import RibbonEdge from './RibbonEdge.vue'
import { actionsOf } from './ringActions'
import { rowBox } from './ringSpot'
import { shapeOf } from './shapes'
import StockNode from './StockNode.vue'
import PinnedPlots from './PinnedPlots.vue'
import ThingRing from './ThingRing.vue'
import { useBends } from './useBends'
import { useClipboard } from './useClipboard'
import { useMarquee } from './useMarquee'
import { usePicture } from './usePicture'
import { usePointerPull } from './usePointerPull'
import { usePull, type PullKind } from './usePull'
import { useRing } from './useRing'
import { useSheet } from './useSheet'
import { useSheetDrag } from './useSheetDrag'
import { LEAST, useSheetGeometry } from './useSheetGeometry'
import { useSheetKeys } from './useSheetKeys'

const model = useModel()
const tracks = useTracks()
const mends = useMends()
const runs = useRuns()
const view = useView()
const notices = useNotices()
const keys = useKeys()
const effects = useEffects()
const { nodes, edges, here } = useSheet()
const flow = useVueFlow()
const { screenToFlowCoordinate, viewport, zoomIn, zoomOut } = flow
const { pull, begin, finish, cancel, add, reattach } = usePull()
const stage = ref<HTMLElement>()
const drag = useSheetDrag(flow)
const { onStage, middleOf, freeSpot, reachesOf, spotOfRing, travel, reveal, jump, fit, fitSelection } = useSheetGeometry(flow, stage)
const { startPull, stopPull, thingUnder } = usePointerPull(flow, stage, { pull, begin, finish, cancel })
const { box, press: pressMarquee } = useMarquee(flow, stage)
const bends = useBends(flow, onStage)
const clipboard = useClipboard()
const { key, single } = useSheetKeys(stage, {
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
    pickLink: bends.pickNext,
    bend: bends.nudge,
    echo: () => { reach('echo') },
    track: () => {
        void tracks.show(view.selectedThings, !view.selectedThings.filter((id) => model.model.elements[id]?.kind !== 'curve').every(tracks.has))
    },
    fit: () => { void fit() },
    fitSelection: () => { void fitSelection() },
    held: {
        a: () => { view.select(...nodes.value.filter((n) => n.type !== 'outside').map((n) => n.id)) },
        c: () => { void clipboard.copy() },
        x: () => { void clipboard.cut() },
        v: () => { void clipboard.paste(freeSpot()) },
        d: () => { void clipboard.double(freeSpot()) },
    },
})
const chooser = ref<{ screen: Point, at: Point } | null>(null)
/** Two wishes of the pointer for a new thing lie at least so many milliseconds apart. */
const QUICK = 450
let chosenAt = -QUICK

const selectedThing = computed(() => view.selected ? model.model.elements[view.selected] : undefined)
const isEcho = computed(() => view.node !== undefined && view.node in model.model.echoes)

const { detail, painted, many, isDrawn, nodeAt, point, pointed } = usePicture(nodes, edges, flow)
/** While the sheet moves it is a layer of its own, which is not painted anew. */
const moving = ref(false)
const { rest, ringNode, ringThing, ringAt, withRing } = useRing({
    placeOf: (node) => {
        const middle = middleOf(node)
        return middle && onStage(middle)
    },
    busy: () => Boolean(pull.value ?? chooser.value) || drag.dragging.value,
    far: () => detail.value === 'far' || moving.value,
})
const ringButtons = computed(() => (ringThing.value ? actionsOf(ringThing.value).length : 0))
const ringSpotNow = computed(() => (ringAt.value && ringNode.value ? spotOfRing(ringNode.value, ringButtons.value) : undefined))
const ringReach = computed(() => {
    const reaches = ringNode.value ? reachesOf(ringNode.value) : { above: 0, below: 0 }
    return ringSpotNow.value?.below ? reaches.below : reaches.above
})
/** Handles of legs that are not bent yet keep clear of the ring. */
const handles = computed(() => bends.handles.value.map((h) => {
    const ring = ringAt.value
    const row = ring && ringSpotNow.value && rowBox(ringButtons.value, ring, ringReach.value, ringSpotNow.value)
    if (!row || h.set || h.at.x < row.left - 12 || h.at.x > row.right + 12 || h.at.y < row.top - 12 || h.at.y > row.bottom + 12) {
        return h
    }
    return { ...h, at: { x: h.at.x, y: ringSpotNow.value?.below ? row.top - 14 : row.bottom + 14 } }
}))
/** What is given by points is given on its card. */
const sayingThing = computed(() => (model.model.elements[view.saying]?.points ? undefined : model.model.elements[view.saying]))
const sayingAt = computed(() => {
    const middle = sayingThing.value && (middleOf(view.node) ?? middleOf(sayingThing.value.id))
    if (!middle || !sayingThing.value || !stage.value) {
        return undefined
    }
    const at = onStage(middle)
    const below = shapeOf(sayingThing.value).height / 2 * viewport.value.zoom + (sayingThing.value.kind === 'flow' ? 44 : 22)
    return { left: `${Math.min(Math.max(8, at.x - 170), stage.value.clientWidth - 348)}px`, top: `${Math.min(at.y + below, stage.value.clientHeight - 120)}px` }
})
const pullLine = computed(() => {
    const from = pull.value && middleOf(pull.value.node)
    return from && pull.value ? { a: onStage(from), b: onStage(pull.value.to) } : undefined
})
const guides = computed(() => {
    const { x, y } = drag.guides.value
    return { x: x === undefined ? undefined : onStage({ x, y: 0 }).x, y: y === undefined ? undefined : onStage({ x: 0, y }).y }
})
/** What a screen reader hears of the selected thing: kind, name, value, what feeds it. */
const spoken = computed(() => {
    if (view.link) {
        const [from, to] = view.link.split('>').map((id) => model.model.elements[id]?.name)
        const sign = effects.signOf(view.link, model.model.links.find((l) => `${l.from}>${l.to}` === view.link)?.sign)
        return `link from ${from} to ${to}${sign === '+' ? ', the same way' : sign === '-' ? ', the other way' : ''}. Arrows bend it.`
    }
    const thing = selectedThing.value
    if (!thing) {
        return view.selection.length > 1 ? `${view.selection.length} things selected` : ''
    }
    const fed = model.model.links.filter((l) => l.to === thing.id && l.kind !== 'unused').map((l) => model.model.elements[l.from]?.name)
    const problem = model.problemOf.get(thing.id)
    const value = runs.value(thing.id)
    return `${isEcho.value ? 'echo of the ' : ''}${thing.kind} ${thing.name}${value === undefined ? '' : `, ${withUnit(value, thing.unit, { size: runs.size(thing.id) })}`}${fed.length ? `, fed by ${fed.join(', ')}` : ''}${problem ? `. ${problem.sentence}` : ''}`
})

/** By keyboard a flow reaches to the outside at once and an echo stands beside; a link, or the end of a flow, waits for a thing to be chosen with the arrows. */
function reach(kind: PullKind) {
    const thing = selectedThing.value
    const at = thing && middleOf(view.node)
    if (!thing || !at) {
        return
    }
    begin(kind, thing.id, at)
    if (kind === 'echo') {
        void finish(undefined, freeSpot())
    } else if (kind === 'inflow' || kind === 'outflow') {
        void finish(undefined, { x: at.x + (kind === 'inflow' ? -270 : 270), y: at.y })
    }
    stage.value?.focus()
}

/** Selects it besides, or not any more. */
function toggle(id: string) {
    view.selection = view.selection.includes(id) ? view.selection.filter((s) => s !== id) : [...view.selection, id]
}

function press({ node, event }: NodeMouseEvent) {
    rest.dismiss()
    const id = node.id.split('~')[0] as string
    if (event instanceof MouseEvent && event.shiftKey) {
        toggle(id)
    } else if (!view.naming || view.node !== id) {
        view.select(id)
    }
    if (!view.naming) {
        stage.value?.focus({ preventScroll: true })
    }
}

function pressPaper(event: MouseEvent) {
    chooser.value = null
    const node = nodeAt(event)
    if (node && event.shiftKey) {
        toggle(node.id)
    } else {
        view.select(...(node ? [node.id] : []))
    }
    stage.value?.focus({ preventScroll: true })
}

function openChooser(event: MouseEvent) {
    if (!(event.target as Element).closest('.vue-flow__pane') || nodeAt(event)) {
        return
    }
    const place = stage.value?.getBoundingClientRect()
    // The second press of a quick hand is no wish of its own.
    if (place && performance.now() - chosenAt > QUICK && !view.adding && !view.naming) {
        chooser.value = { screen: { x: Math.min(event.clientX - place.left, place.width - 290), y: Math.min(event.clientY - place.top, place.height - 215) }, at: screenToFlowCoordinate({ x: event.clientX, y: event.clientY }) }
    }
}

async function choose(kind: Kind, at = chooser.value?.at) {
    if (chooser.value) {
        chosenAt = performance.now()
    }
    chooser.value = null
    if (at) {
        await add(kind, at, {}, kind === 'flow' ? { source: { x: at.x - 110, y: at.y }, target: { x: at.x + 110, y: at.y } } : {})
    }
}

async function removeSelected() {
    if (view.link) {
        const [from = '', to = ''] = view.link.split('>')
        await model.attempt({ kind: 'disconnect', from, to })
        return
    }
    const ids = view.selection
    view.select()
    await model.remove(ids)
}

function dragStop(event: NodeDragEvent) {
    const places = drag.stop(event)
    // What is let go over the tracks gets one, and stays where it was.
    const over = event.event instanceof MouseEvent ? document.elementFromPoint(event.event.clientX, event.event.clientY) : null
    const plotted = model.model.echoes[event.node.id]?.element ?? event.node.id
    if (over?.closest('[data-drop="track"]') && model.model.elements[plotted] && model.model.elements[plotted].kind !== 'curve') {
        drag.back()
        void tracks.show([plotted], true)
        return
    }
    const [id, end] = event.node.id.split('~')
    // An end that is let go on a stock holds there.
    const target = end && event.event instanceof MouseEvent ? thingUnder(event.event) : undefined
    if (id && end && target?.kind === 'stock') {
        void reattach(id, end === 'source' ? 'from' : 'to', target, { x: 0, y: 0 })
    } else if (Object.keys(places).length) {
        void model.place(places)
    }
}

/** Lines up or spaces what is selected. */
function arrange(how: Arrangement) {
    const things = view.selection.map((id) => ({ id, at: middleOf(id), ...drag.sizeOf(id) })).filter((t): t is typeof t & { at: Point } => t.at !== undefined)
    const middles = arranged(things, how)
    if (Object.keys(middles).length) {
        void drag.moveTo(middles)
    }
}

/** Lays out the sheet, or what is selected, anew. */
async function tidyUp() {
    const chosen = new Set(view.selection.length > 1 ? view.selection : nodes.value.map((n) => n.id))
    const inside = nodes.value.filter((n) => chosen.has(n.id) || (n.type === 'outside' && chosen.has(n.id.split('~')[0] as string)))
    if (inside.length < 2) {
        return
    }
    const known = new Set(inside.map((n) => n.id))
    const { tidy } = await import('./tidy')
    const joins = edges.value.flatMap((e) => e.type === 'ribbon'
        ? [{ from: e.source, to: (e.data as { id: string }).id, strong: true }, { from: (e.data as { id: string }).id, to: e.target, strong: true }]
        : [{ from: e.source, to: e.target }])
    try {
        const middles = await tidy(inside.map((n) => ({ id: n.id, width: Math.max(Number(n.width), n.type === 'gate' ? 120 : 0), height: Number(n.height) + (n.type === 'gate' ? 44 : 18) })), joins)
        const left = Math.min(...inside.map((n) => n.position.x))
        const top = Math.min(...inside.map((n) => n.position.y))
        const places: Record<string, Placement> = {}
        for (const [id, at] of Object.entries(middles)) {
            const [thing, end] = id.split('~') as [string, 'source' | 'target' | undefined]
            const to = { x: Math.round(left + at.x), y: Math.round(top + at.y) }
            const was = places[thing] ?? { ...model.model.placements[thing] ?? { at: to } }
            places[thing] = end ? { ...was, [end]: to } : { ...was, at: to, bendIn: undefined, bendOut: undefined }
            if (!known.has(thing)) {
                Reflect.deleteProperty(places, thing)
            }
        }
        if (await model.place(places)) {
            notices.say('Tidied up.', { words: 'Undo', run: () => { void model.step('undo') } })
            await nextTick()
            void fit()
        }
    } catch (error) {
        notices.trouble(`This could not be laid out: ${(error as Error).message}`)
    }
}

/** The outline asks for a new thing. */
watch(() => view.wanted, (kind) => {
    if (kind) {
        view.wanted = ''
        void choose(kind, freeSpot())
    }
})
const COMMANDS: Record<string, () => void> = {
    fit: () => { void fit() },
    'fit-selection': () => { void fitSelection() },
    tidy: () => { void tidyUp() },
    copy: () => { void clipboard.copy() },
    paste: () => { void clipboard.paste(freeSpot()) },
    double: () => { void clipboard.double(freeSpot()) },
    echo: () => { reach('echo') },
    focus: () => { stage.value?.focus() },
}
watch(() => view.asked, (asked) => {
    if (!asked) {
        return
    }
    view.asked = ''
    const command = COMMANDS[asked]
    if (command) {
        command()
    } else {
        arrange(asked as Arrangement)
    }
}, { immediate: true })
// Where one left a sheet, one finds it again.
const places = new Map<string, { x: number, y: number, zoom: number }>()
watch(() => view.sheet, (now, before) => {
    places.set(before, { ...viewport.value })
    void nextTick(() => window.setTimeout(() => {
        const known = places.get(now)
        if (known) {
            void flow.setViewport(known)
        } else {
            void fit()
        }
        if (view.node) {
            jump(view.node)
        }
    }, 20))
})
// Whoever makes room for a panel keeps what is selected in sight.
useResizeObserver(stage, () => { if (view.node) reveal(view.node) })
useEventListener(window, 'keydown', anywhere)
onMounted(() => {
    // The sheet has the keyboard, as its paper says.
    stage.value?.focus({ preventScroll: true })
    void nextTick(() => window.setTimeout(() => { void fit().then(() => { if (view.node) jump(view.node) }) }, 30))
})
/** Single keys act wherever no text is typed and nothing else takes them. */
function anywhere(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (target !== stage.value && !mends.waiting && !event.defaultPrevented && event.key.length === 1 && event.key !== ' ' && !target.closest('input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="listbox"], [role="slider"]')) {
        single(event)
    }
}

// What is selected in the outline or on a card comes into sight; under the pointer nothing moves.
watch([() => view.node, () => view.centring] as const, ([id, centring], [, before]) => { if (id && (centring !== before || !stage.value?.matches(':hover'))) void nextTick(() => { (centring === before ? reveal : jump)(id) }) })
watch([() => view.naming, () => view.saying], ([naming, saying], [wasNaming, wasSaying]) => {
    if (!naming && !saying && (wasNaming || wasSaying) && (document.activeElement === document.body || document.activeElement?.closest('.stage'))) {
        void nextTick(() => stage.value?.focus({ preventScroll: true }))
    }
})
const shadeOf = (node: { id: string, type?: string }) => node.type === 'stock' ? 'var(--basin-tint)' : node.type === 'gate' ? 'var(--ribbon)' : node.type === 'outside' ? 'transparent' : 'var(--hairline)'
</script>

<template>
    <div ref="stage" class="stage" :class="[detail, { moving, many, pulling: pull, chosen: view.selection.length }]" :title="pointed || undefined" tabindex="0" role="application" :aria-label="`Sheet. ${keys.word('stock')} adds a stock, ${keys.word('auxiliary')} an auxiliary, ${keys.word('parameter')} a parameter, ${keys.word('curve')} a curve; arrows travel, Enter opens the formula, ${keys.word('keys') === '?' ? 'question mark' : keys.word('keys')} lists the keys.`" aria-describedby="spoken" @keydown="key" @dblclick="openChooser" @mousedown.capture="pressMarquee">
        <FarPicture v-if="painted" :nodes="nodes" :edges="edges" :flow="flow" />
        <VueFlow :nodes="nodes" :edges="edges" :nodes-draggable="!pull" :pan-on-drag="!pull" :elements-selectable="false" :nodes-connectable="false" :nodes-focusable="false" :edges-focusable="false" :zoom-on-double-click="false" :disable-keyboard-a11y="true" :delete-key-code="null" :selection-key-code="null" :multi-selection-key-code="null" :min-zoom="LEAST" :max-zoom="2.5" :node-drag-threshold="3" @node-mouse-enter="rest.enter($event.node.id)" @node-mouse-leave="rest.leave" @node-click="press" @pane-click="pressPaper" @pane-mouse-move="point" @node-drag-start="drag.start" @node-drag="drag.move" @node-drag-stop="dragStop" @move-start="moving = true" @move-end="moving = false">
            <template #node-stock="{ id, data }"><StockNode v-if="isDrawn(id, data.thing)" :id="data.thing" :node="id" :echo="data.echo" /><FarThing v-else :thing="data.thing" /></template>
            <template #node-gate="{ id, data }"><GateNode v-if="isDrawn(id, id)" :id="id" :above="data.above" /><FarThing v-else :thing="id" /></template>
            <template #node-capsule="{ id, data }"><CapsuleNode v-if="isDrawn(id, data.thing)" :id="data.thing" :node="id" :echo="data.echo" /><FarThing v-else :thing="data.thing" /></template>
            <template #node-outside="{ id }"><OutsideNode v-if="isDrawn(id)" :id="id" /><i v-else class="far-thing" /></template>
            <template #edge-ribbon="p"><RibbonEdge v-if="isDrawn(p.id)" v-bind="p" /></template>
            <template #edge-link="p"><LinkEdge v-if="isDrawn(p.id)" v-bind="p" /></template>
            <MiniMap v-if="view.minimap" class="minimap" pannable zoomable :width="170" :height="110" :node-color="shadeOf" mask-color="color-mix(in srgb, var(--paper) 70%, transparent)" :aria-label="'Small map of the sheet'" />
        </VueFlow>
        <svg v-if="pullLine" class="pull" aria-hidden="true">
            <line :x1="pullLine.a.x" :y1="pullLine.a.y" :x2="pullLine.b.x" :y2="pullLine.b.y" :class="pull?.kind" />
            <circle :cx="pullLine.b.x" :cy="pullLine.b.y" r="5" />
        </svg>
        <i v-if="guides.x !== undefined" class="guide down" :style="{ left: `${guides.x}px` }" />
        <i v-if="guides.y !== undefined" class="guide across" :style="{ top: `${guides.y}px` }" />
        <i v-if="box" class="marquee" :style="{ left: `${box.x}px`, top: `${box.y}px`, width: `${box.width}px`, height: `${box.height}px` }" />
        <PinnedPlots :viewport="viewport" />
        <BendHandles v-if="!view.saying && !drag.dragging.value && !pull" :handles="handles" :zoom="viewport.zoom" @move="bends.move" @straighten="bends.straighten" />
        <ThingRing
            v-if="ringAt && ringThing && ringSpotNow && !view.saying" :style="{ left: `${ringAt.x}px`, top: `${ringAt.y}px` }" :thing="ringThing" :clear="ringReach" :spot="ringSpotNow" :tracked="tracks.has(ringThing.id)"
            @pointerenter="rest.stay" @pointerleave="rest.leave"
            @pull="(kind, event) => withRing(() => { startPull(kind, event) })" @reach="(kind) => withRing(() => { reach(kind) })" @say="withRing((thing) => { view.saying = thing.id })"
            @why="withRing((thing) => { view.trail = thing.id; view.go({ place: 'try', stage: 'trail', selection: [thing.id] }) })" @track="withRing((thing) => { void tracks.show([thing.id], !tracks.has(thing.id)) })"
        />
        <div v-if="sayingThing && sayingAt" class="saying" :style="sayingAt" @keydown.stop @dblclick.stop>
            <FormulaField :key="sayingThing.id" :thing="sayingThing" autofocus @done="view.saying = ''" />
            <DialField v-if="sayingThing.kind === 'parameter' && typeof sayingThing.value === 'number'" :thing="sayingThing" compact class="on-the-spot" />
        </div>
        <KindChooser v-if="chooser" :style="{ left: `${chooser.screen.x}px`, top: `${chooser.screen.y}px` }" @choose="choose($event)" @close="chooser = null; stage?.focus()" />
        <p v-if="model.loaded && !model.things.length" class="begin">Double-click the paper<template v-if="keys.word('stock')">, or press <kbd>{{ keys.word('stock') }}</kbd>,</template> to add a first stock: something that fills and empties.</p>
        <p v-else-if="model.loaded && !here.length && !nodes.length" class="begin">This sheet is empty. Add things here, or select some on another sheet and move them over from their card.</p>
        <p v-if="pull" class="hint" role="status">{{ pull.kind === 'link' ? 'Click the thing that depends on it, or empty paper for a new one' : pull.kind === 'echo' ? 'Click where the echo should stand' : 'Click a stock to connect it, or empty paper for the outside' }} · Esc to stop</p>
        <p v-else class="hint">Double-click paper to add<template v-if="keys.word('keys')"> · <b>{{ keys.word('keys') }}</b> keys</template></p>
        <div class="zoom">
            <button type="button" :aria-pressed="view.strengths" aria-label="Show how strongly links act" title="Draw links as strongly as they act at the playhead" @click="view.strengths = !view.strengths"><Gauge :size="14" :stroke-width="1.6" /></button>
            <button type="button" :aria-pressed="view.minimap" aria-label="Small map" title="Small map of the sheet" @click="view.minimap = !view.minimap"><MapIcon :size="14" :stroke-width="1.6" /></button>
            <i class="between" />
            <button type="button" aria-label="Zoom out" title="Zoom out" @click="zoomOut()"><Minus :size="15" :stroke-width="1.6" /></button>
            <span>{{ Math.round(viewport.zoom * 100) }}</span>
            <button type="button" aria-label="Zoom in" title="Zoom in" @click="zoomIn()"><Plus :size="15" :stroke-width="1.6" /></button>
            <button type="button" aria-label="Fit the sheet" :title="`Fit the sheet (${keys.word('fit')}); the selection: ${keys.word('selection')}`" @click="fit()"><Maximize :size="14" :stroke-width="1.6" /></button>
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
.moving :deep(.vue-flow__transformationpane) {
    will-change: transform;
}
.stage :deep(.vue-flow__pane) {
    cursor: default;
}
.stage :deep(.vue-flow__edge) {
    pointer-events: none;
}
.stage :deep(.vue-flow__edge .reach) {
    pointer-events: stroke;
}
/* What is not drawn has no place among the layers either: thousands of empty ones take longer than all that is painted. */
.many :deep(.vue-flow__node:has(> .far-thing)),
.many :deep(.vue-flow__edges:not(:has(path))) {
    display: none;
}
.pulling :deep(.vue-flow__edge .reach) {
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
.zoom button[aria-pressed='true'] {
    background: var(--ink);
    color: var(--paper);
}
.between {
    width: 1px;
    height: 14px;
    background: var(--hairline);
}
.minimap {
    right: 0;
    bottom: 42px;
    overflow: hidden;
    border: 1px solid var(--hairline);
    border-radius: 10px;
    background: var(--card);
}
.guide {
    position: absolute;
    background: var(--line);
    pointer-events: none;
    z-index: 4;
}
.guide.down {
    top: 0;
    bottom: 0;
    width: 1px;
}
.guide.across {
    left: 0;
    right: 0;
    height: 1px;
}
.marquee {
    position: absolute;
    border: 1.5px solid var(--ember);
    border-radius: 4px;
    background: color-mix(in srgb, var(--ember) 8%, transparent);
    pointer-events: none;
    z-index: 20;
}
/* Less is drawn from farther away. */
.half :deep(.value),
.half :deep(.below small),
.half :deep(.node-plot),
.far :deep(.value),
.far :deep(.node-plot),
.far :deep(.below),
.far :deep(.capsule .name),
.far :deep(.sign) {
    visibility: hidden;
}
.far :deep(.stock strong) {
    font-size: 22px;
}
</style>
