import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { ProblemError } from '@/api/client'
import { rooms, type RoomShown } from '@/api/room'
import { shown, type Shown, type ShownInput, type ShownLink, type ShownPage } from '@/api/shown'
import FramePart from '@/places/tell/FramePart.vue'
import LinksPart from '@/places/tell/LinksPart.vue'
import ReportStage from '@/places/tell/ReportStage.vue'
import SendBack from '@/places/tell/SendBack.vue'
import { SECTIONS, useReport } from '@/places/tell/useReport'
import { useShowcases } from '@/places/tell/useShowcases'
import LikelyPicture from '@/reader/LikelyPicture.vue'
import PhonePage from '@/reader/PhonePage.vue'
import ReaderArticle from '@/reader/ReaderArticle.vue'
import ReaderInput from '@/reader/ReaderInput.vue'
import ReaderStanding from '@/reader/ReaderStanding.vue'
import ReaderStep from '@/reader/ReaderStep.vue'
import { useModel } from '@/stores/model'
import { harness } from './harness'
import { aThing, things } from './make'

const { show, settle, button, words } = harness

const input = (more: Partial<ShownInput> = {}): ShownInput => ({
    id: 'price',
    kind: 'dial',
    words: 'A crossing costs',
    hint: '',
    low: 10,
    high: 90,
    step: 5,
    lowWords: 'almost a gift',
    highWords: '',
    choices: [],
    unit: 'crown',
    likely: null,
    ...more,
})
const page = (more: Partial<ShownPage> = {}): ShownPage => ({
    id: 'guests',
    study: 'Ferry season',
    title: 'How many?',
    lead: '',
    turned: true,
    version: 3,
    may: 'try',
    time: { start: 0, end: 12, unit: 'month', step: 0.25, method: 'Euler' },
    steps: [
        { id: 'one', title: 'First', words: 'Look.', inputs: ['price'] },
        { id: 'two', title: 'Then', words: '', inputs: [] },
    ],
    inputs: [input()],
    blocks: [{ id: 'says', kind: 'text', step: '', words: '{most} come.', width: 12, stands: null }],
    ...more,
})
const answer = (step: string, value: number, author = 30): Shown => ({
    step,
    inputs: { price: value },
    author: { price: author },
    times: [0, 1],
    blocks: {
        says: {
            numbers: { most: { value: 100 * value, unit: 'person' } },
            author: value === author ? null : { most: { value: 100 * author, unit: 'person' } },
        },
    } as Shown['blocks'],
})
const link = (more: Partial<ShownLink> = {}): ShownLink => ({
    id: '01h00000000000000000000000',
    showcase: 'guests',
    name: 'the council',
    may: 'try',
    hosts: [],
    address: null,
    version: null,
    locked: false,
    until: null,
    over: false,
    opened: 0,
    openedAt: null,
    made: '2031-04-01T10:00:00Z',
    ...more,
})

beforeEach(() => {
    harness.begin()
    const model = useModel()
    model.model = { ...model.model, name: 'Ferry season', order: ['a'], elements: things(aThing('a')) }
    model.id = 'm'
    model.study = 's'
    model.may = 'own'
})
afterEach(() => {
    vi.useRealTimers()
    harness.end()
})

