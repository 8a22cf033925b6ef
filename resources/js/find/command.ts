/** Something that can be done, found by its words. */
export interface Command {
    words: string
    /** As it stands on the keyboard. */
    key?: string
    /** Other words it is found by. */
    also?: string
    run: () => void
}

/** What makes no sense at the moment is left out. */
export const offered = (list: (Command | false | '' | null | undefined)[]): Command[] => list.filter((c): c is Command => Boolean(c))
