<script setup lang="ts">
import { computed, ref } from 'vue'
import SaidText from '@/ui/SaidText.vue'
import { useMap } from './useMap'

/** What a push does, in the order in which it arrives. */
const map = useMap()
const MOST = 8
const whole = ref(false)
const told = computed(() => map.read?.told ?? [])
/** What would follow, but is not told: nobody reads on. */
const unread = computed(() => (map.read?.steps ?? 0) - told.value.length)
const shown = computed(() => (whole.value ? told.value : told.value.slice(0, MOST)))
const hands = computed(() => [
    ...Object.entries(map.starts).map(([id, height]) => `${map.nameOf(id)} begins ${height > 0 ? 'high' : 'low'}`),
    ...map.pushes
        .filter((p) => (p.until ?? Infinity) > map.beat)
        .map((p) => `${map.nameOf(p.factor)} is ${p.hold ? 'held' : p.by > 0 ? 'pushed up' : 'pushed down'}`),
])
const loopOf = (name: string | null) => (name ? map.loops.find((l) => l.name === name) : undefined)
/** The name that people gave to the loop that is told of. */
const called = (name: string | null) => map.calledOf(loopOf(name)?.path ?? [])
function goTo(step: (typeof told.value)[number]) {
    map.playing = false
    map.beat = Math.min(map.beats, step.beat)
    if (step.factor) {
        map.select(step.factor)
    }
    const loop = loopOf(step.loop)
    if (loop) {
        void map.walk(loop.path)
    }
}
</script>

<template>
    <div class="happens" role="region" aria-label="What happens">
        <header class="head">
            <h3>What happens</h3>
            <Button class="button" @click="map.calm()">Let all go</Button>
        </header>
        <p class="soft">
            {{ hands.length ? `${hands.join('; ')}.` : map.pushes.length ? 'Nothing is held or pushed any more.' : '' }} No height is a
            measurement.
        </p>
        <ol v-if="told.length">
            <li v-for="(step, i) in shown" :key="i" :class="{ now: Math.round(map.beat) === step.beat, ahead: step.beat > map.beat }">
                <Button class="step" @click="goTo(step)"
                    ><span class="beat">{{ step.beat }}</span
                    ><span
                        ><SaidText :text="step.sentence" /><i v-if="called(step.loop)"> “{{ called(step.loop) }}”</i></span
                    ></Button
                >
            </li>
        </ol>
        <p v-else-if="map.pushes.length" class="soft">Nothing else moves: no link leads on from there.</p>
        <Button v-if="told.length > MOST && !whole" class="button" @click="whole = true">{{ told.length - MOST }} more</Button>
        <p v-if="whole && unread" class="soft">And {{ unread }} more, later on.</p>
    </div>
</template>

<style scoped>
.happens {
    display: grid;
    gap: 8px;
}
.map-card > .happens {
    padding: 14px 18px 18px;
    border-bottom: 1px solid var(--hairline);
}
.head {
    display: flex;
    justify-content: space-between;
    align-items: center;
}
h3 {
    font-size: 15px;
}
ol {
    display: grid;
    gap: 1px;
    margin: 0;
    padding: 0;
    list-style: none;
}
.step {
    display: grid;
    grid-template-columns: 28px 1fr;
    width: 100%;
    padding: 4px 6px;
    border-radius: 8px;
    text-align: left;
}
.step:hover {
    background: var(--hover);
}
.beat {
    font-variant-numeric: tabular-nums;
    color: var(--ink-soft);
}
.ahead {
    color: var(--ink-soft);
}
.now .beat {
    color: var(--ember);
    font-weight: 700;
}
</style>
