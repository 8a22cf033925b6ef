<script setup lang="ts">
import { useVueFlow, VueFlow, type Edge, type Node, type NodeDragEvent, type NodeMouseEvent } from '@vue-flow/core'
import { useEventListener, useResizeObserver } from '@vueuse/core'
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { Point } from '@/api/types'
import type { Box } from '@/canvas/shapes'
import { tidy } from '@/canvas/tidy'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { asPng, download } from '@/ui/download'
import { bowOf, boxOf } from './bows'
import FactorRing from './FactorRing.vue'
import { hullOf } from './hull'
import HullNode from './HullNode.vue'
import MapKey from './MapKey.vue'
import MapLine from './MapLine.vue'
import MapLink from './MapLink.vue'
import MapTabs from './MapTabs.vue'
import { drawingOf } from './picture'
import { useMap } from './useMap'
import { useMapKeys } from './useMapKeys'

/** The causal map: hulls on their waterlines, links with their marks, and the line to type into. */
const model = useModel()
const view = useView()
const map = useMap()
const flow = useVueFlow()
const stage = ref<HTMLElement>()
const line = ref<InstanceType<typeof MapLine>>()
const { viewport } = flow

const SPOKEN = 'Causal map. Letters go to the line at the foot; arrows travel along links; the tab Sentences holds all of it as a list.'

const boxes = computed<Box[]>(() =>
    map.factors.map((t) => boxOf(t.id, map.spots[t.id] ?? { x: 0, y: 0 }, map.hulls.get(t.id) ?? hullOf(t.name))),
)
const nodes = computed<Node[]>(() =>
    boxes.value.map((b) => ({
        id: b.id,
        type: 'hull',
        position: { x: b.x, y: b.y },
        width: b.width,
        height: b.height,
        style: { width: `${b.width}px`, height: `${b.height}px` },
        zIndex: 10,
    })),
)
/** The quiet ground under what is in a group: below the links, and with the hull while it is dragged. */
const grounds = computed(() =>
    flow.nodes.value.flatMap(({ id, position }) => {
        const [group, hull] = [model.groupOf.get(id), map.hulls.get(id)]
        return group && hull
            ? [
                  {
                      id,
                      tint: group.tint,
                      ellipse: {
                          cx: position.x + hull.width / 2,
                          cy: position.y + hull.height / 2,
                          rx: hull.width / 2 + 24,
                          ry: hull.height / 2 + 18,
                      },
                  },
              ]
            : []
    }),
)
const bend = (from: string, to: string) => bowOf(from, to, map.between.has(`${to}>${from}`), map.links.length, boxes.value)
const edges = computed<Edge[]>(() =>
    map.links.map((l) => ({ id: l.id, type: 'mark', source: l.from, target: l.to, data: { link: l.id, bow: bend(l.from, l.to) } })),
)

function press({ node, event }: NodeMouseEvent) {
    if (line.value?.typing) {
        line.value.name(map.nameOf(node.id))
    } else if ('shiftKey' in event && event.shiftKey) {
        map.select(...(view.selection.includes(node.id) ? view.selection.filter((s) => s !== node.id) : [...view.selection, node.id]))
    } else {
        map.select(node.id)
    }
}
function dropped({ nodes: moved }: NodeDragEvent) {
    const spots: Record<string, Point> = {}
    for (const node of moved) {
        const hull = map.hulls.get(node.id) ?? hullOf('')
        spots[node.id] = { x: Math.round(node.position.x + hull.width / 2), y: Math.round(node.position.y + hull.height / 2) }
    }
    void model.attempt({ kind: 'map-move', spots })
}
const selectedSpot = computed(() => {
    const at = view.selection.length === 1 && !map.picked ? map.spots[view.selection[0] ?? ''] : undefined
    return at && map.factor
        ? { x: at.x * viewport.value.zoom + viewport.value.x, y: at.y * viewport.value.zoom + viewport.value.y }
        : undefined
})

