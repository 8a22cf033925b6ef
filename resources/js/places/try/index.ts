import { FlaskConical } from '@lucide/vue'
import { computed, type Component } from 'vue'
import { useExpectations } from '@/stores/expectations'
import type { Place, Stage } from '../place'
import CandidatesStage from './candidates/CandidatesStage.vue'
import ExpectStage from './expect/ExpectStage.vue'
import FindingsStage from './FindingsStage.vue'
import LogbookStage from './LogbookStage.vue'
import NudgeStage from './nudge/NudgeStage.vue'
import PlotStage from './PlotStage.vue'
import ScenarioStage from './ScenarioStage.vue'
import SpreadStage from './spread/SpreadStage.vue'
import TrailStage from './TrailStage.vue'
import TryLeft from './TryLeft.vue'
import { useTryCommands } from './useTryCommands'
import ValuesStage from './ValuesStage.vue'
import { WAYS } from './ways'

const SHOWS: Record<(typeof WAYS)[number]['name'], Component> = {
    plot: PlotStage,
    scenarios: ScenarioStage,
    candidates: CandidatesStage,
    spread: SpreadStage,
    nudge: NudgeStage,
    expectations: ExpectStage,
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
    stages: WAYS.map((way) => ({ name: way.name, words: way.words, wide: 'wide' in way, shows: SHOWS[way.name] })) as [Stage, ...Stage[]],
    left: { shows: TryLeft, words: 'inputs and runs' },
    commands: useTryCommands,
    attention: () => {
        const expectations = useExpectations()
        return computed(() => expectations.failing.length)
    },
}
