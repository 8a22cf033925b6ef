<script setup lang="ts">
import { Plus, X } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import type { DimensionView, Thing } from '@/api/types'
import { elementsOf, useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import ChoiceField from '@/ui/ChoiceField.vue'
import SaidText from '@/ui/SaidText.vue'

/** What holds instead of the formula for some elements: a short list beneath it. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const look = useLook()

type For = Record<string, string[] | 'first' | 'last' | 'all'>
interface Row {
    for: For
    text: string
}
const rows = ref<Row[]>([])
const pending = ref(0)
watch(
    () => [thing.id, thing.exceptions],
    () => {
        // What was answered first must not take back what is on its way.
        if (pending.value > 0) {
            return
        }
        rows.value = (thing.exceptions ?? []).map((e) => ({ for: e.for as For, text: e.text }))
    },
    { immediate: true },
)
const over = computed(() => (thing.along?.over ?? []).map((id) => look.byId.get(id)).filter((d): d is DimensionView => d !== undefined))
/** Also the parts of what it extends over. */
const dimensions = computed(() => {
    const wholes = new Set(over.value.map((d) => d.whole))
    return model.model.dimensions.filter(
        (d) => !d.shared && wholes.has(d.whole) && (d.partOf !== null || over.value.includes(d) || d.id === d.whole),
    )
})
const sentence = (i: number) => model.model.problems.find((p) => p.element === thing.id && p.field === `exceptions.${i}`)?.sentence
const word = computed(() => (thing.kind === 'stock' ? 'starts at' : 'is'))

function send(now: Row[]) {
    rows.value = now
    if (now.every((r) => r.text.trim() !== '' && Object.keys(r.for).length)) {
        pending.value++
        void model.attempt({ kind: 'exceptions', id: thing.id, exceptions: now.map((r) => ({ for: r.for, text: r.text })) }).then(() => {
            pending.value--
        })
    }
}
function add() {
    const first = over.value[0]
    const element = first && elementsOf(first)[0]
    if (first && element) {
        rows.value = [...rows.value, { for: { [first.id]: [element.id] }, text: '' }]
    }
}
const change = (i: number, what: Partial<Row>) => {
    send(rows.value.map((r, k) => (k === i ? { ...r, ...what } : r)))
}
const remove = (i: number) => {
    send(rows.value.filter((_, k) => k !== i))
}

const of = (id: string) => look.byId.get(id)
/** One choice stands for one element or a word; more elements than one are told as they are. */
const choicesOf = (d: DimensionView, now: For[string]) => [
    ...(d.partOf ? [{ value: 'all', words: `all of ${d.name}` }] : []),
    { value: 'first', words: 'the first' },
    { value: 'last', words: 'the last' },
    ...(Array.isArray(now) && now.length > 1
        ? [{ value: now.join(','), words: now.map((e) => d.elements.find((x) => x.id === e)?.name ?? e).join(' or ') }]
        : []),
    ...d.elements.map((e) => ({ value: `:${e.id}`, words: e.name })),
]
const chosenOf = (now: For[string]) => (Array.isArray(now) ? (now.length === 1 ? `:${now[0] ?? ''}` : now.join(',')) : now)
function choose(i: number, dimension: string, value: string) {
    const now: For[string] =
        value === 'first' || value === 'last' || value === 'all' ? value : value.startsWith(':') ? [value.slice(1)] : value.split(',')
    change(i, { for: { ...rows.value[i]?.for, [dimension]: now } })
}
function switchTo(i: number, was: string, id: string) {
    const dimension = of(id)
    const element = dimension && elementsOf(dimension)[0]
    if (dimension && element) {
        const entries = Object.entries(rows.value[i]?.for ?? {}).map(([d, e]) =>
            d === was ? ([id, dimension.partOf ? 'all' : [element.id]] as const) : ([d, e] as const),
        )
        change(i, { for: Object.fromEntries(entries) as For })
    }
}
const unused = (row: Row) => dimensions.value.filter((d) => !Object.keys(row.for).some((f) => of(f)?.whole === d.whole))
function narrow(i: number) {
    const row = rows.value[i]
    const next = row && unused(row)[0]
    const element = next && elementsOf(next)[0]
    if (row && next && element) {
        change(i, { for: { ...row.for, [next.id]: [element.id] } })
    }
}
function widen(i: number, dimension: string) {
    const rest = { ...rows.value[i]?.for }
    Reflect.deleteProperty(rest, dimension)
    change(i, { for: rest })
}
</script>

<template>
    <div v-if="over.length" class="exceptions" role="group" :aria-label="`Exceptions of ${thing.name}`">
        <div v-for="(row, i) in rows" :key="i" class="one">
            <div class="for">
                <span class="soft">except for</span>
                <span v-for="(now, id) in row.for" :key="id" class="pair">
                    <ChoiceField
                        label="Dimension"
                        :model-value="String(id)"
                        :choices="
                            [...(of(String(id)) ? [of(String(id))!] : []), ...unused(row)].map((d) => ({ value: d.id, words: d.name }))
                        "
                        @update:model-value="switchTo(i, String(id), $event as string)"
                    />
                    <ChoiceField
                        v-if="of(String(id))"
                        :label="`Which ${of(String(id))?.name}`"
                        :model-value="chosenOf(now)"
                        :choices="choicesOf(of(String(id))!, now)"
                        @update:model-value="choose(i, String(id), $event as string)"
                    />
                    <Button
                        v-if="Object.keys(row.for).length > 1"
                        class="icon-button"
                        :aria-label="`Not only for this ${of(String(id))?.name}`"
                        title="Take it out"
                        @click="widen(i, String(id))"
                        ><X :size="13" :stroke-width="1.8"
                    /></Button>
                </span>
                <Button
                    v-if="unused(row).length"
                    class="icon-button"
                    aria-label="Only for some of another dimension too"
                    title="Only for some of another dimension too"
                    @click="narrow(i)"
                    ><Plus :size="14" :stroke-width="1.8"
                /></Button>
            </div>
            <div class="text">
                <span class="soft">{{ word }}</span><InputText
                    class="field"
                    :class="{ wrong: sentence(i) }"
                    :model-value="row.text"
                    :aria-label="`Formula of exception ${i + 1}`"
                    placeholder="a number or a formula"
                    spellcheck="false"
                    @change="change(i, { text: ($event.target as HTMLInputElement).value })"
                    @keydown.enter="($event.target as HTMLElement).blur()"
                />
                <Button class="icon-button end" :aria-label="`Remove exception ${i + 1}`" title="Remove the exception" @click="remove(i)"
                    ><X :size="14" :stroke-width="1.8"
                /></Button>
            </div>
            <p v-if="sentence(i)" class="trouble" role="alert"><SaidText :text="sentence(i) ?? ''" /></p>
        </div>
        <Button class="add" @click="add"
            ><Plus :size="14" :stroke-width="1.8" />{{ rows.length ? 'One more exception' : 'An exception for some elements' }}</Button
        >
    </div>
</template>

<style scoped>
.exceptions {
    display: grid;
    gap: 8px;
}
.one {
    display: grid;
    gap: 4px;
    margin-left: 8px;
    padding-left: 10px;
    border-left: 1.5px solid var(--line);
}
.for {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 6px;
}
.pair {
    display: inline-flex;
    align-items: center;
    gap: 4px;
    min-width: 0;
}
.end {
    margin-left: auto;
}
.text {
    display: flex;
    align-items: center;
    gap: 8px;
}
.text .field {
    flex: 1;
    min-width: 0;
    font-family: var(--mono);
}
.add {
    display: flex;
    align-items: center;
    gap: 6px;
    justify-self: start;
    color: var(--ink-soft);
}
.add:hover {
    color: var(--ink);
}
.trouble {
    color: var(--brick);
}
</style>
