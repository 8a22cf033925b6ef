import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { api } from '@/api/client'
import type { Model, Problem, Thing } from '@/api/types'
import GroupField from '@/card/GroupField.vue'
import FeedbackLoops from '@/card/FeedbackLoops.vue'
import HealthList from '@/card/HealthList.vue'
import LinkCard from '@/card/LinkCard.vue'
import SelectionCard from '@/card/SelectionCard.vue'
import { useCommands } from '@/shell/useCommands'
import HistoryStage from '@/places/model/history/HistoryStage.vue'
import { useEffects } from '@/stores/effects'
import { useModel } from '@/stores/model'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import { harness } from './harness'
import { aThing } from './make'

const { show, settle, button } = harness

beforeEach(() => {
    harness.begin()
})
afterEach(() => {
    harness.end()
})

const thing = (id: string, more: Partial<Thing> = {}) => aThing(id, { formula: '', ...more })

function fill(things: Thing[], more: Partial<Model> = {}) {
    const model = useModel()
    model.model = {
        ...model.model,
        sheets: [
            { id: 'one', name: 'One' },
            { id: 'two', name: 'Two' },
        ],
        order: things.map((t) => t.id),
        elements: Object.fromEntries(things.map((t) => [t.id, t])),
        placements: Object.fromEntries(things.map((t) => [t.id, { at: { x: 0, y: 0 }, sheet: 'one' }])),
        ...more,
    }
}

describe('the health list', () => {
    const problem = (more: Partial<Problem>): Problem => ({
        code: 'x',
        sentence: 'Something is so.',
        element: null,
        field: null,
        from: null,
        length: null,
        severity: 'remark',
        ...more,
    })

    it('says so when all is well', async () => {
        fill([thing('a')])
        await show(HealthList)
        expect(harness.host.textContent).toContain('Nothing is missing')
    })

    it('puts what is missing first, leads to its place, and mends as one edit', async () => {
        fill([thing('a'), thing('b')], {
            problems: [
                problem({ sentence: 'a remark', element: 'a' }),
                problem({
                    sentence: 'a gap',
                    element: 'b',
                    severity: 'missing',
                    remedy: {
                        words: 'Fill it',
                        edits: [
                            { kind: 'formula', id: 'b', text: '1' },
                            { kind: 'unit', id: 'b', text: 'm' },
                        ],
                    },
                }),
            ],
            health: [
                problem({
                    code: 'health.unused',
                    sentence: 'still',
                    element: 'a',
                    remedy: { words: 'Make it a parameter', edits: [{ kind: 'become', id: 'a', element: 'parameter' }] },
                }),
            ],
        })
        await show(HealthList)
        expect([...harness.host.querySelectorAll('h2')].map((h) => h.textContent)).toEqual(['1 thing missing', 'Remarks', 'Worth a look'])
        button('Fill it')?.click()
        await settle()
        button('Make it a parameter')?.click()
        await settle()
        expect(harness.sent).toEqual([
            {
                kind: 'together',
                words: 'Fill it',
                edits: [
                    { kind: 'formula', id: 'b', text: '1' },
                    { kind: 'unit', id: 'b', text: 'm' },
                ],
            },
            { kind: 'become', id: 'a', element: 'parameter' },
        ])
        harness.host.querySelector<HTMLButtonElement>('.what.missing')?.click()
        expect(useView().selection).toEqual(['b'])
    })

    it('tells what the run tells, and shows long lists in parts', async () => {
        fill([thing('a')], { health: Array.from({ length: 45 }, (_, i) => problem({ sentence: `number ${i}`, element: 'a' })) })
        useRuns().shown = { notices: [{ code: 'flow.still', element: 'a', time: 0, sentence: 'is zero throughout' }] } as never
        await show(HealthList)
        expect(harness.host.textContent).toContain('is zero throughout')
        expect(harness.host.querySelectorAll('.what')).toHaveLength(31)
        button('15 more')?.click()
        await nextTick()
        expect(harness.host.querySelectorAll('.what')).toHaveLength(46)
    })
})

