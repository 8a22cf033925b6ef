import { computed, onScopeDispose, ref, shallowRef, watch } from 'vue'
import { api } from '@/api/client'
import type { AreaMapRecord } from '@/api/parts'
import type { AreasRead, RunRef, Thing } from '@/api/types'
import { keyOf } from '@/charts/laidOver'
import { useCourses } from '@/stores/courses'
import { useLook } from '@/stores/look'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { POINTS, useRuns } from '@/stores/runs'
import { studyStore } from '@/stores/studyStore'
import { useView } from '@/stores/view'
import { byId, laterId } from '@/ui/ids'
import { endsOf, scaleOf, valueAt, type AreaCourse } from './areas'

/** In place of a run: what was measured. */
export const MEASURED = 'measured'

/** Area maps of the study: which is open, what colours it, and which runs are seen beside each other. */
export const useAreas = studyStore('areas', () => {
    const model = useModel()
    const look = useLook()
    const runs = useRuns()
    const courses = useCourses()
    const view = useView()
    const notices = useNotices()

    const maps = computed<AreaMapRecord[]>(() => Object.values(model.model.areas ?? {}).sort(byId))
    const open = ref('')
    const map = computed(() => maps.value.find((m) => m.id === open.value) ?? maps.value[0])
    const read = shallowRef<AreasRead | null>(null)
    const refusal = ref('')
    const picked = ref<number | null>(null)
    let reads = 0
    watch(
        // Joins go by the elements of dimensions, too.
        () => [map.value?.content, JSON.stringify(map.value?.joins ?? []), JSON.stringify(model.model.dimensions)] as const,
        async ([content], before) => {
            const known = map.value
            if (!content || !known) {
                reads++
                read.value = null
                return
            }
            if (content !== before?.[0]) {
                picked.value = null
            }
            // What was asked before may be answered after it.
            const turn = ++reads
            try {
                const told = await api.readAreas(model.id, content, { name: known.name, joins: known.joins ?? [] })
                if (turn === reads) {
                    read.value = told
                    refusal.value = ''
                }
            } catch (error) {
                if (turn === reads) {
                    read.value = null
                    refusal.value = (error as Error).message
                }
            }
        },
        { immediate: true },
    )

    async function drop(name: string, file: Blob): Promise<boolean> {
        const older = maps.value.find((m) => m.name.toLowerCase() === name.toLowerCase())
        try {
            const { content } = await api.dropAreas(model.id, name, file)
            const id = older?.id ?? laterId()
            const fields = { name, content }
            if (await model.together([{ kind: 'put', part: 'areas', id, fields }], `Keep the area map ${name}`)) {
                open.value = id
                view.go({ place: 'data', stage: 'areas', selection: [] })
            }
            refusal.value = ''
            return true
        } catch (error) {
            notices.trouble((error as Error).message)
            return false
        }
    }
    async function remove(id: string) {
        const known = model.model.areas?.[id]
        if (known && (await model.together([{ kind: 'drop', part: 'areas', id }], `Remove the area map ${known.name}`))) {
            notices.say(`Removed “${known.name}”.`, { words: 'Undo', run: () => void model.step('undo') })
        }
    }
    const set = (fields: Partial<AreaMapRecord>) =>
        map.value && model.together([{ kind: 'put', part: 'areas', id: map.value.id, fields }], `Show the area map ${map.value.name} so`)
    /** Says by which property areas are elements of a dimension, or which area one element is. */
    function join(dimension: string, more: { property?: string; pair?: [string, string] }) {
        const all = map.value?.joins ?? []
        const known = all.find((j) => j.dimension === dimension)
        const property = more.property ?? known?.property ?? joinOf(dimension)?.property ?? ''
        const pairs = more.property === undefined ? { ...known?.pairs, ...(more.pair ? { [more.pair[0]]: more.pair[1] } : {}) } : {}
        return set({ joins: [...all.filter((j) => j.dimension !== dimension), { dimension, property, pairs }] })
    }

    const joinOf = (dimension: string) =>
        read.value?.joins.find((j) => j.dimension === dimension && j.elements.some((e) => e !== null)) ??
        read.value?.joins.find((j) => j.dimension === dimension)
    const joined = (dimension: string) => joinOf(dimension)?.elements.some((e) => e !== null) ?? false
    /** Things that areas can be coloured by: those along a dimension that areas are elements of. */
    const things = computed<Thing[]>(() =>
        model.things.filter((t) => ['stock', 'flow', 'auxiliary', 'parameter'].includes(t.kind) && t.along?.over.some(joined)),
    )
    const thing = computed(() => things.value.find((t) => t.id === map.value?.of) ?? things.value[0])
    const dimension = computed(() => thing.value?.along?.over.find(joined) ?? '')
    const elementOf = (area: number) => joinOf(dimension.value)?.elements[area] ?? null
    const elements = computed(() => [...new Set((joinOf(dimension.value)?.elements ?? []).filter((e) => e !== null))])
    /** Along other dimensions it shows what the window looks at, or the sum. */
    const keyFor = (element: string) =>
        `${thing.value?.id ?? ''}[${(thing.value?.along?.over ?? []).map((d) => (d === dimension.value ? element : look.at(d) || '*sum')).join(',')}]`
    const keys = computed(() => (thing.value ? elements.value.map(keyFor) : []))

    /** What can be seen: runs, and what was measured. */
    const evidence = computed(() => Object.values(model.model.evidence ?? {}).filter((e) => keys.value.includes(keyOf(e))))
    const choices = computed(() => [
        { value: 'shown', words: runs.tried ? 'present' : 'baseline' },
        ...(runs.tried ? [{ value: 'baseline', words: 'baseline' }] : []),
        ...courses.others.map((o) => ({ value: o.key, words: o.name })),
        ...(evidence.value.length ? [{ value: MEASURED, words: 'measured' }] : []),
    ])
    const left = ref('shown')
    const right = ref('')
    const sides = computed(() => [left.value, right.value].filter((s) => choices.value.some((c) => c.value === s)))
    watch(
        keys,
        (list) => {
            runs.needColumns('areas', list)
        },
        { immediate: true },
    )
    onScopeDispose(() => {
        runs.needColumns('areas', [])
    })

    /** By run, the courses of elements. */
    const loaded = shallowRef(new Map<string, Map<string, AreaCourse>>())
    const refOf = (side: string): RunRef | undefined => (side === 'baseline' ? {} : courses.others.find((o) => o.key === side)?.ref)
    let turns = 0
    watch(
        () => [sides.value.join('|'), keys.value.join(' '), runs.shown] as const,
        async () => {
            const turn = ++turns
            const next = new Map<string, Map<string, AreaCourse>>()
            for (const side of sides.value) {
                const run = refOf(side)
                if (!run || !thing.value) {
                    continue
                }
                try {
                    const got = await api.run(model.id, { run, only: [thing.value.id], along: keys.value, points: POINTS })
                    next.set(side, coursesOf(got))
                } catch {
                    next.set(side, new Map())
                }
            }
            if (turn === turns) {
                loaded.value = next
            }
        },
        { immediate: true },
    )
    function coursesOf(run: NonNullable<typeof runs.shown>): Map<string, AreaCourse> {
        return new Map(
            elements.value.flatMap((e) => {
                const key = keyFor(e)
                const steady = run.steady[key]
                const values = run.values.get(key) ?? (steady === undefined ? undefined : new Float64Array(run.times.length).fill(steady))
                return values ? [[e, { times: run.times, values }] as const] : []
            }),
        )
    }
    const measured = computed(
        () =>
            new Map<string, AreaCourse>(
                elements.value.flatMap((element) => {
                    const e = evidence.value.find((one) => keyOf(one) === keyFor(element))
                    const times = e?.points.map((p) => p[0]) ?? []
                    return e ? [[element, { times, values: e.points.map((p) => p[1]), ends: endsOf(times, e.ends) }] as const] : []
                }),
            ),
    )
    const panels = computed(() =>
        sides.value.map((side) => ({
            key: side,
            name: choices.value.find((c) => c.value === side)?.words ?? side,
            courses:
                side === MEASURED
                    ? measured.value
                    : side === 'shown'
                      ? runs.shown
                          ? coursesOf(runs.shown)
                          : new Map<string, AreaCourse>()
                      : (loaded.value.get(side) ?? new Map<string, AreaCourse>()),
        })),
    )
    const inSteps = computed(() => map.value?.steps ?? false)
    const scale = computed(() =>
        scaleOf(
            panels.value.flatMap((p) => [...p.courses.values()]),
            inSteps.value,
        ),
    )
    /** By area, what a panel has at the playhead. */
    const valuesOf = (panel: { courses: Map<string, AreaCourse> }, time = view.playhead) =>
        (read.value?.areas ?? []).map((_, i) => valueAt(panel.courses.get(elementOf(i) ?? ''), time))
    const title = computed(() => map.value?.title ?? read.value?.title ?? '')
    const nameOf = (area: number) => read.value?.areas[area]?.properties[title.value] ?? `area ${area + 1}`
    const elementName = (area: number) => {
        const id = elementOf(area)
        return model.model.dimensions.find((d) => d.id === dimension.value)?.elements.find((e) => e.id === id)?.name ?? ''
    }
    /** What colours it, with what is looked at along other dimensions. */
    const words = computed(() => {
        const first = elements.value[0]
        const others = (thing.value?.along?.over ?? []).filter((d) => d !== dimension.value)
        if (!thing.value || first === undefined || !others.length) {
            return thing.value?.name ?? ''
        }
        const element = model.model.dimensions.flatMap((d) => d.elements).find((e) => e.id === first)?.name ?? first
        return (look.nameOf(keyFor(first)) ?? '').replace(`, ${element}`, '')
    })

    return {
        maps,
        open,
        map,
        read,
        refusal,
        picked,
        drop,
        remove,
        set,
        join,
        joinOf,
        things,
        thing,
        dimension,
        elementOf,
        choices,
        left,
        right,
        panels,
        scale,
        valuesOf,
        title,
        nameOf,
        elementName,
        words,
    }
})
