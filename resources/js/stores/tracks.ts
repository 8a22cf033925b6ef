import { studyStore } from './studyStore'
import { computed } from 'vue'
import type { Edit, Plot } from '@/api/types'
import { useModel } from './model'
import { useNotices } from './notices'

/** So many stocks have a track by themselves as long as none was chosen. */
const MOST_BY_THEMSELVES = 6
const trackOf = (thing: string): Plot => ({ id: `t-${thing.slice(0, 38)}`, of: [thing] })

/** What hangs under the ruler. */
export const useTracks = studyStore('tracks', () => {
    const model = useModel()
    const notices = useNotices()

    const byThemselves = computed<Plot[]>(() =>
        model.things
            .filter((t) => t.kind === 'stock')
            .slice(0, MOST_BY_THEMSELVES)
            .map((t) => trackOf(t.id)),
    )
    /** Chosen tracks, or those that come by themselves. */
    const shown = computed(() => (model.model.tracks.length ? model.model.tracks : byThemselves.value))
    const has = (thing: string) => shown.value.some((t) => t.of.includes(thing))

    /** Shows or hides tracks of things. Those that came by themselves stay, as chosen ones. */
    function show(ids: string[], wished: boolean): Promise<boolean> {
        const some = ids.filter((one) => model.model.elements[one] && model.model.elements[one].kind !== 'curve' && has(one) !== wished)
        if (!some.length) {
            return Promise.resolve(true)
        }
        const chosen = model.model.tracks.length > 0
        const stay = chosen ? [] : byThemselves.value.flatMap((t) => t.of).filter((one) => wished || !some.includes(one))
        const edit = (one: string, shown: boolean): Edit => ({ kind: 'track', id: one, shown })
        const edits = [...stay.map((one) => edit(one, true)), ...(wished || chosen ? some.map((one) => edit(one, wished)) : [])]
        const names = some.map((one) => `\`${model.model.elements[one]?.name}\``).join(', ')
        if (!edits.length) {
            notices.say('As long as no track is chosen, those of the stocks are shown. Show another one first.')
        }
        return edits.length
            ? model.together(edits, wished ? `Showed the track of ${names}` : `Hid the track of ${names}`)
            : Promise.resolve(true)
    }

    return { shown, has, show }
})
