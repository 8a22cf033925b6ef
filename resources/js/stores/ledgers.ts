import { useStorage } from '@vueuse/core'
import { computed, ref, shallowRef, watch } from 'vue'
import { api as studies, type Run } from '@/api/client'
import { ledgers as api } from '@/api/ledgers'
import type { Books, LedgerEntry, Rewired } from '@/api/types'
import { newId } from '@/ui/ids'
import { counted } from '@/ui/numbers'
import { useCourses } from './courses'
import { inTurn } from './fitting'
import { useLook } from './look'
import { useModel } from './model'
import { useNotices } from './notices'
import { POINTS, useRuns } from './runs'
import { studyStore } from './studyStore'
import { useView } from './view'

/** The ledgers of a study: pages of a book, what is open, and the acts that change them. */
export const useLedgers = studyStore('ledgers', () => {
    const model = useModel()
    const notices = useNotices()
    const runs = useRuns()
    const view = useView()
    const courses = useCourses()
    const look = useLook()
    const books = shallowRef<Books | null>(null)
    const parties = computed(() =>
        Object.values(model.model.parties ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0) || (a.id < b.id ? -1 : 1)),
    )
    const isThere = computed(() => parties.value.length > 0)
    /** The party whose page is open. */
    const chosen = ref('')
    /** What the cursor is at: what a claim, a row or a party makes. */
    const pointed = ref('')
    /** Whoever comes from elsewhere to a claim, a row or a net worth finds its page open. */
    watch(
        [() => view.selected, () => view.place, books],
        ([id, place, now], [before]) => {
            const made = place === 'ledgers' && id && now ? model.model.elements[id]?.made : undefined
            if (!made || !now || (pointed.value === id && before === id)) {
                return
            }
            pointed.value = id ?? ''
            const touches = (p: Books['pages'][number]) =>
                p.id === made.id || p.owns.includes(made.id) || p.owes.includes(made.id) || p.rows.some((r) => r.row === made.id)
            if (!page.value || !touches(page.value)) {
                chosen.value = now.pages.find(touches)?.id ?? chosen.value
            }
        },
        { immediate: true },
    )
    /** One that was only just added has no page yet; nobody else's is shown in its place. */
    const page = computed(() => {
        const pages = books.value?.pages ?? []
        const isComing = parties.value.some((p) => p.id === chosen.value)
        return pages.find((p) => p.id === chosen.value) ?? (isComing ? null : (pages[0] ?? null))
    })
    /** Signs, or debit and credit: for whoever looks, the books are the same. */
    const writing = useStorage<'signs' | 'debit'>('merry-orbit:ledger-writing', 'signs')
    const claimOf = (id: string) => books.value?.claims.find((c) => c.id === id)
    const rowOf = (id: string) => books.value?.rows.find((r) => r.id === id)
    const partyName = (id: string) => books.value?.pages.find((p) => p.id === id)?.name ?? ''
    const findings = computed(() => books.value?.findings ?? [])

    let asked = 0
    async function load() {
        const ticket = ++asked
        const told = await api.books(model.id).catch((error: unknown) => {
            notices.trouble((error as Error).message)
            return null
        })
        if (ticket === asked && told) {
            books.value = told
        }
    }
    watch(
        [() => model.revision, () => model.loaded, isThere, () => view.place === 'ledgers'],
        () => {
            if (model.loaded && isThere.value) {
                void load()
            } else if (!isThere.value) {
                books.value = null
            }
        },
        { immediate: true },
    )
    watch([books, () => view.place, () => view.look], () => {
        const b = view.place === 'ledgers' ? books.value : null
        runs.needColumns('ledgers', b ? columnsOf(b) : [])
    })
    const columnsOf = (b: Books) => {
        const ids = [
            ...b.claims.flatMap((c) => [c.stock, c.balance, ...(c.revalued ? [c.revalued] : [])]),
            ...b.rows.map((r) => r.flow),
            ...b.pages.map((p) => p.worth),
        ]
        return [...ids, ...look.keysFor(ids)]
    }
    /** What a claim, a row or a net worth comes to at the playhead; where it is several, what is looked at of them, or all together. */
    const now = (id: string, run = runs.shown) => runs.ofColumn(run, look.drawnKey(id))
    const openingOf = (id: string) => {
        const key = look.drawnKey(id)
        return runs.shown?.values.get(key)?.[0] ?? runs.shown?.steady[key]
    }

    const turn = inTurn()
    const put = (part: 'parties' | 'claims' | 'transactions', id: string, fields: Record<string, unknown>) =>
        turn(() => model.attempt({ kind: 'put', part, id, fields }))
    const drop = (part: 'parties' | 'claims' | 'transactions', id: string) => turn(() => model.attempt({ kind: 'drop', part, id }))
    const last = (all: Record<string, { place?: number }> | undefined) =>
        1 + Math.max(0, ...Object.values(all ?? {}).map((one) => one.place ?? 0))
    /** A name that nothing has yet. */
    function free(word: string, taken: readonly string[]) {
        return [word, ...Array.from({ length: 99 }, (_, i) => `${word} ${i + 2}`)].find((n) => !taken.includes(n)) ?? word
    }
    async function addParty() {
        const id = newId()
        const name = free(
            'party',
            parties.value.map((p) => p.name),
        )
        if (await put('parties', id, { name, place: last(model.model.parties) })) {
            chosen.value = id
        }
    }
    /** The currency of the books. */
    const unit = computed(() => books.value?.claims.find((c) => c.unit && !c.rate)?.unit ?? '')
    function addClaim(party: string, side: 'holder' | 'debtor') {
        const name = free(side === 'holder' ? 'asset' : 'debt', [...(books.value?.claims ?? []).map((c) => c.name)])
        return put('claims', newId(), { name, [side]: party, unit: unit.value, place: last(model.model.claims) })
    }
    function addRow(name: string) {
        return put('transactions', newId(), { name, entries: [], place: last(model.model.transactions) })
    }
    /** One entry of a row: more, less, or none. */
    function enter(row: string, what: { claim: string } | { worth: string }, sign: '+' | '-' | '') {
        return turn(() => {
            const now = (model.model.transactions?.[row]?.entries ?? []) as LedgerEntry[]
            const others = now.filter((e) => ('claim' in what ? e.claim !== what.claim : e.worth !== what.worth))
            return model.attempt({
                kind: 'put',
                part: 'transactions',
                id: row,
                fields: { entries: sign ? [...others, { ...what, sign }] : others },
            })
        })
    }
    /** Several entries at once, as one edit. */
    function enterAll(changes: readonly { row: string; what: { claim: string } | { worth: string }; sign: '+' | '-' | '' }[]) {
        return turn(() => {
            const edits = [...new Set(changes.map((c) => c.row))].map((row) => {
                let entries = (model.model.transactions?.[row]?.entries ?? []) as LedgerEntry[]
                for (const { what, sign } of changes.filter((c) => c.row === row)) {
                    entries = entries.filter((e) => ('claim' in what ? e.claim !== what.claim : e.worth !== what.worth))
                    entries = sign ? [...entries, { ...what, sign }] : entries
                }
                return { kind: 'put' as const, part: 'transactions' as const, id: row, fields: { entries } }
            })
            return edits.length ? model.together(edits, `Entered ${counted(changes.length, 'cell')}`) : Promise.resolve(true)
        })
    }
    /** A row that only changes what a claim is worth to those who have and owe it; how much is still to be said. */
    async function revalue(claim: string) {
        const c = claimOf(claim)
        if (!c) {
            return
        }
        const sign = c.real ? ('+' as const) : ('-' as const)
        const other = c.real ? ('-' as const) : ('+' as const)
        const name = free(c.real ? `revaluation of the ${c.name}` : `${c.name} written off`, [
            ...(books.value?.rows ?? []).map((r) => r.name),
            ...model.known.map((t) => t.name),
        ])
        const id = newId()
        const entries = [
            { claim, sign },
            ...(c.holder ? [{ worth: c.holder, sign }] : []),
            ...(c.debtor ? [{ worth: c.debtor, sign: other }] : []),
        ]
        if (await put('transactions', id, { name, entries, place: last(model.model.transactions) })) {
            pointed.value = `row-${id}`
        }
    }
    const mend = (row: string, entries: LedgerEntry[]) => put('transactions', row, { entries })
    const foresee = (claim: string, holder: string) => api.rewire(model.id, claim, holder)
    /** The world as it was before a claim went to another holder: a version with a name, whose run lies beside that of today. */
    const former = shallowRef<{ name: string; revision: number; run: Run | null } | null>(null)
    /** Versions that have a name: other worlds that can lie beside. */
    const worlds = shallowRef<{ revision: number; name: string }[]>([])
    async function loadWorlds() {
        worlds.value = (await studies.history(model.id).catch(() => null))?.milestones ?? worlds.value
    }
    watch(
        [() => view.place === 'ledgers', () => model.loaded],
        ([here, there]) => {
            if (here && there) {
                void loadWorlds()
            }
        },
        { immediate: true },
    )
    async function lookBack(revision: number, name: string) {
        const page = await studies.nameMilestone(model.id, revision, name).catch(() => null)
        if (page) {
            worlds.value = page.milestones
            await layBeside(revision, name)
        }
    }
    async function layBeside(revision: number, name: string) {
        forget()
        const keys = (books.value?.pages ?? []).map((p) => p.worth)
        if (keys.length) {
            courses.call(`world:${revision}`, name, { revision })
            former.value = { name, revision, run: null }
            const run = await studies
                .run(model.id, {
                    run: { revision },
                    only: keys,
                    ...(look.keysFor(keys).length ? { along: look.keysFor(keys) } : {}),
                    points: POINTS,
                })
                .catch(() => null)
            if (former.value?.revision === revision) {
                former.value = { name, revision, run }
            }
        }
    }
    function forget() {
        if (former.value) {
            courses.call(`world:${former.value.revision}`, former.value.name, { revision: former.value.revision })
        }
        former.value = null
    }
    /** A claim goes to another holder, and its rows turn: one act that can be undone. */
    async function move(claim: string, holder: string, told: Rewired) {
        const revision = model.revision
        const before = claimOf(claim)
        const done = await model.together(
            [
                { kind: 'put', part: 'claims', id: claim, fields: { holder } },
                ...told.rows.map((r) => ({
                    kind: 'put' as const,
                    part: 'transactions' as const,
                    id: r.row,
                    fields: { entries: r.entries },
                })),
            ],
            `Gave ${claimOf(claim)?.name ?? 'the claim'} to ${partyName(holder)}`,
        )
        if (done) {
            forget()
            void lookBack(revision, `${before?.name ?? 'claim'} held by ${partyName(before?.holder ?? '') || 'nobody'}`)
        }
        return done
    }

    return {
        books,
        parties,
        isThere,
        chosen,
        pointed,
        page,
        unit,
        now,
        openingOf,
        writing,
        findings,
        claimOf,
        rowOf,
        partyName,
        put,
        drop,
        addParty,
        addClaim,
        addRow,
        enter,
        mend,
        enterAll,
        revalue,
        foresee,
        move,
        former,
        worlds,
        layBeside,
        forget,
    }
})
