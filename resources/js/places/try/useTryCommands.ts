import { computed } from 'vue'
import { offered, type Command } from '@/find/command'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { WAYS } from './ways'

/** In the middle of “Open …”. */
const NAMES: Record<(typeof WAYS)[number]['name'], string> = {
    plot: 'the plots',
    scenarios: 'the scenarios',
    candidates: 'the candidates',
    spread: 'the spread of many runs',
    nudge: 'the nudges',
    expectations: 'the expectations',
    trail: 'the trail',
    values: 'values side by side',
    logbook: 'the logbook',
    findings: 'the findings',
}

/** What can be done while trying. */
export function useTryCommands() {
    const model = useModel()
    const view = useView()
    const runs = useRuns()
    const courses = useCourses()

    function explain(id: string) {
        view.trail = id
        view.go({ place: 'try', stage: 'trail', selection: [id] })
    }

    return computed<Command[]>(() => {
        const one = view.selected ? model.model.elements[view.selected] : undefined
        return offered([
            ...WAYS.map(({ name }) => ({
                words: `Open ${NAMES[name]}`,
                run: () => {
                    view.go({ place: 'try', stage: name, selection: view.selection })
                },
            })),
            one &&
                one.kind !== 'curve' && {
                    words: `Why does ${one.name} change? Follow the causes`,
                    run: () => {
                        explain(one.id)
                    },
                },
            runs.tried && {
                words: 'Reset dials and hands to the model’s values',
                run: () => {
                    runs.put()
                },
            },
            {
                words: 'Keep this run',
                run: () => {
                    void courses.keep(`Run ${courses.kept.length + 1}`)
                },
            },
        ])
    })
}