describe('several selected things', () => {
    it('are moved to a sheet, to a new one, plotted and grouped', async () => {
        fill([thing('a'), thing('b')])
        useView().select('a', 'b')
        await show(SelectionCard)
        expect(harness.host.textContent).toContain('2 selected')
        button('Two')?.click()
        await settle()
        expect(harness.sent[0]).toEqual({ kind: 'to-sheet', ids: ['a', 'b'], sheet: 'two' })
        button('Small plots')?.click()
        expect(harness.sent[1]).toEqual({ kind: 'plot', ids: ['a', 'b'], shown: true })
        button('Align left edges')?.click()
        expect(useView().asked).toBe('left')
    })

    it('an echo among them stands for its thing', async () => {
        fill([thing('a')], { echoes: { e: { element: 'a', at: { x: 0, y: 0 }, sheet: 'one' } } })
        useView().select('a', 'e')
        expect(useView().selectedThings).toEqual(['a'])
    })

    it('have a group when all are in the same', async () => {
        fill([thing('a'), thing('b')], { groups: [{ name: 'Shore', tint: 'sky', members: ['a', 'b'] }] })
        await show(GroupField, { ids: ['a', 'b'] })
        expect(harness.host.querySelector<HTMLInputElement>('input')?.value).toBe('Shore')
        expect(button('sky')?.getAttribute('aria-pressed')).toBe('true')
        button('clay')?.click()
        expect(harness.sent).toEqual([{ kind: 'group', ids: ['a', 'b'], name: 'Shore', tint: 'clay' }])
    })
})

describe('a link', () => {
    const links = (sign: string | null, kind: 'now' | 'unused' = 'now') => ({
        links: [{ from: 'a', to: 'b', kind, sign: sign as '+' | null }],
    })

    it('says which way it acts, and who says so', async () => {
        fill([thing('a'), thing('b')], links('+'))
        useView().link = 'a>b'
        await show(LinkCard)
        expect(harness.host.textContent).toContain('More a makes more b')
        expect(harness.host.textContent).toContain('The formula says so')
    })

    it('takes its sign from the run where the formula leaves it open', async () => {
        fill([thing('a'), thing('b')], links(null))
        useView().link = 'a>b'
        useEffects().signs = { 'a>b': '±' }
        await show(LinkCard)
        expect(harness.host.textContent).toContain('the sign changed during the last run')
        expect(harness.host.textContent).toContain('Seen in the last run')
        expect(useEffects().signOf('x>y', undefined)).toBe('')
    })

    it('that is not used yet can be removed', async () => {
        fill([thing('a'), thing('b')], links(null, 'unused'))
        useView().link = 'a>b'
        await show(LinkCard)
        button('Remove it')?.click()
        expect(harness.sent).toEqual([{ kind: 'disconnect', from: 'a', to: 'b' }])
    })
})

describe('commands', () => {
    const words = () => useCommands().value.map((c) => c.words)

    it('offer what makes sense at the moment', () => {
        fill([thing('a'), thing('b')])
        expect(words()).toContain('Open the sheet Two')
        expect(words()).not.toContain('Align left edges')
        useView().select('a')
        expect(words()).toContain('Rename a')
        useView().select('a', 'b')
        expect(words()).toContain('Align left edges')
        expect(words()).not.toContain('Rename a')
        expect(new Set(words()).size).toBe(words().length)
    })

    it('do what they say', () => {
        fill([thing('a')])
        const run = (w: string) => {
            useCommands()
                .value.find((c) => c.words === w)
                ?.run()
        }
        run('Open the atlas')
        expect(useView().stage).toBe('atlas')
        run('Tidy up this sheet')
        expect([useView().stage, useView().asked]).toEqual(['sheet', 'tidy'])
        run('Add a stock')
        expect(useView().wanted).toBe('stock')
    })

    it('lead to what is tried, and keep what is seen', () => {
        fill([thing('a')])
        const run = (w: string) => {
            useCommands()
                .value.find((c) => c.words === w)
                ?.run()
        }
        useView().select('a')
        run('Save this sheet as a finding')
        expect(harness.sent.at(-1)).toMatchObject({
            kind: 'finding',
            title: 'One',
            view: { kind: 'sheet', sheet: 'one', selection: ['a'] },
        })
        run('Show or hide the track of a')
        expect(harness.sent.at(-1)).toEqual({ kind: 'track', id: 'a', shown: true })
        run('Why does a change? Follow the causes')
        expect([useView().stage, useView().trail, useView().place]).toEqual(['trail', 'a', 'try'])
        run('Open the logbook')
        expect(useView().stage).toBe('logbook')
        expect(words()).not.toContain('All dials and hands back to the base')
        const runs = useRuns()
        vi.spyOn(runs, 'refresh').mockResolvedValue(undefined)
        runs.present = { parameters: { a: 2 }, grips: {} }
        run('Reset dials and hands to the model’s values')
        expect(runs.tried).toBe(false)
    })
})

