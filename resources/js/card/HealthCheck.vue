<script setup lang="ts">
import { Stethoscope } from '@lucide/vue'
import { useModel } from '@/stores/model'
import { useStepCheck } from '@/stores/stepCheck'
import { useView } from '@/stores/view'
import { short } from '@/ui/numbers'
import SaidText from '@/ui/SaidText.vue'

const model = useModel()
const step = useStepCheck()
const view = useView()
const percent = (share: number) => (share > 0 && share < 1e-6 ? '< 0.0001 %' : `${short(share, { unit: '%', digits: 2 })} %`)
</script>

<template>
    <div class="health">
        <Button class="button" :disabled="step.checking" title="Runs the model again at half the step and compares" @click="step.check"
            ><Stethoscope :size="15" :stroke-width="1.6" />{{ step.checking ? 'Checking…' : 'Check the step' }}</Button
        >
        <div v-if="step.health" role="status">
            <p :class="step.health.verdict"><SaidText :text="step.health.sentence" /></p>
            <Button v-if="step.health.remedy" class="button" @click="model.together(step.health.remedy.edits, step.health.remedy.words)">{{
                step.health.remedy.words
            }}</Button>
            <Button
                v-for="one in step.health.verdict === 'fine' ? [] : step.health.differences.slice(0, 3)"
                :key="one.element + one.what"
                class="row"
                @click="view.select(one.element)"
                ><span>{{ one.name }}<small v-if="one.what !== 'stock'" class="soft"> in all</small></span
                ><span>{{ percent(one.difference) }}</span></Button
            >
        </div>
        <p v-if="step.trouble" class="poor" role="alert"><SaidText :text="step.trouble" /></p>
    </div>
</template>

<style scoped>
.health {
    margin-top: 10px;
}
.health p {
    margin: 8px 0 6px;
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
    min-height: 24px;
    align-items: center;
    text-align: left;
    font-size: 13px;
}
.row:hover span:first-child {
    text-decoration: underline;
    text-underline-offset: 3px;
}
</style>