describe('what readers move', () => {
    const moved = vi.fn()
    const shows = (more: Partial<ShownInput>, value: number, rest: Record<string, unknown> = {}) =>
        show(ReaderInput, { input: input(more), author: 30, fixed: false, modelValue: value, 'onUpdate:modelValue': moved, ...rest })
    beforeEach(() => moved.mockClear())

    it('says its value, its ends, and where the author left it once it was moved', async () => {
        await shows({}, 30)
        expect(words()).toContain('A crossing costs')
        expect(words()).toContain('30 crown')
        expect(words()).toContain('10, almost a gift')
        expect(words()).not.toContain('author')
        harness.leave()
        await shows({}, 45)
        expect(words()).toContain('author: 30')
    })

    it('is a switch between two values with words of their own', async () => {
        await shows({ kind: 'switch', low: 1, high: 2, lowWords: 'one boat', highWords: 'two boats' }, 1, { author: 2 })
        const turn = harness.host.querySelector<HTMLElement>('[role=switch]')
        expect(turn?.getAttribute('aria-checked')).toBe('false')
        expect(words()).toContain('one boat')
        expect(words()).toContain('author: two boats')
        turn?.click()
        expect(moved).toHaveBeenCalledWith(2)
    })

    it('is a number that goes no further than the page lets it', async () => {
        await shows({ kind: 'number' }, 30)
        const field = harness.host.querySelector('input') as HTMLInputElement
        for (const [typed, then] of [
            ['50', 50],
            ['1000', 90],
            ['-4', 10],
        ] as const) {
            field.value = typed
            field.dispatchEvent(new Event('change'))
            expect(moved).toHaveBeenLastCalledWith(then)
        }
        moved.mockClear()
        field.value = 'much'
        field.dispatchEvent(new Event('change'))
        expect(moved).not.toHaveBeenCalled()
    })

    it('is a list in which the author’s choice is marked where another was taken', async () => {
        const choices = [
            { words: 'never', value: 20 },
            { words: 'soon', value: 30 },
        ]
        await shows({ kind: 'list', choices }, 20)
        expect([...harness.host.querySelectorAll('label')].map((l) => l.textContent?.replace(/\s+/g, ' ').trim())).toEqual([
            'never',
            'soon the author’s',
        ])
    })

    it('cannot be moved where readers may only look', async () => {
        await shows({ kind: 'switch', low: 1, high: 2 }, 1, { fixed: true })
        expect(harness.host.querySelector<HTMLButtonElement>('[role=switch]')?.disabled).toBe(true)
    })

    it('tells how likely its values are when it is asked', async () => {
        const likely = {
            law: 'normal(40, 5)',
            density: [
                [30, 0.01],
                [40, 0.08],
                [50, 0.01],
            ],
            low: 31.8,
            middle: 40,
            high: 48.2,
        }
        await shows({ likely: likely as ShownInput['likely'] }, 30)
        expect(harness.host.querySelector('figure')).toBeNull()
        button('How likely is it?')?.click()
        await nextTick()
        expect(words()).toContain('As likely above 40 as below; nine times in ten between 31.8 and 48.2 crown.')
    })

    it('draws how likely they are over the very span of the dial', async () => {
        const likely = {
            law: '',
            density: [
                [10, 0],
                [50, 1],
                [90, 0],
            ],
            low: 20,
            middle: 50,
            high: 80,
        }
        await show(LikelyPicture, { input: input({ likely: likely as ShownInput['likely'] }), value: 30 })
        const path = harness.host.querySelector('path')?.getAttribute('d') ?? ''
        expect(path).toMatch(/^M0\.00 46L0\.00 46\.00L50\.00 4\.00L100\.00 46\.00L100\.00 46Z$/)
        // The mark stands where the dial does: a quarter of the way from 10 to 90.
        expect(harness.host.querySelector('line')?.getAttribute('x1')).toBe('25')
    })
})

describe('a step of a page', () => {
    it('asks for what is moved once the answer before is there, and only for the last of it', async () => {
        const asked: number[] = []
        let free: (() => void)[] = []
        const ask = vi.fn(({ inputs }: { inputs: Record<string, number> }) => {
            asked.push(inputs.price ?? 30)
            return new Promise<Shown>((done) => {
                free.push(() => {
                    done(answer('one', inputs.price ?? 30))
                })
            })
        })
        const p = page()
        await show(ReaderStep, { page: p, step: p.steps[0], at: '1 of 2', ask })
        expect(harness.host.querySelector('section')?.getAttribute('aria-busy')).toBe('true')
        free[0]?.()
        await settle()
        expect(words()).toContain('3,000')
        const dial = harness.host.querySelector<HTMLElement>('[role=slider]')
        for (let i = 0; i < 3; i++) {
            dial?.dispatchEvent(new KeyboardEvent('keydown', { code: 'ArrowRight', bubbles: true }))
            await nextTick()
        }
        expect(asked).toEqual([30, 35])
        free[1]?.()
        await settle()
        expect(asked).toEqual([30, 35, 45])
        free[2]?.()
        free = []
        await settle()
        expect(words()).toContain('4,500')
        button('Back to the author’s setting')?.click()
        await settle()
        expect(asked.at(-1)).toBe(30)
    })

    it('says what is wrong and keeps what it showed', async () => {
        const ask = vi.fn().mockResolvedValueOnce(answer('one', 30)).mockRejectedValue(new Error('The run was refused.'))
        const p = page()
        await show(ReaderStep, { page: p, step: p.steps[0], at: '', ask })
        await settle()
        harness.host.querySelector('[role=slider]')?.dispatchEvent(new KeyboardEvent('keydown', { code: 'ArrowRight', bubbles: true }))
        await settle()
        expect(harness.host.querySelector('[role=alert]')?.textContent).toBe('The run was refused.')
        expect(words()).toContain('3,000')
    })

    it('has grips for who writes the page, and none for readers', async () => {
        const p = page()
        const arranging = { move: vi.fn(), widen: vi.fn() }
        const ask = () => Promise.resolve(answer('one', 30))
        await show(ReaderStep, { page: p, step: p.steps[0], at: '', ask })
        await settle()
        expect(harness.host.querySelector('[data-grip]')).toBeNull()
        harness.leave()
        const two = page({ blocks: [...p.blocks, { id: 'more', kind: 'text', step: '', words: 'More.', width: 6, stands: null }] })
        await show(ReaderStep, { page: two, step: two.steps[0], at: '', ask, arranging })
        await settle()
        const grips = harness.host.querySelectorAll('[data-grip]')
        expect(grips).toHaveLength(2)
        grips[1]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }))
        expect(arranging.move).toHaveBeenCalledWith('more', 'says')
        grips[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown' }))
        expect(arranging.move).toHaveBeenLastCalledWith('says', null)
        grips[0]?.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowUp' }))
        expect(arranging.move).toHaveBeenCalledTimes(2)
    })
})

