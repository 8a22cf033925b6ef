import { useModel } from '@/stores/model'

/** Text typed but not taken over: it survives leaving the field, a reload, and an edit that was refused. */
export function useTyped() {
    const model = useModel()
    const place = (thing: string) => `merry-orbit:draft:${model.id}:${thing}`

    return {
        of: (thing: string): string | null => localStorage.getItem(place(thing)),
        keep(thing: string, text: string, given: string) {
            try {
                if (text.trim() === given.trim()) {
                    localStorage.removeItem(place(thing))
                } else {
                    localStorage.setItem(place(thing), text)
                }
            } catch {
                // Without storage the draft lives as long as the field.
            }
        },
        drop: (thing: string) => {
            localStorage.removeItem(place(thing))
        },
    }
}
