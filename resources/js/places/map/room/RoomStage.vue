<script setup lang="ts">
import { Maximize } from '@lucide/vue'
import { useEventListener } from '@vueuse/core'
import { computed, nextTick, ref, watch, type Component } from 'vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { counted } from '@/ui/numbers'
import OrbitMark from '@/ui/OrbitMark.vue'
import { useMap } from '../useMap'
import RoomActions from './RoomActions.vue'
import RoomDoor from './RoomDoor.vue'
import RoomFactors from './RoomFactors.vue'
import RoomLater from './RoomLater.vue'
import RoomLinks from './RoomLinks.vue'
import RoomLoops from './RoomLoops.vue'
import RoomPairs from './RoomPairs.vue'
import RoomQuestion from './RoomQuestion.vue'
import RoomRecord from './RoomRecord.vue'
import { usePhones } from './usePhones'
import { STEPS, useRoom, type StepName } from './useRoom'

/** For a room and a projector: large type, one thing at a time, no panels, everything by keyboard. */
const room = useRoom()
const map = useMap()
const view = useView()
const model = useModel()
const root = ref<HTMLElement>()
const phones = usePhones()
const SHOWS: Record<StepName, Component> = {
    question: RoomQuestion,
    factors: RoomFactors,
    pairs: RoomPairs,
    links: RoomLinks,
    loops: RoomLoops,
    actions: RoomActions,
    later: RoomLater,
    record: RoomRecord,
}
const at = computed(() => STEPS.findIndex((s) => s.name === room.step))
function go(by: number) {
    const next = STEPS[at.value + by]
    if (next) {
        room.step = next.name
    }
}
function leave() {
    if (document.fullscreenElement) {
        void document.exitFullscreen()
    }
    view.go({ place: 'map', stage: 'map' })
}
/** The first thing to type into, or else to press, has the keyboard. */
function focus() {
    void nextTick(() => {
        const first = root.value?.querySelector<HTMLElement>(
            '.step-body [data-first], .step-body textarea, .step-body input, .step-body button',
        )
        ;(first ?? root.value)?.focus()
    })
}
watch(() => room.step, focus, { immediate: true, flush: 'post' })
useEventListener(window, 'keydown', (event) => {
    if (event.key === 'PageDown' || (event.altKey && event.key === 'ArrowRight')) {
        event.preventDefault()
        go(1)
    } else if (event.key === 'PageUp' || (event.altKey && event.key === 'ArrowLeft')) {
        event.preventDefault()
        go(-1)
    } else if (event.key === 'Escape' && !event.defaultPrevented) {
        event.preventDefault()
        const field = document.activeElement
        // What is being written stays in its field.
        if (field instanceof HTMLInputElement || field instanceof HTMLTextAreaElement ? field.value : '') {
            root.value?.focus()
        } else {
            leave()
        }
    }
})
const reinforcing = computed(() => map.loops.filter((l) => l.polarity === '+').length)
const balancing = computed(() => map.loops.filter((l) => l.polarity === '-').length)
</script>

<template>
    <div ref="root" class="room" tabindex="-1" role="region" aria-label="Workshop view">
        <header>
            <OrbitMark />
            <h1>{{ room.question?.text || model.model.name }}</h1>
            <RoomDoor :phones="phones" />
            <Button class="icon" aria-label="Whole screen" title="Whole screen" @click="root?.requestFullscreen()"
                ><Maximize :size="26" :stroke-width="1.5"
            /></Button>
        </header>
        <main class="step-body">
            <component :is="SHOWS[room.step]" :voices="room.step === 'links' ? phones.state.value.links : undefined" @next="go(1)" />
        </main>
        <footer>
            <nav aria-label="Steps of the workshop">
                <Button
                    v-for="(s, i) in STEPS"
                    :key="s.name"
                    class="step"
                    :aria-current="s.name === room.step ? 'step' : undefined"
                    @click="room.step = s.name"
                    ><span v-if="i === at">{{ s.words }}</span
                    ><span v-else class="dot" :title="s.words"
                        ><span class="visually-hidden">{{ s.words }}</span></span
                    ></Button
                >
            </nav>
            <p class="keys" aria-hidden="true"><kbd>PgDn</kbd> on <kbd>PgUp</kbd> back <kbd>Esc</kbd> leave</p>
            <p class="counts">
                {{ counted(map.factors.length, 'factor') }} · {{ counted(map.links.length, 'link') }} ·
                {{ map.read?.complete === false ? 'more than ' : '' }}{{ counted(map.loops.length, 'loop')
                }}<template v-if="map.loops.length">: {{ reinforcing }} reinforcing, {{ balancing }} balancing</template>
            </p>
        </footer>
    </div>
</template>

<style>
.room {
    --size: clamp(24px, 1.5vw, 34px);
    position: fixed;
    inset: 0;
    z-index: 60;
    display: grid;
    grid-template-rows: auto minmax(0, 1fr) auto;
    grid-template-columns: minmax(0, 1fr);
    padding: 2.2vw 4.4vw 1.6vw;
    background: var(--paper);
    color: var(--ink);
    font-size: var(--size);
    line-height: 1.35;
}
.room:focus {
    outline: none;
}
.room > header {
    display: flex;
    align-items: center;
    gap: 22px;
    padding-bottom: 1.4vw;
}
.room > header h1 {
    flex: 1;
    font-size: 1.28em;
    line-height: 1.2;
}
.room > header svg {
    flex: none;
}
.room .step-body {
    min-height: 0;
    margin: -8px;
    padding: 8px;
    overflow-y: auto;
}
@media (width < 1500px) {
    .room > footer .keys {
        display: none;
    }
}
.room > footer {
    display: flex;
    align-items: center;
    gap: 30px;
    padding-top: 1vw;
    border-top: 1px solid var(--hairline);
    white-space: nowrap;
}
.room > footer p {
    margin: 0;
    color: var(--ink-soft);
    font-size: 24px;
}
.room > footer .counts {
    margin-left: auto;
    overflow: hidden;
    text-overflow: ellipsis;
}
.room > footer nav {
    display: flex;
    align-items: center;
    gap: 4px;
}
.room .step {
    display: grid;
    place-items: center;
    min-width: 34px;
    min-height: 40px;
    padding: 0 8px;
    border-radius: 10px;
    font-size: 24px;
    font-weight: 700;
}
.room .step:hover {
    background: var(--hover);
}
.room .dot {
    width: 13px;
    height: 13px;
    border: 2px solid var(--line);
    border-radius: 50%;
}
.room kbd {
    padding: 2px 10px;
    border: 1.5px solid var(--line);
    border-radius: 8px;
    font: 24px var(--sans);
    color: var(--ink);
}
.room .typing {
    width: 100%;
    padding: 0.5em 0.7em;
    border: 2px solid var(--line);
    border-radius: 16px;
    background: var(--card);
    font-size: 1.15em;
    color: var(--ink);
}
.room .hint {
    margin: 0.4em 0 0;
    min-height: 1.4em;
    color: var(--ink-soft);
    font-size: max(24px, 0.82em);
}
.room .big {
    padding: 0.35em 0.8em;
    border: 2px solid var(--line);
    border-radius: 14px;
    background: var(--card);
    font-weight: 700;
}
.room .big[aria-pressed='true'] {
    background: var(--ink);
    border-color: var(--ink);
    color: var(--paper);
}
.room .icon {
    padding: 8px;
    border-radius: 10px;
    color: var(--ink-soft);
}
</style>
