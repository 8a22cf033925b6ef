import type { Muster } from '@/api/types'

/** When members came, and when they left and why. */
export function comings(muster: Muster) {
    const came = muster.members.flatMap((m) => (m.from === null ? [] : [{ time: m.from, number: m.number, words: m.how }]))
    const left = muster.members.flatMap((m) => (m.to === null ? [] : [{ time: m.to, number: m.number, words: m.why }]))
    return { came, left }
}
