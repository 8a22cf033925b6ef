import { computed } from 'vue'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'
import { between, withUnit } from '@/ui/numbers'

/** What every shape on the sheet shows of its thing. */
export function useThing(id: () => string, node: () => string = id) {
    const model = useModel()
    const runs = useRuns()
    const view = useView()
    const look = useLook()
    const talk = useTalk()
    const thing = computed(() => model.model.elements[id()])
    const value = computed(() => runs.onSheet(id()))
    const selected = computed(() => view.selection.includes(node()))
    const problem = computed(() => model.problemOf.get(id()))
    const missing = computed(() => problem.value !== undefined && problem.value.severity !== 'remark')
    const waitsFor = computed(() => {
        const cause = model.model.waiting[id()]
        return cause && cause !== id() ? model.model.elements[cause]?.name : undefined
    })
    /** Of what shows more than one value, between which they lie. */
    const several = computed(() => bounds(thing.value?.kind === 'stock' ? '' : (thing.value?.unit ?? '')))
    function bounds(unit: string) {
        const along = look.extended[id()]?.along
        if (!along || along.size === 1) {
            return runs.untold(id()) === undefined ? undefined : '–'
        }
        const spread = runs.spread(id())
        return spread ? between(spread, unit, runs.size(id())) : `${along.size} values`
    }
    /** The value in the shape, or what it waits for. */
    const shown = computed(() =>
        waitsFor.value
            ? `waits for ${waitsFor.value}`
            : missing.value
              ? ''
              : several.value !== undefined
                ? several.value
                : runs.known(id())
                  ? withUnit(value.value, thing.value?.unit ?? '', { size: runs.size(id()) })
                  : '',
    )
    /** Whether its name is being typed in this very shape. */
    const naming = computed(() => view.naming === id() && (view.node === undefined || view.node === node()))
    const tint = computed(() => {
        const group = model.groupOf.get(id())
        return group ? { '--tint': `var(--${group.tint})` } : {}
    })
    /** Whether a hand holds it. */
    const gripped = computed(() => runs.isGripped(id()))
    const plotted = computed(() => model.model.placements[id()]?.plot === true)
    /** How many comments about it wait to be settled. */
    const said = computed(() => talk.openOn.get(id()) ?? 0)
    return { said, naming, tint, plotted, gripped, model, runs, view, thing, value, selected, problem, missing, waitsFor, shown, several }
}
