<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import { mendsOf, useMends } from '@/stores/mends'
import SaidText from '@/ui/SaidText.vue'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const mends = useMends()
const travel = ref('')
watch(
    [() => thing.id, () => thing.travel],
    () => {
        travel.value = thing.travel ?? ''
    },
    { immediate: true },
)

const problem = () => model.model.problems.find((p) => p.element === thing.id && p.field === 'travel')

/** What is not said stays as it is, also when an edit before it is still on its way. */
function keep(changes: Record<string, unknown>) {
    void model.attempt({ kind: 'stock', id: thing.id, ...changes })
}
</script>

<template>
    <div class="rules">
        <label class="check"
            ><Checkbox binary :model-value="thing.neverNegative" @update:model-value="keep({ neverNegative: $event })" />Never below
            zero</label
        >
        <label class="label" :for="`travel-${thing.id}`">Travel time</label>
        <InputText
            :id="`travel-${thing.id}`"
            v-model="travel"
            class="field"
            placeholder="none: it leaves as its flows say"
            spellcheck="false"
            @change="keep({ travel })"
            @keydown.enter="($event.target as HTMLElement).blur()"
        />
        <p v-if="problem()" class="trouble">
            <SaidText :text="problem()?.sentence ?? ''" />
            <Button v-for="m in mendsOf(problem() ?? {})" :key="m.words" class="button" @click="mends.mend(m)">{{ m.words }}</Button>
        </p>
        <p v-else-if="thing.travel" class="soft small">
            What enters leaves by the first outflow after this time; other outflows leak along the way.
        </p>
    </div>
</template>

<style scoped>
.rules {
    display: grid;
    gap: 4px;
}
.check {
    display: flex;
    align-items: center;
    gap: 8px;
    margin-bottom: 6px;
}
.field {
    font: 13px/1.5 var(--mono);
}
.small {
    font-size: 13px;
}
.trouble {
    color: var(--ochre);
    font-size: 13px;
}
</style>
