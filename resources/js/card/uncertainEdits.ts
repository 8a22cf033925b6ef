import { uncertain } from '@/api/uncertain'
import type { Thing } from '@/api/types'
import type { useModel } from '@/stores/model'
import { newId } from '@/ui/ids'

/** Gives a parameter the distribution that one would begin with. */
export async function makeUncertain(model: ReturnType<typeof useModel>, thing: Thing): Promise<string | undefined> {
    const id = newId()
    const usual = await uncertain.distribution(model.id, { parameter: thing.id }).catch(() => undefined)
    const made = usual && (await model.attempt({ kind: 'put', part: 'uncertain', id, fields: { of: thing.id, law: usual.law } }))
    return made ? id : undefined
}