describe('the history', () => {
    it('compares a version with the present one and brings one thing back', async () => {
        fill([thing('a', { formula: '2' })])
        const model = useModel()
        model.revision = 1
        vi.spyOn(api, 'history').mockResolvedValue({
            entries: [{ revision: 1, kind: 'edit', words: '`a`: 1 → 2', by: 'Mara', at: '2031-04-01T10:00:00Z', undone: false }],
            milestones: [{ revision: 0, name: 'As it came' }],
            more: false,
        })
        vi.spyOn(api, 'version').mockResolvedValue({ ...model.model, elements: { a: thing('a', { formula: '1' }) } })
        vi.spyOn(api, 'comparison').mockResolvedValue([
            {
                what: 'changed',
                key: 'elements/a',
                element: 'a',
                name: 'a',
                kind: 'auxiliary',
                fields: [{ field: 'formula', was: '1', now: '2' }],
            },
        ])
        const restore = vi.spyOn(model, 'restore').mockResolvedValue(true)
        await show(HistoryStage)
        await settle()
        expect(harness.host.textContent).toContain('As it came')
        ;[...harness.host.querySelectorAll<HTMLButtonElement>('.pick')].at(-1)?.click()
        await settle()
        await settle()
        expect(harness.host.querySelector('.versions h2')?.textContent).toContain('As it came compared with now')
        expect(harness.words()).toContain('formula 1 → 2')
        expect(harness.host.querySelectorAll('.picture .changed')).not.toHaveLength(0)
        button('Bring back')?.click()
        expect(restore).toHaveBeenCalledWith(0, ['a'])
        button('Go back to As it came')?.click()
        expect(restore).toHaveBeenLastCalledWith(0, undefined)
    })
})

describe('the feedback loops', () => {
    const loop = (name: string, path: string[]) => ({
        name,
        polarity: '-' as const,
        delayed: name === 'B2',
        path,
        story: [`Begin with more \`${path[0]}\`.`, 'This works against what began it: the loop is balancing.'],
    })

    it('are asked for when somebody opens them, told step by step, and selected on the sheet', async () => {
        fill([thing('kelp'), thing('urchins'), thing('grazing')])
        const asked = vi
            .spyOn(api, 'loops')
            .mockResolvedValue({ complete: true, loops: [loop('B1', ['kelp', 'urchins']), loop('B2', ['grazing', 'kelp'])] })
        await show(FeedbackLoops)
        expect(asked).not.toHaveBeenCalled()
        useView().loops = { open: true, told: '' }
        await settle()
        expect(harness.host.textContent).toContain('kelp → urchins → kelp')
        expect(harness.host.textContent).toContain('balancing, late')
        harness.host.querySelector<HTMLElement>('.loop')?.click()
        await settle()
        expect(harness.host.querySelector('ol')?.textContent).toContain('Begin with more kelp.')
        button('Select it on the sheet')?.click()
        await settle()
        expect(useView().selection).toEqual(['kelp', 'urchins'])
        expect(useView().sheet).toBe('one')

        useModel().revision += 1
        await settle()
        expect(asked).toHaveBeenCalledTimes(2)
    })

    it('says that there is none, that there are more, and why none can be told', async () => {
        fill([thing('kelp')])
        const asked = vi.spyOn(api, 'loops').mockResolvedValue({ complete: true, loops: [] })
        await show(FeedbackLoops)
        useView().loops = { open: true, told: '' }
        await settle()
        expect(harness.host.textContent).toContain('Nothing acts back on itself')
        asked.mockResolvedValue({ complete: false, loops: [loop('B1', ['kelp'])] })
        useModel().revision += 1
        await settle()
        expect(harness.host.textContent).toContain('There are more than 1')
        asked.mockRejectedValue(new Error('The server does not answer.'))
        useModel().revision += 1
        await settle()
        expect(harness.host.querySelector('[role=alert]')?.textContent).toBe('The server does not answer.')
    })

    it('are shown in parts where they are many, and as the few that make up all', async () => {
        fill([thing('kelp')])
        const many = Array.from({ length: 42 }, (_, i) => loop(`B${i + 1}`, ['kelp', `other ${i}`]))
        const asked = vi
            .spyOn(api, 'loops')
            .mockImplementation((_id, _run, few) => Promise.resolve({ complete: true, loops: few ? many.slice(0, 2) : many }))
        await show(FeedbackLoops)
        useView().loops = { open: true, told: '' }
        await settle()
        const rows = () => harness.host.querySelectorAll('.loop').length
        expect(rows()).toBe(30)
        expect(harness.host.querySelector('[role=status]')?.textContent).toContain('those of this run')
        button('12 more')?.click()
        await settle()
        expect(rows()).toBe(42)
        harness.host.querySelector<HTMLElement>('input[type=checkbox]')?.click()
        await settle()
        expect(asked.mock.lastCall?.[2]).toBe(true)
        expect(rows()).toBe(2)

        useView().loops = { open: false, told: '' }
        await settle()
        useModel().revision += 1
        await settle()
        expect(asked).toHaveBeenCalledTimes(2)
    })
})
