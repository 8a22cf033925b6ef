<script setup lang="ts">
import type { Kind } from '@/api/types'
import KindIcon from './KindIcon.vue'

/** What two versions of a model differ in, about one thing. */
defineProps<{
    change: {
        what: string
        name: string
        element: string | null
        kind: string
        fields: { field: string; was: string; now: string }[]
    }
}>()
</script>

<template>
    <b class="what" :class="change.what">{{ change.what }}</b>
    <KindIcon v-if="change.element" :kind="change.kind as Kind" />
    <div class="said">
        <strong>{{ change.name }}</strong>
        <p v-for="f in change.fields" :key="f.field">
            <span class="soft">{{ f.field }}</span> <s v-if="f.was">{{ f.was }}</s>
            {{ ' ' }}
            <template v-if="f.was && change.what === 'changed'">→</template> <code v-if="f.now">{{ f.now }}</code><span
                v-else-if="change.what === 'changed'"
                class="soft"
                >nothing</span
            >
        </p>
    </div>
</template>

<style scoped>
.what {
    flex: none;
    width: 70px;
    font-size: 13px;
}
.what.added {
    color: var(--leaf);
}
.what.changed {
    color: var(--ochre);
}
.what.removed {
    color: var(--brick);
}
.said {
    flex: 1;
    min-width: 0;
    overflow-wrap: anywhere;
}
code,
s {
    font: 13px var(--mono);
}
s {
    color: var(--ink-soft);
}
</style>