/** Whether the whole map is in sight, until a hand moves it. */
let fitted = false
async function fit() {
    fitted = true
    await nextTick()
    await flow.fitView({ padding: 0.05, maxZoom: 1.15 })
}
/** Lays all of the map out anew, so that little crosses. */
async function layOut() {
    const sizes = boxes.value.map(({ id, width, height }) => ({ id, width: width + 40, height: height + 50 }))
    const spots = await tidy(
        sizes,
        map.links.map(({ from, to }) => ({ from, to })),
    )
    await model.attempt({ kind: 'map-move', spots })
    await fit()
}
/** The map as it is seen, as a file. */
async function picture(format: 'svg' | 'png') {
    const drawing = drawingOf({
        title: model.model.name,
        factors: map.factors.map((t) => ({ id: t.id, name: t.name, at: map.spots[t.id] ?? { x: 0, y: 0 }, level: map.levelOf(t.id) })),
        links: map.links,
        bowOf: (l) => bend(l.from, l.to),
    })
    download(`${model.model.name}.${format}`, format === 'svg' ? drawing : await asPng(drawing), 'image/svg+xml')
}
const { key, anywhere } = useMapKeys({ fit: () => void fit(), type: (letter) => line.value?.type(letter) })
watch(
    () => view.asked,
    (asked) => {
        const acts: Record<string, () => void> = {
            'map-fit': () => void fit(),
            'map-tidy': () => void layOut(),
            'map-line': () => line.value?.type(''),
            'map-svg': () => void picture('svg'),
            'map-png': () => void picture('png'),
        }
        const act = acts[asked]
        if (act) {
            view.asked = ''
            act()
        }
    },
    { flush: 'post' },
)
/** What is new comes into sight; what is in sight stays where it is. */
watch(
    () => Object.keys(map.spots).length,
    async (now, before) => {
        const box = stage.value?.getBoundingClientRect()
        if (now <= before || !box) {
            return
        }
        await nextTick()
        const { x, y, zoom } = viewport.value
        const isOut = boxes.value.some(
            (b) =>
                b.x * zoom + x < 0 ||
                b.y * zoom + y < 0 ||
                (b.x + b.width) * zoom + x > box.width ||
                (b.y + b.height) * zoom + y > box.height,
        )
        if (isOut) {
            fitted = true
            await flow.fitView({ padding: 0.05, maxZoom: Math.min(1.15, zoom), duration: 150 })
        }
    },
)
useResizeObserver(stage, () => {
    if (fitted) {
        void fit()
    }
})
useEventListener(window, 'keydown', (event) => {
    anywhere(event, stage.value)
})
onMounted(() => {
    window.setTimeout(() => {
        void fit()
        if (!map.factors.length) {
            line.value?.type('')
        } else {
            stage.value?.focus({ preventScroll: true })
        }
    }, 30)
})
</script>

<template>
    <div class="map-place">
        <MapTabs><MapKey class="legend" /></MapTabs>
        <ul v-if="grounds.length" class="group-names" aria-label="Groups">
            <li v-for="g in model.model.groups" :key="g.name" :style="{ background: `var(--${g.tint})` }">{{ g.name }}</li>
        </ul>
        <div ref="stage" class="map-stage" tabindex="0" role="application" :aria-label="SPOKEN" @keydown="key">
            <svg class="grounds" aria-hidden="true">
                <g :transform="`translate(${viewport.x} ${viewport.y}) scale(${viewport.zoom})`">
                    <ellipse v-for="g in grounds" :key="g.id" v-bind="g.ellipse" :style="{ fill: `var(--${g.tint})` }" />
                </g>
            </svg>
            <VueFlow
                :nodes="nodes"
                :edges="edges"
                :elements-selectable="false"
                :nodes-connectable="false"
                :nodes-focusable="false"
                :edges-focusable="false"
                :zoom-on-double-click="false"
                :disable-keyboard-a11y="true"
                :delete-key-code="null"
                :selection-key-code="null"
                :multi-selection-key-code="null"
                :min-zoom="0.15"
                :max-zoom="2.2"
                :node-drag-threshold="3"
                @node-click="press"
                @node-double-click="view.naming = $event.node.id"
                @pane-click="map.select()"
                @move-start="fitted = fitted && !$event.event.sourceEvent"
                @node-drag-stop="dropped"
            >
                <template #node-hull="{ id }"><HullNode :id="id" /></template>
                <template #edge-mark="p"><MapLink v-bind="p" /></template>
            </VueFlow>
            <FactorRing
                v-if="selectedSpot && map.factor && !view.naming"
                :factor="map.factor"
                :style="{ left: `${selectedSpot.x}px`, top: `${selectedSpot.y}px` }"
                :zoom="viewport.zoom"
                :room="selectedSpot.y"
                @link="line?.from($event)"
            />
            <p v-if="!map.factors.length" class="begin">
                Say what acts on what. Type a cause, press Enter, type its effect, press Enter: “rain”, “silt”. A minus before the effect
                means less of it.
            </p>
        </div>
        <MapLine ref="line" @leave="stage?.focus()" />
    </div>
</template>

<style scoped>
.map-place {
    display: flex;
    flex-direction: column;
    height: 100%;
    background: var(--paper);
    container-type: inline-size;
}
.map-stage {
    flex: 1;
    position: relative;
    overflow: hidden;
    contain: strict;
}
.grounds {
    position: absolute;
    inset: 0;
    width: 100%;
    height: 100%;
    opacity: 0.7;
    pointer-events: none;
}
.group-names {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin: 0;
    padding: 2px 18px 6px;
    list-style: none;
    font-size: 12px;
}
.group-names li {
    padding: 1px 9px;
    border-radius: 9px;
}
.map-stage:focus-visible {
    outline-offset: -2px;
}
.map-stage :deep(.vue-flow__pane) {
    cursor: default;
}
.map-stage :deep(.vue-flow__edge) {
    pointer-events: none;
}
.map-stage :deep(.vue-flow__edge .reach) {
    pointer-events: stroke;
}
.begin {
    position: absolute;
    left: 50%;
    top: 42%;
    width: min(460px, 84%);
    transform: translate(-50%, -50%);
    text-align: center;
    font-size: 17px;
    line-height: 1.5;
    color: var(--ink-soft);
    pointer-events: none;
}
@container (width < 800px) {
    .legend {
        display: none;
    }
}
</style>
