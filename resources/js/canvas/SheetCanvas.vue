<script setup lang="ts">
import { useVueFlow, VueFlow } from '@vue-flow/core'
import { MiniMap } from '@vue-flow/minimap'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Point } from '@/api/types'
import '@vue-flow/minimap/dist/style.css'
import { useKeys } from '@/stores/keys'
import { useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useTracks } from '@/stores/tracks'
import { useView } from '@/stores/view'
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
import SayingField from './SayingField.vue'
import StockNode from './StockNode.vue'
import PinnedPlots from './PinnedPlots.vue'
import PointerMarks from './PointerMarks.vue'
import ThingRing from './ThingRing.vue'
import { useBends } from './useBends'
import { useClipboard } from './useClipboard'
import { useMarquee } from './useMarquee'
import { usePicture } from './usePicture'
import { usePointerPull } from './usePointerPull'
import { usePull, type PullKind } from './usePull'
import { useRing } from './useRing'
import { useRingRoom } from './useRingRoom'
import { useSheet } from './useSheet'
import { useSheetCommands } from './useSheetCommands'
import { useSheetDrag } from './useSheetDrag'
import { LEAST, useSheetGeometry } from './useSheetGeometry'
import { useSheetKeys } from './useSheetKeys'
import { useSheetPlaces } from './useSheetPlaces'
import { useSheetPointer } from './useSheetPointer'
import { useSpoken } from './useSpoken'
import { useTidyUp } from './useTidyUp'
import ZoomBar from './ZoomBar.vue'

const model = useModel()
const tracks = useTracks()
const mends = useMends()
const view = useView()
const keys = useKeys()
const { nodes, edges, here } = useSheet()
const flow = useVueFlow()
const { viewport, zoomIn, zoomOut } = flow
const pulls = usePull()
const { pull, begin, finish, cancel } = pulls
const stage = ref<HTMLElement>()
const drag = useSheetDrag(flow)
const { onStage, middleOf, freeSpot, reachesOf, spotOfRing, travel, reveal, jump, fit, fitSelection } = useSheetGeometry(flow, stage)
const { startPull, stopPull, thingUnder } = usePointerPull(flow, stage, { pull, begin, finish, cancel })
const { box, press: pressMarquee } = useMarquee(flow, stage)
const bends = useBends(flow, onStage)
const clipboard = useClipboard()
const { key, single } = useSheetKeys(stage, {
    pull,
    add: (kind) => {
        void choose(kind, freeSpot())
    },
    finish: () => {
        if (pull.value) void finish(selectedThing.value?.id === pull.value.thing ? undefined : selectedThing.value, pull.value.to)
    },
    cancel: () => {
        stopPull()
        cancel()
    },
    remove: () => {
        void pointer.removeSelected()
    },
    travel,
    nudge: drag.nudge,
    pickLink: bends.pickNext,
    bend: bends.nudge,
    echo: () => {
        reach('echo')
    },
    track: () => {
        void tracks.show(
            view.selectedThings,
            !view.selectedThings.filter((id) => model.model.elements[id]?.kind !== 'curve').every(tracks.has),
        )
    },
    fit: () => {
        void fit()
    },
    fitSelection: () => {
        void fitSelection()
    },
    held: {
        a: () => {
            view.select(...nodes.value.filter((n) => n.type !== 'outside').map((n) => n.id))
        },
        c: () => {
            void clipboard.copy()
        },
        x: () => {
            void clipboard.cut()
        },
        v: () => {
            void clipboard.paste(freeSpot())
        },
        d: () => {
            void clipboard.double(freeSpot())
        },
    },
})
const selectedThing = computed(() => (view.selected ? model.model.elements[view.selected] : undefined))

const { detail, painted, many, isDrawn, nodeAt, point, pointed } = usePicture(nodes, edges, flow)
/** While the sheet moves it is a layer of its own, which is not painted anew. */
const moving = ref(false)
const { rest, ringNode, ringThing, ringAt, withRing } = useRing({
    placeOf: (node) => placeOnStage(node),
    busy: () => Boolean(pull.value ?? pointer.chooser.value) || drag.dragging.value,
    far: () => detail.value === 'far' || moving.value,
})
const pointer = useSheetPointer(flow, { stage, drag, pulls, nodeAt, thingUnder, dismiss: rest.dismiss })
const { chooser, choose } = pointer
const { ringSpotNow, ringReach, handles } = useRingRoom({ ringNode, ringThing, ringAt }, { spotOfRing, reachesOf }, bends.handles)
/** Where a thing or an echo stands on the stage. */
const placeOnStage = (node?: string) => {
    const middle = middleOf(node)
    return middle && onStage(middle)
}
const spoken = useSpoken()
const pullLine = computed(() => {
    const from = pull.value && middleOf(pull.value.node)
    return from && pull.value ? { a: onStage(from), b: onStage(pull.value.to) } : undefined
})
const guides = computed(() => {
    const { x, y } = drag.guides.value
    return { x: x === undefined ? undefined : onStage({ x, y: 0 }).x, y: y === undefined ? undefined : onStage({ x: 0, y }).y }
})
/**
 * By keyboard a flow reaches to the outside at once and an echo stands beside; a link, or the end of a flow, waits for a thing
 * to be chosen with the arrows.
 */
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

