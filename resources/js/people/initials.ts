/** Two letters by which somebody is known in small: of the first word and of the last. */
export function initials(name: string): string {
    const words = name.trim().split(/\s+/)
    const [first = '', last = ''] = [words[0], words.length > 1 ? words.at(-1) : '']
    return ([...first][0] ?? '?').toUpperCase() + ([...(last ?? '')][0] ?? '').toUpperCase()
}
