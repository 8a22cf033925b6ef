<script setup lang="ts">
import { ChevronDown, ChevronUp, Pause, Play } from '@lucide/vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useView } from '@/stores/view'
import SketchTrack from './SketchTrack.vue'
import { useMap } from './useMap'
import { useBeats } from './useBeats'

/** The map over beats: no time of the study, and no measure. */
const map = useMap()
const view = useView()
const bar = ref<HTMLElement>()
const { width } = useElementSize(bar)
useBeats()

/** So many tracks fit without scrolling on most screens. */
const MOST = 6
const longest = computed(() => map.read?.longest ?? map.beats)

const every = computed(() => {
    const room = Math.max(1, Math.floor(width.value / 46))
    return [1, 2, 5, 10, 20, 50, 100].find((e) => map.beats / e <= room) ?? 100
})
const marks = computed(() => Array.from({ length: Math.floor(map.beats / every.value) + 1 }, (_, i) => i * every.value))
const share = (beat: number) => `${(100 * beat) / map.beats}%`

/** What is plotted: what hands are on, what is selected, the walked loop, and what moves most. */
const tracks = computed(() => {
    if (!map.isPlayed) {
        return []
    }
    const chosen = [...map.pushes.map((p) => p.factor), ...Object.keys(map.starts), ...view.selection, ...(map.walked?.path ?? [])]
    const most = Object.entries(map.read?.heights ?? {})
        .map(([id, course]) => ({ id, far: Math.max(...course.map(Math.abs)) }))
        .filter((t) => t.far > 0.02)
        .sort((a, b) => b.far - a.far)
        .map((t) => t.id)
    const known = new Set(map.factors.map((t) => t.id))
    return [...new Set([...chosen, ...most])].filter((id) => known.has(id)).slice(0, MOST)
})
/** As long as nothing is played, the map has the room. */
const high = computed(() => (tracks.value.length ? Math.min(view.tracksHeight, tracks.value.length * 67) : 36))
const hands = computed(() =>
    map.pushes.map((p, i) => ({
        key: i,
        at: p.from ?? 0,
        words: `${map.nameOf(p.factor)} ${p.hold ? 'held' : p.by > 0 ? 'pushed up' : 'pushed down'}`,
    })),
)

function moveTo(event: PointerEvent) {
    const box = bar.value?.getBoundingClientRect()
    if (box) {
        map.beat = map.beats * Math.min(1, Math.max(0, (event.clientX - box.left) / box.width))
    }
}
function press(event: PointerEvent) {
    map.playing = false
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    moveTo(event)
}
function key(event: KeyboardEvent) {
    const to = {
        ArrowLeft: map.beat - 1,
        ArrowRight: map.beat + 1,
        PageDown: map.beat - 10,
        PageUp: map.beat + 10,
        Home: 0,
        End: map.beats,
    }[event.key]
    if (to !== undefined) {
        event.preventDefault()
        map.playing = false
        map.beat = Math.min(map.beats, Math.max(0, Math.round(to)))
    }
}
</script>

