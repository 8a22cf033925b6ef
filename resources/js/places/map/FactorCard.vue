<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Thing } from '@/api/types'
import GroupField from '@/card/GroupField.vue'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import OneOf from '@/ui/OneOf.vue'
import TalkPart from '@/talk/TalkPart.vue'
import SaidText from '@/ui/SaidText.vue'
import { heightWords } from './heights'
import LoopChips from './LoopChips.vue'
import { FORMS, useMap } from './useMap'

/** A factor: how it rides at the moment, how people speak of it, what acts on it and on what it acts, and what can be done with it. */
const { factor } = defineProps<{ factor: Thing }>()
const map = useMap()
const model = useModel()
const view = useView()

const NUMBERS: { value: 'one' | 'many' | ''; words: string }[] = [
    { value: 'one', words: 'more of it' },
    { value: 'many', words: 'more of them' },
]
const STARTS = [
    { value: -1, words: 'low' },
    { value: 0, words: 'as usual' },
    { value: 1, words: 'high' },
]
const wording = computed(() => map.wordings.get(factor.id))
function clause(field: 'more' | 'less', event: Event) {
    const words = (event.target as HTMLInputElement).value.trim()
    if (words !== (wording.value?.[field] ?? '')) {
        void map.word(factor.id, { [field]: words })
    }
}
const causes = computed(() => map.links.filter((l) => l.to === factor.id))
const effects = computed(() => map.links.filter((l) => l.from === factor.id))
const SIGNS = { '+': '+', '-': '−', '?': '?' } as const
const loops = computed(() => map.loops.filter((l) => l.path.includes(factor.id)))
const hand = computed(() => map.handOn(factor.id))
const proposal = computed(() => map.read?.proposals.find((p) => p.id === factor.id))
const isFactor = computed(() => factor.kind === 'factor')

// Into one with another, or apart.
const other = ref<string>()
const others = computed(() =>
    map.factors
        .filter((t) => t.id !== factor.id && t.kind === 'factor')
        .map((t) => ({ value: t.id, words: t.name }))
        .sort((a, b) => a.words.localeCompare(b.words)),
)
async function merge() {
    if (other.value && (await model.attempt({ kind: 'merge', id: factor.id, other: other.value }))) {
        other.value = undefined
    }
}
const apart = ref(false)
const part = ref('')
const goes = ref<string[]>([])
async function split() {
    const id = newId()
    const name = part.value.trim()
    if (name && (await model.attempt({ kind: 'split', id: factor.id, other: id, name, links: goes.value }))) {
        apart.value = false
        part.value = ''
        goes.value = []
        map.select(id)
    }
}
</script>

