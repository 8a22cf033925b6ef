import { computed } from 'vue'
import type { ReportRecord } from '@/api/parts'
import { inTurn } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { studyStore } from '@/stores/studyStore'

export type ReportSection = NonNullable<ReportRecord['sections']>[number]
type Kind = ReportSection['kind']

/** In their usual order; the engine knows what each tells. */
export const SECTIONS: { kind: Kind; words: string; hint: string }[] = [
    { kind: 'question', words: 'The question', hint: 'with the boundary and the course that is to be explained' },
    { kind: 'map', words: 'What acts on what', hint: 'the causal map, its links and loops in sentences' },
    { kind: 'structure', words: 'How it is built', hint: 'the sheets as pictures, the stocks in words' },
    { kind: 'runs', words: 'What happens', hint: 'the tracks as plots, and the scenarios' },
    { kind: 'data', words: 'The data', hint: 'sources, and what was measured beside a run' },
    { kind: 'fits', words: 'Calibration', hint: 'what was searched for, and found' },
    { kind: 'tests', words: 'What was tested', hint: 'expectations with their state, and the check' },
    { kind: 'uncertainty', words: 'What is uncertain', hint: 'inputs and what they may be' },
    { kind: 'findings', words: 'Findings', hint: 'with their pictures' },
    { kind: 'variables', words: 'All variables', hint: 'formula, unit, note, grounds and use of each' },
    { kind: 'history', words: 'How it came about', hint: 'what was done, by whom, when' },
]
const ID = 'report'

/** The report of the open study: until something of it is changed, it tells everything. */
export const useReport = studyStore('report', () => {
    const model = useModel()
    const kept = computed<ReportRecord | undefined>(() => Object.values(model.model.reports ?? {})[0])
    const plan = computed<ReportRecord>(() => kept.value ?? { id: ID, title: model.model.name })
    const sections = computed<ReportSection[]>(() => plan.value.sections ?? SECTIONS.map(({ kind }) => ({ kind })))

    /** What is written first makes it a part of the study. */
    function put(fields: Partial<ReportRecord>) {
        return model.attempt({
            kind: 'put',
            part: 'reports',
            id: plan.value.id,
            fields: kept.value ? fields : { ...plan.value, ...fields },
        })
    }
    const inOrder = inTurn()
    /** What becomes of the sections as the act before left them: else two quick ones would undo each other. */
    const act = (of: (now: ReportSection[]) => ReportSection[]) => inOrder(() => put({ sections: of([...sections.value]) }))
    const change = (kind: Kind, fields: Partial<ReportSection>) => act((now) => now.map((s) => (s.kind === kind ? { ...s, ...fields } : s)))
    const turn = (kind: Kind, on: boolean) =>
        act((now) => {
            const usual = SECTIONS.findIndex((s) => s.kind === kind)
            const without = now.filter((s) => s.kind !== kind)
            const at = without.findIndex((s) => SECTIONS.findIndex((u) => u.kind === s.kind) > usual)
            return on ? [...without.slice(0, at < 0 ? without.length : at), { kind }, ...(at < 0 ? [] : without.slice(at))] : without
        })
    const move = (kind: Kind, by: number) =>
        act((list) => {
            const from = list.findIndex((s) => s.kind === kind)
            const [one] = list.splice(from, 1)
            if (one) {
                list.splice(Math.max(0, from + by), 0, one)
            }
            return list
        })
    return { kept, plan, sections, put, change, turn, move }
})
