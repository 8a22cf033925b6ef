<script setup lang="ts">
import { Plus, Trash2 } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { DimensionRecord, DimensionView } from '@/api/types'
import { readableId, useDimensions } from '@/stores/dimensions'
import { elementsOf, GATHERINGS } from '@/stores/look'
import { inTurn } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import OneOf from '@/ui/OneOf.vue'
import ElementList from './ElementList.vue'
import MappingGrid from './MappingGrid.vue'

const { dimension } = defineProps<{ dimension: DimensionView }>()
const model = useModel()
const view = useView()
const dimensions = useDimensions()

type Kind = 'listed' | 'counted' | 'part' | 'same'
const KINDS: { value: Kind; words: string }[] = [
    { value: 'listed', words: 'Listed' },
    { value: 'counted', words: 'Counted' },
    { value: 'part', words: 'Part of' },
    { value: 'same', words: 'Same as' },
]
const name = ref('')
watch(
    () => [dimension.id, dimension.name],
    () => {
        name.value = dimension.name
    },
    { immediate: true },
)
const kind = computed<Kind>(() => (dimension.partOf ? 'part' : dimension.sameAs ? 'same' : dimension.counted ? 'counted' : 'listed'))
const others = computed(() => dimensions.own().filter((d) => d.id !== dimension.id && d.root !== dimension.id))
const kinds = computed(() => (others.value.length ? KINDS : KINDS.slice(0, 2)))
const other = computed(() => dimension.partOf ?? dimension.sameAs ?? '')
const whole = computed(() => model.model.dimensions.find((d) => d.id === dimension.partOf))
const here = computed(() => elementsOf(dimension))
const elements = computed(() => dimensions.now(dimension).elements ?? dimension.elements)
const limiting = ref(false)
const isRoot = computed(() => dimension.root === dimension.id)
const over = computed(() => model.things.filter((t) => t.along?.over.includes(dimension.id)))
const mappings = computed(() => Object.values(model.model.mappings ?? {}).filter((m) => m.from === dimension.id || m.to === dimension.id))
const said = computed(
    () =>
        `dimension · ${here.value.length === 1 ? '1 element' : `${here.value.length} elements`}${
            dimension.limitedTo ? ` of ${dimension.elements.length}` : ''
        }`,
)

function change(what: Partial<DimensionRecord>) {
    return dimensions.change(dimension, what)
}
async function rename() {
    const wanted = name.value.trim()
    if (!wanted || wanted === dimension.name) {
        return
    }
    const was = dimension.id
    const id = await dimensions.rename(dimension, wanted)
    if (id) {
        view.dimension = view.dimension === was ? id : view.dimension
    } else {
        name.value = dimension.name
    }
}
function become(now: Kind) {
    const base = { id: dimension.id, name: dimension.name }
    const first = others.value[0]
    if (now === 'counted') {
        const numbers = dimension.elements.map((e) => Number(e.name))
        const counts = numbers.length > 0 && numbers.every((n, i) => Number.isInteger(n) && n === (numbers[0] ?? 0) + i)
        void dimensions.put({
            ...base,
            from: counts ? (numbers[0] ?? 1) : 1,
            to: counts ? (numbers.at(-1) ?? 1) : Math.max(2, dimension.elements.length),
        })
    } else if (now === 'listed') {
        void dimensions.put({ ...base, elements: dimension.elements })
    } else if (first) {
        void dimensions.put({
            ...base,
            ...(now === 'part'
                ? { partOf: first.id, elements: first.elements.map((e) => ({ id: e.id, name: e.id })) }
                : { sameAs: first.id }),
        })
    }
}
function relate(id: string) {
    const chosen = others.value.find((d) => d.id === id)
    const base = { id: dimension.id, name: dimension.name }
    if (chosen) {
        void dimensions.put({
            ...base,
            ...(kind.value === 'part' ? { partOf: id, elements: chosen.elements.map((e) => ({ id: e.id, name: e.id })) } : { sameAs: id }),
        })
    }
}
const from = computed(() => dimension.elements[0]?.id ?? '1')
const to = computed(() => dimension.elements.at(-1)?.id ?? '1')
function count(which: 'from' | 'to', event: Event) {
    const field = event.target as HTMLInputElement
    const value = Number(field.value)
    if (Number.isInteger(value)) {
        void dimensions.change(dimension, { [which]: value })
    } else {
        field.value = which === 'from' ? from.value : to.value
    }
}
function belong(id: string, on: boolean) {
    const now = new Set(dimension.elements.map((e) => e.id))
    const kept = (whole.value?.elements ?? []).filter((e) => (e.id === id ? on : now.has(e.id)))
    if (kept.length) {
        void change({ elements: kept.map((e) => ({ id: e.id, name: e.id })) })
    }
}
function limit(ids: string[] | null) {
    const record = { ...dimensions.now(dimension) }
    delete record.limitedTo
    void dimensions.put(ids && ids.length < dimension.elements.length && ids.length ? { ...record, limitedTo: ids } : record)
}
function call(which: 'sum' | 'mean' | 'least' | 'greatest', word: string) {
    if ((dimension.words[which] ?? '') !== word.trim()) {
        void change({ words: { ...dimension.words, [which]: word.trim() } })
    }
}
const target = ref('')
async function map() {
    const end = others.value.find((d) => d.id === target.value) ?? others.value[0]
    if (!end) {
        return
    }
    const taken = new Set([
        ...Object.values(model.model.mappings ?? {}).map((m) => m.name),
        ...dimensions.own().map((d) => d.name),
        ...model.things.map((t) => t.name),
    ])
    let called = `${end.name} of ${dimension.name}`
    for (let i = 2; taken.has(called); i++) {
        called = `${end.name} of ${dimension.name} ${i}`
    }
    const id = readableId(called, new Set(Object.keys(model.model.mappings ?? {})))
    await model.attempt({ kind: 'put', part: 'mappings', id, fields: { name: called, from: dimension.id, to: end.id, pairs: [] } })
}
const put = (id: string, fields: Record<string, unknown>) => model.attempt({ kind: 'put', part: 'mappings', id, fields })
type Pairs = readonly (readonly [string, string, number?])[]
const turn = inTurn()
const putPairs = (id: string, of: (now: Pairs) => Pairs) =>
    turn(async () => {
        const now = model.model.mappings?.[id]
        return now !== undefined && (await put(id, { pairs: of(now.pairs as unknown as Pairs) }))
    })
