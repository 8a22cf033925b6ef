<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { mendsOf, useMends } from '@/stores/mends'
import { useRuns } from '@/stores/runs'
import SaidText from '@/ui/SaidText.vue'

/** What the health list says of one thing, told on its card too, with the same mends. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const mends = useMends()
const runs = useRuns()

const told = computed(() => [
    ...model.model.problems.filter((p) => p.element === thing.id && p.code.startsWith('unit.')),
    // That no flow touches a stock stands at its flows.
    ...model.model.health.filter((p) => p.element === thing.id && p.code !== 'health.still'),
    ...(runs.shown?.notices ?? []).filter((n) => n.element === thing.id),
])
</script>

<template>
    <div v-for="(one, i) in told" :key="`${one.code} ${i}`" class="remark">
        <p><SaidText :text="one.sentence" /></p>
        <Button v-for="m in mendsOf(one)" :key="m.words" class="button" :title="m.words" @click="mends.mend(m)"
            ><span>{{ m.words }}</span></Button
        >
    </div>
</template>

<style scoped>
.remark {
    padding: 8px 10px;
    border: 1px solid var(--ochre);
    border-left-width: 4px;
    border-radius: 8px;
    font-size: 13px;
}
.button {
    max-width: 100%;
    margin: 8px 6px 0 0;
}
.button span {
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
</style>
