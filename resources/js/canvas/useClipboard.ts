import { api } from '@/api/client'
import type { Point } from '@/api/types'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useView } from '@/stores/view'
import { newId } from '@/ui/ids'

const STORE = 'merry-orbit:clipboard'

/** Copying within a study and between studies, also between windows. The system's clipboard gets the same as a model file. */
export function useClipboard() {
    const model = useModel()
    const view = useView()
    const notices = useNotices()

    async function copy(): Promise<boolean> {
        const ids = view.selectedThings
        if (!ids.length) {
            return false
        }
        try {
            const text = await api.copy(model.id, ids)
            localStorage.setItem(STORE, text)
            await navigator.clipboard.writeText(text).catch(() => undefined)
            notices.say(
                `Copied ${ids.length === 1 ? `“${model.model.elements[ids[0] as string]?.name}”` : `${ids.length} things`}. Ctrl V puts them on any sheet of any study.`,
            )
            return true
        } catch (error) {
            notices.trouble((error as Error).message)
            return false
        }
    }

    async function paste(at: Point) {
        const text = localStorage.getItem(STORE)
        if (!text) {
            notices.say('Nothing was copied yet. Select things and press Ctrl C.')
            return
        }
        const id = newId()
        const before = new Set(model.model.order)
        if (await model.attempt({ kind: 'paste', id, text, at: { x: Math.round(at.x), y: Math.round(at.y) }, sheet: view.sheet })) {
            view.select(...model.model.order.filter((o) => !before.has(o)))
        }
    }

    async function cut() {
        const ids = [...view.selection]
        if (await copy()) {
            view.select()
            await model.remove(ids)
        }
    }

    async function double(at: Point) {
        const ids = view.selectedThings
        if (!ids.length) {
            return
        }
        try {
            const text = await api.copy(model.id, ids)
            const before = new Set(model.model.order)
            if (
                await model.attempt({
                    kind: 'paste',
                    id: newId(),
                    text,
                    at: { x: Math.round(at.x), y: Math.round(at.y) },
                    sheet: view.sheet,
                })
            ) {
                view.select(...model.model.order.filter((o) => !before.has(o)))
            }
        } catch (error) {
            notices.trouble((error as Error).message)
        }
    }

    return { copy, cut, paste, double }
}
