import { json } from './client'
import type { Levels, MembersMoving, MembersNow, Muster, RelationTable, RosterTable, RunRef } from './types'

/** The members of rosters. */
export const members = {
    over: (id: string, run: RunRef, roster: string, of: string) =>
        json<Muster>('POST', `models/${id}/members`, { run, roster, ...(of ? { of } : {}) }),
    at: (id: string, run: RunRef, roster: string, at: number) => json<MembersNow>('POST', `models/${id}/members`, { run, roster, at }),
    moving: (id: string, run: RunRef, roster: string, of: string[]) =>
        json<MembersMoving>('POST', `models/${id}/members/moving`, { run, roster, of }),
    levels: (id: string, run: RunRef, roster: string, of: string) =>
        json<Levels>('POST', `models/${id}/members/levels`, { run, roster, ...(of ? { of } : {}) }),
    relation: (
        id: string,
        table: { text: string; name: string; roster: string; id: string; back?: string; lists?: boolean; to?: string },
    ) => json<RelationTable>('POST', `models/${id}/members/relation`, table),
    read: (id: string, table: { text: string; name?: string; roster?: string; id: string }) =>
        json<RosterTable>('POST', `models/${id}/members/read`, table),
}
