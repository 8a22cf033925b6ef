<script setup lang="ts">
import { Play, Plus, Square } from '@lucide/vue'
import { computed, ref } from 'vue'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'
import { placeBehind } from '@/ui/records'
import FindingForm from './FindingForm.vue'
import ScenarioResults from './ScenarioResults.vue'
import ScenarioTable from './ScenarioTable.vue'
import TryTabs from './TryTabs.vue'

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()

const scenarios = computed(() => Object.values(model.model.scenarios).sort((a, b) => a.place - b.place))
function make() {
    void model.attempt({
        kind: 'scenario',
        id: newId(),
        name: `Scenario ${scenarios.value.length + 1}`,
        note: '',
        on: [],
        setting: runs.setting,
        place: placeBehind(model.model.scenarios),
    })
}
const busy = computed(() => courses.batch !== null && !courses.batch.finished)
const atPlayhead = ref(false)
const measured = computed(() =>
    [
        ...new Set([
            ...model.model.tracks.flatMap((t) => t.of),
            ...(model.model.tracks.length
                ? []
                : model.things
                      .filter((t) => t.kind === 'stock')
                      .slice(0, 8)
                      .map((t) => t.id)),
            ...view.selectedThings,
        ]),
    ]
        .filter((id) => model.model.elements[id] && model.model.elements[id].kind !== 'curve')
        .slice(0, 40),
)
const finding = () => ({
    kind: 'comparison' as const,
    of: measured.value,
    courses: [
        { name: 'baseline', ref: { revision: model.revision } },
        ...courses.others.map((o) => ({ name: o.name, ref: { revision: model.revision, ...o.ref } })),
    ],
    ...(atPlayhead.value ? { at: view.playhead } : {}),
})
</script>

<template>
    <section class="leaf" aria-label="Scenarios">
        <TryTabs><FindingForm :view="finding" title="Scenarios compared" /></TryTabs>
        <div class="scroll" tabindex="0">
            <div class="bar">
                <h2>Scenarios</h2>
                <Button class="button" @click="make"
                    ><Plus :size="14" :stroke-width="1.8" />New scenario{{ runs.tried ? ' from the present setting' : '' }}</Button
                >
                <Button
                    v-if="scenarios.length"
                    class="button strong"
                    :disabled="busy"
                    @click="courses.runScenarios(scenarios.map((s) => s.id))"
                    ><Play :size="14" :stroke-width="1.8" />Run all</Button
                >
                <Button
                    v-if="courses.scenarios.length > 1 && courses.scenarios.length < scenarios.length"
                    class="button"
                    :disabled="busy"
                    title="Those that are plotted: see the eyes below"
                    @click="courses.runScenarios(courses.scenarios)"
                    >Run {{ courses.scenarios.length }} plotted</Button
                >
                <template v-if="busy"
                    ><progress :value="courses.batch?.share" max="1" aria-label="How far the runs are" /><Button
                        class="button"
                        @click="courses.stopBatch"
                        ><Square :size="12" :stroke-width="1.8" />Stop</Button
                    ></template
                >
                <span v-else-if="courses.batch" class="soft" role="status"
                    >{{ courses.batch.cancelled ? 'stopped' : 'done' }}:
                    {{ courses.batch.runs.filter((r) => r.state === 'done').length }} of {{ courses.batch.runs.length }} runs</span
                >
            </div>
            <p v-if="!scenarios.length" class="empty soft">
                A scenario is a named setting: other values of parameters, things taken by hand, other times. Turn some dials at the left
                and choose <b>Keep as scenario</b>, or begin one here.
            </p>
            <ScenarioTable v-else :scenarios="scenarios" />
            <ScenarioResults v-model:at-playhead="atPlayhead" :measured="measured" />
        </div>
    </section>
</template>

<style scoped>
.scroll {
    overflow: auto;
    padding: 10px 16px 30px;
}
.bar {
    flex-wrap: wrap;
    display: flex;
    align-items: center;
    gap: 10px;
    margin: 6px 0 10px;
}
.empty {
    max-width: 520px;
    padding: 12px 0;
}
progress {
    width: 140px;
    accent-color: var(--ink);
}
</style>
