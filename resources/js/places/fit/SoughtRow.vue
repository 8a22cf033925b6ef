<script setup lang="ts">
import { computed } from 'vue'
import { KINDS } from '@/places/try/outcomes'
import { keyOf } from '@/stores/ensembles'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import type { Summand } from '@/stores/policies'
import ChoiceField from '@/ui/ChoiceField.vue'
import { literal } from '@/ui/numbers'
import { useSought } from './sought'

/** Which number of a run is meant: of which variable, and when. */
const { one } = defineProps<{ one: Pick<Summand, 'of' | 'at' | 'kind' | 'time' | 'from'>; locked: boolean }>()
const emit = defineEmits<{ change: [fields: Partial<Summand>] }>()
const model = useModel()
const look = useLook()
const name = computed(() => look.nameOf(keyOf(one)) ?? 'something that is gone')
const parts = computed(() => look.extended[one.of]?.along?.parts ?? [])
const { courseName } = useSought()
const kinds = [...KINDS, { value: 'apart' as const, words: 'distance from a course' }]
/** Courses that are drawn of it come first. */
const wanted = computed(() => {
    const modes = Object.values(model.model.modes ?? {}).filter((m) => (m.points?.length ?? 0) > 1 && (!m.of || m.of === one.of))
    const numbers = model.known.filter((t) => t.id !== one.of && ['stock', 'flow', 'auxiliary', 'parameter', 'series'].includes(t.kind))
    return [
        {
            words: 'Drawn in Ask',
            choices: modes.map((m) => ({ value: m.id, words: `${courseName(m.id)}${m.words ? `: ${m.words}` : ''}` })),
        },
        { words: 'Variables', choices: numbers.map((t) => ({ value: t.id, words: t.name })) },
    ]
})
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
        :choices="kinds"
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
    <ChoiceField
        v-if="one.kind === 'apart'"
        :model-value="one.from ?? ''"
        :label="`Which course ${name} is to follow`"
        placeholder="which course?"
        :groups="wanted"
        @update:model-value="emit('change', { from: $event })"
    />
</template>

<style scoped>
.short {
    width: 64px;
}
</style>