/** Lines up or spaces what is selected. */
function arrange(how: Arrangement) {
    const things = view.selection
        .map((id) => ({ id, at: middleOf(id), ...drag.sizeOf(id) }))
        .filter((t): t is typeof t & { at: Point } => t.at !== undefined)
    const middles = arranged(things, how)
    if (Object.keys(middles).length) {
        void drag.moveTo(middles)
    }
}
const tidyUp = useTidyUp(nodes, edges, fit)
useSheetCommands({
    add: (kind) => void choose(kind, freeSpot()),
    arrange,
    named: {
        fit: () => void fit(),
        'fit-selection': () => void fitSelection(),
        tidy: () => void tidyUp(),
        copy: () => void clipboard.copy(),
        paste: () => void clipboard.paste(freeSpot()),
        double: () => void clipboard.double(freeSpot()),
        echo: () => {
            reach('echo')
        },
        focus: () => stage.value?.focus(),
    },
})
useSheetPlaces(flow, { fit, jump })
// Whoever makes room for a panel keeps what is selected in sight.
useResizeObserver(stage, () => {
    if (view.node) reveal(view.node)
})
useEventListener(window, 'keydown', anywhere)
onMounted(() => {
    // The sheet has the keyboard, as its paper says.
    stage.value?.focus({ preventScroll: true })
    void nextTick(() =>
        window.setTimeout(() => {
            void fit().then(() => {
                if (view.node) jump(view.node)
            })
        }, 30),
    )
})
/** Single keys act wherever no text is typed and nothing else takes them. */
function anywhere(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (
        target !== stage.value &&
        !mends.waiting &&
        !event.defaultPrevented &&
        event.key.length === 1 &&
        event.key !== ' ' &&
        !target.closest('input, textarea, select, [contenteditable], [role="dialog"], [role="menu"], [role="listbox"], [role="slider"]')
    ) {
        single(event)
    }
}

// What is selected in the outline or on a card comes into sight; under the pointer nothing moves.
watch([() => view.node, () => view.centring] as const, ([id, centring], [, before]) => {
    if (id && (centring !== before || !stage.value?.matches(':hover')))
        void nextTick(() => {
            ;(centring === before ? reveal : jump)(id)
        })
})
watch([() => view.naming, () => view.saying], ([naming, saying], [wasNaming, wasSaying]) => {
    if (
        !naming &&
        !saying &&
        (wasNaming || wasSaying) &&
        (document.activeElement === document.body || document.activeElement?.closest('.stage'))
    ) {
        void nextTick(() => stage.value?.focus({ preventScroll: true }))
    }
})
/** For who does not see the sheet. */
const howTo = computed(() => {
    const adds = (['stock', 'auxiliary', 'parameter', 'curve'] as const).map((kind) => `${keys.word(kind)} adds a ${kind}`).join(', ')
    const list = keys.word('keys') === '?' ? 'question mark' : keys.word('keys')
    return `${adds.replace('a auxiliary', 'an auxiliary')}; arrows travel, Enter opens the formula, ${list} lists the keys.`
})
const shadeOf = (node: { id: string; type?: string }) =>
    node.type === 'stock'
        ? 'var(--basin-tint)'
        : node.type === 'gate'
          ? 'var(--ribbon)'
          : node.type === 'outside'
            ? 'transparent'
            : 'var(--hairline)'
</script>