describe('a page', () => {
    it('is turned step by step, or shows all of them', async () => {
        window.HTMLElement.prototype.scrollIntoView = vi.fn()
        const ask = ({ step }: { step: string }) => Promise.resolve(answer(step, 30))
        await show(ReaderArticle, { page: page(), ask })
        await settle()
        expect(words()).toContain('1 of 2')
        expect(words()).toContain('version 3, 12 months, Euler, step 0.25')
        button('Then')?.click()
        await settle()
        expect(words()).toContain('2 of 2')
        button('1: First')?.click()
        await settle()
        expect(words()).toContain('Look.')
        harness.leave()
        await show(ReaderArticle, { page: page({ turned: false }), ask })
        await settle()
        expect(harness.host.querySelectorAll('section.step')).toHaveLength(2)
        expect(harness.host.querySelector('nav')).toBeNull()
    })

    it('shows what stays as it is as pictures in which nothing can act, and loops in sentences', async () => {
        const svg = '<svg xmlns="http://www.w3.org/2000/svg"><script>alert(1)</script></svg>'
        await show(ReaderStanding, {
            block: {
                id: 'm',
                kind: 'map',
                step: '',
                words: '',
                width: 12,
                stands: {
                    title: 'Two prices',
                    words: 'It **swings**. <script>alert(1)</script>',
                    pictures: [{ svg, alt: 'A map.', caption: 'As drawn.' }],
                    loops: [
                        { name: 'Dues pay for depth', sign: '+', sentences: ['More `dues`.'] },
                        { name: '', sign: '?', sentences: ['It is open.'] },
                    ],
                },
            },
        })
        expect(harness.host.querySelector('img')?.getAttribute('src')).toMatch(/^data:image\/svg\+xml;charset=utf-8,%3Csvg/)
        expect(harness.host.querySelector('script')).toBeNull()
        expect(harness.host.querySelector('strong')?.textContent).toBe('swings')
        expect(words()).toContain('Dues pay for depth, a loop that feeds itself')
        expect(words()).toContain('It is open.')
    })
})

