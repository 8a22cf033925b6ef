import { computed, type Ref } from 'vue'
import type { Point, Thing } from '@/api/types'
import { actionsOf } from './ringActions'
import { rowBox, type RingSpot } from './ringSpot'
import type { useBends } from './useBends'

interface Ring {
    ringNode: Ref<string | undefined>
    ringThing: Ref<Thing | undefined>
    ringAt: Ref<Point | undefined>
}

interface Geometry {
    spotOfRing: (node: string, buttons: number) => RingSpot | undefined
    reachesOf: (node: string) => { above: number; below: number }
}

/** Where the ring stands beside its thing, and what keeps clear of it. */
export function useRingRoom(
    { ringNode, ringThing, ringAt }: Ring,
    { spotOfRing, reachesOf }: Geometry,
    bent: ReturnType<typeof useBends>['handles'],
) {
    const ringButtons = computed(() => (ringThing.value ? actionsOf(ringThing.value).length : 0))
    const ringSpotNow = computed(() => (ringAt.value && ringNode.value ? spotOfRing(ringNode.value, ringButtons.value) : undefined))
    const ringReach = computed(() => {
        const reaches = ringNode.value ? reachesOf(ringNode.value) : { above: 0, below: 0 }
        return ringSpotNow.value?.below ? reaches.below : reaches.above
    })
    /** Handles of legs that are not bent yet keep clear of the ring. */
    const handles = computed(() =>
        bent.value.map((h) => {
            const ring = ringAt.value
            const row = ring && ringSpotNow.value && rowBox(ringButtons.value, ring, ringReach.value, ringSpotNow.value)
            if (!row || h.set || h.at.x < row.left - 12 || h.at.x > row.right + 12 || h.at.y < row.top - 12 || h.at.y > row.bottom + 12) {
                return h
            }
            return { ...h, at: { x: h.at.x, y: ringSpotNow.value?.below ? row.top - 14 : row.bottom + 14 } }
        }),
    )

    return { ringSpotNow, ringReach, handles }
}
