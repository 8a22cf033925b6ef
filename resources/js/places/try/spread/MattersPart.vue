<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Ensemble } from '@/api/types'
import OneOf from '@/ui/OneOf.vue'
import FollowedPart from './FollowedPart.vue'
import IndicesPart from './IndicesPart.vue'
import SharesPicture from './SharesPicture.vue'
import type { Way } from './useIndices'

/** Which inputs matter for an outcome: from these runs by straight lines, or from runs that are made to be asked. */
const { ensemble, outcome } = defineProps<{ ensemble: Ensemble; outcome: string }>()
const way = ref<'lines' | Way>('lines')
const key = computed(() => ensemble.outcomes.find((o) => o.id === outcome)?.key ?? '')
</script>

<template>
    <OneOf
        v-model="way"
        class="way"
        label="How it is asked"
        :choices="[
            { value: 'lines', words: 'straight lines through these runs' },
            { value: 'indices', words: 'Sobol indices' },
            { value: 'morris', words: 'Morris screening' },
        ]"
    />
    <div v-if="way === 'lines'" class="lines">
        <FollowedPart :ensemble="ensemble" :outcome="outcome" />
        <SharesPicture v-if="ensemble.columns.includes(key) && ensemble.inputs.length > 1" :ensemble="ensemble" :of="key" />
    </div>
    <IndicesPart v-else :ensemble="ensemble" :outcome="outcome" :way="way" />
</template>

<style scoped>
.way {
    margin-bottom: 8px;
}
.lines {
    display: grid;
    gap: 16px;
}
</style>
