import { watchDebounced } from '@vueuse/core'
import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import { members as membersApi } from '@/api/members'
import type { AreaMapRecord, RosterRecord } from '@/api/parts'
import type { AreasRead, MembersMoving } from '@/api/types'
import { valueAt } from '@/places/data/areas'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { floatsOf, type Moving } from './where'

type Seen = NonNullable<RosterRecord['seen']>
/** Rest after an edit before members are asked for. */
const REST = 150
const [EAST, NORTH] = [/^(x|east|across|lon|longitude)\b/i, /^(y|north|up|lat|latitude)\b/i]

/** Where members of a roster are during the run, what colours and sizes them, and what lies beneath them. */
export function useWhere() {
    const members = useMembers()
    const model = useModel()
    const runs = useRuns()
    const columns = computed(() => members.muster?.columns ?? [])
    const columnOf = (key: string | undefined) => columns.value.find((c) => c.key === key)
    /** Readers look as they like; nothing of it is kept. */
    const own = ref<Seen | null>(null)
    watch(
        () => members.roster?.id,
        () => {
            own.value = null
        },
    )
    /** As it was said; else by what they have that is called like a place, else where they belong, if there is a map of it. */
    const seen = computed<Seen>(() => {
        // What is not there any more is not meant.
        const kept = own.value ?? members.roster?.seen ?? {}
        const isGone = (k: unknown) => typeof k === 'string' && columns.value.length > 0 && columnOf(k) === undefined
        const said: Seen = Object.fromEntries(
            Object.entries(kept).filter(([field, k]) => field === 'map' || field === 'plan' || field === 'beneath' || !isGone(k)),
        )
        if (said.across || said.map) {
            return said
        }
        const [across, up] = [EAST, NORTH].map((words) => columns.value.find((c) => words.test(c.name))?.key)
        return across && up ? { ...said, across, up } : said
    })
    function set(fields: Partial<Seen>) {
        const next = Object.fromEntries(Object.entries({ ...seen.value, ...fields }).filter(([, v]) => v !== '' && v !== undefined))
        own.value = next
        if (model.mayEdit) {
            void members.put({ seen: next })
        }
    }

    const maps = computed<AreaMapRecord[]>(() => Object.values(model.model.areas ?? {}))
    const map = computed(() => maps.value.find((m) => m.id === seen.value.map))
    const areas = shallowRef<AreasRead | null>(null)
    const trouble = ref('')
    watch(
        () => [map.value?.content, JSON.stringify(map.value?.joins ?? [])] as const,
        async ([content]) => {
            const known = map.value
            areas.value = null
            if (known && content) {
                try {
                    areas.value = await api.readAreas(model.id, content, { name: known.name, joins: known.joins ?? [] })
                } catch (error) {
                    trouble.value = (error as Error).message
                }
            }
        },
        { immediate: true },
    )
    const joinOf = (dimension: string) =>
        areas.value?.joins.find((j) => j.dimension === dimension && j.elements.some((e) => e !== null)) ?? null

    /** What can lie beneath: what extends over one other dimension, of areas or of spots with a place of their own. */
    const along = (id: string) => model.model.elements[id]?.along?.over ?? []
    const rosters = computed(() => new Set(members.rosters.map((r) => r.of)))
    const fields = computed(() =>
        model.things.filter((t) => {
            const [first, ...more] = along(t.id)
            const isOne = first !== undefined && !more.length && !rosters.value.has(first)
            return (
                isOne &&
                ['stock', 'flow', 'auxiliary', 'parameter'].includes(t.kind) &&
                (map.value ? joinOf(first) !== null : spotsOf(first))
            )
        }),
    )
    /** By which parameters the spots of a dimension lie in the plane: by the two that measure as the members do. */
    function spotsOf(dimension: string): { across: string; up: string } | null {
        const said = seen.value.beneath
        if (said?.across && said.up && along(said.across)[0] === dimension) {
            return { across: said.across, up: said.up }
        }
        const unit = columnOf(seen.value.across)?.unit
        const two = model.things.filter((t) => t.kind === 'parameter' && along(t.id).join() === dimension && (t.unit ?? '') === unit)
        const [across, up] = [two.find((t) => /east|across|\bx\b|lon/i.test(t.name)), two.find((t) => /north|up\b|\by\b|lat/i.test(t.name))]
        return across && up ? { across: across.id, up: up.id } : null
    }
    const beneath = computed(() => fields.value.find((t) => t.id === seen.value.beneath?.of) ?? null)
    const dimension = computed(() => (beneath.value ? (along(beneath.value.id)[0] ?? '') : ''))
    const elements = computed(() => model.model.dimensions.find((d) => d.id === dimension.value)?.elements ?? [])
    const spots = computed(() => (dimension.value && !map.value ? spotsOf(dimension.value) : null))
    const keysOf = (id: string) => elements.value.map((e) => `${id}[${e.id}]`)
    watch(
        () => [...(beneath.value ? keysOf(beneath.value.id) : []), ...(spots.value ? Object.values(spots.value).flatMap(keysOf) : [])],
        (keys) => {
            runs.needColumns('where', keys)
        },
        { immediate: true },
    )
    onScopeDispose(() => {
        runs.needColumns('where', [])
    })
    const courseOf = (key: string) => {
        const values = runs.shown?.values.get(key)
        return values && runs.shown ? { times: runs.shown.times, values } : undefined
    }
    const steady = (key: string, time = NaN) => runs.shown?.steady[key] ?? valueAt(courseOf(key), time) ?? NaN
    /** By element: its place, and what it has at a time; NaN where that is not known. */
    const field = computed(() =>
        elements.value.map((e) => ({
            id: e.id,
            name: e.name,
            across: spots.value ? steady(`${spots.value.across}[${e.id}]`) : NaN,
            up: spots.value ? steady(`${spots.value.up}[${e.id}]`) : NaN,
        })),
    )
    const beneathAt = (element: string, time: number) => (beneath.value ? steady(`${beneath.value.id}[${element}]`, time) : NaN)
    const beneathReach = computed<[number, number]>(() => {
        let [low, high] = [Infinity, -Infinity]
        for (const key of beneath.value ? keysOf(beneath.value.id) : []) {
            for (const v of courseOf(key)?.values ?? [steady(key)]) {
                low = v < low ? v : low
                high = v > high ? v : high
            }
        }
        return low <= high ? [low > 0 && low < high / 2 ? 0 : low, high] : [0, 1]
    })

    const wanted = computed(() => [
        ...new Set([seen.value.across, seen.value.up, seen.value.colour, seen.value.size].filter((k) => columnOf(k) !== undefined)),
    ])
    const told = shallowRef<MembersMoving | null>(null)
    const moving = shallowRef<Moving | null>(null)
    let asked = 0
    watchDebounced(
        [() => model.revision, () => runs.setting, () => members.roster?.of, () => wanted.value.join(' ')],
        async () => {
            const [ticket, of] = [++asked, members.roster?.of]
            // By where they belong, they are asked for by anything that they have.
            const keys = wanted.value.length ? wanted.value : columns.value.slice(0, 1).map((c) => c.key)
            if (!of || !keys.length) {
                moving.value = null
                return
            }
            try {
                const got = await membersApi.moving(model.id, runs.ref, of, keys as string[])
                if (ticket === asked) {
                    told.value = got
                    trouble.value = ''
                    moving.value = {
                        times: got.times,
                        count: got.names.length,
                        values: new Map(Object.entries(got.values).map(([k, v]) => [k, floatsOf(v)])),
                    }
                }
            } catch (error) {
                if (ticket === asked) {
                    trouble.value = (error as Error).message
                }
            }
        },
        { debounce: REST, immediate: true, deep: true },
    )
    /** By which area each stands, where it belongs to one. */
    const areaOf = computed(() => {
        for (const [mapping, names] of Object.entries(told.value?.belongs ?? {})) {
            const join = joinOf(model.model.mappings?.[mapping]?.to ?? '')
            const all = model.model.dimensions.find((d) => d.id === join?.dimension)?.elements ?? []
            if (join) {
                // Of an element with several areas, one after the other.
                const turns = new Map<string, number>()
                return names.map((name) => {
                    const id = all.find((e) => e.name === name)?.id
                    const own = join.elements.flatMap((e, area) => (e !== null && e === id ? [area] : []))
                    const turn = turns.get(name) ?? 0
                    turns.set(name, turn + 1)
                    return own[turn % Math.max(1, own.length)] ?? -1
                })
            }
        }
        return null
    })

    return {
        seen,
        set,
        columns,
        columnOf,
        maps,
        areas,
        joinOf,
        fields,
        beneath,
        dimension,
        field,
        beneathAt,
        beneathReach,
        told,
        moving,
        areaOf,
        trouble,
    }
}

export type Where = ReturnType<typeof useWhere>
