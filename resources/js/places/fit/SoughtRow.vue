<script setup lang="ts">
import { computed } from 'vue'
import { KINDS } from '@/places/try/outcomes'
import { keyOf } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import type { Summand } from '@/stores/policies'
import ChoiceField from '@/ui/ChoiceField.vue'
import { literal } from '@/ui/numbers'

/** Which number of a run is meant: of which variable, and when. */
const { one } = defineProps<{ one: Pick<Summand, 'of' | 'at' | 'kind' | 'time'>; locked: boolean }>()
const emit = defineEmits<{ change: [fields: Partial<Summand>] }>()
const model = useModel()
const look = useLook()
const name = computed(() => look.nameOf(keyOf(one)) ?? 'something that is gone')
const parts = computed(() => look.extended[one.of]?.along?.parts ?? [])
const time = computed(() => literal(one.time ?? model.model.time.end))
function typed(text: string) {
    const value = Number(text.replace(',', '.'))
    if (text.trim() !== '' && Number.isFinite(value)) {
        emit('change', { time: value })
    }
}
</script>

<template>
    <b>{{ model.model.elements[one.of]?.name ?? name }}</b>
    <ChoiceField
        v-if="parts.length"
        :model-value="one.at?.length ? keyOf(one) : ''"
        :label="`Which element of ${name}`"
        :choices="[{ value: '', words: 'which element?' }, ...parts.map((p) => ({ value: p.key, words: p.name }))]"
        @update:model-value="
            emit('change', {
                at: ($event as string)
                    .slice(one.of.length + 1, -1)
                    .split(',')
                    .filter(Boolean),
            })
        "
    />
    <ChoiceField
        :model-value="one.kind ?? 'last'"
        :label="`Which number of ${name}`"
        :choices="KINDS"
        :disabled="locked"
        @update:model-value="emit('change', { kind: $event, ...($event === 'at' ? { time: model.model.time.end } : {}) })"
    />
    <InputText
        v-if="one.kind === 'at'"
        class="field short"
        :model-value="time"
        :aria-label="`At which time of ${name}`"
        @change="typed(($event.target as HTMLInputElement).value)"
    />
</template>

<style scoped>
.short {
    width: 64px;
}
</style>
