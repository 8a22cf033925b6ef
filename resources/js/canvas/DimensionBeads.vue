<script setup lang="ts">
import { computed } from 'vue'
import type { Thing } from '@/api/types'
import { elementsOf, useLook } from '@/stores/look'
import BeadString from '@/ui/BeadString.vue'

/** On a shape that extends over dimensions: a string of beads for each, with its name. */
const { thing, plain = false } = defineProps<{ thing: Thing; /** Without names, where there is no room for them. */ plain?: boolean }>()
const look = useLook()
const strings = computed(() =>
    (thing.along?.over ?? []).flatMap((id) => {
        const dimension = look.byId.get(id)
        const here = dimension ? elementsOf(dimension) : []
        const at = here.findIndex((e) => e.id === look.at(id))
        return dimension ? [{ id, name: dimension.name, size: here.length, at: at < 0 ? undefined : at }] : []
    }),
)
</script>

<template>
    <span v-if="strings.length" class="strings" :class="{ plain }" :title="`over ${strings.map((s) => s.name).join(' and ')}`">
        <span v-for="s in strings" :key="s.id" class="one"
            ><small v-if="!plain">{{ s.name }}</small
            ><BeadString :size="s.size" :at="s.at"
        /></span>
    </span>
</template>

<style scoped>
.strings {
    position: absolute;
    bottom: calc(100% - 4px);
    left: 50%;
    display: flex;
    gap: 10px;
    transform: translateX(-50%);
    pointer-events: none;
}
.plain {
    gap: 5px;
    bottom: calc(100% - 2px);
}
.one {
    display: grid;
    justify-items: center;
    line-height: 1;
}
small {
    font-size: 10.5px;
    line-height: 12px;
    color: var(--ink-soft);
    white-space: nowrap;
}
.one :deep(svg) {
    display: block;
}
</style>
