<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { Change } from '@/api/types'
import { useModel } from '@/stores/model'

/** What has changed since a revision, in a line: what is shown is of before. */
const { revision } = defineProps<{ revision: number }>()
const model = useModel()
const changes = shallowRef<Change[]>([])
/** So many are told one by one. */
const FEW = 4
let mine = 0
watch(
    [() => revision, () => model.revision],
    async () => {
        const ticket = ++mine
        const found = await api.comparison(model.id, revision).catch((): Change[] => [])
        if (ticket === mine) {
            changes.value = found.filter((c) => c.what !== 'moved')
        }
    },
    { immediate: true },
)
const words = computed(() => {
    const told = changes.value.slice(0, FEW).map((c) => {
        const [field] = c.fields
        return c.what !== 'changed' || !field || c.fields.length > 1
            ? `${c.name} ${c.what}`
            : `${c.name}: ${field.field} ${field.was || 'nothing'} → ${field.now || 'nothing'}`
    })
    const more = changes.value.length - told.length
    return told.length ? `${told.join('; ')}${more > 0 ? `; and ${more} more` : ''}.` : ''
})
</script>

<template>
    <span v-if="words" class="soft"> {{ words }} </span>
</template>
