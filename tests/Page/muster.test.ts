import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { members as api } from '@/api/members'
import type { RosterRecord } from '@/api/parts'
import type { Muster } from '@/api/types'
import { isOpen, useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useView } from '@/stores/view'
import { harness } from './harness'

const roster = (id: string, of: string, more: Partial<RosterRecord> = {}) => ({ id, of, ...more }) as RosterRecord
const muster = (of: string) =>
    ({
        of,
        columns: [
            { key: 'soundness', name: 'soundness' },
            { key: 'age', name: 'age' },
        ],
        members: [
            { number: 0, name: 'Grebe' },
            { number: 4, name: 'Petrel' },
        ],
    }) as unknown as Muster

beforeEach(() => {
    harness.begin()
    vi.useFakeTimers()
    const model = useModel()
    model.model = {
        ...model.model,
        dimensions: [
            { id: 'd1', name: 'house', elements: [] },
            { id: 'd2', name: 'boat', elements: [] },
        ] as never,
        rosters: { r1: roster('r1', 'd1'), r2: roster('r2', 'd2', { exits: [{ hazard: '0.1' }] as never }) },
    }
    model.loaded = true
})
afterEach(() => {
    vi.useRealTimers()
    harness.end()
})
const rest = async () => {
    await vi.advanceTimersByTimeAsync(500)
    await nextTick()
}

describe('rosters', () => {
    it('stand by name, the first is looked at, and another when it is wanted', () => {
        const members = useMembers()
        expect(members.rosters.map((r) => r.name)).toEqual(['boat', 'house'])
        expect(members.roster?.id).toBe('r2')
        members.wanted = 'r1'
        expect(members.roster?.name).toBe('house')
        members.wanted = 'gone'
        expect(members.roster?.id).toBe('r2')
    })
    it('are open where members come or go or their pairs change', () => {
        expect(isOpen(roster('r', 'd'))).toBe(false)
        for (const more of [{ entries: [{}] }, { exits: [{}] }, { ties: [{}] }, { since: 'built' }]) {
            expect(isOpen(roster('r', 'd', more as never))).toBe(true)
        }
        expect(isOpen(roster('r', 'd', { entries: [], exits: [] } as never))).toBe(false)
    })
})

describe('what became of members', () => {
    it('is asked for where it is looked at, and only there', async () => {
        const over = vi.spyOn(api, 'over').mockResolvedValue(muster('soundness'))
        vi.spyOn(api, 'at').mockResolvedValue({ time: 0, rows: [] } as never)
        const members = useMembers()
        await rest()
        expect(over).not.toHaveBeenCalled()
        useView().place = 'members'
        await rest()
        expect(over).toHaveBeenCalledOnce()
        expect(members.column?.name).toBe('soundness')
        members.chosen = 4
        expect(members.member?.name).toBe('Petrel')
        members.chosen = 3
        expect(members.member).toBeNull()
    })
    it('is forgotten with the roster: another has other members and other variables', async () => {
        vi.spyOn(api, 'over').mockResolvedValue(muster('soundness'))
        vi.spyOn(api, 'at').mockResolvedValue({ time: 0, rows: [] } as never)
        useView().place = 'members'
        const members = useMembers()
        await rest()
        members.chosen = 4
        members.of = 'age'
        members.wanted = 'r1'
        await nextTick()
        expect([members.chosen, members.of, members.muster]).toEqual([-1, '', null])
    })
    it('is refused with a sentence, which goes when it is answered again', async () => {
        vi.spyOn(api, 'at').mockResolvedValue({ time: 0, rows: [] } as never)
        const over = vi.spyOn(api, 'over').mockRejectedValueOnce(new Error('`soundness` has no formula yet.'))
        useView().place = 'members'
        const members = useMembers()
        await rest()
        expect(members.refusal).toBe('`soundness` has no formula yet.')
        over.mockResolvedValue(muster('age'))
        await members.load()
        expect(members.refusal).toBe('')
    })
    it('moves with the playhead, one question after the other', async () => {
        vi.spyOn(api, 'over').mockResolvedValue(muster('soundness'))
        const asked: number[] = []
        let answer: (() => void)[] = []
        vi.spyOn(api, 'at').mockImplementation((_, __, ___, time) => {
            asked.push(time)
            return new Promise((resolve) => answer.push(() => resolve({ time, rows: [] } as never)))
        })
        useView().place = 'members'
        const members = useMembers()
        await rest()
        expect(asked).toEqual([0])
        for (const time of [1, 2, 3]) {
            useView().playhead = time
            await rest()
        }
        // The first is not answered yet: nothing more is asked for, and then only the last.
        expect(asked).toEqual([0])
        answer.splice(0).forEach((a) => a())
        await rest()
        expect(asked).toEqual([0, 3])
        answer.splice(0).forEach((a) => a())
        await rest()
        expect(members.time).toBe(3)
        answer = []
    })
})
