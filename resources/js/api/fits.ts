import { json } from './client'
import type { Calibrated, FitDraws, FitForeseen, FitPicture, PolicyBeside } from './types'

/** Calibrations that are carried out, and what they come to. */
export const fits = {
    last: async (id: string) => (await json<{ fits: Calibrated[] }>('GET', `models/${id}/fits`)).fits,
    /** Of a calibration, or of a policy. */
    foreseen: (id: string, of: { plan: string } | { policy: string }) =>
        json<FitForeseen>('GET', `models/${id}/fits/foreseen?${new URLSearchParams({ ...of }).toString()}`),
    begin: (id: string, of: { plan: string } | { policy: string }) => json<Calibrated>('POST', `models/${id}/fits`, of),
    state: (id: string, fit: string) => json<Calibrated>('GET', `models/${id}/fits/${fit}`),
    stop: (id: string, fit: string) => json<Calibrated>('DELETE', `models/${id}/fits/${fit}`),
    goOn: (id: string, fit: string) => json<Calibrated>('POST', `models/${id}/fits/${fit}/more`, {}),
    draw: (id: string, fit: string, draws: number) => json<Calibrated>('POST', `models/${id}/fits/${fit}/draws`, { draws }),
    draws: (id: string, fit: string) => json<FitDraws>('GET', `models/${id}/fits/${fit}/draws`),
    beside: (id: string, fit: string, values: Record<string, number>) =>
        json<PolicyBeside>('POST', `models/${id}/fits/${fit}/beside`, { values }),
    picture: (id: string, fit: string) => json<FitPicture>('GET', `models/${id}/fits/${fit}/picture`),
}
