/** The name that what is typed is the beginning of; of several the shortest. */
export function offered(text: string, names: readonly string[]): string | undefined {
    const key = text.trimStart().toLowerCase()
    if (!key) {
        return undefined
    }
    const fits = names.filter((n) => n.toLowerCase().startsWith(key))
    return fits.sort((a, b) => a.length - b.length || a.localeCompare(b))[0]
}

const SIGNS: Record<string, '+' | '-' | '?'> = {
    '+': '+',
    '-': '-',
    '−': '-',
    '?': '?',
    more: '+',
    less: '-',
    fewer: '-',
}

/** A sign, or a word for it, that is typed before the name of an effect; nothing where there is none. */
export function readEffect(text: string): { sign?: '+' | '-' | '?'; late?: boolean; rest: string } | undefined {
    const found = /^\s*(?:([+−?~-])\s*|(more|less|fewer|late)\s+)(.*)$/iu.exec(text)
    if (!found) {
        return undefined
    }
    const word = (found[1] ?? found[2] ?? '').toLowerCase()
    const rest = found[3] ?? ''
    return word === '~' || word === 'late' ? { late: true, rest } : { sign: SIGNS[word], rest }
}
