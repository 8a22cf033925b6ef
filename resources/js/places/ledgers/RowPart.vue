<script setup lang="ts">
import { Trash2 } from '@lucide/vue'
import type { LedgerRow } from '@/api/types'
import { useLedgers } from '@/stores/ledgers'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'

/** What a row is besides its amount and its entries. */
const { row } = defineProps<{ row: LedgerRow }>()
const ledgers = useLedgers()
const model = useModel()
const notices = useNotices()
async function drop() {
    if (await ledgers.drop('transactions', row.id)) {
        notices.say(`Removed the row ${row.name}.`, { words: 'Undo', run: () => void model.step('undo') })
    }
}
</script>

<template>
    <div class="part">
        <label class="check"
            ><Checkbox
                binary
                :model-value="row.oneWay"
                @update:model-value="ledgers.put('transactions', row.id, { oneWay: $event || null })"
            />Never turns round: below 0 it is 0</label
        >
        <Button class="link" @click="drop"><Trash2 :size="13" :stroke-width="1.6" />Remove this row</Button>
    </div>
</template>

<style scoped src="./part.css"></style>
