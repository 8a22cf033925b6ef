<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import SaidText from '@/ui/SaidText.vue'
import NoteField from './NoteField.vue'
import TimeCard from './TimeCard.vue'

const model = useModel()
const runs = useRuns()
const view = useView()

const problems = computed(() => [...model.hindrances, ...model.remarks])
const sameUnits = ref('')
watch(() => model.model.sameUnits, (lines) => { sameUnits.value = lines.join('\n') }, { immediate: true })
const nameOf = (id: string | null) => (id ? model.model.elements[id]?.name : undefined)
</script>

<template>
    <section class="overview" aria-label="About the study">
        <div v-if="runs.shown?.fault" class="fault" role="alert">
            <p><SaidText :text="runs.shown.fault.sentence" /></p>
            <button v-if="runs.shown.fault.element" type="button" class="chip" @click="view.select(runs.shown.fault.element)">{{ runs.shown.fault.name }}</button>
        </div>
        <div v-if="runs.refusal" class="fault" role="alert"><p>{{ runs.refusal }}</p></div>
        <div v-if="runs.shown?.notices.length" class="told">
            <h2 class="label">What the run tells</h2>
            <ul>
                <li v-for="notice in runs.shown.notices" :key="notice.code + notice.element"><button type="button" class="remark" @click="view.select(notice.element)"><i aria-hidden="true" /><span><SaidText :text="notice.sentence" /></span></button></li>
            </ul>
        </div>
        <div v-if="problems.length">
            <h2 class="label">{{ model.hindrances.length ? (model.hindrances.length === 1 ? '1 thing missing' : `${model.hindrances.length} things missing`) : 'Remarks' }}</h2>
            <ul>
                <li v-for="(problem, i) in problems" :key="i">
                    <button type="button" :class="problem.severity" @click="problem.element ? view.select(problem.element) : undefined">
                        <i aria-hidden="true" /><span><b v-if="nameOf(problem.element) && !problem.sentence.includes('`' + nameOf(problem.element) + '`')">{{ nameOf(problem.element) }}: </b><SaidText :text="problem.sentence" /></span>
                    </button>
                </li>
            </ul>
        </div>
        <TimeCard />
        <div>
            <label class="label" for="same-units">Units that mean the same</label>
            <textarea id="same-units" v-model="sameUnits" class="field units" rows="2" placeholder="person = people = islander" spellcheck="false" @change="model.attempt({ kind: 'same-units', lines: sameUnits.split('\n') })" />
        </div>
        <NoteField :note="model.model.note" label="Note of the study" hint="What question does this study ask?" @keep="model.attempt({ kind: 'title', name: model.model.name, note: $event })" />
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
ul {
    margin: 6px 0 0;
    padding: 0;
    list-style: none;
}
li button {
    display: flex;
    gap: 9px;
    width: 100%;
    padding: 5px 6px;
    border-radius: 8px;
    text-align: left;
    overflow-wrap: anywhere;
}
li button:hover {
    background: var(--hover);
}
li i {
    flex: none;
    width: 10px;
    height: 10px;
    margin-top: 5px;
    border-radius: 50%;
    background: var(--brick);
}
li .remark i {
    border-radius: 2px;
    background: var(--ochre);
    clip-path: polygon(50% 0, 100% 100%, 0 100%);
}
.fault {
    padding: 10px 12px;
    border: 1px solid var(--brick);
    border-left-width: 4px;
    border-radius: 10px;
}
.fault .chip {
    margin-top: 8px;
}
</style>
