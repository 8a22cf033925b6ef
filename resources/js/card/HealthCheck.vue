<script setup lang="ts">
import { Stethoscope } from '@lucide/vue'
import { ref, watch } from 'vue'
import { api } from '@/api/client'
import type { Health } from '@/api/types'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'

const model = useModel()
const view = useView()
const health = ref<Health | null>(null)
const sentence = ref('')
const checking = ref(false)

// What was found holds for the model as it was.
watch(() => model.revision, () => { health.value = null })

async function check() {
    checking.value = true
    sentence.value = ''
    try {
        health.value = await api.health(model.id)
    } catch (error) {
        sentence.value = (error as Error).message
    }
    checking.value = false
}
const percent = (share: number) => (share === 0 ? '0 %' : `${Number((100 * share).toPrecision(2))} %`)
</script>

<template>
    <div class="health">
        <button type="button" class="button" :disabled="checking" title="Runs the model again at half the step and compares" @click="check"><Stethoscope :size="15" :stroke-width="1.6" />{{ checking ? 'Checking…' : 'Check the step' }}</button>
        <div v-if="health" role="status">
            <p :class="health.verdict"><SaidText :text="health.sentence" /></p>
            <button v-for="one in health.differences.slice(0, 3)" :key="one.element + one.what" type="button" class="row" @click="view.select(one.element)"><span>{{ one.name }}<small v-if="one.what !== 'stock'" class="soft"> in all</small></span><span>{{ percent(one.difference) }}</span></button>
        </div>
        <p v-if="sentence" class="poor" role="alert"><SaidText :text="sentence" /></p>
    </div>
</template>

<style scoped>
.health {
    margin-top: 10px;
}
.health p {
    margin-top: 8px;
    font-size: 13px;
}
.poor,
.fault {
    color: var(--brick);
}
.fair {
    color: var(--ochre);
}
.row {
    display: flex;
    justify-content: space-between;
    gap: 10px;
    width: 100%;
    padding: 2px 0;
    text-align: left;
    font-size: 13px;
}
.row:hover span:first-child {
    text-decoration: underline;
    text-underline-offset: 3px;
}
</style>
