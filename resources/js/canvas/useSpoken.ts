import { computed } from 'vue'
import { useEffects } from '@/stores/effects'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { withUnit } from '@/ui/numbers'

/** What a screen reader hears of what is selected: kind, name, value, what feeds it. */
export function useSpoken() {
    const model = useModel()
    const runs = useRuns()
    const view = useView()
    const effects = useEffects()

    function ofLink(key: string): string {
        const [from, to] = key.split('>').map((id) => model.model.elements[id]?.name)
        const sign = effects.signOf(key, model.model.links.find((l) => `${l.from}>${l.to}` === key)?.sign)
        return `link from ${from} to ${to}${sign === '+' ? ', the same way' : sign === '-' ? ', the other way' : ''}. Arrows bend it.`
    }

    return computed(() => {
        if (view.link) {
            return ofLink(view.link)
        }
        const thing = view.selected ? model.model.elements[view.selected] : undefined
        if (!thing) {
            return view.selection.length > 1 ? `${view.selection.length} things selected` : ''
        }
        const feeding = model.model.links.filter((l) => l.to === thing.id && l.kind !== 'unused')
        const fed = feeding.map((l) => model.model.elements[l.from]?.name).join(', ')
        const problem = model.problemOf.get(thing.id)
        const value = runs.value(thing.id)
        return [
            view.node !== undefined && view.node in model.model.echoes ? 'echo of the ' : '',
            `${thing.kind} ${thing.name}`,
            value === undefined ? '' : `, ${withUnit(value, thing.unit, { size: runs.size(thing.id) })}`,
            fed && `, fed by ${fed}`,
            problem ? `. ${problem.sentence}` : '',
        ].join('')
    })
}
