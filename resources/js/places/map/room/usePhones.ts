import { useIntervalFn } from '@vueuse/core'
import { computed, shallowRef, watch } from 'vue'
import { rooms, type RoomState } from '@/api/room'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useMap } from '../useMap'
import { useRoom } from './useRoom'

/** What comes in is seen within two seconds. */
const PACE = 1000

/** The phones of a workshop, as long as it is shown: they follow where it is, and what they add is asked for every second. */
export function usePhones() {
    const model = useModel()
    const room = useRoom()
    const notices = useNotices()
    const map = useMap()
    const state = shallowRef<RoomState>({ open: false })
    /** Where nothing was chosen, the room talks about the first link. */
    const about = computed(() => (map.linkOf.has(room.talked) ? room.talked : (map.links[0]?.id ?? '')))
    const place = () => ({ step: room.step, about: about.value })

    async function tried(work: () => Promise<RoomState>) {
        try {
            state.value = await work()
        } catch (error) {
            notices.trouble((error as Error).message)
        }
    }
    if (model.mayEdit) {
        void tried(() => rooms.state(model.id))
    }
    const { pause, resume } = useIntervalFn(
        () => {
            void model.listen()
            // A second that is missed is made up by the next.
            rooms.state(model.id).then(
                (told) => {
                    state.value = told
                },
                () => undefined,
            )
        },
        PACE,
        { immediate: false },
    )
    watch(
        () => state.value.open,
        (open) => {
            if (open) {
                resume()
                void tried(() => rooms.move(model.id, place()))
            } else {
                pause()
            }
        },
    )
    watch([() => room.step, about], () => {
        if (state.value.open) {
            void tried(() => rooms.move(model.id, place()))
        }
    })

    return {
        state,
        address: computed(() => `${window.location.origin}/room/${state.value.code ?? ''}`),
        open: () => tried(() => rooms.open(model.id, place())),
        close: () => tried(() => rooms.close(model.id)),
    }
}
