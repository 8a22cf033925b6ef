import { studyStore } from './studyStore'
import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api, type Run } from '@/api/client'
import type { BatchState, KeptRun, Measure, RunRef } from '@/api/types'
import { useLook } from './look'
import { useModel } from './model'
import { useNotices } from './notices'
import { POINTS, useRuns } from './runs'

/** A run as it is plotted. `look` is its place in the fixed order of hues and dashes; -1 is ink. */
export interface Course {
    key: string
    name: string
    look: number
    /** Instead of the look of a run, for what is no run. */ drawn?: { colour: string; dash: number[]; dots?: boolean }
    run: Run
    main: boolean
}

export const LOOKS = 8
const POLL = 250

/** The runs that are compared: the baseline, what is tried at the moment, kept runs, scenarios, and what was called back. */
export const useCourses = studyStore('courses', () => {
    const model = useModel()
    const runs = useRuns()
    const look = useLook()
    const notices = useNotices()
    const kept = shallowRef<KeptRun[]>([])
    /** Ids of the scenarios that are plotted. */
    const scenarios = ref<string[]>([])
    /** Runs of the logbook or of old versions that were called back to be looked at. */
    const called = ref<{ key: string; name: string; ref: RunRef }[]>([])
    const batch = shallowRef<BatchState | null>(null)
    /** Columns by run and measure. */
    const loaded = shallowRef(new Map<string, Run>())
    let loading = new Set<string>()

    const shownKept = computed(() => kept.value.filter((k) => !k.hidden))
    const shownScenarios = computed(() => scenarios.value.map((id) => model.model.scenarios[id]).filter((s) => s !== undefined))
    /** A run keeps its look for life: scenarios and what was called back by their key, kept runs with themselves. */
    const looks = useStorage<Record<string, number>>(() => `merry-orbit:looks:${model.id}`, {})
    /** The look that fewest have. */
    function freeLook(): number {
        const used = [...kept.value.map((k) => k.colour), ...Object.values(looks.value)]
        const counts = Array.from({ length: LOOKS }, (_, i) => used.filter((u) => u === i).length)
        return counts.indexOf(Math.min(...counts))
    }
    function give(key: string) {
        if (looks.value[key] === undefined) {
            looks.value = { ...looks.value, [key]: freeLook() }
        }
    }
    const others = computed(() => [
        ...shownKept.value.map((k) => ({ key: `kept:${k.id}`, name: k.name, look: k.colour, ref: { kept: k.id } as RunRef })),
        ...shownScenarios.value.map((s) => ({
            key: `scenario:${s.id}`,
            name: s.name,
            look: looks.value[`scenario:${s.id}`] ?? 0,
            ref: { scenario: s.id } as RunRef,
        })),
        ...called.value.map((c) => ({ ...c, look: looks.value[c.key] ?? 0 })),
    ])
    watch(
        () => [...scenarios.value.map((id) => `scenario:${id}`), ...called.value.map((c) => c.key)].join('|'),
        (keys) => {
            keys.split('|').filter(Boolean).forEach(give)
        },
        { flush: 'sync' },
    )

    /** Runs that are there to be plotted in some measure. */
    function list(measure: Measure = 'value'): Course[] {
        const against = measure === 'difference' || measure === 'difference-percent'
        const all: Course[] = []
        const add = (key: string, name: string, look: number, run: Run | null | undefined, main = false) => {
            if (run) {
                all.push({ key, name, look, run, main })
            }
        }
        if (against) {
            if (runs.tried) {
                add('present', 'present', -1, loaded.value.get(`present|${measure}`), true)
            }
        } else {
            add('shown', runs.tried ? 'present' : 'baseline', -1, runs.shown, true)
            if (runs.tried) {
                add('baseline', 'baseline', -2, runs.before)
            }
        }
        for (const other of others.value) {
            add(other.key, other.name, other.look, loaded.value.get(`${other.key}|${against ? measure : 'value'}`))
        }
        return all
    }

    /** The column by which it is known whether those of a thing are there. */
    const columnOf = (id: string) => look.extended[id]?.along?.parts[0]?.key ?? id
    /** Brings the columns that are missing, all of one run in one question. */
    async function bring(ids: string[], measure: Measure) {
        const against = measure === 'difference' || measure === 'difference-percent' ? measure : undefined
        const wanted = [...others.value, ...(against && runs.tried ? [{ key: 'present', name: '', look: -1, ref: runs.ref }] : [])]
        await Promise.all(
            wanted.map(async ({ key, ref: run }) => {
                const place = `${key}|${against ?? 'value'}`
                const has = loaded.value.get(place)
                const missing = ids.filter(
                    (id) =>
                        model.model.elements[id] &&
                        model.model.elements[id].kind !== 'curve' &&
                        !has?.values.has(columnOf(id)) &&
                        !(has && columnOf(id) in has.steady) &&
                        !(has as { asked?: Set<string> } | undefined)?.asked?.has(columnOf(id)),
                )
                if (!missing.length || loading.has(place)) {
                    return
                }
                loading.add(place)
                const mine = loading
                try {
                    const got = await api.run(model.id, {
                        run,
                        only: missing,
                        ...(look.keysFor(missing).length ? { along: look.keysFor(missing) } : {}),
                        points: POINTS,
                        ...(against ? { against: {}, measure: against } : {}),
                    })
                    if (mine !== loading) {
                        return
                    }
                    const now = loaded.value.get(place)
                    const values = new Map([...(now?.values ?? []), ...got.values])
                    const merged = Object.assign(
                        {
                            ...got,
                            values,
                            steady: { ...now?.steady, ...got.steady },
                            ...(got.lows
                                ? {
                                      lows: new Map([...(now?.lows ?? []), ...got.lows]),
                                      highs: new Map([...(now?.highs ?? []), ...(got.highs ?? [])]),
                                  }
                                : {}),
                        },
                        { asked: new Set([...((now as { asked?: Set<string> } | undefined)?.asked ?? []), ...missing.map(columnOf)]) },
                    )
                    loaded.value = new Map(loaded.value).set(place, merged)
                } catch (error) {
                    notices.trouble((error as Error).message)
                    forget(key)
                } finally {
                    mine.delete(place)
                }
            }),
        )
    }

    /** A run that cannot be had is not plotted any more. */
    function forget(key: string) {
        const [kind, id] = key.split(':')
        if (kind === 'scenario') {
            scenarios.value = scenarios.value.filter((s) => s !== id)
        } else if (kind !== 'kept') {
            called.value = called.value.filter((c) => c.key !== key)
        }
    }

    /** What follows the model is old when it changes; what was kept is not. */
    function renew(only?: (key: string) => boolean) {
        loading = new Set()
        loaded.value = new Map([...loaded.value].filter(([key]) => (only ? !only(key) : key.startsWith('kept:') && key.endsWith('|value'))))
    }
    /** What scenarios come to; their names and notes change no number. */
    const settings = computed(() => JSON.stringify(Object.values(model.model.scenarios).map((s) => [s.id, s.resolved])))
    watch([() => model.model.meaning, settings], () => {
        renew()
    })
    watch(
        () => runs.setting,
        () => {
            renew((key) => key.startsWith('present|'))
        },
    )

    async function open() {
        kept.value = await api.kept(model.id).catch(() => [])
    }

    const said = async (action: () => Promise<unknown>) => {
        try {
            await action()
            return true
        } catch (error) {
            notices.trouble((error as Error).message)
            return false
        }
    }

    /** Freezes a run under a name. */
    const keep = (name: string, note = '', run: RunRef = runs.ref) =>
        said(async () => {
            kept.value = await api.keep(model.id, name, note, run, freeLook())
        })
    const change = (id: string, what: Parameters<typeof api.changeKept>[2]) =>
        said(async () => {
            kept.value = await api.changeKept(model.id, id, what)
        })

    async function drop(id: string) {
        const name = kept.value.find((k) => k.id === id)?.name ?? ''
        if (await said(() => api.dropKept(model.id, id))) {
            kept.value = kept.value.filter((k) => k.id !== id)
            notices.say(`Removed the run “${name}”.`, {
                words: 'Undo',
                run: () => {
                    void said(async () => {
                        kept.value = await api.restoreKept(model.id, id)
                    })
                },
            })
        }
    }

    function call(key: string, name: string, run: RunRef) {
        called.value = called.value.some((c) => c.key === key)
            ? called.value.filter((c) => c.key !== key)
            : [...called.value, { key, name, ref: run }]
    }

    function toggleScenario(id: string) {
        scenarios.value = scenarios.value.includes(id) ? scenarios.value.filter((s) => s !== id) : [...scenarios.value, id]
    }

    /** Runs scenarios by the queue and follows how far they are; then they are plotted. */
    async function runScenarios(ids: string[]) {
        await said(async () => {
            batch.value = await api.batch(model.id, [{}, ...ids.map((id) => ({ scenario: id }))])
            while (!batch.value.finished) {
                await new Promise((resolve) => {
                    window.setTimeout(resolve, POLL)
                })
                batch.value = await api.batchState(model.id, batch.value.id)
            }
            const done = batch.value.runs.filter((r) => r.state === 'done').map((r) => r.scenario)
            scenarios.value = [...new Set([...scenarios.value, ...ids.filter((id) => done.includes(id))])]
        })
    }
    const stopBatch = () =>
        said(async () => {
            if (batch.value && !batch.value.finished) {
                batch.value = await api.stopBatch(model.id, batch.value.id)
            }
        })

    /** All runs that are shown, with names, for tables and trails. */
    const named = computed(() => [
        { key: 'shown', name: runs.tried ? 'present' : 'baseline', ref: runs.ref, look: -1 },
        ...(runs.tried ? [{ key: 'baseline', name: 'baseline', ref: {} as RunRef, look: -2 }] : []),
        ...others.value,
    ])

    /** Whether a kept run was made with a model that gives other numbers than today’s. */
    const isOlder = (run: KeptRun) => run.meaning !== model.model.meaning
    /** Whether a kept run is the baseline of today: by what it was made with, or by all its numbers that are plotted. */
    function isBaseline(run: KeptRun): boolean {
        if (!isOlder(run) && Object.keys(run.setting).length === 0) {
            return true
        }
        const base = runs.tried ? runs.before : runs.shown
        const own = loaded.value.get(`kept:${run.id}|value`)
        const columns = [...(own?.values ?? [])]
        return (
            base !== null &&
            columns.length > 0 &&
            columns.every(([id, column]) => {
                const other = base.values.get(id)
                return other !== undefined && other.length === column.length && column.every((v, i) => v === other[i])
            })
        )
    }

    return {
        isOlder,
        isBaseline,
        looks,
        kept,
        scenarios,
        called,
        batch,
        loaded,
        others,
        named,
        list,
        bring,
        open,
        keep,
        change,
        drop,
        call,
        toggleScenario,
        runScenarios,
        stopBatch,
    }
})