describe('links to pages', () => {
    it('are told once, and listed with what they let do', async () => {
        vi.spyOn(shown, 'links').mockResolvedValue([
            link({ opened: 2, openedAt: '2031-04-01T10:00:00Z', locked: true, version: 7 }),
            link({ id: 'x', showcase: 'another' }),
        ])
        const make = vi.spyOn(shown, 'makeLink').mockResolvedValue({ ...link({ id: 'new' }), key: 'abc' })
        await show(LinksPart, { showcase: 'guests' })
        await settle()
        expect(harness.host.querySelectorAll('section.card')).toHaveLength(1)
        expect(words()).toContain('may look and try · opened 2 times')
        expect(words()).toContain('shows version 7')
        expect(words()).toContain('with a password')
        button('Make a link')?.click()
        await settle()
        expect(make.mock.calls[0]?.[1]).toEqual({
            showcase: 'guests',
            name: '',
            may: 'try',
            until: null,
            password: null,
            address: null,
            stays: false,
        })
        expect(words()).toContain('http://127.0.0.1/see#abc')
    })

    it('of a whole study have no readable address and stand in no frame', async () => {
        vi.spyOn(shown, 'links').mockResolvedValue([link({ showcase: '' })])
        await show(LinksPart, { showcase: '' })
        await settle()
        expect(words()).not.toContain('A readable address')
        expect(words()).not.toContain('within another page')
        expect(words()).toContain('reads the whole study')
    })

    it('are shown in pages of others by what those need', async () => {
        const hosts = vi.spyOn(shown, 'hosts').mockResolvedValue(link())
        const changed = vi.fn()
        useModel().model = { ...useModel().model, name: 'A "ferry"' }
        await show(FramePart, { link: link({ hosts: ['https://school.example'] }), known: 'abc', onChanged: changed })
        const line = harness.host.querySelector<HTMLTextAreaElement>('textarea')?.value ?? ''
        expect(line).toContain('src="http://127.0.0.1/embed/01h00000000000000000000000#abc"')
        expect(line).toContain('title="A &quot;ferry&quot;"')
        expect(line).toMatch(/<script src="http:\/\/127\.0\.0\.1\/embed\.js" async><\/script>$/)
        button('Show it within another page…')?.click()
        await nextTick()
        const field = harness.host.querySelector('textarea') as HTMLTextAreaElement
        field.value = 'https://a.example\n https://b.example,'
        field.dispatchEvent(new Event('input'))
        await nextTick()
        button('Let them')?.click()
        await settle()
        expect(hosts).toHaveBeenCalledWith('s', '01h00000000000000000000000', ['https://a.example', 'https://b.example'])
        expect(changed).toHaveBeenCalled()
        harness.leave()
        await show(FramePart, { link: link({ hosts: ['https://school.example'] }), known: '' })
        expect(words()).toContain('make a new link for them')
    })

    it('of a copy are sent back', async () => {
        vi.spyOn(shown, 'sendBack').mockResolvedValue('key')
        await show(SendBack, { study: 's', origin: { name: 'Ferry season', revision: 4 } })
        expect(words()).toContain('a copy of Ferry season, version 4')
        button('Send it back…')?.click()
        await settle()
        expect(words()).toContain('http://127.0.0.1/back#key')
    })
})

describe('the blocks of a page that is written', () => {
    it('are put before others, or last', async () => {
        const model = useModel()
        const blocks = ['a', 'b', 'c'].map((id) => ({ id, kind: 'text' as const, words: id }))
        model.model = { ...model.model, showcases: { p: { id: 'p', title: 'P', blocks } } }
        const pages = useShowcases()
        const order = () => (harness.sent.at(-1) as unknown as { fields: { blocks: { id: string }[] } }).fields.blocks.map((b) => b.id)
        await pages.putBefore('c', 'a')
        expect(order()).toEqual(['c', 'a', 'b'])
        await pages.putBefore('a', null)
        expect(order()).toEqual(['b', 'c', 'a'])
        const before = harness.sent.length
        await pages.putBefore('gone', 'a')
        expect(harness.sent).toHaveLength(before)
    })
})

describe('a report', () => {
    const made = { revision: 0, of: 'Of the model Ferry season, version 0.', html: '<p>It</p>' }

    it('tells everything until something of it is changed, which makes it a part of the study', async () => {
        const report = useReport()
        expect(report.sections.map((s) => s.kind)).toEqual(SECTIONS.map((s) => s.kind))
        await report.turn('data', false)
        expect(harness.sent.at(-1)).toMatchObject({
            kind: 'put',
            part: 'reports',
            id: 'report',
            fields: { id: 'report', title: 'Ferry season' },
        })
    })

    it('has sections turned on where they usually stand, moved, and said', async () => {
        const model = useModel()
        const sections = [{ kind: 'runs' as const }, { kind: 'question' as const, words: 'Why?' }, { kind: 'history' as const }]
        model.model = { ...model.model, reports: { r: { id: 'r', title: 'R', sections } } }
        const report = useReport()
        const kinds = () =>
            (harness.sent.at(-1) as unknown as { fields: { sections: { kind: string }[] } }).fields.sections.map((s) => s.kind)
        await report.turn('tests', true)
        expect(kinds()).toEqual(['runs', 'question', 'tests', 'history'])
        await report.turn('question', false)
        expect(kinds()).toEqual(['runs', 'history'])
        await report.move('history', -1)
        expect(kinds()).toEqual(['runs', 'history', 'question'])
        await report.move('runs', -1)
        expect(kinds()).toEqual(['runs', 'question', 'history'])
        await report.change('runs', { words: 'Look.' })
        expect(harness.sent.at(-1)).toMatchObject({ fields: { sections: [{ kind: 'runs', words: 'Look.' }, { words: 'Why?' }, {}] } })
    })

    it('is made when it is opened, and made anew when it is asked for after the model has changed', async () => {
        const make = vi.spyOn(shown, 'report').mockResolvedValue(made)
        const model = useModel()
        model.revision = 0
        await show(ReportStage)
        await settle()
        expect(make).toHaveBeenCalledWith('m', null)
        const frame = harness.host.querySelector('iframe')
        expect(frame?.getAttribute('srcdoc')).toBe('<p>It</p>')
        // Nothing in it runs.
        expect(frame?.getAttribute('sandbox')).not.toContain('allow-scripts')
        expect(words()).not.toContain('make it anew')
        model.revision = 1
        await nextTick()
        button('The model has changed since: make it anew')?.click()
        await settle()
        expect(make).toHaveBeenCalledTimes(2)
    })

    it('says what is wrong', async () => {
        vi.spyOn(shown, 'report').mockRejectedValue(new Error('It took too long.'))
        await show(ReportStage)
        await settle()
        expect(harness.host.querySelector('[role=alert]')?.textContent).toBe('It took too long.')
    })
})

