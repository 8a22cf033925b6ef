import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import type { ReportRecord, ShowcaseRecord } from '@/api/parts'
import { useReport } from '@/places/tell/useReport'
import { useShowcases } from '@/places/tell/useShowcases'
import { useModel } from '@/stores/model'
import { harness } from './harness'

const block = (id: string, more = {}) => ({ id, kind: 'text' as const, words: id, ...more })
const page = (id: string, more: Partial<ShowcaseRecord> = {}) =>
    ({ id, title: id, place: 0, blocks: ['a', 'b', 'c', 'd'].map((b) => block(b)), ...more }) as ShowcaseRecord

/** The server takes each edit a moment later than it was asked to, and the page hears of it then. */
function slowly() {
    const model = useModel()
    vi.mocked(model.attempt).mockImplementation((async (edit: { part: 'showcases' | 'reports'; id: string; fields: object }) => {
        harness.sent.push(edit as never)
        for (let i = 0; i < 5; i++) {
            await Promise.resolve()
        }
        const part = (model.model[edit.part] ?? {}) as Record<string, object>
        model.model = { ...model.model, [edit.part]: { ...part, [edit.id]: { ...part[edit.id], id: edit.id, ...edit.fields } } }
        return true
    }) as never)
}
const showcase = (id = 'p') => (useModel().model.showcases?.[id] ?? {}) as ShowcaseRecord
const ids = (list: readonly { id: string }[] = []) => list.map((one) => one.id).join('')

beforeEach(() => {
    harness.begin()
    const model = useModel()
    model.model = { ...model.model, showcases: { p: page('p') }, reports: {} }
    slowly()
})
afterEach(() => {
    harness.end()
})

describe('a page for readers', () => {
    it('keeps all that is done to it, however quickly', async () => {
        const pages = useShowcases()
        await Promise.all([pages.dropBlock('b'), pages.dropBlock('d'), pages.block('a', { words: 'Once' }), pages.addBlock(block('e'))])
        expect(ids(showcase().blocks)).toBe('ace')
        expect(showcase().blocks?.[0]).toMatchObject({ words: 'Once' })
        await Promise.all([pages.moveBlock('e', -2), pages.putBefore('a', null), pages.putBefore('c', 'e')])
        expect(ids(showcase().blocks)).toBe('cea')
    })
    it('is the one that was open when it was asked for', async () => {
        const model = useModel()
        model.model = { ...model.model, showcases: { p: page('p'), q: page('q', { place: 1, blocks: [block('z')] as never }) } }
        const pages = useShowcases()
        const one = pages.dropBlock('a')
        const two = pages.dropBlock('b')
        pages.choose('q')
        await Promise.all([one, two])
        expect([ids(showcase('p').blocks), ids(showcase('q').blocks)]).toEqual(['cd', 'z'])
    })
    it('has steps whose blocks go with them, and inputs', async () => {
        const pages = useShowcases()
        await pages.addStep({ id: 's1', title: 'First' } as never)
        await pages.addStep({ id: 's2', title: 'Then' } as never)
        await pages.block('a', { step: 's2' })
        await Promise.all([
            pages.moveStep('s2', -1),
            pages.addInput({ id: 'i1', of: 'rate' } as never),
            pages.input('i1', { words: 'How fast' } as never),
        ])
        expect([ids(showcase().steps), showcase().turned]).toEqual(['s2s1', true])
        expect(showcase().inputs).toEqual([{ id: 'i1', of: 'rate', words: 'How fast' }])
        await Promise.all([pages.dropStep('s2'), pages.dropInput('i1')])
        expect([ids(showcase().steps), ids(showcase().blocks), showcase().inputs]).toEqual(['s1', 'bcd', []])
    })
    it('nothing is sent of a block that is not there', async () => {
        expect(await useShowcases().putBefore('gone', 'a')).toBe(false)
        expect(harness.sent).toEqual([])
    })
})

describe('a report', () => {
    const kinds = () => (Object.values(useModel().model.reports ?? {})[0] as ReportRecord).sections?.map((s) => s.kind) ?? []
    it('keeps all that is done to its sections, and one that is wanted again stands where it usually does', async () => {
        const report = useReport()
        const all = report.sections.map((s) => s.kind)
        const [first = '', second = '', third = ''] = all
        await Promise.all([report.turn(second as never, false), report.turn(first as never, false)])
        expect(kinds()).toEqual(all.slice(2))
        await Promise.all([report.turn(second as never, true), report.change(third as never, { before: 'In short' } as never)])
        expect(kinds()).toEqual(all.slice(1))
        expect(report.sections.find((s) => s.kind === third)).toMatchObject({ before: 'In short' })
        await Promise.all([report.move(second as never, 1), report.move(second as never, 1)])
        expect(kinds().indexOf(second as never)).toBe(2)
        await report.move(third as never, -9)
        expect(kinds()[0]).toBe(third)
    })
})
