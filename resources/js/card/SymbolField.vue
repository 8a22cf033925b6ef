<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Thing } from '@/api/types'
import { useModel } from '@/stores/model'
import SaidText from '@/ui/SaidText.vue'

/** A short sign for equations, axes and narrow places, typed as in LaTeX and shown as it will look. */
const { thing } = defineProps<{ thing: Thing }>()
const model = useModel()
const text = ref('')
const sentence = ref('')
const typeset = ref<HTMLElement>()

watch(
    [() => thing.id, () => thing.symbol],
    () => {
        text.value = thing.symbol ?? ''
        sentence.value = ''
    },
    { immediate: true },
)
watch(
    [() => thing.symbol, typeset],
    async () => {
        if (!typeset.value || !thing.symbol) {
            return
        }
        const [{ default: katex }] = await Promise.all([import('katex'), import('katex/dist/katex.min.css')])
        if (typeset.value && thing.symbol) {
            katex.render(thing.symbol, typeset.value, { throwOnError: false, strict: false, trust: false })
        }
    },
    { flush: 'post' },
)

async function keep() {
    if (text.value.trim() === (thing.symbol ?? '')) {
        return
    }
    try {
        await model.edit({ kind: 'symbol', id: thing.id, text: text.value })
        sentence.value = ''
    } catch (error) {
        sentence.value = (error as Error).message
    }
}
</script>

<template>
    <div class="symbol">
        <label class="label" :for="`symbol-${thing.id}`">Symbol</label>
        <div class="both">
            <InputText
                :id="`symbol-${thing.id}`"
                v-model="text"
                class="field"
                :class="{ wrong: sentence }"
                placeholder="\pi_r"
                title="For equations, axes and narrow places. Formulas use the name."
                spellcheck="false"
                :aria-invalid="sentence !== ''"
                @change="keep"
                @keydown.enter="($event.target as HTMLElement).blur()"
            />
            <span v-if="thing.symbol" ref="typeset" class="typeset" :aria-label="`Shown as ${thing.sign}`" />
        </div>
        <p v-if="sentence" class="trouble" role="alert"><SaidText :text="sentence" /></p>
    </div>
</template>

<style scoped>
.both {
    display: flex;
    align-items: center;
    gap: 8px;
    margin-top: 4px;
}
.field {
    min-width: 0;
    flex: 1;
    font: 13px/1.5 var(--mono);
}
.typeset {
    flex: none;
    max-width: 60%;
    overflow: hidden;
    font-size: 15px;
}
.trouble {
    margin-top: 4px;
    color: var(--brick);
    font-size: 13px;
}
</style>
