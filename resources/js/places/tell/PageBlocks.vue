<script setup lang="ts">
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import VariableField from '@/find/VariableField.vue'
import { useModel } from '@/stores/model'
import { newId } from '@/ui/ids'
import { literal } from '@/ui/numbers'
import { useShowcases, type PageBlock } from './useShowcases'

/** What stands on the page, in the order of reading. */
const pages = useShowcases()
const model = useModel()
const KINDS = { text: 'Words', plot: 'A plot', table: 'A table', map: 'The causal map', loops: 'Loops', finding: 'A finding' } as const
/** What there is something to show of. */
const offered = computed(() => ({
    ...KINDS,
    map: Object.keys(model.model.causalLinks ?? {}).length ? KINDS.map : '',
    finding: findings.value.length ? KINDS.finding : '',
}))
const findings = computed(() => Object.values(model.model.findings).map((f) => ({ id: f.id, title: f.title })))
const NUMBERS = [
    { value: 'last', label: 'at the end' },
    { value: 'at', label: 'at the playhead' },
    { value: 'max', label: 'at its highest' },
    { value: 'min', label: 'at its lowest' },
    { value: 'peak', label: 'when it is highest' },
]
const WIDTHS = [
    { value: 12, label: 'the whole width' },
    { value: 8, label: 'two thirds' },
    { value: 6, label: 'half' },
    { value: 4, label: 'a third' },
]
const steps = computed(() => [{ id: '', title: 'every step' }, ...pages.steps.map((s) => ({ id: s.id, title: s.title }))])
const add = (kind: PageBlock['kind']) => pages.addBlock({ id: newId(), kind, ...(kind === 'text' ? { words: '' } : {}) })
/** As it stands in the words. */
const braced = (id: string) => `{${id}` + '}'
type Told = NonNullable<PageBlock['numbers']>[number]

/** A number comes into the text where it can be read: at its end. */
function addNumber(b: PageBlock, of: string) {
    const known = new Set((b.numbers ?? []).map((n) => n.id))
    const id = 'abcdefghijklmnopqrst'.split('').find((letter) => !known.has(letter)) ?? newId()
    void pages.block(b.id, { numbers: [...(b.numbers ?? []), { id, of }], words: `${b.words ?? ''} {${id}}`.trim() })
}
const changeNumber = (b: PageBlock, id: string, kind: string) =>
    pages.block(b.id, {
        numbers: (b.numbers ?? []).map((n) =>
            n.id === id ? { id, of: n.of, kind: kind as Told['kind'], ...(kind === 'at' ? { time: pages.moment() } : {}) } : n,
        ),
    })
const dropNumber = (b: PageBlock, id: string) =>
    pages.block(b.id, {
        numbers: (b.numbers ?? []).filter((n) => n.id !== id),
        words: (b.words ?? '').replaceAll(`{${id}}`, '').trim(),
    })
function keepMarks(b: PageBlock, text: string) {
    const marks = text
        .split('\n')
        .map((line) => /^\s*(-?[\d.]+(?:e-?\d+)?)\s*:\s*(.+)$/i.exec(line))
        .filter((m) => m !== null)
        .map((m) => ({ number: Number(m[1]), words: (m[2] ?? '').trim() }))
    void pages.block(b.id, { marks: [...(b.marks ?? []).filter((m) => m.of), ...marks] })
}
const marksOf = (b: PageBlock) =>
    (b.marks ?? [])
        .filter((m) => !m.of)
        .map((m) => `${literal(m.number ?? 0)}: ${m.words}`)
        .join('\n')
</script>

