<script setup lang="ts">
import Select from 'primevue/select'
import { computed, ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { literal } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const text = ref('')
const sentence = ref('')

const WIDTH = 300
const HEIGHT = 120
const BETWEEN = [{ value: 'straight', words: 'Straight' }, { value: 'smooth', words: 'Smooth' }, { value: 'stepped', words: 'Stepped' }]
const BEYOND = [{ value: 'held', words: 'Held' }, { value: 'extended', words: 'Extended' }]

const points = computed(() => thing.points ?? [])
const written = computed(() => points.value.map(([x, y]) => `${literal(x)}\t${literal(y)}`).join('\n'))
watch(() => [thing.id, written.value], () => { text.value = written.value; sentence.value = '' }, { immediate: true })

/** The points in the frame of the picture. */
function framed(list: [number, number][]) {
    const span = (values: number[]) => [Math.min(...values), Math.max(...values) - Math.min(...values) || 1] as const
    const [left, wide] = span(points.value.map((p) => p[0]))
    const [low, high] = span(points.value.map((p) => p[1]))
    return list.map(([x, y]) => ({ x: 8 + (x - left) / wide * (WIDTH - 16), y: HEIGHT - 10 - (y - low) / high * (HEIGHT - 22) }))
}
const places = computed(() => framed(points.value))
const line = computed(() => framed(thing.path ?? []).map((p, i) => `${i ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join(''))

function parsed(): number[][] | null {
    const rows: number[][] = []
    for (const [i, row] of text.value.split('\n').entries()) {
        if (row.trim() === '') {
            continue
        }
        const cells = row.trim().split(/[\s;,]+/).map(Number)
        if (cells.length !== 2 || cells.some((c) => !Number.isFinite(c))) {
            sentence.value = `Line ${i + 1} is no pair of numbers: \`${row.trim()}\`. Write x and y with a space or tab between them.`
            return null
        }
        rows.push(cells)
    }
    return rows
}

async function keep(changes: Record<string, unknown> = {}) {
    sentence.value = ''
    const rows = parsed()
    if (!rows) {
        return
    }
    try {
        await model.edit({ kind: 'curve', id: thing.id, points: rows, between: thing.between, beyond: thing.beyond, inputUnit: thing.inputUnit, ...changes })
    } catch (error) {
        sentence.value = (error as Error).message
    }
}
</script>

<template>
    <div class="curve">
        <svg v-if="points.length > 1" :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" role="img" :aria-label="`${thing.name}: ${points.length} points from x = ${literal(points[0]?.[0] ?? 0)} to ${literal(points[points.length - 1]?.[0] ?? 0)}`">
            <path :d="line" fill="none" stroke="var(--ink)" stroke-width="1.6" />
            <circle v-for="(p, i) in places" :key="i" :cx="p.x" :cy="p.y" r="3" fill="var(--card)" stroke="var(--ink)" stroke-width="1.4" />
        </svg>
        <label class="label" :for="`points-${thing.id}`">{{ thing.kind === 'series' ? 'Times and values' : 'Points' }}</label>
        <textarea :id="`points-${thing.id}`" v-model="text" class="field" rows="6" spellcheck="false" :placeholder="'x  y, one pair a line:\n0  1\n10  0.4'" :aria-invalid="sentence !== ''" @change="keep()" />
        <p v-if="sentence" class="trouble" role="alert"><SaidText :text="sentence" /></p>
        <div class="pair">
            <div><span :id="`between-${thing.id}`" class="label">Between</span><Select :model-value="thing.between" :options="BETWEEN" option-label="words" option-value="value" :aria-labelledby="`between-${thing.id}`" @update:model-value="keep({ between: $event })" /></div>
            <div><span :id="`beyond-${thing.id}`" class="label">Outside</span><Select :model-value="thing.beyond" :options="BEYOND" option-label="words" option-value="value" :aria-labelledby="`beyond-${thing.id}`" @update:model-value="keep({ beyond: $event })" /></div>
        </div>
        <p v-if="thing.kind === 'curve'" class="soft small">Used as <code>{{ thing.written }}(input)</code></p>
        <p v-else class="soft small">Times in {{ model.model.time.unit }}. <code>{{ thing.written }}</code> is its value now, <code>at({{ thing.written }}, time - 1)</code> its value before.</p>
        <div v-if="thing.kind === 'curve'"><label class="label" :for="`input-unit-${thing.id}`">Unit of the input</label><input :id="`input-unit-${thing.id}`" class="field one" :value="thing.inputUnit" placeholder="such as person/m^2, 1" spellcheck="false" @change="keep({ inputUnit: ($event.target as HTMLInputElement).value })" /></div>
    </div>
</template>

<style scoped>
.curve {
    display: grid;
    gap: 8px;
}
svg {
    width: 100%;
    border: 1px solid var(--hairline);
    border-radius: 8px;
    background: var(--paper);
}
textarea,
.one {
    width: 100%;
    font: 13px/1.5 var(--mono);
    tab-size: 12;
}
textarea {
    resize: vertical;
    max-height: 300px;
}
.pair {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
}
.pair :deep(.p-select) {
    width: 100%;
    margin-top: 4px;
    border-radius: 8px;
}
.pair :deep(.p-select-label) {
    padding: 4px 9px;
}
.small {
    font-size: 13px;
}
.trouble {
    color: var(--brick);
    font-size: 13px;
}
</style>
