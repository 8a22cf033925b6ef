<script setup lang="ts">
import { computed } from 'vue'
import type { DimensionView } from '@/api/types'
import { fieldText, fieldValue } from '@/ui/numbers'

/** How the elements of one dimension belong to those of another: a grid of weights; empty where they do not. */
const { from, to, pairs, label } = defineProps<{
    from: DimensionView
    to: DimensionView
    pairs: (readonly [string, string, number?])[]
    label: string
}>()
type Weighted = [string, string, number]
/** What becomes of the pairs as they are then: two quick clicks would else undo each other. */
const emit = defineEmits<{ change: [of: (now: readonly (readonly [string, string, number?])[]) => Weighted[]] }>()

/** More would be no grid to work in. */
const MOST = 400
const weights = computed(() => new Map(pairs.map(([a, b, w]) => [`${a}\n${b}`, w ?? 1])))
const rows = computed(() => from.elements.slice(0, Math.max(1, Math.floor(MOST / Math.max(1, to.elements.length)))))
const weight = (a: string, b: string) => weights.value.get(`${a}\n${b}`)

function write(a: string, b: string, text: string) {
    const value = text.trim() === '' ? 0 : fieldValue(text, '1')
    if (!Number.isFinite(value) || value === (weight(a, b) ?? 0)) {
        return
    }
    // In the order of the elements, so that the same grid is the same file.
    const order = new Map(from.elements.map((e, i) => [e.id, i]))
    emit('change', (now) => {
        const others = now.map(([x, y, w]): Weighted => [x, y, w ?? 1]).filter(([x, y]) => x !== a || y !== b)
        const all: Weighted[] = value === 0 ? others : [...others, [a, b, value]]
        return all.sort((p, q) => (order.get(p[0]) ?? 0) - (order.get(q[0]) ?? 0))
    })
}
/** A click belongs or does not belong; a weight can be typed. */
const toggle = (a: string, b: string) => {
    write(a, b, weight(a, b) ? '' : '1')
}
</script>

<template>
    <div class="scroll">
        <table :aria-label="label">
            <thead>
                <tr>
                    <th></th>
                    <th v-for="b in to.elements" :key="b.id" scope="col" :title="b.name">{{ b.name }}</th>
                </tr>
            </thead>
            <tbody>
                <tr v-for="a in rows" :key="a.id">
                    <th scope="row" :title="a.name">{{ a.name }}</th>
                    <td v-for="b in to.elements" :key="b.id" :class="{ on: weight(a.id, b.id) }">
                        <InputText
                            :model-value="weight(a.id, b.id) === undefined ? '' : fieldText(weight(a.id, b.id)!, '1')"
                            :aria-label="`Weight of ${a.name} in ${b.name}`"
                            :title="weight(a.id, b.id) ? `${a.name} belongs to ${b.name}` : `Double-click: ${a.name} belongs to ${b.name}`"
                            @change="write(a.id, b.id, ($event.target as HTMLInputElement).value)"
                            @dblclick="toggle(a.id, b.id)"
                        />
                    </td>
                </tr>
            </tbody>
        </table>
        <p v-if="rows.length < from.elements.length" class="soft">
            The first {{ rows.length }} of {{ from.elements.length }}; the others keep what they have.
        </p>
    </div>
</template>

<style scoped>
.scroll {
    overflow-x: auto;
    max-height: 300px;
}
table {
    border-collapse: collapse;
    font-size: 13px;
}
th {
    max-width: 90px;
    padding: 2px 6px;
    font-weight: 400;
    color: var(--ink-soft);
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
    text-align: left;
}
td {
    padding: 1px;
}
td :deep(input) {
    width: 54px;
    height: 26px;
    padding: 0 6px;
    border: 1px solid var(--hairline);
    border-radius: 5px;
    background: var(--paper);
    text-align: center;
    font: 13px var(--mono);
}
.on :deep(input) {
    border-color: var(--basin);
    background: var(--basin-tint);
}
</style>