<template>
    <section class="foot" aria-label="The sketch over beats">
        <div class="ruler">
            <div class="left">
                <Button
                    class="icon-button"
                    :aria-label="map.playing ? 'Pause' : 'Play'"
                    :title="map.playing ? 'Pause (space)' : 'Play (space)'"
                    @click="map.playing = !map.playing"
                    ><Pause v-if="map.playing" :size="17" :stroke-width="1.5" /><Play v-else :size="17" :stroke-width="1.5"
                /></Button>
                <span
                    >beat <b>{{ Math.round(map.beat) }}</b> <span class="soft">of {{ map.beats }} · a sketch</span></span
                >
                <Button
                    v-if="map.beats < longest"
                    class="longer soft"
                    title="Play it for longer"
                    @click="map.beats = Math.min(longest, map.beats * 2)"
                    >longer</Button
                >
            </div>
            <div
                ref="bar"
                class="bar"
                tabindex="0"
                role="slider"
                aria-label="Beat"
                aria-valuemin="0"
                :aria-valuemax="map.beats"
                :aria-valuenow="Math.round(map.beat)"
                :aria-valuetext="`beat ${Math.round(map.beat)} of ${map.beats}`"
                @pointerdown="press"
                @pointermove="
                    (e: PointerEvent) => {
                        if (e.buttons === 1) moveTo(e)
                    }
                "
                @keydown="key"
            >
                <span v-for="m in marks" :key="m" class="mark" :style="{ left: share(m) }"
                    ><i>{{ m }}</i></span
                >
                <svg
                    v-for="h in hands"
                    :key="h.key"
                    class="hand"
                    width="10"
                    height="8"
                    viewBox="0 0 10 8"
                    :style="{ left: share(h.at) }"
                    role="img"
                    :aria-label="h.words"
                >
                    <title>{{ h.words }}</title>
                    <path d="M0 0H10L5 8Z" />
                </svg>
                <svg class="head" width="14" height="16" viewBox="0 0 14 16" :style="{ left: share(map.beat) }" aria-hidden="true">
                    <path d="M1.5 1h11v8.5L7 15 1.5 9.5z" />
                </svg>
            </div>
            <Button
                class="icon-button fold"
                :aria-label="view.tracks ? 'Fold the tracks' : 'Show the tracks'"
                :aria-expanded="view.tracks"
                @click="view.tracks = !view.tracks"
                ><ChevronDown v-if="view.tracks" :size="16" :stroke-width="1.5" /><ChevronUp v-else :size="16" :stroke-width="1.5"
            /></Button>
        </div>
        <div v-if="view.tracks" class="list" :style="{ height: `${high}px` }">
            <div class="inner">
                <SketchTrack v-for="id in tracks" :id="id" :key="id" />
                <p v-if="!tracks.length" class="none soft">
                    All is as usual. Select a factor and push it up or down: what follows is played here and on the map.
                </p>
                <i
                    v-else
                    class="now"
                    :style="{ left: `calc(var(--label) + (100% - var(--label) - var(--line-end)) * ${map.beat / map.beats})` }"
                />
            </div>
        </div>
    </section>
</template>

<style scoped>
.foot {
    background: var(--card);
}
.ruler {
    position: relative;
    display: grid;
    grid-template-columns: var(--label) 1fr;
    height: 30px;
    padding-right: var(--line-end);
    border-top: 2px solid color-mix(in srgb, var(--line) 60%, var(--hairline));
    border-bottom: 1px solid var(--hairline);
}
.left {
    display: flex;
    align-items: center;
    gap: 4px;
    padding-left: 4px;
    font-size: 12.5px;
    white-space: nowrap;
}
.left b {
    color: var(--ember);
}
.icon-button {
    height: 26px;
}
.longer {
    padding: 1px 6px;
    border-radius: 6px;
    text-decoration: underline;
    text-underline-offset: 3px;
}
.bar {
    position: relative;
    cursor: ew-resize;
    touch-action: none;
}
.mark {
    position: absolute;
    bottom: 0;
    width: 1px;
    height: 9px;
    background: var(--line);
}
.mark i {
    position: absolute;
    bottom: 8px;
    left: 4px;
    font-style: normal;
    font-size: 12px;
    color: var(--ink-soft);
}
.head,
.hand {
    position: absolute;
    top: 0;
    margin-left: -7px;
}
.hand {
    margin-left: -5px;
}
.hand path {
    fill: var(--plum);
}
.head path {
    fill: var(--ember);
}
.fold {
    position: absolute;
    right: 10px;
    top: 1px;
}
.list {
    overflow-y: auto;
}
.inner {
    position: relative;
    min-height: 100%;
}
.none {
    display: grid;
    place-items: center;
    height: 36px;
    padding: 0 20px;
    text-align: center;
}
.now {
    position: absolute;
    top: 0;
    bottom: 0;
    width: 1.5px;
    margin-left: -0.75px;
    background: var(--ember);
    pointer-events: none;
}
</style>
