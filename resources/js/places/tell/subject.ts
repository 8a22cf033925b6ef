import type { Comment } from '@/api/people'
import type { Model } from '@/api/types'

/** What a comment is about, in words, and whether it is still there; undefined for the study as a whole. */
export function subjectOf(
    model: Model,
    { about, subject, time }: Comment,
    moment: (time: number) => string,
): { words: string; there: boolean } | undefined {
    if (about === 'study') {
        return undefined
    }
    if (about === 'plot') {
        const plot = model.plots[subject]
        const of = plot?.of.map((id) => model.elements[id]?.name ?? '').filter(Boolean)
        return { words: plot ? `The plot “${plot.name || of?.join(', ')}”` : 'A plot that is gone', there: plot !== undefined }
    }
    const names = subject.split('>').map((id) => model.elements[id]?.name)
    if (names.some((n) => n === undefined)) {
        return { words: about === 'link' ? 'A link that is gone' : 'Something that is gone', there: false }
    }
    return { words: names.join(' → ') + (about === 'moment' && time !== null ? ` at ${moment(time)}` : ''), there: true }
}
