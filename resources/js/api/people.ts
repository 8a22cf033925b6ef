import { json, held, send } from './client'
import type { components } from './openapi'

type Described = components['schemas']

export type Me = Described['Me']
export type SignIn = Described['SignIn']
export type ApiToken = Described['ApiToken']
export type Letter = Described['Letter']
export type Grant = Described['Grant']
export type Sharing = Described['Sharing']
/** What somebody may do with a study. */
export type May = Described['Sharing']['may']
export type Comment = Described['Comment']
export type About = Comment['about']
export type Since = Described['Since']
export type Happening = { kind: string; words: string; address: string; at: string }

interface Data<T> {
    data: T
}

/** Accounts, and who may do what. */
export const people = {
    me: async () => (await json<Data<Me>>('GET', 'me')).data,
    be: async (email: string) => (await json<Data<Me>>('PUT', 'me/person', { email })).data,
    signIn: async (email: string, password: string, code: string, keep: boolean) =>
        (await json<Data<Me>>('POST', 'session', { email, password, keep, ...(code ? { code } : {}) })).data,
    signOut: () => json<undefined>('DELETE', 'session'),
    key: (key: string) =>
        json<{ kind: 'first' | 'invitation' | 'address'; email: string | null; by: string | null }>('POST', 'join/key', { key }),
    join: async (key: string, name: string, email: string | null, password: string) =>
        (await json<Data<Me>>('POST', 'join', { key, name, password, ...(email === null ? {} : { email }) })).data,
    takeAddress: (key: string) => json<undefined>('POST', 'join/address', { key }),
    forgotten: (email: string) => json<undefined>('POST', 'forgotten', { email }),
    newPassword: (email: string, token: string, password: string) => json<undefined>('PUT', 'forgotten', { email, token, password }),
    invite: (email: string) => json<undefined>('POST', 'invitations', { email }),
    letters: async () => (await json<{ letters: Letter[] }>('GET', 'letters')).letters,

    rename: async (name: string) => (await json<Data<Me>>('PATCH', 'account', { name })).data,
    email: (email: string, password: string) => json<undefined>('PUT', 'account/email', { email, password }),
    password: (password: string, next: string) => json<{ ended: number }>('PUT', 'account/password', { password, new: next }),
    beginSecondFactor: (password: string) => json<{ secret: string; address: string }>('POST', 'account/second-factor', { password }),
    confirmSecondFactor: async (code: string) => (await json<{ codes: string[] }>('PUT', 'account/second-factor', { code })).codes,
    endSecondFactor: (password: string) => json<undefined>('DELETE', 'account/second-factor', { password }),
    signIns: async () => (await json<{ signIns: SignIn[] }>('GET', 'account/sign-ins')).signIns,
    endSignIn: (id: number) => json<undefined>('DELETE', `account/sign-ins/${id}`),
    endOthers: () => json<{ ended: number }>('DELETE', 'account/sign-ins'),
    tokens: () => json<{ scopes: Record<string, string>; tokens: ApiToken[] }>('GET', 'account/tokens'),
    makeToken: (token: { name: string; scopes: string[]; days: number; password: string }) =>
        json<ApiToken>('POST', 'account/tokens', token),
    dropToken: (id: number) => json<undefined>('DELETE', `account/tokens/${id}`),
    happenings: async () => (await json<{ happenings: Happening[] }>('GET', 'account/happenings')).happenings,
    takeAlong: async () => held<Blob>((await send('GET', 'account/export')).blob()),
    leave: (password: string) => json<undefined>('DELETE', 'account', { password }),

    sharing: (study: string) => json<Sharing>('GET', `studies/${study}/sharing`),
    share: (study: string, withWhom: { email: string } | { everyone: true }, may: string, until: string | null) =>
        json<Grant>('POST', `studies/${study}/sharing`, { ...withWhom, may, until }),
    changeGrant: (study: string, grant: string, may: string, until: string | null) =>
        json<Grant>('PATCH', `studies/${study}/sharing/${grant}`, { may, until }),
    takeBack: (study: string, grant: string) => json<undefined>('DELETE', `studies/${study}/sharing/${grant}`),
    giveBack: (study: string) => json<undefined>('DELETE', `studies/${study}/sharing`),
    handOver: (study: string, grant: string) => json<unknown>('POST', `studies/${study}/sharing/${grant}/owner`),
    record: async (study: string) =>
        (await json<{ record: { who: string; words: string; at: string }[] }>('GET', `studies/${study}/sharing/record`)).record,

    visit: (model: string) => json<Since>('POST', `models/${model}/visits`),
    comments: async (model: string) => (await json<{ comments: Comment[] }>('GET', `models/${model}/comments`)).comments,
    comment: async (model: string, said: { about?: About; subject?: string; time?: number | null; answers?: string; text: string }) =>
        (await json<{ comments: Comment[] }>('POST', `models/${model}/comments`, said)).comments,
    changeComment: async (model: string, id: string, change: { text?: string; settled?: boolean }) =>
        (await json<{ comments: Comment[] }>('PATCH', `models/${model}/comments/${id}`, change)).comments,
    dropComment: async (model: string, id: string) =>
        (await json<{ comments: Comment[] }>('DELETE', `models/${model}/comments/${id}`)).comments,
}
