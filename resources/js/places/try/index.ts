import { FlaskConical } from '@lucide/vue'
import type { Component } from 'vue'
import type { Place, Stage } from '../place'
import FindingsStage from './FindingsStage.vue'
import LogbookStage from './LogbookStage.vue'
import PlotStage from './PlotStage.vue'
import ScenarioStage from './ScenarioStage.vue'
import TrailStage from './TrailStage.vue'
import TryPanel from './TryPanel.vue'
import { useTryCommands } from './useTryCommands'
import ValuesStage from './ValuesStage.vue'
import { WAYS } from './ways'

const SHOWS: Record<(typeof WAYS)[number]['name'], Component> = {
    plot: PlotStage,
    scenarios: ScenarioStage,
    trail: TrailStage,
    values: ValuesStage,
    logbook: LogbookStage,
    findings: FindingsStage,
}

/** Where runs are tried, compared and explained. */
export const tryPlace: Place = {
    name: 'try',
    words: 'Try',
    icon: FlaskConical,
    stages: WAYS.map(({ name, words }) => ({ name, words, shows: SHOWS[name] })) as [Stage, ...Stage[]],
    left: { shows: TryPanel, words: 'dials and runs' },
    commands: useTryCommands,
}
