import { computed, type ShallowRef } from 'vue'
import type { Model, Thing } from '@/api/types'
import { dateAt, dateWords } from '@/ui/dates'
import { literal } from '@/ui/numbers'

/** What follows from a model without asking the engine: lists, look-ups, words. */
export function modelViews(model: ShallowRef<Model>) {
    const all = computed(() => model.value.order.map((key) => model.value.elements[key]).filter((t): t is Thing => t !== undefined))
    /** What can be computed; what only the causal map tells of is not among it. */
    const things = computed(() => all.value.filter((t) => t.kind !== 'factor'))
    /** What ledgers make: it is looked at and mentioned as any thing, and changed there. */
    const made = computed(() => Object.values(model.value.elements).filter((t) => t.made))
    /** All that a run has a column of, or formulas a name for. */
    const known = computed(() => (made.value.length ? [...things.value, ...made.value] : things.value))
    const blockers = computed(() => model.value.problems.filter((p) => p.severity !== 'remark'))
    /** What is not there yet; all other blockers are wrong. */
    const missing = computed(() => blockers.value.filter((p) => p.severity === 'missing' || p.code === 'name.unknown'))
    const remarks = computed(() => model.value.problems.filter((p) => p.severity === 'remark'))
    const firstSheet = computed(() => model.value.sheets[0]?.id ?? '')
    const sheetIds = computed(() => new Set(model.value.sheets.map((s) => s.id)))
    /** The sheet a thing is defined on. */
    function sheetOf(thing: string): string {
        const sheet = model.value.placements[thing]?.sheet ?? ''
        return sheetIds.value.has(sheet) ? sheet : firstSheet.value
    }
    const groupOf = computed(() => new Map(model.value.groups.flatMap((g) => g.members.map((m) => [m, g] as const))))
    const problemOf = computed(() => {
        const map = new Map<string, Model['problems'][number]>()
        for (const problem of model.value.problems) {
            if (problem.element && !map.has(problem.element)) {
                map.set(problem.element, problem)
            }
        }
        return map
    })
    const idByName = computed(() => new Map(known.value.map((t) => [t.name.toLowerCase(), t.id])))

    /** A time in words: with its unit, and with its date where the study has a calendar. */
    function moment(time: number, dated = true): string {
        const date = dated ? dateAt(time, model.value.calendar) : undefined
        return `${model.value.time.unit} ${literal(Number(time.toPrecision(6)))}${date ? ` (${dateWords(date, '')})` : ''}`
    }

    return { all, things, made, known, blockers, missing, remarks, firstSheet, sheetIds, sheetOf, groupOf, problemOf, idByName, moment }
}
