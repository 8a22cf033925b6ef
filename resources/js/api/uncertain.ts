import { json, later } from './client'
import type {
    Bands,
    BeatenBy,
    Combined,
    Distribution,
    Ensemble,
    Expected,
    InputIndices,
    Lying,
    Mattering,
    Nudged,
    OutcomeSummary,
    RunRef,
    Setting,
    SharesOver,
} from './types'

const asked = (fields: Record<string, string | number | boolean | undefined>) =>
    new URLSearchParams(
        Object.entries(fields).flatMap(([k, v]) =>
            v === undefined || v === '' ? [] : [[k, v === true ? '1' : v === false ? '0' : String(v)]],
        ),
    ).toString()

/** Which runs are to be made. */
export interface EnsembleWish {
    runs: number
    sample: Ensemble['sample']
    seed: number
    /** Ids; empty for the present setting. */ scenarios: string[]
    setting: Setting
    /** Indices and steps draw in a way of their own. */ purpose?: Ensemble['purpose']
}

export interface Draws {
    names: string[]
    runs: number
    rows: { run: number; numbers: (number | null)[] }[]
}

/** What is uncertain, and what it comes to. */
export const uncertain = {
    distribution: (id: string, wish: { law?: string; parameter?: string; as?: string }) =>
        json<Distribution>('POST', `models/${id}/distribution`, wish),
    expectations: (id: string) => later<{ revision: number; expectations: Expected[] }>('GET', `models/${id}/expectations`),
    tryExpectations: async (id: string, expectations: Record<string, unknown>[]) =>
        (await later<{ expectations: Expected[] }>('POST', `models/${id}/expectations`, { expectations })).expectations,
    proposed: async (id: string) =>
        (await json<{ proposed: { fields: Record<string, unknown>; sentence: string }[] }>('GET', `models/${id}/expectations/proposed`))
            .proposed,
    combine: (id: string, wish: { run: RunRef; of?: string; many?: boolean }) => later<Combined>('POST', `models/${id}/candidates`, wish),
    nudge: (id: string, wish: { run: RunRef; by: number | null; kinds: string[]; of?: string }) =>
        later<Nudged>('POST', `models/${id}/nudge`, wish),
    last: async (id: string, purpose: Ensemble['purpose'] = 'spread') =>
        (await json<{ ensembles: Ensemble[] }>('GET', `models/${id}/ensembles?${asked({ purpose })}`)).ensembles,
    make: async (id: string, wish: EnsembleWish) =>
        (await json<{ ensembles: Ensemble[] }>('POST', `models/${id}/ensembles`, wish)).ensembles,
    state: (id: string, ensemble: string) => json<Ensemble>('GET', `models/${id}/ensembles/${ensemble}`),
    more: (id: string, ensemble: string, runs: number) => json<Ensemble>('POST', `models/${id}/ensembles/${ensemble}/more`, { runs }),
    stop: (id: string, ensemble: string) => json<Ensemble>('DELETE', `models/${id}/ensembles/${ensemble}`),
    bands: (id: string, ensemble: string, of: string) => json<Bands>('GET', `models/${id}/ensembles/${ensemble}/bands?${asked({ of })}`),
    lying: (id: string, ensemble: string, wish: { of?: string; time?: number; outcome?: string; above?: number }) =>
        json<Lying>('GET', `models/${id}/ensembles/${ensemble}/moment?${asked(wish)}`),
    summary: async (id: string, ensemble: string) =>
        (await json<{ outcomes: OutcomeSummary[] }>('GET', `models/${id}/ensembles/${ensemble}/summary`)).outcomes,
    draws: (id: string, ensemble: string, wish: { sort: string; down: boolean; from: number; count: number }) =>
        json<Draws>('GET', `models/${id}/ensembles/${ensemble}/draws?${asked(wish)}`),
    matters: (id: string, ensemble: string, wish: { outcome: string; input: string }) =>
        json<Mattering>('GET', `models/${id}/ensembles/${ensemble}/matters?${asked(wish)}`),
    indices: (id: string, ensemble: string, outcome: string) =>
        json<InputIndices>('GET', `models/${id}/ensembles/${ensemble}/indices?${asked({ outcome })}`),
    shares: (id: string, ensemble: string, of: string) =>
        json<SharesOver>('GET', `models/${id}/ensembles/${ensemble}/shares?${asked({ of })}`),
    against: (id: string, ensemble: string, other: string, outcome: string) =>
        json<BeatenBy>('GET', `models/${id}/ensembles/${ensemble}/against/${other}?${asked({ outcome })}`),
}
