<script setup lang="ts">
import { computed, onBeforeUnmount, ref, watch } from 'vue'
import { PLACES } from '@/places'
import { useExpectations } from '@/stores/expectations'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'

const model = useModel()
const runs = useRuns()
const expectations = useExpectations()
const view = useView()

const states = new Map(PLACES.map((p) => [p.name, p.state?.()]))

const state = computed(() => {
    if (runs.progress) {
        return { tone: 'plain', words: `running, ${Math.round(100 * runs.progress.share)} %${left.value ? ` · ${left.value}` : ''}` }
    }
    const waiting = model.pending.length
    if (model.offline) {
        return {
            tone: 'trouble',
            words: waiting ? `no connection · ${waiting} ${waiting === 1 ? 'edit waits' : 'edits wait'} here` : 'no connection',
        }
    }
    if (model.held) {
        return { tone: 'trouble', words: `not saved yet · ${waiting} ${waiting === 1 ? 'edit waits' : 'edits wait'} here` }
    }
    if (slow.value && waiting) {
        return { tone: 'plain', words: `saving · ${waiting} ${waiting === 1 ? 'edit waits' : 'edits wait'} here` }
    }
    const missing = model.missing.length
    const wrong = model.blockers.length - missing
    if (missing + wrong) {
        const told = [
            missing ? (missing === 1 ? '1 thing missing' : `${missing} things missing`) : '',
            wrong ? (wrong === 1 ? '1 thing to mend' : `${wrong} things to mend`) : '',
        ]
        return { tone: 'missing', words: told.filter(Boolean).join(', ') }
    }
    if (runs.refusal) {
        return { tone: 'trouble', words: runs.refusal }
    }
    if (runs.shown?.stopped) {
        return { tone: 'trouble', words: `stopped by hand at ${runs.shown.unit} ${Number((runs.shown.span[1] ?? 0).toPrecision(6))}` }
    }
    if (runs.shown?.fault) {
        return { tone: 'trouble', words: `stopped at ${runs.shown.unit} ${Number(runs.shown.fault.time.toPrecision(6))}` }
    }
    const failing = expectations.failing.length
    if (failing) {
        return { tone: 'missing', words: failing === 1 ? '1 expectation fails' : `${failing} expectations fail` }
    }
    const own = states.get(view.place)?.value
    if (own) {
        return { tone: 'plain', words: own }
    }
    if (!model.things.length) {
        return { tone: 'plain', words: 'empty sheet' }
    }
    const remarks = model.remarks.length
    return {
        tone: 'plain',
        words: `up to date${runs.shown ? ` · ${Math.max(1, Math.round(runs.shown.milliseconds))} ms` : ''}${remarks ? ` · ${remarks} ${remarks === 1 ? 'remark' : 'remarks'}` : ''}`,
    }
})
/** What is tried rules the whole window, not only where it is tried. */
const turned = computed(() => {
    const dials = Object.keys(runs.present.parameters).length
    const hands = Object.values(runs.present.grips).filter((g) => g.on !== false).length
    return [dials ? `${dials} ${dials === 1 ? 'dial is' : 'dials are'} turned` : '', hands ? `${hands} taken by hand` : '']
        .filter(Boolean)
        .join(', ')
})
const working = computed(() => runs.running || model.pending.length > 0)
/** Only what takes its time shows: an animation that comes and goes with every run makes the browser lay out all layers anew. */
const busy = ref(false)
let timer = 0
watch(working, (now) => {
    window.clearTimeout(timer)
    if (now) {
        timer = window.setTimeout(() => {
            busy.value = true
        }, 350)
    } else {
        busy.value = false
    }
})
/** Saving that takes its time is said, so that nobody thinks it is done. */
const slow = ref(false)
let saving = 0
watch(
    () => model.pending.length > 0,
    (now) => {
        window.clearTimeout(saving)
        slow.value = false
        if (now) {
            saving = window.setTimeout(() => {
                slow.value = true
            }, 1500)
        }
    },
    { immediate: true },
)
onBeforeUnmount(() => {
    window.clearTimeout(timer)
    window.clearTimeout(saving)
})
const left = computed(() => {
    const p = runs.progress
    if (!p || p.share <= 0.02) {
        return ''
    }
    const seconds = (((performance.now() - p.began) / 1000) * (1 - p.share)) / p.share
    return seconds < 1.5 ? 'about a second left' : `about ${Math.ceil(seconds)} seconds left`
})
</script>

<template>
    <div class="chip-line">
        <Button
            class="state"
            :class="[state.tone, { busy }]"
            :title="state.words"
            @click="
                () => {
                    view.select()
                    view.card = true
                }
            "
        >
            <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden="true">
                <circle cx="8" cy="8" r="5.5" fill="none" stroke="currentColor" stroke-width="1.4" />
                <circle class="dot" cx="8" cy="2.5" r="2.2" />
            </svg>
            <span role="status">{{ state.words }}</span>
        </Button>
        <span v-if="turned" class="turned" role="status"
            >{{ turned }} <Button @click="runs.put()">Reset to the model’s values</Button></span
        >
        <Button v-if="runs.progress" class="button stop" @click="runs.stop">Stop</Button>
    </div>
</template>

<style scoped>
.chip-line {
    display: flex;
    gap: 6px;
}
.turned {
    display: flex;
    align-items: center;
    gap: 8px;
    height: 26px;
    padding: 0 10px;
    border: 1px solid var(--plum);
    border-radius: 13px;
    font-size: 13px;
    color: var(--plum);
    white-space: nowrap;
}
.turned button {
    text-decoration: underline;
    text-underline-offset: 3px;
}
.stop {
    min-height: 26px;
    padding: 0 12px;
}
.state {
    display: flex;
    align-items: center;
    gap: 8px;
    max-width: 420px;
    height: 26px;
    padding: 0 12px 0 8px;
    border: 1px solid var(--hairline);
    border-radius: 13px;
    background: var(--paper);
    color: var(--ink-soft);
    white-space: nowrap;
}
.state span {
    overflow: hidden;
    text-overflow: ellipsis;
}
.state.missing,
.state.trouble {
    border-color: var(--brick);
    color: var(--brick);
}
svg {
    flex: none;
}
.dot {
    fill: var(--ember);
    stroke: var(--paper);
    stroke-width: 1;
    transform-origin: 8px 8px;
}
.missing .dot,
.trouble .dot {
    fill: var(--brick);
}
.busy .dot {
    animation: circle 0.9s linear infinite;
}
@keyframes circle {
    to {
        transform: rotate(360deg);
    }
}
</style>
