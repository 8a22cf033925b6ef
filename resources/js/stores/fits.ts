import { computed, ref, shallowRef, watch } from 'vue'
import { fits } from '@/api/fits'
import type { CalibrationRecord } from '@/api/parts'
import type { Calibrated, FitDraws, FitForeseen, FitPicture, Thing } from '@/api/types'
import { newId } from '@/ui/ids'
import { counted, literal } from '@/ui/numbers'
import { keyOf } from './ensembles'
import { asParameters, hasTaken, inTurn, isAt, madeUncertain, newScenario, pointsOf, takenOver, usualBounds } from './fitting'
import { useFollowed } from './following'
import { useLook } from './look'
import { useModel } from './model'
import { useNotices } from './notices'
import { studyStore } from './studyStore'
import { useView } from './view'

/** A number that moves, as a calibration says it. */
export type Free = NonNullable<CalibrationRecord['free']>[number]

/** Digits of values that are taken over: more than any data decide. */
const DIGITS = 6

/** Milliseconds after a change before what is about to be fitted is counted anew. */
const PAUSE = 250

/** The calibrations of a study: what each wants, how far it is, and what it came to. */
export const useFits = studyStore('fits', () => {
    const model = useModel()
    const look = useLook()
    const notices = useNotices()
    const view = useView()
    const { all, busy, put, follow } = useFollowed<Calibrated>((fit) => fits.state(model.id, fit))
    const plans = computed(() =>
        Object.values(model.model.calibrations ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0) || (a.id < b.id ? -1 : 1)),
    )
    const chosen = ref('')
    const plan = computed(() =>
        model.model.policies?.[chosen.value] ? null : (plans.value.find((p) => p.id === chosen.value) ?? plans.value[0] ?? null),
    )
    const lastOf = (id: string) => all.value.find((f) => f.plan === id) ?? null
    const fit = computed(() => (plan.value ? lastOf(plan.value.id) : null))
    const running = computed(() => fit.value !== null && !fit.value.finished && !fit.value.stopped)
    const foreseen = shallowRef<FitForeseen | null>(null)
    /** Why it cannot be fitted as it is. */
    const trouble = ref('')
    /** The model has the values that were found. */
    const taken = computed(() => hasTaken(foreseen.value?.numbers, fit.value?.best?.point, DIGITS))
    /** What it came to is of a model, of data, or of wishes that are no more. */
    const older = computed(() => {
        const f = fit.value
        const wish = f?.wish as CalibrationRecord | undefined
        const said = (p: CalibrationRecord | null | undefined) =>
            JSON.stringify([p?.free, p?.to, p?.from, p?.until, p?.using, p?.starts, p?.seed, p?.trial])
        const isOther = trouble.value !== '' || (foreseen.value !== null && foreseen.value.meaning !== f?.meaning)
        return f !== null && (isOther || said(wish) !== said(plan.value))
    })

    let timer = 0
    let mine = 0
    async function foresee() {
        const ticket = ++mine
        const id = plan.value?.id
        if (!id) {
            return
        }
        try {
            const told = await fits.foreseen(model.id, { plan: id })
            if (ticket === mine) {
                foreseen.value = told
                trouble.value = ''
            }
        } catch (error) {
            if (ticket === mine) {
                foreseen.value = null
                trouble.value = (error as Error).message
            }
        }
    }
    watch([() => plan.value?.id, () => model.revision, () => model.loaded, () => view.place], ([id], before) => {
        if (id !== before[0]) {
            foreseen.value = null
            trouble.value = ''
        }
        window.clearTimeout(timer)
        // It takes runs: where nobody looks at it they are not made.
        if (view.place === 'fit') {
            timer = window.setTimeout(() => void foresee(), id === before[0] ? PAUSE : 0)
        }
    })

    const own = shallowRef<{ fit: string; picture: FitPicture } | null>(null)
    let drawing = false
    /** Drawn anew as it comes nearer. */
    watch([() => fit.value?.id, () => fit.value?.best?.distance, () => fit.value?.finished], async () => {
        const now = fit.value
        if (!now || drawing) {
            return
        }
        drawing = true
        const picture = await fits.picture(model.id, now.id).catch(() => null)
        drawing = false
        if (picture && fit.value?.id === now.id) {
            own.value = { fit: now.id, picture }
            if (fit.value.best?.distance !== now.best?.distance) {
                drawing = true
                const next = await fits.picture(model.id, now.id).catch(() => null)
                drawing = false
                own.value = next ? { fit: now.id, picture: next } : own.value
            }
        }
    })
    /** What lies over the data: runs of the fit; before it begins, and when wishes have changed since, the model as it is. */
    const picture = computed(() => {
        const mine = own.value && own.value.fit === fit.value?.id ? own.value.picture : null
        return older.value && !running.value ? (foreseen.value?.picture ?? mine) : (mine ?? foreseen.value?.picture ?? null)
    })
    /** The numbers, and what is known of each. */
    const told = computed(() => (fit.value && (!older.value || running.value) ? fit.value : foreseen.value))
    const result = computed(() => (older.value ? null : (fit.value?.result ?? null)))

    async function said<T>(work: () => Promise<T>): Promise<T | undefined> {
        try {
            return await work()
        } catch (error) {
            notices.trouble((error as Error).message)
            return undefined
        }
    }
    function keep(one: Calibrated | undefined) {
        if (one) {
            all.value = [...all.value.filter((f) => f.plan !== one.plan), one]
            follow()
        }
    }
    async function load() {
        const last = await fits.last(model.id).catch((): Calibrated[] => [])
        if (!all.value.length) {
            all.value = last
            follow()
        }
        void foresee()
    }
    const begin = async () => {
        const id = plan.value?.id
        if (id) {
            await model.sent()
            keep(await said(() => fits.begin(model.id, { plan: id })))
        }
    }
    const seek = async (policy: string) => {
        await model.sent()
        keep(await said(() => fits.begin(model.id, { policy })))
    }
    const stopOne = async (one: Calibrated | null) => {
        if (one) {
            put((await said(() => fits.stop(model.id, one.id))) ?? one)
        }
    }
    const goOnWith = async (one: Calibrated | null) => {
        if (one) {
            keep(await said(() => fits.goOn(model.id, one.id)))
        }
    }
    const stop = () => stopOne(fit.value)
    const goOn = () => goOnWith(fit.value)

    /** What the data leave open: drawn, once the nearest run is known. */
    const open = computed(() => result.value?.open ?? null)
    async function draw(draws: number) {
        const id = fit.value?.id
        if (id) {
            keep(await said(() => fits.draw(model.id, id, draws)))
        }
    }
    const draws = shallowRef<FitDraws | null>(null)
    watch([() => fit.value?.id, () => fit.value?.stage, () => fit.value?.draws], async () => {
        const now = fit.value
        draws.value = null
        if (now?.stage === 'drawn') {
            const got = await fits.draws(model.id, now.id).catch(() => null)
            draws.value = fit.value?.id === now.id ? got : null
        }
    })
    /** Parameters become the uncertain inputs that they are, with how they go together; initial values are none. */
    async function asUncertain() {
        const numbers = fit.value?.numbers ?? []
        const edits = open.value
            ? madeUncertain(numbers, open.value, DIGITS, {
                  uncertain: Object.values(model.model.uncertain ?? {}),
                  pairs: Object.values(model.model.rankPairs ?? {}),
                  isParameter,
              })
            : []
        const name = plan.value?.name ?? ''
        if (!edits.length || !(await model.together(edits, `Make uncertain what “${name}” leaves open`))) {
            return false
        }
        const count = numbers.filter((n) => isParameter(n.of)).length
        notices.say(
            `${counted(count, 'parameter is', 'parameters are')} uncertain as the data leave them, with how they go together.${without(numbers.length - count)}`,
            { words: 'Undo', run: () => void model.step('undo') },
        )
        return true
    }
    const isParameter = (id: string) => model.model.elements[id]?.kind === 'parameter'
    const without = (left: number) =>
        left ? ` Without ${left === 1 ? 'one initial value' : `${left} initial values`}: those are no part of it.` : ''

    async function add(fields: Partial<CalibrationRecord>) {
        const id = newId()
        const place = 1 + Math.max(0, ...plans.value.map((p) => p.place ?? 0))
        if (await model.attempt({ kind: 'put', part: 'calibrations', id, fields: { place, ...fields } })) {
            chosen.value = id
        }
    }
    const turn = inTurn()
    /** Some fields, or what becomes of the calibration as the acts before this one left it. */
    function change(fields: Record<string, unknown> | ((p: CalibrationRecord) => Record<string, unknown>)) {
        const id = plan.value?.id ?? ''
        return turn(async () => {
            const now = model.model.calibrations?.[id]
            return (
                now !== undefined &&
                (await model.attempt({
                    kind: 'put',
                    part: 'calibrations',
                    id,
                    fields: typeof fields === 'function' ? fields(now) : fields,
                }))
            )
        })
    }
    const free = computed(() => plan.value?.free ?? [])
    const setFree = (make: (list: Free[]) => Free[]) => change((p) => ({ free: make(p.free ?? []) }))
    /** As one would begin; of a curve the first point that is not freed yet. */
    function freed(thing: Thing): Free {
        const isFreed = (x: number) => free.value.some((f) => f.of === thing.id && isAt([x, 0], f.at?.[0]))
        const points = pointsOf(thing)
        const x = points.find((p) => !isFreed(p[0]))?.[0] ?? points[0]?.[0]
        const at = x === undefined ? undefined : literal(x)
        return { of: thing.id, ...(at === undefined ? {} : { at: [at] }), ...usualBounds(thing, at) }
    }

    async function takeOver() {
        const name = plan.value?.name ?? ''
        const edits = takenOver(fit.value?.numbers ?? [], fit.value?.best?.point ?? [], DIGITS, model.model.elements)
        if (await model.together(edits, `Take over what “${name}” came to`)) {
            notices.say(`The model has the values of “${name}” now, rounded to ${DIGITS} digits.`, {
                words: 'Undo',
                run: () => void model.step('undo'),
            })
        }
    }
    async function asScenario() {
        const numbers = fit.value?.numbers ?? []
        const values = asParameters(numbers, fit.value?.best?.point ?? [], DIGITS, isParameter)
        const name = plan.value?.name ?? 'Fit'
        if (await model.attempt(newScenario(name, values, model.model.scenarios))) {
            notices.say(`“${name}” is a scenario now.${without(numbers.length - Object.keys(values).length)}`)
        }
    }
    /** The names of the series, for people. */
    const nameOf = (key: string) => look.nameOf(key) ?? key

    return {
        all,
        busy,
        plans,
        plan,
        chosen,
        fit,
        lastOf,
        running,
        taken,
        older,
        foreseen,
        trouble,
        picture,
        told,
        result,
        free,
        load,
        begin,
        seek,
        stop,
        stopOne,
        goOn,
        goOnWith,
        add,
        change,
        setFree,
        freed,
        takeOver,
        open,
        draw,
        draws,
        asUncertain,
        asScenario,
        nameOf,
        keyOf,
    }
})
