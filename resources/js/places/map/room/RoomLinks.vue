<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import type { RoomState } from '@/api/room'
import SaidText from '@/ui/SaidText.vue'
import MapLine from '../MapLine.vue'
import { useMap } from '../useMap'
import LinkPicture from './LinkPicture.vue'
import TallyMarks from './TallyMarks.vue'
import { useRoom } from './useRoom'

/** One link at a time, read both ways: is it agreed? */
const { voices = {} } = defineProps<{ /** What phones in the room say, by link. */ voices?: NonNullable<RoomState['links']> }>()
const room = useRoom()
const map = useMap()
const line = ref<InstanceType<typeof MapLine>>()
const box = ref<HTMLElement>()
const STANDINGS = [
    { value: 'agreed', key: 'A' },
    { value: 'open', key: 'O' },
    { value: 'disputed', key: 'D' },
] as const

const links = computed(() => map.links)
const at = computed(() =>
    Math.max(
        0,
        links.value.findIndex((l) => l.id === room.talked),
    ),
)
const link = computed(() => links.value[at.value])
const sentences = computed(() => (link.value ? (map.read?.sentences[link.value.id] ?? []).filter(Boolean) : []))
function go(by: number) {
    const next = links.value[Math.min(links.value.length - 1, Math.max(0, at.value + by))]
    room.talked = next?.id ?? ''
}
function stand(standing: 'agreed' | 'open' | 'disputed') {
    if (link.value) {
        void map.change(link.value.id, { standing })
    }
}
function key(event: KeyboardEvent) {
    const target = event.target as HTMLElement
    if (target.closest('input, textarea') || event.ctrlKey || event.metaKey || event.altKey) {
        return
    }
    const standing = STANDINGS.find((s) => s.key === event.key.toUpperCase())
    if (standing) {
        stand(standing.value)
    } else if (event.key === 'Enter' || event.key === 'ArrowDown' || event.key === 'ArrowRight') {
        go(1)
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowLeft') {
        go(-1)
    } else if (event.key === '/') {
        line.value?.type('')
    } else if ((event.key === '+' || event.key === '-' || event.key === '?') && link.value) {
        void map.change(link.value.id, { sign: event.key })
    } else if (event.key === '~' && link.value) {
        void map.change(link.value.id, { late: !link.value.late })
    } else {
        return
    }
    event.preventDefault()
}
// What was said just now is what the room talks about.
watch(
    () => links.value.length,
    (now, before) => {
        if (now > before) {
            const known = new Set(was)
            room.talked = links.value.find((l) => !known.has(l.id))?.id ?? room.talked
        }
        was = links.value.map((l) => l.id)
    },
)
let was = links.value.map((l) => l.id)
onMounted(() => {
    void nextTick(() => {
        if (room.begun) {
            line.value?.from(room.begun)
            room.begun = ''
        } else if (links.value.length) {
            box.value?.focus()
        } else {
            line.value?.type('')
        }
    })
})
</script>

<template>
    <div ref="box" class="links-step" data-first tabindex="0" role="group" aria-label="Links, one at a time" @keydown="key">
        <div v-if="link" class="one">
            <div class="said">
                <p v-for="(s, i) in sentences" :key="i" :class="i ? 'back' : 'ahead'"><SaidText :text="s" /></p>
                <p v-if="link.mechanism" class="why">Why: {{ link.mechanism }}</p>
                <p class="stand">
                    <Button
                        v-for="s in STANDINGS"
                        :key="s.value"
                        class="big"
                        :aria-pressed="link.standing === s.value"
                        @click="stand(s.value)"
                        ><kbd>{{ s.key }}</kbd> {{ s.value }}</Button
                    >
                </p>
                <p v-if="voices[link.id]" class="hint voices" role="status">
                    <b>From the phones: {{ voices[link.id]?.agree }} agree, {{ voices[link.id]?.disagree }} disagree</b> · link
                    {{ at + 1 }} of
                    {{ links.length }}
                </p>
                <p v-else class="hint">
                    link {{ at + 1 }} of {{ links.length }} · <kbd>Enter</kbd> next <kbd>↑</kbd> back <kbd>+</kbd> <kbd>−</kbd>
                    <kbd>?</kbd> turn it <kbd>/</kbd> type one
                </p>
            </div>
            <LinkPicture :link="link" />
        </div>
        <p v-else class="hint none">No link yet. Type a cause and what it acts on.</p>
        <div class="below">
            <MapLine ref="line" class="big-line" @leave="box?.focus()" />
            <div class="beside">
                <p v-if="room.unused.length" class="hint">
                    Not used yet:
                    {{
                        room.unused
                            .slice(0, 8)
                            .map((t) => t.name)
                            .join(' · ')
                    }}{{ room.unused.length > 8 ? ' …' : '' }}
                </p>
                <p v-for="p in room.pairs.filter((p) => !p.linked).slice(0, 1)" :key="p.id" class="hint votes">
                    {{ map.nameOf(p.one) }}, {{ map.nameOf(p.other) }} <TallyMarks :count="p.votes" /> {{ p.votes }}
                </p>
            </div>
        </div>
    </div>
</template>

<style scoped>
.beside {
    display: grid;
    grid-auto-flow: column;
    justify-content: space-between;
    gap: 0 2em;
}
.links-step {
    display: grid;
    grid-template-rows: minmax(0, 1fr) auto;
    height: 100%;
}
.links-step:focus-visible {
    outline-offset: -4px;
    border-radius: 12px;
}
.one {
    display: grid;
    grid-template-columns: minmax(0, 1.25fr) minmax(0, 1fr);
    gap: 2em;
    min-height: 0;
    overflow: hidden;
}
.said {
    align-self: center;
}
.said p {
    margin: 0 0 0.5em;
}
.ahead {
    padding-left: 0.55em;
    border-left: 8px solid var(--ember);
    font-size: 1.55em;
    line-height: 1.25;
}
.back {
    padding-left: calc(0.85em + 8px);
    font-size: 1.2em;
    line-height: 1.3;
    color: var(--ink-soft);
}
.why {
    padding-left: 1.2em;
    color: var(--ink-soft);
}
.said .hint {
    padding-left: 1.2em;
}
.stand {
    display: flex;
    gap: 0.6em;
    padding: 0.3em 0 0 1.2em;
}
.stand kbd {
    margin-right: 0.3em;
    background: var(--card);
}
.votes {
    display: flex;
    gap: 0.8em;
    align-items: center;
}
.big-line {
    padding: 0;
}
.big-line :deep(.foreseen),
.big-line :deep(.hints),
.big-line :deep(.hints kbd) {
    font-size: 24px;
}
.big-line :deep(.line) {
    height: 68px;
}
.big-line :deep(.typed),
.big-line :deep(.typed > *),
.big-line :deep(.sign) {
    font-size: 27px;
    line-height: 42px;
}
.big-line :deep(.typed) {
    min-width: 7em;
}
.none {
    align-self: center;
    text-align: center;
}
</style>
