<script setup lang="ts">
import { useView } from '@/stores/view'
import FindingsStage from './FindingsStage.vue'
import LogbookStage from './LogbookStage.vue'
import PlotStage from './PlotStage.vue'
import ScenarioStage from './ScenarioStage.vue'
import TrailStage from './TrailStage.vue'
import ValuesStage from './ValuesStage.vue'

const view = useView()
const STAGES: Record<string, unknown> = { plot: PlotStage, scenarios: ScenarioStage, trail: TrailStage, values: ValuesStage, logbook: LogbookStage, findings: FindingsStage }
</script>

<template>
    <component :is="STAGES[view.stage]" />
</template>
