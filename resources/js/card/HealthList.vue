<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Remedy } from '@/api/types'
import { mendsOf, useMends } from '@/stores/mends'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useStepCheck } from '@/stores/stepCheck'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'

interface Item {
    key: string
    element: string | null
    sentence: string
    tone: string
    mends: Remedy[]
}

const model = useModel()
const mends = useMends()
const runs = useRuns()
const view = useView()
const step = useStepCheck()

const groups = computed<{ title: string; items: Item[] }[]>(() => {
    const items = (list: typeof model.model.problems): Item[] =>
        list.map((p, i) => ({
            key: `${p.code} ${p.element} ${i}`,
            element: p.element,
            sentence: p.sentence,
            tone: p.severity,
            mends: mendsOf(p),
        }))
    const missing = items(model.missing)
    const wrong = items(model.blockers.filter((p) => !model.missing.includes(p)))
    const { health } = step
    const poor: Item[] =
        health && (health.verdict === 'poor' || (health.verdict === 'fault' && !runs.shown?.fault))
            ? [{ key: 'step', element: null, sentence: health.sentence, tone: 'remark', mends: mendsOf(health) }]
            : []
    return [
        { title: missing.length === 1 ? '1 thing missing' : `${missing.length} things missing`, items: missing },
        { title: wrong.length === 1 ? '1 thing to mend' : `${wrong.length} things to mend`, items: wrong },
        { title: 'The time step', items: poor },
        { title: 'Remarks', items: items(model.remarks) },
        {
            title: 'What the run tells',
            items: (runs.shown?.notices ?? []).map((n) => ({
                key: n.code + n.element,
                element: n.element,
                sentence: n.sentence,
                tone: 'remark',
                mends: mendsOf(n),
            })),
        },
        { title: 'Worth a look', items: items(model.model.health) },
    ].filter((g) => g.items.length)
})
/** A long list is shown in parts. */
const MOST = 30
const whole = ref(new Set<string>())
const nameOf = (id: string | null) => (id ? model.model.elements[id]?.name : undefined)
</script>

<template>
    <div class="health-list">
        <section v-for="g in groups" :key="g.title">
            <h2 class="label">{{ g.title }}</h2>
            <ul>
                <li v-for="item in whole.has(g.title) ? g.items : g.items.slice(0, MOST)" :key="item.key">
                    <Button class="what" :class="item.tone" @click="item.element ? view.goTo(item.element) : undefined">
                        <i aria-hidden="true" /><span
                            ><b v-if="nameOf(item.element) && !item.sentence.includes('`' + nameOf(item.element) + '`')"
                                >{{ nameOf(item.element) }}: </b
                            ><SaidText :text="item.sentence"
                        /></span>
                    </Button>
                    <Button v-for="m in item.mends" :key="m.words" class="mend" @click="mends.mend(m)">{{ m.words }}</Button>
                </li>
            </ul>
            <Button v-if="g.items.length > MOST && !whole.has(g.title)" class="mend" @click="whole = new Set([...whole, g.title])"
                >{{ g.items.length - MOST }} more</Button
            >
        </section>
        <p v-if="!groups.length && model.things.length" class="well">
            <svg width="15" height="15" viewBox="0 0 15 15" aria-hidden="true">
                <path d="m2 8 4 4 7-9" fill="none" stroke="currentColor" stroke-width="1.8" /></svg
            >Nothing is missing, and there is nothing to remark.
        </p>
    </div>
</template>

<style scoped>
.health-list {
    display: grid;
    gap: 14px;
}
ul {
    margin: 4px 0 0;
    padding: 0;
    list-style: none;
}
.what {
    display: flex;
    gap: 9px;
    width: 100%;
    padding: 5px 6px;
    border-radius: 8px;
    text-align: left;
    overflow-wrap: anywhere;
}
.what:hover {
    background: var(--hover);
}
i {
    flex: none;
    width: 10px;
    height: 10px;
    margin-top: 5px;
    border-radius: 50%;
    background: var(--brick);
}
.remark i {
    border-radius: 2px;
    background: var(--ochre);
    clip-path: polygon(50% 0, 100% 100%, 0 100%);
}
.mend {
    min-height: 26px;
    max-width: calc(100% - 25px);
    margin: 0 0 6px 25px;
    padding: 2px 10px;
    border: 1px solid var(--line);
    border-radius: 8px;
    font-size: 13px;
    font-weight: 700;
    text-align: left;
    overflow-wrap: anywhere;
}
.mend:hover {
    background: var(--hover);
}
.well {
    display: flex;
    gap: 8px;
    align-items: center;
    color: var(--leaf);
}
</style>
