import type { ElkNode } from 'elkjs/lib/elk-api'
import ElkApi from 'elkjs/lib/elk-api'
import workerUrl from 'elkjs/lib/elk-worker.min.js?url'
import type { Point } from '@/api/types'

export interface TidyNode {
    id: string
    width: number
    height: number
}
export interface TidyEdge {
    from: string
    to: string
    strong?: boolean
}

let elk: InstanceType<typeof ElkApi> | undefined

const LAYERED = {
    'elk.algorithm': 'layered',
    'elk.direction': 'RIGHT',
    'elk.layered.spacing.nodeNodeBetweenLayers': '58',
    'elk.spacing.nodeNode': '34',
    'elk.layered.nodePlacement.strategy': 'NETWORK_SIMPLEX',
    'elk.layered.considerModelOrder.strategy': 'NODES_AND_EDGES',
    'elk.separateConnectedComponents': 'true',
}

/** Places for the middles of nodes so that what flows runs from left to right and little crosses; off the page's own thread. */
export async function tidy(nodes: TidyNode[], edges: TidyEdge[]): Promise<Record<string, Point>> {
    elk ??= new ElkApi({ workerUrl })
    const known = new Set(nodes.map((n) => n.id))
    const graph: ElkNode = {
        id: 'root',
        layoutOptions: LAYERED,
        children: nodes.map(({ id, width, height }) => ({ id, width, height })),
        edges: edges
            .filter((e) => known.has(e.from) && known.has(e.to))
            .map((e, i) => ({
                id: `e${i}`,
                sources: [e.from],
                targets: [e.to],
                layoutOptions: {
                    'elk.layered.priority.direction': e.strong ? '10' : '1',
                    'elk.layered.priority.straightness': e.strong ? '10' : '1',
                },
            })),
    }
    const done = await elk.layout(graph)
    return Object.fromEntries(
        (done.children ?? []).map((n) => [n.id, { x: (n.x ?? 0) + (n.width ?? 0) / 2, y: (n.y ?? 0) + (n.height ?? 0) / 2 }]),
    )
}
