<script setup lang="ts">
import Dialog from 'primevue/dialog'
import { useExports } from '@/stores/exports'
import SaidText from '@/ui/SaidText.vue'

/** What the format of an exported file had no place for. */
const exports = useExports()
</script>

<template>
    <Dialog
        :visible="exports.lost !== null"
        modal
        :header="`Exported as ${exports.lost?.name}`"
        :style="{ width: '540px' }"
        @update:visible="exports.lost = null"
    >
        <p class="soft">The open format has no place for this:</p>
        <ul class="log">
            <li v-for="(line, i) in exports.lost?.log" :key="i">
                <strong>{{ line.where }}</strong> <SaidText :text="line.sentence" />
            </li>
        </ul>
    </Dialog>
</template>

<style scoped>
.log {
    display: grid;
    gap: 6px;
    padding-left: 18px;
    max-height: 300px;
    overflow: auto;
}
</style>
