import { computed, ref, shallowRef, watch } from 'vue'
import { people, type About, type Comment } from '@/api/people'
import { useModel } from './model'
import { useNotices } from './notices'
import { studyStore } from './studyStore'

/** A comment with what answers it. */
export interface Thread {
    first: Comment
    answers: Comment[]
}

/** What people say about the open study. */
export const useTalk = studyStore('talk', () => {
    const model = useModel()
    const notices = useNotices()
    const comments = shallowRef<Comment[]>([])
    const loaded = ref(false)
    const threads = computed<Thread[]>(() =>
        comments.value
            .filter((c) => c.answers === null)
            .map((first) => ({ first, answers: comments.value.filter((c) => c.answers === first.id) })),
    )
    const open = computed(() => threads.value.filter((t) => t.first.settled === null))
    /** How many are open about each thing, by its id: asked for by every shape of a sheet. */
    const openOn = computed(() => {
        const counts = new Map<string, number>()
        for (const { first } of open.value) {
            if (first.about === 'thing' || first.about === 'moment') {
                counts.set(first.subject, (counts.get(first.subject) ?? 0) + 1)
            }
        }
        return counts
    })
    /** Those in which somebody else has the last word. */
    const waiting = computed(() => open.value.filter((t) => !(t.answers.at(-1) ?? t.first).you))

    async function done(work: Promise<Comment[]>): Promise<boolean> {
        try {
            comments.value = await work
            return true
        } catch (error) {
            notices.trouble((error as Error).message)
            return false
        }
    }

    async function load() {
        if (model.id) {
            comments.value = await people.comments(model.id).catch(() => comments.value)
            loaded.value = true
        }
    }
    watch([() => model.loaded, () => model.said], ([there]) => {
        if (there) {
            void load()
        }
    })

    /** Threads about something; those about a moment of it, too. */
    function about(kind: About, subject: string): Thread[] {
        const kinds: About[] = kind === 'thing' ? ['thing', 'moment'] : [kind]
        return threads.value.filter((t) => kinds.includes(t.first.about) && t.first.subject === subject)
    }

    return {
        comments,
        loaded,
        threads,
        open,
        openOn,
        waiting,
        about,
        load,
        say: (kind: About, subject: string, text: string, time: number | null = null) =>
            done(people.comment(model.id, { about: kind, subject, text, time })),
        answer: (to: Comment, text: string) => done(people.comment(model.id, { answers: to.id, text })),
        reword: (one: Comment, text: string) => done(people.changeComment(model.id, one.id, { text })),
        settle: (one: Comment, settled: boolean) => done(people.changeComment(model.id, one.id, { settled })),
        drop: (one: Comment) => done(people.dropComment(model.id, one.id)),
    }
})
