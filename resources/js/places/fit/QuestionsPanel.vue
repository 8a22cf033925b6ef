<script setup lang="ts">
import { FlaskRound, Mountain, PanelLeftClose, Plus, Target } from '@lucide/vue'
import { useFits } from '@/stores/fits'
import { useModel } from '@/stores/model'
import { usePolicies } from '@/stores/policies'
import { useView } from '@/stores/view'
import DistanceTrace from './DistanceTrace.vue'
import { stateWords } from './names'
import ValueTrace from './ValueTrace.vue'

/** The calibrations of the study, each with where it stands; below, how the open one comes nearer. */
const fits = useFits()
const model = useModel()
const view = useView()
const policies = usePolicies()
const numbered = (word: string, taken = fits.plans.map((p) => p.name)) => {
    return [word, ...Array.from({ length: 99 }, (_, i) => `${word} ${i + 2}`)].find((n) => !taken.includes(n)) ?? word
}
function addPolicy() {
    const like = policies.policy ?? policies.all.at(-1)
    const same = like ? { choose: like.choose, sum: like.sum, small: like.small, limits: like.limits } : {}
    void policies.add({
        name: numbered(
            'Policy',
            policies.all.map((p) => p.name),
        ),
        ...same,
    })
}
function add() {
    // As the one that is open: mostly one thing of it is to be other.
    const like = fits.plan
    const same = like ? { free: like.free, to: like.to, from: like.from, until: like.until } : {}
    void fits.add({ name: numbered('Calibration'), ...same })
}
</script>

<template>
    <nav class="panel" aria-label="Questions to the data">
        <header>
            <h2>Questions to the data</h2>
            <Button class="icon-button" aria-label="Add a calibration" title="Add a calibration" @click="add"
                ><Plus :size="16" :stroke-width="1.7"
            /></Button>
            <Button class="icon-button" aria-label="Hide this column" title="Hide this column" @click="view.outline = false"
                ><PanelLeftClose :size="15" :stroke-width="1.6"
            /></Button>
        </header>
        <ul>
            <li v-for="p in fits.plans" :key="p.id">
                <Button class="question" :aria-current="p.id === fits.plan?.id" @click="fits.chosen = p.id">
                    <component :is="p.trial ? FlaskRound : Target" :size="16" :stroke-width="1.5" />
                    <span
                        ><b>{{ p.name }}</b
                        ><small class="soft">{{ stateWords(fits.lastOf(p.id)) }}</small></span
                    >
                </Button>
            </li>
        </ul>
        <p v-if="model.loaded && !fits.plans.length" class="soft none">
            None yet. A calibration says which numbers of the model may move, and what they are to come near to.
        </p>
        <header>
            <h2>Best policies</h2>
            <Button class="icon-button" aria-label="Add a policy" title="Add a policy" @click="addPolicy"
                ><Plus :size="16" :stroke-width="1.7"
            /></Button>
        </header>
        <ul>
            <li v-for="p in policies.all" :key="p.id">
                <Button class="question" :aria-current="p.id === policies.policy?.id" @click="fits.chosen = p.id">
                    <Mountain :size="16" :stroke-width="1.5" />
                    <span
                        ><b>{{ p.name }}</b
                        ><small class="soft">{{ stateWords(fits.lastOf(p.id)) }}</small></span
                    >
                </Button>
            </li>
        </ul>
        <p v-if="model.loaded && !policies.all.length" class="soft none">
            None yet. A policy says what can be chosen, what is to be large or small, and what must hold.
        </p>
        <ValueTrace v-if="policies.search" :search="policies.search" />
        <DistanceTrace v-else-if="fits.fit && !policies.policy" :fit="fits.fit" />
    </nav>
</template>

<style scoped>
.panel {
    overflow-y: auto;
    border-right: 1px solid var(--hairline);
    background: var(--card);
    padding-bottom: 20px;
}
header {
    display: flex;
    align-items: center;
    gap: 2px;
    padding: 8px 8px 4px 14px;
}
h2 {
    flex: 1;
    font-size: 14px;
    white-space: nowrap;
}
header .icon-button {
    width: 26px;
    height: 26px;
}
ul {
    margin: 0;
    padding: 0;
    list-style: none;
}
.question {
    display: flex;
    gap: 9px;
    width: 100%;
    padding: 7px 12px 7px 14px;
    text-align: left;
    border-left: 3px solid transparent;
}
.question svg {
    flex: none;
    margin-top: 2px;
}
.question:hover {
    background: var(--hover);
}
.question[aria-current='true'] {
    border-left-color: var(--ink);
    background: var(--hover);
}
.question span {
    display: grid;
    min-width: 0;
}
b {
    font-weight: 500;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
[aria-current='true'] b {
    font-weight: 700;
}
small {
    font-size: 12.5px;
}
.none {
    padding: 4px 14px;
    font-size: 13px;
}
</style>
