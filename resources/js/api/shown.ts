import { along, held, json, send } from './client'
import type { components } from './openapi'

type Described = components['schemas']

export type ShownPage = Described['ShownPage']
export type ShownInput = Described['ShownInput']
export type ShownStep = ShownPage['steps'][number]
export type ShownBlock = ShownPage['blocks'][number]
export type Shown = Described['Shown']
export type ShownResult = Shown['blocks'][string]
export type ShownLine = NonNullable<ShownResult['lines']>[number]
export type ShownLink = Described['ShownLink']
export type Sent = Described['Sent']

/** What is asked of a page: a step, and what its inputs are set to. */
export interface Wish {
    step: string
    inputs: Record<string, number>
}

export interface NewLink {
    showcase: string
    name: string
    may: string
    until: string | null
    password: string | null
    address: string | null
    stays: boolean
}

/** Pages for readers. */
export const shown = {
    /** From now on, this page speaks for whoever came by the link. */
    come(key: string, pass = '') {
        along['X-Merry-Link'] = key
        if (pass) {
            along['X-Merry-Pass'] = pass
        }
    },
    page: () => json<ShownPage>('GET', 'shown'),
    results: (wish: Wish) => json<Shown>('POST', 'shown', wish),
    pass: async (password: string) => (await json<{ pass: string }>('POST', 'shown/pass', { password })).pass,

    preview: (model: string, showcase: string, wish: Wish) =>
        json<{ page: ShownPage; shown: Shown }>('POST', `models/${model}/showcases/${showcase}`, wish),
    links: async (study: string) => (await json<{ links: ShownLink[] }>('GET', `studies/${study}/links`)).links,
    makeLink: (study: string, link: NewLink) => json<ShownLink>('POST', `studies/${study}/links`, link),
    hosts: (study: string, link: string, hosts: string[]) => json<ShownLink>('PATCH', `studies/${study}/links/${link}`, { hosts }),
    takeBack: (study: string, link: string) => json<undefined>('DELETE', `studies/${study}/links/${link}`),

    report: (model: string, report: string | null) =>
        json<{ revision: number; of: string; html: string }>('POST', `models/${model}/report`, { report, as: 'page' }),
    reportFiles: async (model: string, report: string | null) =>
        held<Blob>((await send('POST', `models/${model}/report`, { report, as: 'markdown' })).blob()),

    visit: async () => (await json<{ study: string }>('POST', 'shown/study')).study,
    copy: () => json<{ study: string | null; key: string | null }>('POST', 'shown/copies'),
    copyOf: (key: string) =>
        json<{ name: string; from: string; until: string | null; signedIn: string | null }>('POST', 'copies/key', { key }),
    openCopy: async (key: string) => (await json<{ study: string }>('POST', 'copies/open', { key })).study,
    keepCopy: async (key: string) => (await json<{ data: Described['Study'] }>('POST', 'copies/keep', { key })).data,
    sendBack: async (study: string) => (await json<{ key: string }>('POST', `studies/${study}/back`)).key,
    sent: (key: string) => json<Sent>('POST', 'back', { key }),
    takeOver: (key: string, change: string, window: string, base: number) =>
        json<Sent>('POST', 'back/take', { key, change, window, base, id: crypto.randomUUID() }),
}
