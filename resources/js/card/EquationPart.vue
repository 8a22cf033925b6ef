<script setup lang="ts">
import { ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Equation, Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import SaidText from '@/ui/SaidText.vue'

const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const open = ref(false)
const equation = ref<Equation | null>(null)
const math = ref<HTMLElement>()

watch([open, () => thing.id, () => model.revision], async () => {
    if (!open.value) {
        return
    }
    const [asked, revision] = [thing.id, model.revision]
    try {
        const answer = await api.equation(model.id, thing.id)
        // What was asked before may be answered after it.
        if (asked === thing.id && revision === model.revision) {
            equation.value = answer
        }
    } catch {
        equation.value = null
    }
})
watch(
    [equation, math],
    async () => {
        // Only who asks for mathematics waits for what sets it.
        const [{ default: katex }] = await Promise.all([import('katex'), import('katex/dist/katex.min.css')])
        if (math.value && equation.value) {
            katex.render(equation.value.latex, math.value, { displayMode: true, throwOnError: false, strict: false, trust: false })
        }
    },
    { flush: 'post' },
)
</script>

<template>
    <div class="equation">
        <Button class="label toggle" :aria-expanded="open" @click="open = !open">{{ open ? '▾' : '▸' }} As an equation</Button>
        <template v-if="open && equation">
            <p class="words"><SaidText :text="equation.words" /></p>
            <div ref="math" class="math" tabindex="0" />
        </template>
    </div>
</template>

<style scoped>
.toggle:hover {
    color: var(--ink);
}
.words {
    margin-top: 5px;
    font-size: 13px;
}
.math {
    overflow-x: auto;
    overflow-y: hidden;
    padding: 2px 0;
}
.math :deep(.katex-display) {
    margin: 8px 0;
    text-align: left;
    font-size: 0.92em;
}
</style>
