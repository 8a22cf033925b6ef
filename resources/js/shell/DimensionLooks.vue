<script setup lang="ts">
import { ChevronDown } from '@lucide/vue'
import { useWindowSize } from '@vueuse/core'
import Popover from 'primevue/popover'
import { computed, ref } from 'vue'
import { useLook } from '@/stores/look'
import DimensionLook from './DimensionLook.vue'

/** Where the window looks along each dimension along which something extends; in a panel of their own where room is short. */
const look = useLook()
const { width } = useWindowSize()
const panel = ref<InstanceType<typeof Popover>>()
const open = ref(false)
/** What stands in the head beside takes so many pixels, and a chooser up to 190. */
const room = computed(() => Math.max(0, Math.floor((width.value - 830) / 200)))
const inline = computed(() => (look.dimensions.length <= room.value ? look.dimensions : look.dimensions.slice(0, room.value)))
const rest = computed(() => look.dimensions.slice(inline.value.length))
const looking = computed(() => rest.value.filter((d) => look.at(d.id)).length)
</script>

<template>
    <div v-if="look.dimensions.length" class="looks" role="group" aria-label="Dimensions">
        <DimensionLook v-for="d in inline" :key="d.id" :dimension="d" />
        <template v-if="rest.length">
            <Button
                class="now"
                aria-haspopup="dialog"
                :aria-expanded="open"
                title="Where the window looks along dimensions"
                @click="panel?.toggle($event)"
                ><span
                    >{{ inline.length ? `+ ${rest.length}` : rest.length === 1 ? '1 dimension' : `${rest.length} dimensions`
                    }}{{ looking ? `, ${looking} chosen` : '' }}</span
                ><ChevronDown :size="15" :stroke-width="1.6"
            /></Button>
            <Popover ref="panel" @show="open = true" @hide="open = false">
                <div class="panel" role="group" aria-label="Where the window looks">
                    <DimensionLook v-for="d in rest" :key="d.id" :dimension="d" />
                </div>
            </Popover>
        </template>
    </div>
</template>

<style scoped>
.looks {
    flex: none;
    display: flex;
    align-items: center;
    gap: 8px;
    min-width: 0;
}
.now {
    display: flex;
    align-items: center;
    gap: 6px;
    height: 28px;
    padding: 0 10px;
    border: 1px solid var(--line);
    border-radius: 14px;
    background: var(--paper);
    white-space: nowrap;
}
.panel {
    display: grid;
    gap: 8px;
    max-height: 60vh;
    overflow-y: auto;
    padding: 4px;
}
</style>
