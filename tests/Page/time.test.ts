import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { nextTick } from 'vue'
import { ProblemError } from '@/api/client'
import type { Edit } from '@/api/types'
import TimeCard from '@/card/TimeCard.vue'
import { useModel } from '@/stores/model'
import { harness } from './harness'

beforeEach(() => {
    harness.begin()
})
afterEach(() => {
    harness.end()
})

const field = (name: string) => harness.host.querySelector<HTMLInputElement>(`input[name=${name}]`) as HTMLInputElement

async function write(name: string, value: string) {
    field(name).value = value
    field(name).dispatchEvent(new Event('input'))
    field(name).dispatchEvent(new Event('change'))
    await nextTick()
}

function timesOf(edit: Edit) {
    if (edit.kind !== 'time') {
        throw new Error(`An edit of the ${edit.kind}, not of the time.`)
    }
    return edit
}

/** Edits of a server that takes its time: each is answered when the test says so. */
function slowly() {
    const model = useModel()
    const answers: (() => void)[] = []
    vi.spyOn(model, 'edit').mockImplementation((edit: Edit) => {
        harness.sent.push(edit)
        return new Promise((resolve) => {
            answers.push(() => {
                const time = timesOf(edit)
                model.model = { ...model.model, time: { ...model.model.time, unit: time.unit ?? '', end: time.end, step: time.step } }
                resolve()
            })
        })
    })
    return answers
}

it('what is typed while an earlier edit is on its way is neither put back nor sent as it was', async () => {
    const answers = slowly()
    await harness.show(TimeCard)
    const before = field('end').value
    await write('unit', 'month')
    await write('end', '120')
    answers[0]?.()
    await harness.settle()
    expect(field('end').value).toBe('120')
    await write('step', '0.125')
    expect(harness.sent.map(timesOf).map((e) => [e.unit, e.end])).toEqual([
        ['month', Number(before)],
        ['month', 120],
        ['month', 120],
    ])
    answers[1]?.()
    answers[2]?.()
    await harness.settle()
    expect([field('unit').value, field('end').value, field('step').value]).toEqual(['month', '120', '0.125'])
})

it('what another window changes is filled in once nothing of one’s own is on its way', async () => {
    const answers = slowly()
    await harness.show(TimeCard)
    const model = useModel()
    await write('unit', 'week')
    model.model = { ...model.model, time: { ...model.model.time, startDate: '2031-04-01' } }
    await nextTick()
    answers[0]?.()
    await harness.settle()
    expect([field('unit').value, field('startDate').value]).toEqual(['week', '2031-04-01'])
})

it('what is refused stays where it was typed, with its sentence, until it is put back', async () => {
    vi.spyOn(useModel(), 'edit').mockRejectedValue(new ProblemError(422, 'time', 'The end lies before the start.', { field: 'end' }))
    await harness.show(TimeCard)
    const before = field('end').value
    await write('end', '-5')
    await harness.settle()
    expect([field('end').value, harness.host.querySelector('[role=alert]')?.textContent]).toEqual([
        '-5',
        expect.stringContaining('The end lies before the start.'),
    ])
    harness.button('Put back')?.click()
    await nextTick()
    expect(field('end').value).toBe(before)
})
