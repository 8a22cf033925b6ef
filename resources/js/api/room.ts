import { along, json } from './client'
import type { components } from './openapi'

type Described = components['schemas']

export type RoomState = Described['Room']
export type RoomShown = Described['RoomShown']

/** Workshops that are open to phones. */
export const rooms = {
    state: (model: string) => json<RoomState>('GET', `models/${model}/room`),
    open: (model: string, place: { step: string; about: string }) => json<RoomState>('POST', `models/${model}/room`, place),
    move: (model: string, place: { step: string; about: string }) => json<RoomState>('PATCH', `models/${model}/room`, place),
    close: (model: string) => json<RoomState>('DELETE', `models/${model}/room`),

    /** From now on, this page speaks as a phone in a room. */
    come(code: string, phone: string) {
        along['X-Merry-Room'] = code
        along['X-Merry-Phone'] = phone
    },
    shown: () => json<RoomShown>('GET', 'room'),
    name: (text: string) => json<RoomShown>('POST', 'room', { kind: 'factor', text }),
    vote: (one: string, other: string, yes: boolean) => json<RoomShown>('POST', 'room', { kind: 'pair', one, other, for: yes }),
    judge: (link: string, says: 'agree' | 'disagree' | 'nothing') => json<RoomShown>('POST', 'room', { kind: 'link', link, says }),
}
