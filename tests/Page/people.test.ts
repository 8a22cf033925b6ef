import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { ProblemError } from '@/api/client'
import { people, type Comment, type Since } from '@/api/people'
import SinceNote from '@/card/SinceNote.vue'
import { initials } from '@/people/initials'
import { sinceWords } from '@/people/when'
import { subjectOf } from '@/places/tell/subject'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useSince } from '@/stores/since'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'
import TalkPart from '@/talk/TalkPart.vue'
import { harness } from './harness'
import { aThing, things } from './make'

const { show, settle, button } = harness

const said = (id: string, more: Partial<Comment> = {}): Comment => ({
    id,
    who: 'Ilse Brandt',
    you: false,
    answers: null,
    about: 'thing',
    subject: 'a',
    time: null,
    revision: 1,
    text: `Text of ${id}`,
    at: '2031-04-01T10:00:00Z',
    settled: null,
    ...more,
})

beforeEach(() => {
    harness.begin()
    const model = useModel()
    model.model = { ...model.model, order: ['a', 'b'], elements: things(aThing('a'), aThing('b')) }
    model.id = 'm'
})
afterEach(() => {
    harness.end()
})

describe('people in small', () => {
    it('are the letters of the first name and of the last', () => {
        expect(['Ilse Brandt', 'Mara', 'Jean de la Tour', ' ', '§x', '🐟 Fisher'].map(initials)).toEqual(['IB', 'M', 'JT', '?', '§', '🐟F'])
    })
})

describe('how long ago something was', () => {
    const now = Date.parse('2031-04-10T12:00:00Z')
    it.each([
        ['2031-04-10T11:59:40Z', 'just now'],
        ['2031-04-10T11:58:00Z', '2 minutes ago'],
        ['2031-04-10T09:00:00Z', '3 hours ago'],
        ['2031-04-09T11:00:00Z', 'yesterday'],
        ['2031-04-12T13:00:00Z', 'in 2 days'],
        ['2031-01-01T12:00:00Z', 'January 1, 2031'],
    ])('%s is %s', (at, words) => {
        expect(sinceWords(at, now)).toBe(words)
    })
})

describe('what a comment is about', () => {
    const about = (more: Partial<Comment>) => subjectOf(useModel().model, said('x', more), (t) => `week ${t}`)

    it('is told by names, and as gone where it is', () => {
        expect(about({ about: 'study' })).toBeUndefined()
        expect(about({})).toEqual({ words: 'a', there: true })
        expect(about({ about: 'moment', time: 3 })).toEqual({ words: 'a at week 3', there: true })
        expect(about({ about: 'link', subject: 'a>b' })).toEqual({ words: 'a → b', there: true })
        expect(about({ about: 'link', subject: 'a>c' })).toEqual({ words: 'A link that is gone', there: false })
        expect(about({ subject: 'c' })).toEqual({ words: 'Something that is gone', there: false })
        expect(about({ about: 'plot', subject: 'p' })).toEqual({ words: 'A plot that is gone', there: false })
    })
})

describe('comments', () => {
    it('come together as threads, those that wait for an answer apart', async () => {
        vi.spyOn(people, 'comments').mockResolvedValue([
            said('1'),
            said('2', { subject: 'b', settled: { who: 'Mara', at: '2031-04-02T10:00:00Z' } }),
            said('3', { answers: '1', you: true }),
            said('4', { about: 'moment', time: 2 }),
        ])
        const talk = useTalk()
        await talk.load()
        expect(talk.threads.map((t) => [t.first.id, t.answers.map((a) => a.id)])).toEqual([
            ['1', ['3']],
            ['2', []],
            ['4', []],
        ])
        expect(talk.open.map((t) => t.first.id)).toEqual(['1', '4'])
        // To the first, oneself has answered.
        expect(talk.waiting.map((t) => t.first.id)).toEqual(['4'])
        expect(talk.about('thing', 'a').map((t) => t.first.id)).toEqual(['1', '4'])
        expect(talk.about('link', 'a')).toEqual([])
    })

    it('are read on the card, and of a moment lead to it', async () => {
        vi.spyOn(people, 'comments').mockResolvedValue([
            said('1', { about: 'moment', time: 7 }),
            said('2', { settled: { who: 'Mara', at: '2031-04-02T10:00:00Z' } }),
        ])
        await useTalk().load()
        await show(TalkPart, { about: 'thing', subject: 'a' })
        expect(harness.host.textContent).toContain('Text of 1')
        expect(harness.host.textContent).not.toContain('Text of 2')
        harness.host.querySelector<HTMLElement>('.moment')?.click()
        expect(useView().playhead).toBe(7)
        button('1 settled')?.click()
        await nextTick()
        expect(harness.host.textContent).toContain('Text of 2')
    })

    it('are made of the moment that was shown when the writing began', async () => {
        const comment = vi.spyOn(people, 'comment').mockResolvedValue([said('1')])
        await show(TalkPart, { about: 'thing', subject: 'a' })
        const view = useView()
        view.playhead = 4
        const field = harness.host.querySelector('textarea') as HTMLTextAreaElement
        field.value = 'Why does it dip?'
        field.dispatchEvent(new Event('input'))
        await nextTick()
        view.playhead = 9
        harness.host.querySelector<HTMLInputElement>('input[type=checkbox]')?.click()
        await nextTick()
        harness.host.querySelector('form')?.dispatchEvent(new Event('submit'))
        await settle()
        expect(comment).toHaveBeenCalledWith('m', { about: 'moment', subject: 'a', text: 'Why does it dip?', time: 4 })
        expect(field.value).toBe('')
    })

    it('stay as they were typed where they are refused', async () => {
        vi.spyOn(people, 'comment').mockRejectedValue(new ProblemError(422, 'request', 'Say something.', {}))
        await show(TalkPart, { about: 'thing', subject: 'a' })
        const field = harness.host.querySelector('textarea') as HTMLTextAreaElement
        field.value = 'x'
        field.dispatchEvent(new Event('input'))
        await nextTick()
        harness.host.querySelector('form')?.dispatchEvent(new Event('submit'))
        await settle()
        expect(field.value).toBe('x')
        expect(useNotices().all.map((n) => n.words)).toEqual(['Say something.'])
    })

    it('offer nothing to who only reads', async () => {
        vi.spyOn(people, 'comments').mockResolvedValue([said('1')])
        useModel().may = 'read'
        await useTalk().load()
        await show(TalkPart, { about: 'thing', subject: 'a' })
        expect(harness.host.textContent).toContain('Text of 1')
        expect(harness.host.querySelector('textarea')).toBeNull()
        expect(harness.host.textContent).not.toContain('Answer')
    })
})

describe('what happened since one was last here', () => {
    const news: Since = {
        before: '2031-04-01T10:00:00Z',
        revision: 3,
        changes: [{ name: 'Ilse', count: 12, words: ['Renamed `a`', '`b`: 1 → 2'] }],
        comments: 2,
    }

    it('is told in words until it was read', async () => {
        vi.spyOn(people, 'visit').mockResolvedValue(news)
        await useSince().visit()
        await show(SinceNote)
        expect(harness.host.textContent).toContain('Ilse made 12 changes, of which these are the last:')
        expect(harness.host.textContent).toContain('2 comments were made.')
        button('I have read it')?.click()
        await nextTick()
        expect(harness.host.textContent?.trim()).toBe('')
    })

    it('is nothing where nobody did anything', async () => {
        vi.spyOn(people, 'visit').mockResolvedValue({ ...news, changes: [], comments: 0 })
        await useSince().visit()
        expect(useSince().since).toBeNull()
    })
})
