<script setup lang="ts">
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { counted, short } from '@/ui/numbers'

/** What is needed to read a picture of members where they are: how many and when, what colours mean, and what else is to be known. */
const { there, all, scales, remarks } = defineProps<{
    there: number
    all: number
    scales: { words: string; unit: string; low: number; high: number; dots: boolean; fills: string[] }[]
    remarks: string[]
}>()
const members = useMembers()
const model = useModel()
const view = useView()
</script>

<template>
    <p class="legend">
        <em
            >{{ counted(there, members.muster?.name ?? 'member') }}{{ all > there ? ` of ${all}` : '' }} at
            {{ model.moment(view.playhead) }}</em
        >
        <span v-for="l in scales" :key="l.words" class="scale">
            <span>{{ l.words }}</span>
            <span class="soft">{{ short(l.low, { unit: l.unit }) }}</span>
            <span class="fills" :class="{ dots: l.dots }" aria-hidden="true">
                <i v-for="(f, i) in l.fills" :key="i" :style="{ background: f }"></i>
            </span>
            <span class="soft">{{ short(l.high, { unit: l.unit }) }}</span>
        </span>
        <span v-for="r in remarks" :key="r">{{ r }}</span>
    </p>
</template>

<style scoped>
.legend {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 4px 22px;
    min-height: 30px;
    padding: 2px 16px 8px;
    font-size: 13px;
}
em {
    font-style: normal;
    font-weight: 700;
    color: var(--ember);
}
.scale {
    display: flex;
    align-items: center;
    gap: 7px;
}
.fills {
    display: flex;
}
.fills i {
    width: 15px;
    height: 12px;
}
.fills.dots {
    gap: 3px;
}
.fills.dots i {
    width: 11px;
    height: 11px;
    border: 1px solid var(--ink);
    border-radius: 50%;
}
.soft {
    color: var(--ink-soft);
}
</style>