<template>
    <section v-for="(b, i) in pages.blocks" :key="b.id" class="card" :aria-label="`Block ${i + 1}`">
        <p>
            <strong>{{ KINDS[b.kind] }}</strong>
        </p>
        <label
            >{{ b.kind === 'text' ? 'Words; {a} is where a number stands' : 'Title' }}
            <Textarea
                class="field"
                :model-value="b.words ?? ''"
                :rows="b.kind === 'text' ? 3 : 1"
                auto-resize
                maxlength="4000"
                @change="pages.block(b.id, { words: ($event.target as HTMLTextAreaElement).value })"
        /></label>
        <template v-if="b.kind === 'text'">
            <p v-for="n in b.numbers ?? []" :key="n.id" class="number">
                <code>{{ braced(n.id) }}</code> {{ pages.nameOf(n.of) }}
                <Select
                    :model-value="n.kind ?? 'last'"
                    :options="NUMBERS"
                    option-label="label"
                    option-value="value"
                    :aria-label="`Which number of ${pages.nameOf(n.of)}`"
                    @update:model-value="changeNumber(b, n.id, $event)"
                />
                <Button class="act" @click="dropNumber(b, n.id)">Take it away</Button>
            </p>
            <VariableField label="Add a number to these words" placeholder="Add a number of…" @choose="addNumber(b, $event)" />
        </template>
        <label v-else-if="b.kind === 'finding'"
            >Which
            <Select
                :model-value="b.finding ?? ''"
                :options="findings"
                option-label="title"
                option-value="id"
                placeholder="choose a finding"
                :aria-label="`Finding of block ${i + 1}`"
                @update:model-value="pages.block(b.id, { finding: $event })"
        /></label>
        <p v-else-if="b.kind === 'map'" class="soft">As it is drawn in the place Map.</p>
        <template v-else>
            <p v-if="b.kind === 'loops'" class="soft">Those that pass all of these, or the first six:</p>
            <p class="of">
                <span v-for="id in b.of ?? []" :key="id" class="one"
                    >{{ pages.nameOf(id) }}
                    <Button
                        class="act"
                        :aria-label="`Take ${pages.nameOf(id)} out`"
                        @click="pages.block(b.id, { of: (b.of ?? []).filter((o) => o !== id) })"
                        >out</Button
                    ></span
                >
            </p>
            <VariableField
                :except="b.of ?? []"
                label="Add a variable to this block"
                placeholder="Add a variable"
                @choose="pages.block(b.id, { of: [...(b.of ?? []), $event] })"
            />
            <label v-if="b.kind === 'plot'"
                >Lines across it, one a line: the number, a colon, the words
                <Textarea
                    class="field"
                    :model-value="marksOf(b)"
                    rows="1"
                    auto-resize
                    @change="keepMarks(b, ($event.target as HTMLTextAreaElement).value)"
            /></label>
        </template>
        <div class="pair">
            <label
                >Width
                <Select
                    :model-value="b.width ?? 12"
                    :options="WIDTHS"
                    option-label="label"
                    option-value="value"
                    :aria-label="`Width of block ${i + 1}`"
                    @update:model-value="pages.block(b.id, { width: $event })"
            /></label>
            <label v-if="pages.steps.length"
                >On
                <Select
                    :model-value="b.step ?? ''"
                    :options="steps"
                    option-label="title"
                    option-value="id"
                    placeholder="every step"
                    :aria-label="`Step of block ${i + 1}`"
                    @update:model-value="pages.block(b.id, { step: $event })"
            /></label>
        </div>
        <p class="acts">
            <Button v-if="i" class="act" @click="pages.moveBlock(b.id, -1)">Up</Button>
            <Button v-if="i < pages.blocks.length - 1" class="act" @click="pages.moveBlock(b.id, 1)">Down</Button>
            <Button class="act" @click="pages.dropBlock(b.id)">Take it away</Button>
        </p>
    </section>
    <p class="adds">
        <template v-for="(words, kind) in offered" :key="kind">
            <Button v-if="words" class="button" @click="add(kind)"><Plus :size="14" :stroke-width="1.8" />{{ words }}</Button>
        </template>
    </p>
    <p v-if="!model.things.length" class="soft">There is nothing in the model yet that could be shown.</p>
</template>

<style scoped>
.number {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px;
}
code {
    font-family: var(--mono);
}
.of {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 14px;
}
.adds {
    display: flex;
    flex-wrap: wrap;
    gap: 8px;
}
</style>
