import type { Edit } from '@/api/types'

/** What waits to be sent: an edit, or a step back or forward. */
export interface Pending {
    id: string
    edit?: Edit
    step?: 'undo' | 'redo'
}

/** An edit that was refused, or that its person set aside, with the reason: kept until it is sent again or thrown away. */
export interface Aside {
    id: string
    edit: Edit
    sentence: string
}

/** Edits that wait belong to the person who made them: nobody else's session sends them. */
interface Kept {
    user: number
    items: Pending[]
}

/** This browser window since it was loaded last. */
export const WINDOW = crypto.randomUUID().slice(0, 13)

const pendingOf = (model: string) => `merry-orbit:pending:${model}`
const asideOf = (model: string, user: number) => `merry-orbit:aside:${model}:${user}`
const lifeOf = (window: string) => `merry-orbit:window:${window}`

/** Whether edits wait that could not be stored: then the browser asks before it closes the page. */
let unstored = false
window.addEventListener('beforeunload', (event) => {
    if (unstored) {
        event.preventDefault()
    }
})

// A lock that lasts as long as this page tells the other windows that its edits are looked after.
if ('locks' in navigator) {
    void navigator.locks.request(lifeOf(WINDOW), () => new Promise(() => undefined))
}

function read<T>(key: string): T | undefined {
    try {
        return (JSON.parse(localStorage.getItem(key) ?? 'null') as T) ?? undefined
    } catch {
        return undefined
    }
}

/** @returns whether it is stored; without storage it lasts as long as the page */
function write(key: string, value: unknown[] | Kept, empty: boolean): boolean {
    try {
        if (empty) {
            localStorage.removeItem(key)
        } else {
            localStorage.setItem(key, JSON.stringify(value))
        }
        return true
    } catch {
        return empty
    }
}

/** Keeps what waits in this window, so that a reload or a crash loses none of it. */
export function keepWaiting(model: string, user: number, items: Pending[]) {
    unstored = !write(`${pendingOf(model)}:${WINDOW}`, { user, items }, items.length === 0)
}

/** Names of windows that are open at this moment; where the browser does not tell, none but this. Sending twice does no harm. */
async function openWindows(): Promise<Set<string>> {
    const held = 'locks' in navigator ? ((await navigator.locks.query()).held ?? []) : []
    return new Set([lifeOf(WINDOW), ...held.map((lock) => lock.name ?? '')])
}

/** Takes one out of what waits here for a model that is not the open one any more. */
export function dropWaiting(model: string, user: number, id: string) {
    const kept = read<Kept>(`${pendingOf(model)}:${WINDOW}`)
    if (kept) {
        keepWaiting(
            model,
            user,
            kept.items.filter((item) => item.id !== id),
        )
    }
}

/** What waits here since this model was open the last time. */
export function waitingHere(model: string, user: number): Pending[] {
    const kept = read<Kept>(`${pendingOf(model)}:${WINDOW}`)
    return kept?.user === user ? kept.items : []
}

/** Takes over what this person's windows left behind when they were closed, reloaded or killed, in the order of their names. */
export async function takeOver(model: string, user: number): Promise<Pending[]> {
    const start = pendingOf(model)
    let keys: string[]
    try {
        // Earlier versions kept one list for all windows, under the model alone.
        keys = Object.keys(localStorage)
            .filter((key) => key === start || (key.startsWith(`${start}:`) && !key.endsWith(`:${WINDOW}`)))
            .sort()
    } catch {
        return []
    }
    const open = keys.length ? await openWindows() : new Set<string>()
    const found: Pending[] = []
    for (const key of keys.filter((k) => !open.has(lifeOf(k.slice(start.length + 1))))) {
        const kept = read<Kept | Pending[]>(key)
        if (kept && !Array.isArray(kept) && kept.user !== user) {
            continue
        }
        found.push(...(Array.isArray(kept) ? kept : (kept?.items ?? [])))
        write(key, [], true)
    }
    return found
}

/** What lies aside of this person's edits to a model, in whichever window it was put there. */
export function readAside(model: string, user: number): Aside[] {
    return read<Aside[]>(asideOf(model, user)) ?? []
}

/** Puts edits aside or takes them away, beside what other windows did meanwhile. */
export function changeAside(model: string, user: number, known: Aside[], change: { add?: Aside; remove?: string }): Aside[] {
    const all = new Map([...known, ...readAside(model, user), ...(change.add ? [change.add] : [])].map((one) => [one.id, one]))
    all.delete(change.remove ?? '')
    const list = [...all.values()]
    write(asideOf(model, user), list, list.length === 0)
    return list
}