<template>
    <div
        ref="stage"
        class="stage"
        :class="[detail, { moving, many, pulling: pull, chosen: view.selection.length }]"
        :title="pointed || undefined"
        tabindex="0"
        role="application"
        :aria-label="`Sheet. ${howTo}`"
        aria-describedby="spoken"
        @keydown="key"
        @dblclick="pointer.openChooser"
        @mousedown.capture="pressMarquee"
    >
        <FarPicture v-if="painted" :nodes="nodes" :edges="edges" :flow="flow" />
        <VueFlow
            :nodes="nodes"
            :edges="edges"
            :nodes-draggable="!pull"
            :pan-on-drag="!pull"
            :elements-selectable="false"
            :nodes-connectable="false"
            :nodes-focusable="false"
            :edges-focusable="false"
            :zoom-on-double-click="false"
            :disable-keyboard-a11y="true"
            :delete-key-code="null"
            :selection-key-code="null"
            :multi-selection-key-code="null"
            :min-zoom="LEAST"
            :max-zoom="2.5"
            :node-drag-threshold="3"
            @node-mouse-enter="rest.enter($event.node.id)"
            @node-mouse-leave="rest.leave"
            @node-click="pointer.press"
            @pane-click="pointer.pressPaper"
            @pane-mouse-move="point"
            @node-drag-start="drag.start"
            @node-drag="drag.move"
            @node-drag-stop="pointer.dragStop"
            @move-start="moving = true"
            @move-end="moving = false"
        >
            <template #node-stock="{ id, data }"
                ><StockNode v-if="isDrawn(id, data.thing)" :id="data.thing" :node="id" :echo="data.echo" /><FarThing
                    v-else
                    :thing="data.thing"
            /></template>
            <template #node-gate="{ id, data }"
                ><GateNode v-if="isDrawn(id, id)" :id="id" :above="data.above" /><FarThing v-else :thing="id"
            /></template>
            <template #node-capsule="{ id, data }"
                ><CapsuleNode v-if="isDrawn(id, data.thing)" :id="data.thing" :node="id" :echo="data.echo" /><FarThing
                    v-else
                    :thing="data.thing"
            /></template>
            <template #node-outside="{ id }"><OutsideNode v-if="isDrawn(id)" :id="id" /><i v-else class="far-thing" /></template>
            <template #edge-ribbon="p"><RibbonEdge v-if="isDrawn(p.id)" v-bind="p" /></template>
            <template #edge-link="p"><LinkEdge v-if="isDrawn(p.id)" v-bind="p" /></template>
            <MiniMap
                v-if="view.minimap"
                class="minimap"
                pannable
                zoomable
                :width="170"
                :height="110"
                :node-color="shadeOf"
                mask-color="color-mix(in srgb, var(--paper) 70%, transparent)"
                :aria-label="'Small map of the sheet'"
            />
        </VueFlow>
        <PointerMarks :pull="pull?.kind" :line="pullLine" :guides="guides" :box="box" />
        <PinnedPlots :viewport="viewport" />
        <BendHandles
            v-if="!view.saying && !drag.dragging.value && !pull"
            :handles="handles"
            :zoom="viewport.zoom"
            @move="bends.move"
            @straighten="bends.straighten"
        />
        <ThingRing
            v-if="ringAt && ringThing && ringSpotNow && !view.saying"
            :style="{ left: `${ringAt.x}px`, top: `${ringAt.y}px` }"
            :thing="ringThing"
            :clear="ringReach"
            :spot="ringSpotNow"
            :tracked="tracks.has(ringThing.id)"
            @pointerenter="rest.stay"
            @pointerleave="rest.leave"
            @pull="
                (kind, event) =>
                    withRing(() => {
                        startPull(kind, event)
                    })
            "
            @reach="
                (kind) =>
                    withRing(() => {
                        reach(kind)
                    })
            "
            @say="
                withRing((thing) => {
                    view.saying = thing.id
                })
            "
            @why="
                withRing((thing) => {
                    view.trail = thing.id
                    view.go({ place: 'try', stage: 'trail', selection: [thing.id] })
                })
            "
            @track="
                withRing((thing) => {
                    void tracks.show([thing.id], !tracks.has(thing.id))
                })
            "
        />
        <SayingField :room="stage" :place="placeOnStage" :zoom="viewport.zoom" />
        <KindChooser
            v-if="chooser"
            :style="{ left: `${chooser.screen.x}px`, top: `${chooser.screen.y}px` }"
            @choose="choose($event)"
            @close="
                () => {
                    chooser = null
                    stage?.focus()
                }
            "
        />
        <p v-if="model.loaded && !model.things.length" class="begin">
            Double-click the paper<template v-if="keys.word('stock')"
                >, or press <kbd>{{ keys.word('stock') }}</kbd>,</template
            >
            to add a first stock: something that fills and empties.<template v-if="model.all.length">
                Or take a factor of the map over: its card there says what it could become.</template
            >
        </p>
        <p v-else-if="model.loaded && !here.length && !nodes.length" class="begin">
            This sheet is empty. Add things here, or select some on another sheet and move them over from their card.
        </p>
        <p v-if="pull" class="hint" role="status">
            {{
                pull.kind === 'link'
                    ? 'Click the thing that depends on it, or empty paper for a new one'
                    : pull.kind === 'echo'
                      ? 'Click where the echo should stand'
                      : 'Click a stock to connect it, or empty paper for the outside'
            }}
            · Esc to stop
        </p>
        <p v-else class="hint">
            Double-click paper to add<template v-if="keys.word('keys')">
                · <b>{{ keys.word('keys') }}</b> keys</template
            >
        </p>
        <ZoomBar :zoom="viewport.zoom" @in="zoomIn()" @out="zoomOut()" @fit="fit()" />
        <span id="spoken" class="visually-hidden" aria-live="polite">{{ spoken }}</span>
    </div>
</template>

<style scoped src="./SheetCanvas.css"></style>
