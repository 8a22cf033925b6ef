<script setup lang="ts">
import { useElementSize, useElementVisibility } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import type { LedgerPage } from '@/api/types'
import LedgerTable from './LedgerTable.vue'

/** One of many books: only those in sight follow the playhead; the others keep their room. */
const { page } = defineProps<{ page: LedgerPage }>()
const box = ref<HTMLElement>()
const isNear = useElementVisibility(box, { rootMargin: '200px' })
const { height } = useElementSize(box)
/** About a line for each row, until it was seen once. */
const room = ref(190 + 56 * page.rows.length)
watch(height, (now) => {
    if (isNear.value && now > 0) {
        room.value = now
    }
})
const style = computed(() => (isNear.value ? {} : { height: `${room.value}px` }))
</script>

<template>
    <div
        ref="box"
        :style="style"
        :aria-label="isNear ? undefined : `Ledger of ${page.name}, out of sight`"
        :role="isNear ? undefined : 'group'"
    >
        <LedgerTable v-if="isNear" :page="page" />
    </div>
</template>
