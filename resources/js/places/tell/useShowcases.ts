import { computed, ref } from 'vue'
import type { ShowcaseRecord } from '@/api/parts'
import { inTurn } from '@/stores/fitting'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { studyStore } from '@/stores/studyStore'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'

export type PageInput = NonNullable<ShowcaseRecord['inputs']>[number]
export type PageStep = NonNullable<ShowcaseRecord['steps']>[number]
export type PageBlock = NonNullable<ShowcaseRecord['blocks']>[number]

/** The pages for readers of the open study, and the one that is being written. */
export const useShowcases = studyStore('showcases', () => {
    const model = useModel()
    const view = useView()
    const notices = useNotices()
    const chosen = ref('')
    const all = computed<ShowcaseRecord[]>(() => Object.values(model.model.showcases ?? {}).sort((a, b) => (a.place ?? 0) - (b.place ?? 0)))
    const page = computed(() => all.value.find((p) => p.id === chosen.value) ?? all.value[0])

    function put(fields: Partial<ShowcaseRecord>, id = page.value?.id ?? '') {
        return model.attempt({ kind: 'put', part: 'showcases', id, fields })
    }
    const turn = inTurn()
    /** What becomes of the page as the act before left it: else two quick ones would undo each other. */
    function act(fields: (now: ShowcaseRecord) => Partial<ShowcaseRecord> | null): Promise<boolean> {
        const id = page.value?.id ?? ''
        return turn(async () => {
            const now = model.model.showcases?.[id]
            const wanted = now ? fields(now) : null
            return wanted !== null && put(wanted, id)
        })
    }
    /** A first page holds what there is to see: what the tracks show. */
    async function make() {
        const id = newId()
        const of = (model.model.tracks[0]?.of ?? []).slice(0, 3)
        const blocks: PageBlock[] = [
            { id: 'words', kind: 'text', words: 'Say here what there is to see.' },
            ...(of.length ? [{ id: 'plot', kind: 'plot' as const, of }] : []),
        ]
        const title = Object.values(model.model.questions ?? {})[0]?.text || model.model.name
        if (await put({ title: title.slice(0, 200), blocks, place: all.value.length }, id)) {
            chosen.value = id
        }
    }
    async function remove() {
        const gone = page.value
        if (gone && (await model.attempt({ kind: 'drop', part: 'showcases', id: gone.id }))) {
            notices.say(`Removed the page “${gone.title}”. Its links lead nowhere meanwhile.`, {
                words: 'Undo',
                run: () => {
                    void model.step('undo')
                },
            })
        }
    }
    /** One of a list with other fields, or a list without it. */
    const inputs = computed(() => page.value?.inputs ?? [])
    const steps = computed(() => page.value?.steps ?? [])
    const blocks = computed(() => page.value?.blocks ?? [])
    function changeOf<T extends { id: string }>(list: readonly T[] = [], id: string, fields: Partial<T>): T[] {
        return list.map((one) => (one.id === id ? { ...one, ...fields } : one))
    }
    const without = <T extends { id: string }>(list: readonly T[] = [], id: string): T[] => list.filter((one) => one.id !== id)
    function movedOf<T extends { id: string }>(list: readonly T[] = [], id: string, by: number): T[] {
        const from = list.findIndex((one) => one.id === id)
        const to = Math.min(list.length - 1, Math.max(0, from + by))
        const moved = [...list]
        const [one] = moved.splice(from, 1)
        return one ? [...moved.slice(0, to), one, ...moved.slice(to)] : [...list]
    }

    return {
        all,
        page,
        inputs,
        steps,
        blocks,
        put,
        make,
        remove,
        choose: (id: string) => {
            chosen.value = id
        },
        nameOf: (id: string) => model.model.elements[id]?.name ?? 'something that is gone',
        input: (id: string, fields: Partial<PageInput>) => act((p) => ({ inputs: changeOf(p.inputs, id, fields) })),
        addInput: (input: PageInput) => act((p) => ({ inputs: [...(p.inputs ?? []), input] })),
        dropInput: (id: string) => act((p) => ({ inputs: without(p.inputs, id) })),
        step: (id: string, fields: Partial<PageStep>) => act((p) => ({ steps: changeOf(p.steps, id, fields) })),
        addStep: (step: PageStep) => act((p) => ({ steps: [...(p.steps ?? []), step], turned: true })),
        dropStep: (id: string) => act((p) => ({ steps: without(p.steps, id), blocks: (p.blocks ?? []).filter((b) => b.step !== id) })),
        moveStep: (id: string, by: number) => act((p) => ({ steps: movedOf(p.steps, id, by) })),
        block: (id: string, fields: Partial<PageBlock>) => act((p) => ({ blocks: changeOf(p.blocks, id, fields) })),
        addBlock: (block: PageBlock) => act((p) => ({ blocks: [...(p.blocks ?? []), block] })),
        dropBlock: (id: string) => act((p) => ({ blocks: without(p.blocks, id) })),
        /** Before another one, or last. */
        putBefore: (id: string, before: string | null) =>
            act((p) => {
                const moved = p.blocks?.find((b) => b.id === id)
                const others = without(p.blocks, id)
                const at = others.findIndex((b) => b.id === before)
                return moved ? { blocks: at < 0 ? [...others, moved] : [...others.slice(0, at), moved, ...others.slice(at)] } : null
            }),
        moveBlock: (id: string, by: number) => act((p) => ({ blocks: movedOf(p.blocks, id, by) })),
        moment: () => view.playhead,
    }
})