const nameOf = (id: string) => model.model.dimensions.find((d) => d.id === id)?.name ?? id
const dimensionOf = (id: string) => model.model.dimensions.find((d) => d.id === id)

async function remove() {
    const { id } = dimension
    // Another one may have been opened meanwhile.
    if ((await dimensions.remove(id)) && view.dimension === id) {
        view.dimension = ''
    }
}
</script>

<template>
    <section class="card" :aria-label="`Card of the dimension ${dimension.name}`">
        <header>
            <InputText
                v-model="name"
                class="field name"
                aria-label="Name of the dimension"
                maxlength="120"
                spellcheck="false"
                @change="rename"
                @keydown.enter="($event.target as HTMLElement).blur()"
            />
            <p class="soft">{{ said }}</p>
        </header>
        <OneOf class="kinds" label="How its elements are given" :choices="kinds" :model-value="kind" @update:model-value="become" />
        <div v-if="kind === 'part' || kind === 'same'" class="line">
            <label class="soft">{{ kind === 'part' ? 'a part of' : 'the same elements as' }}</label>
            <ChoiceField
                :label="kind === 'part' ? 'The whole' : 'Whose elements it has'"
                :model-value="other"
                :choices="others.map((d) => ({ value: d.id, words: d.name }))"
                @update:model-value="relate($event as string)"
            />
        </div>
        <p v-if="kind === 'same'" class="soft">So that a value can extend over both: from one {{ nameOf(other) }} to another.</p>
        <div v-if="kind === 'counted'" class="line">
            <label class="soft" for="count-from">from</label>
            <InputText id="count-from" class="field number" :model-value="from" @change="count('from', $event)" />
            <label class="soft" for="count-to">to</label>
            <InputText id="count-to" class="field number" :model-value="to" @change="count('to', $event)" />
        </div>
        <div v-if="kind === 'part'" class="members" role="group" :aria-label="`Elements of ${dimension.name}`">
            <label v-for="e in whole?.elements ?? []" :key="e.id"
                ><Checkbox
                    :model-value="dimension.elements.some((d) => d.id === e.id)"
                    binary
                    @update:model-value="belong(e.id, $event as boolean)"
                />{{ e.name }}</label
            >
        </div>
        <ElementList
            v-if="kind === 'listed'"
            :elements="elements"
            :limited-to="dimensions.now(dimension).limitedTo ?? null"
            :limiting="limiting"
            @change="change({ elements: $event })"
            @limit="limit"
        />
        <template v-if="isRoot && dimension.elements.length > 1">
            <label class="tick"
                ><Checkbox
                    :model-value="limiting || dimension.limitedTo !== null"
                    binary
                    @update:model-value="
                        (on: boolean) => {
                            limiting = on
                            if (!on) {
                                limit(null)
                            }
                        }
                    "
                />Limit it for a while to some of its elements</label
            >
            <div
                v-if="kind === 'counted' && (limiting || dimension.limitedTo)"
                class="members"
                role="group"
                aria-label="Elements that are there"
            >
                <label v-for="e in dimension.elements.slice(0, 200)" :key="e.id"
                    ><Checkbox
                        :model-value="!dimension.limitedTo || dimension.limitedTo.includes(e.id)"
                        binary
                        @update:model-value="
                            limit(
                                dimension.elements
                                    .map((d) => d.id)
                                    .filter((d) => (d === e.id ? $event : !dimension.limitedTo || dimension.limitedTo.includes(d))),
                            )
                        "
                    />{{ e.name }}</label
                >
            </div>
            <p v-if="dimension.limitedTo" class="soft">
                Everything is computed as if there were only {{ here.length }}. What is typed for the others stays.
            </p>
        </template>
        <div v-if="over.length">
            <span class="label">Extends over it</span>
            <p class="chips">
                <Button v-for="t in over.slice(0, 40)" :key="t.id" class="chip" @click="view.goTo(t.id)">{{ t.name }}</Button>
                <span v-if="over.length > 40" class="soft">and {{ over.length - 40 }} more</span>
            </p>
        </div>
        <p v-else class="soft">Nothing extends over it yet. Select a parameter or a stock, and choose it under <b>Over</b>.</p>
        <div v-for="m in mappings" :key="m.id" class="mapping">
            <span class="label">Mapping from {{ nameOf(m.from) }} to {{ nameOf(m.to) }}</span>
            <div class="line">
                <InputText
                    class="field"
                    :model-value="m.name"
                    aria-label="Name of the mapping"
                    spellcheck="false"
                    @change="put(m.id, { name: ($event.target as HTMLInputElement).value })"
                />
                <Button
                    class="icon-button"
                    :aria-label="`Remove the mapping ${m.name}`"
                    title="Remove the mapping"
                    @click="model.attempt({ kind: 'drop', part: 'mappings', id: m.id })"
                    ><Trash2 :size="15" :stroke-width="1.6"
                /></Button>
            </div>
            <MappingGrid
                v-if="dimensionOf(m.from) && dimensionOf(m.to)"
                :from="dimensionOf(m.from)!"
                :to="dimensionOf(m.to)!"
                :pairs="m.pairs as [string, string, number?][]"
                :label="`Weights of ${m.name}`"
                @change="putPairs(m.id, $event)"
            />
        </div>
        <div v-if="others.length" class="line">
            <span class="soft">Its elements belong to</span>
            <ChoiceField
                v-model="target"
                label="Dimension that they belong to"
                placeholder="choose"
                :choices="others.map((d) => ({ value: d.id, words: d.name }))"
            />
            <Button class="button" :disabled="!target" @click="map"><Plus :size="15" :stroke-width="1.6" />Map</Button>
        </div>
        <details>
            <summary>Words for all of them</summary>
            <div v-for="[, which] in GATHERINGS" :key="which" class="line">
                <label class="soft word" :for="`word-${which}`">{{ which }}</label>
                <InputText
                    :id="`word-${which}`"
                    class="field"
                    :model-value="dimension.words[which] ?? ''"
                    :placeholder="which === 'sum' ? `such as all of ${dimension.name}` : which"
                    spellcheck="false"
                    @change="call(which, ($event.target as HTMLInputElement).value)"
                />
            </div>
        </details>
        <footer>
            <Button class="button" @click="remove"><Trash2 :size="15" :stroke-width="1.6" />Take it away</Button>
        </footer>
    </section>
</template>

<style scoped>
.card {
    display: grid;
    gap: 12px;
    padding: 14px 18px 18px;
}
header p {
    margin-top: 2px;
}
.name {
    width: 100%;
    font-size: 17px;
    font-weight: 700;
}
.kinds :deep(button) {
    flex: 1;
    padding: 3px 4px;
}
.line {
    display: flex;
    align-items: center;
    gap: 8px;
}
.line > .field {
    flex: 1;
    min-width: 0;
}
.line > .number {
    flex: 0 1 80px;
    font-family: var(--mono);
}
.line + .line {
    margin-top: 6px;
}
.word {
    width: 62px;
}
.members {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
    max-height: 220px;
    overflow-y: auto;
}
.members label,
.tick {
    display: flex;
    align-items: center;
    gap: 7px;
}
.chips {
    display: flex;
    flex-wrap: wrap;
    gap: 6px;
    margin-top: 5px;
}
.mapping {
    display: grid;
    gap: 6px;
}
summary {
    cursor: pointer;
    color: var(--ink-soft);
    margin-bottom: 6px;
}
footer {
    display: flex;
    gap: 8px;
}
</style>
