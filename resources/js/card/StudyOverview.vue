<script setup lang="ts">
import { ref, watch } from 'vue'
import type { Remedy } from '@/api/types'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'
import FeedbackLoops from './FeedbackLoops.vue'
import HealthList from './HealthList.vue'
import ImportLog from './ImportLog.vue'
import NoteField from './NoteField.vue'
import SinceNote from './SinceNote.vue'
import TimeCard from './TimeCard.vue'
import WaitingEdits from './WaitingEdits.vue'

const model = useModel()
const runs = useRuns()
const view = useView()

function mend(remedy: Remedy) {
    void model.together(remedy.edits, remedy.words)
}
const sameUnits = ref('')
watch(
    () => model.model.sameUnits,
    (lines) => {
        sameUnits.value = lines.join('\n')
    },
    { immediate: true },
)
</script>

<template>
    <section class="overview" aria-label="About the study">
        <div v-if="runs.shown?.fault" class="fault" role="alert">
            <p><SaidText :text="runs.shown.fault.sentence" /></p>
            <Button v-if="runs.shown.fault.element" class="chip" @click="view.goTo(runs.shown.fault.element)">{{
                runs.shown.fault.name
            }}</Button>
            <Button v-if="runs.shown.fault.remedy" class="button" @click="mend(runs.shown.fault.remedy)">{{
                runs.shown.fault.remedy.words
            }}</Button>
        </div>
        <div v-if="runs.refusal" class="fault" role="alert">
            <p>{{ runs.refusal }}</p>
        </div>
        <SinceNote />
        <WaitingEdits />
        <HealthList />
        <FeedbackLoops />
        <ImportLog />
        <TimeCard />
        <div>
            <label class="label" for="same-units">Units that mean the same</label>
            <Textarea
                id="same-units"
                v-model="sameUnits"
                class="field units"
                rows="2"
                placeholder="person = people = islander"
                spellcheck="false"
                @change="model.attempt({ kind: 'same-units', lines: sameUnits.split('\n') })"
            />
        </div>
        <NoteField
            :note="model.model.note"
            label="Note of the study"
            hint="What question does this study ask?"
            @keep="model.attempt({ kind: 'title', name: model.model.name, note: $event })"
        />
    </section>
</template>

<style scoped>
.overview {
    display: grid;
    gap: 20px;
    padding: 14px 18px 24px;
}

.units {
    margin-top: 4px;
    width: 100%;
    font: 13px/1.5 var(--mono);
    resize: vertical;
}
.fault {
    padding: 10px 12px;
    border: 1px solid var(--brick);
    border-left-width: 4px;
    border-radius: 10px;
}
.fault .chip,
.fault .button {
    margin-top: 8px;
}
</style>
