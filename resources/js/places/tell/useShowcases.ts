import { computed, ref } from 'vue'
import type { ShowcaseRecord } from '@/api/parts'
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
    function changeOf<T extends { id: string }>(list: T[], id: string, fields: Partial<T>): T[] {
        return list.map((one) => (one.id === id ? { ...one, ...fields } : one))
    }
    function movedOf<T extends { id: string }>(list: T[], id: string, by: number): T[] {
        const from = list.findIndex((one) => one.id === id)
        const to = Math.min(list.length - 1, Math.max(0, from + by))
        const moved = [...list]
        const [one] = moved.splice(from, 1)
        return one ? [...moved.slice(0, to), one, ...moved.slice(to)] : list
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
        input: (id: string, fields: Partial<PageInput>) => put({ inputs: changeOf(inputs.value, id, fields) }),
        addInput: (input: PageInput) => put({ inputs: [...inputs.value, input] }),
        dropInput: (id: string) => put({ inputs: inputs.value.filter((i) => i.id !== id) }),
        step: (id: string, fields: Partial<PageStep>) => put({ steps: changeOf(steps.value, id, fields) }),
        addStep: (step: PageStep) => put({ steps: [...steps.value, step], turned: true }),
        dropStep: (id: string) => put({ steps: steps.value.filter((s) => s.id !== id), blocks: blocks.value.filter((b) => b.step !== id) }),
        moveStep: (id: string, by: number) => put({ steps: movedOf(steps.value, id, by) }),
        block: (id: string, fields: Partial<PageBlock>) => put({ blocks: changeOf(blocks.value, id, fields) }),
        addBlock: (block: PageBlock) => put({ blocks: [...blocks.value, block] }),
        dropBlock: (id: string) => put({ blocks: blocks.value.filter((b) => b.id !== id) }),
        /** Before another one, or last. */
        putBefore: (id: string, before: string | null) => {
            const moved = blocks.value.find((b) => b.id === id)
            const others = blocks.value.filter((b) => b.id !== id)
            const at = others.findIndex((b) => b.id === before)
            return moved && put({ blocks: at < 0 ? [...others, moved] : [...others.slice(0, at), moved, ...others.slice(at)] })
        },
        moveBlock: (id: string, by: number) => put({ blocks: movedOf(blocks.value, id, by) }),
        moment: () => view.playhead,
    }
})