describe('a phone in a room', () => {
    const told = (more: Partial<RoomShown> = {}): RoomShown => ({
        step: 'factors',
        question: 'Why?',
        factors: [
            { id: 'b', name: 'waves' },
            { id: 'a', name: 'silt' },
        ],
        pairs: [],
        link: null,
        ...more,
    })

    it('has one number for itself, for as long as the browser keeps it', async () => {
        const come = vi.spyOn(rooms, 'come')
        vi.spyOn(rooms, 'shown').mockResolvedValue(told())
        await show(PhonePage, { code: 'ABC234' })
        await settle()
        harness.leave()
        await show(PhonePage, { code: 'abc234' })
        expect(come.mock.calls[0]?.[0]).toBe('abc234')
        expect(come.mock.calls[0]?.[1]).toMatch(/^[0-9a-f]{32}$/)
        expect(come.mock.calls[1]).toEqual(come.mock.calls[0])
    })

    it('names factors, and hears when one is there already', async () => {
        vi.spyOn(rooms, 'shown').mockResolvedValue(told())
        const name = vi
            .spyOn(rooms, 'name')
            .mockResolvedValueOnce(told({ back: '' }))
            .mockResolvedValue(told({ back: '“silt” is there already.' }))
        await show(PhonePage, { code: 'abc234' })
        await settle()
        const field = harness.host.querySelector('input') as HTMLInputElement
        for (const text of ['sand', 'silt']) {
            field.value = text
            field.dispatchEvent(new Event('input'))
            await nextTick()
            button('Put it on the wall')?.click()
            await settle()
        }
        expect(name.mock.calls).toEqual([['sand'], ['silt']])
        expect(words()).toContain('“silt” is there already.')
        expect([...harness.host.querySelectorAll('li')].map((l) => l.textContent?.trim())).toEqual(['sand'])
    })

    it('votes for pairs and takes a vote back', async () => {
        const pair = { one: 'a', other: 'b', words: 'silt – waves', mine: false }
        vi.spyOn(rooms, 'shown').mockResolvedValue(told({ step: 'pairs', pairs: [pair] }))
        const vote = vi.spyOn(rooms, 'vote').mockResolvedValue(told({ step: 'pairs', pairs: [{ ...pair, mine: true }] }))
        await show(PhonePage, { code: 'abc234' })
        await settle()
        button('silt – waves')?.click()
        await settle()
        expect(vote).toHaveBeenLastCalledWith('a', 'b', true)
        expect(words()).toContain('You voted for 1.')
        button('silt – waves')?.click()
        await settle()
        expect(vote).toHaveBeenLastCalledWith('a', 'b', false)
    })

    it('agrees with a link, and says nothing when it is pressed again', async () => {
        const about = { id: 'l', sentences: ['More `silt`, less depth.'], mine: '' as const }
        vi.spyOn(rooms, 'shown').mockResolvedValue(told({ step: 'links', link: about }))
        const judge = vi.spyOn(rooms, 'judge').mockResolvedValue(told({ step: 'links', link: { ...about, mine: 'agree' } }))
        await show(PhonePage, { code: 'abc234' })
        await settle()
        button('I agree')?.click()
        await settle()
        expect(judge).toHaveBeenLastCalledWith('l', 'agree')
        button('I agree')?.click()
        await settle()
        expect(judge).toHaveBeenLastCalledWith('l', 'nothing')
    })

    it('waits where there is nothing to say, and is told when no room is open', async () => {
        const look = vi.spyOn(rooms, 'shown').mockResolvedValueOnce(told({ step: 'loops' }))
        await show(PhonePage, { code: 'abc234' })
        await settle()
        expect(words()).toContain('Look at the wall')
        harness.leave()
        look.mockRejectedValue(new ProblemError(404, 'not-found', 'Gone.', {}))
        await show(PhonePage, { code: 'abc234' })
        await settle()
        expect(harness.host.querySelector('[role=alert]')?.textContent).toContain('No workshop is open')
    })
})
