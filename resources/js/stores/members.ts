import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { members as api } from '@/api/members'
import type { RosterRecord } from '@/api/parts'
import type { MemberRow, Muster } from '@/api/types'
import { inTurn } from './fitting'
import { useModel } from './model'
import { useRuns } from './runs'
import { studyStore } from './studyStore'
import { useView } from './view'

/** Rest after an edit or a move of the playhead before the members are asked for. */
const REST = 120

/** Whether members come or go, or who is related to whom changes, while a run goes on. */
export const isOpen = (r: RosterRecord) => Boolean(r.entries?.length || r.exits?.length || r.ties?.length || r.since)

/** The rosters of a study, and what became of the members of one of them in the run that is shown. */
export const useMembers = studyStore('members', () => {
    const model = useModel()
    const runs = useRuns()
    const view = useView()
    const rosters = computed(() =>
        Object.values(model.model.rosters ?? {})
            .map((r) => ({ ...r, name: model.model.dimensions.find((d) => d.id === r.of)?.name ?? r.of }))
            .sort((a, b) => (a.name < b.name ? -1 : 1)),
    )
    const isThere = computed(() => rosters.value.length > 0)
    const wanted = ref('')
    const roster = computed(() => rosters.value.find((r) => r.id === wanted.value) ?? rosters.value[0] ?? null)
    /** The variable of each that is drawn; empty for the usual one. */
    const of = ref('')
    /** The member that is looked at, by its number; −1 for none. */
    const chosen = ref(-1)
    const muster = shallowRef<Muster | null>(null)
    const rows = shallowRef<MemberRow[]>([])
    const time = ref(NaN)
    const refusal = ref('')
    const isHere = computed(() => view.place === 'members' && model.loaded && isThere.value)
    const column = computed(() => muster.value?.columns.find((c) => c.key === muster.value?.of))

    let asked = 0
    async function load() {
        const [ticket, now] = [++asked, roster.value]
        if (!now) {
            return
        }
        try {
            const told = await api.over(model.id, runs.ref, now.of, of.value)
            if (ticket === asked) {
                muster.value = told
                refusal.value = told.fault ?? ''
                void look()
            }
        } catch (error) {
            if (ticket === asked) {
                refusal.value = (error as Error).message
            }
        }
    }
    /** One question after the other: a playhead that plays would else ask for more than can be answered. */
    let looking = false
    let again = false
    async function look() {
        if (looking) {
            again = true
            return
        }
        looking = true
        do {
            again = false
            const now = roster.value
            const told = now ? await api.at(model.id, runs.ref, now.of, view.playhead).catch(() => null) : null
            if (told && now?.id === roster.value?.id) {
                rows.value = told.rows
                time.value = told.time
            }
        } while (again)
        looking = false
    }
    watchDebounced([() => model.revision, () => runs.setting, roster, of, isHere], () => void (isHere.value && load()), {
        debounce: REST,
        immediate: true,
        deep: true,
    })
    watchDebounced([() => view.playhead], () => void (isHere.value && muster.value && look()), { debounce: REST, maxWait: 2 * REST })
    // Another roster has other members and other variables.
    watch(
        () => roster.value?.id,
        () => {
            of.value = ''
            chosen.value = -1
            muster.value = null
            rows.value = []
        },
    )
    const member = computed(() => muster.value?.members.find((m) => m.number === chosen.value) ?? null)

    const turn = inTurn()
    const put = (fields: Record<string, unknown>) => {
        const id = roster.value?.id
        return id ? turn(() => model.attempt({ kind: 'put', part: 'rosters', id, fields })) : Promise.resolve(false)
    }

    return { rosters, isThere, wanted, roster, of, chosen, member, muster, column, rows, time, refusal, put, load }
})
