import { computed, ref, shallowRef, watch } from 'vue'
import { fits as api } from '@/api/fits'
import type { PolicyRecord } from '@/api/parts'
import type { Calibrated, FitForeseen, PolicyBeside, Thing } from '@/api/types'
import { newId } from '@/ui/ids'
import { useFits } from './fits'
import { asParameters, hasTaken, inTurn, newScenario, takenOver } from './fitting'
import { useModel } from './model'
import { useNotices } from './notices'
import { studyStore } from './studyStore'
import { useView } from './view'

export type Lever = NonNullable<PolicyRecord['choose']>[number]
export type Summand = NonNullable<PolicyRecord['sum']>[number]
export type Limit = NonNullable<PolicyRecord['limits']>[number]

const DIGITS = 4
/** What is held against something else is not rounded. */
const ALL_DIGITS = 15
const PAUSE = 250

/** The policies of a study: what each looks for, how far it is, and what it found. */
export const usePolicies = studyStore('policies', () => {
    const model = useModel()
    const fits = useFits()
    const notices = useNotices()
    const view = useView()
    const all = computed(() =>
        Object.values(model.model.policies ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0) || (a.id < b.id ? -1 : 1)),
    )
    /** The one that is looked at instead of a calibration. */
    const policy = computed(
        () => all.value.find((p) => p.id === fits.chosen) ?? (fits.plans.length ? null : (all.value.find(() => true) ?? null)),
    )
    const search = computed(() => (policy.value ? fits.lastOf(policy.value.id) : null))
    const running = computed(() => search.value !== null && !search.value.finished && !search.value.stopped)
    const foreseen = shallowRef<FitForeseen | null>(null)
    const trouble = ref('')
    let timer = 0
    let mine = 0
    async function foresee() {
        const ticket = ++mine
        const id = policy.value?.id
        if (!id) {
            return
        }
        const told = await api.foreseen(model.id, { policy: id }).catch((error: unknown) => (error as Error).message)
        if (ticket === mine) {
            foreseen.value = typeof told === 'string' ? null : told
            trouble.value = typeof told === 'string' ? told : ''
        }
    }
    watch(
        [() => policy.value?.id, () => model.revision, () => model.loaded, () => view.place],
        ([id], before) => {
            if (id !== before[0]) {
                foreseen.value = null
                trouble.value = ''
            }
            window.clearTimeout(timer)
            if (view.place === 'fit') {
                timer = window.setTimeout(() => void foresee(), PAUSE)
            }
        },
        { immediate: true },
    )
    const found = computed(() => search.value?.found ?? null)
    /** The model has what was found. */
    const taken = computed(() => hasTaken(foreseen.value?.numbers, found.value?.choice, DIGITS))
    /** What was found is of a model, or of wishes, that are no more. */
    const older = computed(() => {
        const s = search.value
        const wish = s?.wish as PolicyRecord | undefined
        const said = (p: PolicyRecord | null | undefined) =>
            JSON.stringify([p?.choose, p?.sum, p?.small, p?.limits, p?.expect, p?.over, p?.runs, p?.seed])
        const isOther = trouble.value !== '' || (foreseen.value !== null && foreseen.value.meaning !== s?.meaning)
        return s !== null && (isOther || said(wish) !== said(policy.value))
    })

    /** What the best can be held against besides what there was: choices that other searches found, runner-ups, scenarios. */
    const besides = computed(() => {
        const valuesOf = (s: Calibrated | null, choice: readonly number[]) => asParameters(s?.numbers ?? [], choice, ALL_DIGITS, () => true)
        const policies = all.value.flatMap((p) => {
            const other = p.id === policy.value?.id ? null : fits.lastOf(p.id)
            return other?.found && other.found.value !== null
                ? [{ key: `policy:${p.id}`, words: p.name, values: valuesOf(other, other.found.choice) }]
                : []
        })
        const others = (found.value?.others ?? []).map((o, i) => ({
            key: `other:${i}`,
            words: `choice ${i + 2}`,
            values: valuesOf(search.value, o.choice),
        }))
        const scenarios = Object.values(model.model.scenarios)
            .filter((s) => Object.keys(s.setting.parameters ?? {}).length)
            .map((s) => ({ key: `scenario:${s.id}`, words: s.name, values: s.setting.parameters ?? {} }))
        return [
            { words: 'Other policies', choices: policies },
            { words: 'Also good', choices: others },
            { words: 'Scenarios', choices: scenarios },
        ]
    })
    const besideKey = ref('')
    const beside = shallowRef<{ name: string; held: PolicyBeside } | null>(null)
    const besideTrouble = ref('')
    const holding = ref(false)
    let held = 0
    async function holdAgainst(key: string) {
        const ticket = ++held
        const one = besides.value.flatMap((g) => g.choices).find((c) => c.key === key)
        besideKey.value = one ? key : ''
        besideTrouble.value = ''
        beside.value = null
        holding.value = one !== undefined
        if (!one || !search.value) {
            return
        }
        const told = await api.beside(model.id, search.value.id, one.values).catch((error: unknown) => (error as Error).message)
        if (ticket === held) {
            holding.value = false
            beside.value = typeof told === 'string' ? null : { name: one.words, held: told }
            besideTrouble.value = typeof told === 'string' ? told : ''
        }
    }
    watch([() => search.value?.id, () => found.value !== null], () => void holdAgainst(''))

    async function add(fields: Partial<PolicyRecord>) {
        const id = newId()
        const place = 1 + Math.max(0, ...all.value.map((p) => p.place ?? 0))
        if (await model.attempt({ kind: 'put', part: 'policies', id, fields: { place, ...fields } })) {
            fits.chosen = id
        }
    }
    const turn = inTurn()
    /** Some fields, or what becomes of the policy as the acts before this one left it. */
    function change(fields: Record<string, unknown> | ((p: PolicyRecord) => Record<string, unknown>)) {
        const id = policy.value?.id ?? ''
        return turn(async () => {
            const now = model.model.policies?.[id]
            return (
                now !== undefined &&
                (await model.attempt({ kind: 'put', part: 'policies', id, fields: typeof fields === 'function' ? fields(now) : fields }))
            )
        })
    }
    const lever = (thing: Thing): Lever => fits.freed(thing)
    const begin = () => (policy.value ? fits.seek(policy.value.id) : Promise.resolve())
    const stop = () => fits.stopOne(search.value)
    const goOn = () => fits.goOnWith(search.value)

    async function takeOver() {
        const name = policy.value?.name ?? ''
        const edits = takenOver(search.value?.numbers ?? [], found.value?.choice ?? [], DIGITS)
        if (await model.together(edits, `Take over the policy “${name}”`)) {
            notices.say(`The model follows “${name}” now, rounded to ${DIGITS} digits.`, {
                words: 'Undo',
                run: () => void model.step('undo'),
            })
        }
    }
    async function asScenario() {
        const name = policy.value?.name ?? 'Policy'
        const values = asParameters(search.value?.numbers ?? [], found.value?.choice ?? [], DIGITS, () => true)
        if (await model.attempt(newScenario(name, values, model.model.scenarios))) {
            notices.say(`“${name}” is a scenario now.`)
        }
    }

    return {
        all,
        policy,
        search,
        running,
        foreseen,
        trouble,
        found,
        taken,
        older,
        besides,
        besideKey,
        beside,
        besideTrouble,
        holding,
        holdAgainst,
        add,
        change,
        lever,
        begin,
        stop,
        goOn,
        takeOver,
        asScenario,
    }
})
