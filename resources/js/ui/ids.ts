export const newId = () => `e${Array.from(crypto.getRandomValues(new Uint8Array(11)), (b) => (b % 36).toString(36)).join('')}`

let last = 0
/** An id that comes after those made before it, here and by others whose clocks agree: what bears it has an order. */
export function laterId(): string {
    last = Math.max(last + 1, Date.now())
    return `l${last.toString(36)}${newId().slice(1, 6)}`
}

/** In the order in which they were made, as far as ids tell it: short ones are those of files, counted up. */
export const byId = (a: { id: string }, b: { id: string }) => a.id.length - b.id.length || (a.id < b.id ? -1 : a.id > b.id ? 1 : 0)