<template>
    <section class="factor-card" :aria-label="`Card of ${factor.name}`">
        <header>
            <p class="soft">
                {{ isFactor ? 'factor' : factor.kind + ' of the model' }} · {{ heightWords(map.levelOf(factor.id)) }} at beat
                {{ Math.round(map.beat) }}
            </p>
            <h2>
                <Button title="Click to rename" @click="view.naming = factor.id">{{ factor.name }}</Button>
            </h2>
        </header>
        <div class="acts">
            <Button class="button" :aria-pressed="hand !== undefined && !hand.hold && hand.by > 0" @click="map.push(factor.id, 1)"
                >Push it up</Button
            >
            <Button class="button" :aria-pressed="hand !== undefined && !hand.hold && hand.by < 0" @click="map.push(factor.id, -1)"
                >Push it down</Button
            >
            <Button v-if="hand" class="button" @click="map.letGo(factor.id)">Let it go</Button>
            <Button v-else class="button" @click="map.hold(factor.id)">Hold it</Button>
        </div>
        <div class="begins">
            <span class="label">It begins</span>
            <OneOf
                :model-value="Math.sign(map.starts[factor.id] ?? 0)"
                :choices="STARTS"
                label="How it begins"
                @update:model-value="map.begin(factor.id, 0.8 * $event)"
            />
        </div>
        <slot />
        <div v-if="causes.length || effects.length" class="ends">
            <template v-if="causes.length">
                <p class="label">What acts on it</p>
                <Button v-for="l in causes" :key="l.id" class="end" @click="map.pick(l.id)"
                    ><b>{{ SIGNS[l.sign] }}</b> {{ map.nameOf(l.from) }}</Button
                >
            </template>
            <template v-if="effects.length">
                <p class="label">What it acts on</p>
                <Button v-for="l in effects" :key="l.id" class="end" @click="map.pick(l.id)"
                    ><b>{{ SIGNS[l.sign] }}</b> {{ map.nameOf(l.to) }}</Button
                >
            </template>
        </div>
        <LoopChips :loops="loops" />
        <div v-if="isFactor && proposal" class="becomes">
            <p class="label">In stocks and flows</p>
            <p class="soft"><SaidText :text="proposal.why" /></p>
            <p class="acts">
                <Button
                    v-for="(words, kind) in FORMS"
                    :key="kind"
                    class="button"
                    :class="{ strong: kind === proposal.kind }"
                    :title="`Make it ${words}`"
                    @click="map.form(factor.id, kind)"
                    >{{ kind }}</Button
                >
            </p>
        </div>
        <details>
            <summary>How people speak of it</summary>
            <div class="inner">
                <OneOf
                    :model-value="wording?.number ?? ''"
                    :choices="NUMBERS"
                    label="One thing or many"
                    @update:model-value="$event && map.word(factor.id, { number: $event })"
                />
                <label
                    ><span class="label">There is more: in your words</span
                    ><InputText
                        class="field"
                        :model-value="wording?.more ?? ''"
                        placeholder="the quay is deeper"
                        maxlength="120"
                        @change="clause('more', $event)"
                /></label>
                <label
                    ><span class="label">There is less: in your words</span
                    ><InputText
                        class="field"
                        :model-value="wording?.less ?? ''"
                        placeholder="the quay is less deep"
                        maxlength="120"
                        @change="clause('less', $event)"
                /></label>
            </div>
        </details>
        <GroupField :key="`group-${factor.id}`" :ids="[factor.id]" />
        <details v-if="others.length">
            <summary>The same as another?</summary>
            <div class="inner">
                <ChoiceField v-model="other" label="Which factor means the same" :choices="others" placeholder="which factor …" />
                <Button class="button" :disabled="!other" @click="merge">Merge it into {{ factor.name }}</Button>
            </div>
        </details>
        <details :open="apart" @toggle="apart = ($event.target as HTMLDetailsElement).open">
            <summary>More than one thing?</summary>
            <form class="inner" @submit.prevent="split">
                <label
                    ><span class="label">What stands beside it from now on</span
                    ><InputText v-model="part" class="field" placeholder="name of the other" maxlength="120" autocomplete="off"
                /></label>
                <label v-for="l in [...causes, ...effects]" :key="l.id" class="goes"
                    ><Checkbox v-model="goes" :value="l.id" /><span
                        >{{ map.nameOf(l.from) }} → {{ map.nameOf(l.to) }} goes over</span
                    ></label
                >
                <Button class="button" type="submit" :disabled="!part.trim()">Split it</Button>
            </form>
        </details>
        <div class="acts">
            <Button v-if="isFactor" class="button" @click="model.remove([factor.id])">Delete</Button>
            <Button v-else class="button" @click="view.goTo(factor.id)">Show it on its sheet</Button>
        </div>
        <TalkPart about="thing" :subject="factor.id" />
    </section>
</template>

<style scoped>
.begins {
    display: grid;
    grid-template-columns: 66px 1fr;
    align-items: center;
}
.begins :deep(.chip) {
    padding: 0 9px;
}
.becomes {
    display: grid;
    gap: 5px;
}
.becomes p {
    margin: 0;
}
.acts .button {
    padding: 0 11px;
}
h2 {
    font-size: 18px;
    line-height: 1.3;
}
h2 button {
    font-weight: 700;
    text-align: left;
}
.acts {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
}
.button[aria-pressed='true'] {
    border-color: var(--plum);
    color: var(--plum);
}
.ends {
    display: grid;
    gap: 2px;
}
.ends .label:not(:first-child) {
    margin-top: 8px;
}
.end {
    display: grid;
    grid-template-columns: 18px 1fr;
    padding: 3px 6px;
    border-radius: 7px;
    text-align: left;
}
.end:hover {
    background: var(--hover);
}
summary {
    cursor: pointer;
    font-weight: 700;
    border-radius: 6px;
}
.inner {
    display: grid;
    gap: 8px;
    padding: 8px 0 4px;
    justify-items: start;
}
.inner label:not(.goes) {
    display: grid;
    gap: 3px;
    width: 100%;
}
.inner .field,
.inner :deep(.choice) {
    width: 100%;
}
.goes {
    display: flex;
    gap: 8px;
}
</style>
