import { useStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { uncertain } from '@/api/uncertain'
import type { Ensemble } from '@/api/types'
import { useFollowed } from './following'
import { useModel } from './model'
import { useNotices } from './notices'
import { useRuns } from './runs'
import { studyStore } from './studyStore'

/** The many runs that the window looks at: those made last, one for each setting, all under the same draws. */
export const useEnsembles = studyStore('ensembles', () => {
    const model = useModel()
    const runs = useRuns()
    const notices = useNotices()
    const { all, busy, put, follow } = useFollowed((e) => uncertain.state(model.id, e))
    /** Which of them is drawn with its bands, by id. */
    const chosen = ref('')
    /** The key of the variable whose spread is looked at. */
    const of = ref('')
    const asking = ref(false)
    const wish = useStorage(() => `merry-orbit:many:${model.id}`, {
        runs: 1000,
        sample: 'latin' as Ensemble['sample'],
        seed: 1,
        scenarios: [''],
    })
    const shown = computed(() => all.value.find((e) => e.id === chosen.value) ?? all.value[0] ?? null)
    /** The model gives other numbers since, or other things are uncertain. */
    const inputs = computed(() => Object.values(model.model.uncertain ?? {}).filter((u) => !u.off))
    const isOlder = (e: Ensemble) => {
        const drawn = inputs.value.filter((u) => !(keyOf(u) in (e.setting.parameters ?? {})))
        const same = (one: string[], other: string[]) => [...one].sort().join('\n') === [...other].sort().join('\n')
        const pairs = Object.values(model.model.rankPairs ?? {}).filter((p) =>
            [p.one, p.other].every((k) => drawn.some((u) => keyOf(u) === k)),
        )
        return (
            e.meaning !== model.model.meaning ||
            !same(
                drawn.map((u) => `${keyOf(u)} ${u.law.trim()}`),
                e.inputs.map((i) => `${i.key} ${i.law}`),
            ) ||
            // Those that ask which inputs matter draw each apart.
            (e.purpose === 'spread' &&
                !same(
                    pairs.map((p) => `${p.one} ${p.other} ${p.rank}`),
                    e.together.map((t) => `${t.one} ${t.other} ${t.rank}`),
                ))
        )
    }

    /** Under which setting it was run: that it was tried then says what it had, not what is tried now. */
    function nameOf(e: Ensemble): string {
        if (e.scenario) {
            return model.model.scenarios[e.scenario]?.name ?? e.name
        }
        const own = JSON.stringify(e.setting)
        return own === '{}' ? 'baseline' : own === JSON.stringify(runs.setting) ? 'present' : 'with other dials'
    }

    async function said<T>(work: () => Promise<T>): Promise<T | undefined> {
        try {
            return await work()
        } catch (error) {
            notices.trouble((error as Error).message)
            return undefined
        }
    }

    /** Those that were made last, together. */
    async function load() {
        const last = await uncertain.last(model.id).catch((): Ensemble[] => [])
        const [first] = last
        if (all.value.length || !first) {
            return
        }
        const group: Ensemble[] = []
        for (const e of last) {
            const same = e.revision === first.revision && e.seed === first.seed && e.sample === first.sample && e.runs === first.runs
            if (!same || group.some((g) => g.scenario === e.scenario)) {
                break
            }
            group.unshift(e)
        }
        all.value = group
        follow()
    }

    async function make() {
        asking.value = true
        await model.sent()
        const known = wish.value.scenarios.filter((s) => s === '' || model.model.scenarios[s])
        const made = await said(() =>
            uncertain.make(model.id, { ...wish.value, scenarios: known.length ? known : [''], setting: runs.setting }),
        )
        asking.value = false
        if (made) {
            const before = shown.value?.scenario
            all.value = made
            chosen.value = made.find((e) => e.scenario === before)?.id ?? made[0]?.id ?? ''
            follow()
        }
        return made !== undefined
    }
    const each = (work: (e: Ensemble) => Promise<Ensemble>, of: (e: Ensemble) => boolean = () => true) =>
        said(async () => {
            for (const e of all.value.filter(of)) {
                put(await work(e))
            }
            follow()
        })
    const stop = () =>
        each(
            (e) => uncertain.stop(model.id, e.id),
            (e) => !e.finished,
        )
    const more = (count: number) => each((e) => uncertain.more(model.id, e.id, count))

    return { all, of, chosen, shown, busy, asking, wish, inputs, isOlder, nameOf, said, load, make, stop, more }
})

/** What is drawn: a parameter, or an element of one. */
export const keyOf = (input: { of: string; at?: string[] }) => (input.at?.length ? `${input.of}[${input.at.join(',')}]` : input.of)
