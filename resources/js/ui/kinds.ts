import type { Kind } from '@/api/types'

/** All kinds of things, in the order in which they are told everywhere. */
export const KINDS = ['stock', 'flow', 'auxiliary', 'parameter', 'curve', 'series'] as const satisfies readonly Kind[]
