<script setup lang="ts">
import { Pause, Play } from '@lucide/vue'
import { useElementSize } from '@vueuse/core'
import { computed, ref } from 'vue'
import { useCatalogue } from '@/stores/catalogue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { useTimeMarks } from '@/charts/useTimeMarks'
import ComingMarks from './ComingMarks.vue'
import { dateAt, dateWords } from '@/ui/dates'
import { literal } from '@/ui/numbers'

const model = useModel()
const view = useView()
const catalogue = useCatalogue()
const bar = ref<HTMLElement>()
const { width } = useElementSize(bar)

const time = computed(() => model.model.time)
const shown = computed(() => literal(Number(view.playhead.toPrecision(5))))

const today = computed(() => {
    const date = dateAt(view.playhead, model.model.calendar)
    return date ? dateWords(date, '') : ''
})
/** What of the time is shown. */
const part = computed(() => view.span ?? ([time.value.start, time.value.end] as const))
const share = (t: number) => (t - part.value[0]) / (part.value[1] - part.value[0])
const { marks } = useTimeMarks(part, width)

function moveTo(event: PointerEvent) {
    const box = bar.value?.getBoundingClientRect()
    if (box) {
        const s = Math.min(1, Math.max(0, (event.clientX - box.left) / box.width))
        view.playhead = part.value[0] + s * (part.value[1] - part.value[0])
    }
}

function press(event: PointerEvent) {
    view.playing = false
    ;(event.currentTarget as HTMLElement).setPointerCapture(event.pointerId)
    moveTo(event)
}

function drag(event: PointerEvent) {
    if (event.buttons === 1) {
        moveTo(event)
    }
}

function key(event: KeyboardEvent) {
    const save = time.value.saveEvery ?? time.value.step
    const moves: Record<string, number> = {
        ArrowLeft: view.playhead - save,
        ArrowRight: view.playhead + save,
        PageDown: view.playhead - 10 * save,
        PageUp: view.playhead + 10 * save,
        Home: time.value.start,
        End: time.value.end,
    }
    const to = moves[event.key]
    if (to !== undefined) {
        event.preventDefault()
        view.playhead = Math.min(time.value.end, Math.max(time.value.start, Number(to.toPrecision(12))))
    }
}

const method = computed(() => catalogue.content.methods.find((m) => m.name === time.value.method)?.abbreviation ?? '')
function openSettings() {
    view.select()
    view.card = true
}
</script>

<template>
    <div class="ruler">
        <div class="left">
            <button
                type="button"
                class="icon-button"
                :aria-label="view.playing ? 'Pause' : 'Play'"
                :title="view.playing ? 'Pause (space)' : 'Play (space)'"
                @click="view.playing = !view.playing"
            >
                <Pause v-if="view.playing" :size="17" :stroke-width="1.5" /><Play v-else :size="17" :stroke-width="1.5" />
            </button>
            <button
                v-if="view.playing"
                type="button"
                class="speed soft"
                :aria-label="`Speed ${view.speed} times`"
                title="Speed"
                @click="view.speed = view.speed === 1 ? 3 : view.speed === 3 ? 0.3 : 1"
            >
                {{ view.speed }}×
            </button>
            <button type="button" class="settings" title="Time settings" aria-label="Time settings" @click="openSettings">
                <span>{{ time.unit }}</span> <b>{{ shown }}</b>
                {{ ' ' }}
                <span class="soft">{{ today ? `· ${today}` : `of ${literal(time.end)}` }} · {{ method }} · {{ literal(time.step) }}</span>
            </button>
        </div>
        <div
            ref="bar"
            class="bar"
            tabindex="0"
            role="slider"
            aria-label="Playhead"
            :aria-valuemin="time.start"
            :aria-valuemax="time.end"
            :aria-valuenow="Number(shown)"
            :aria-valuetext="`${time.unit} ${shown}${today ? `, ${today}` : ''}`"
            @pointerdown="press"
            @pointermove="drag"
            @keydown="key"
        >
            <span
                v-for="mark in marks"
                :key="mark.time"
                class="mark"
                :class="{ long: mark.words }"
                :style="{ left: `${share(mark.time) * 100}%` }"
                ><i v-if="mark.words">{{ mark.words }}</i></span
            >
            <ComingMarks v-if="view.place === 'members'" :part="part" :width="width" />
            <svg
                class="head"
                width="14"
                height="16"
                viewBox="0 0 14 16"
                :style="{ left: `${share(view.playhead) * 100}%` }"
                aria-hidden="true"
            >
                <path d="M1.5 1h11v8.5L7 15 1.5 9.5z" />
            </svg>
        </div>
    </div>
</template>

<style scoped>
.ruler {
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
    gap: 2px;
    padding-left: 4px;
    white-space: nowrap;
    overflow: hidden;
}
.icon-button {
    height: 26px;
}
.speed {
    padding: 2px 4px;
    border-radius: 5px;
    font-size: 12px;
    min-width: 26px;
}
.settings {
    padding: 2px 4px;
    border-radius: 6px;
    font-size: 12.5px;
    overflow: hidden;
    text-overflow: ellipsis;
}
.settings:hover,
.speed:hover {
    background: var(--hover);
}
.settings b {
    color: var(--ember);
    margin: 0 2px;
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
    height: 5px;
    background: var(--line);
}
.mark.long {
    height: 11px;
}
.mark i {
    position: absolute;
    bottom: 8px;
    left: 4px;
    font-style: normal;
    font-size: 12px;
    color: var(--ink-soft);
}
.head {
    position: absolute;
    top: 0;
    margin-left: -7px;
}
.head path {
    fill: var(--ember);
}
</style>
