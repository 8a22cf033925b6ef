import type { Component, ComputedRef } from 'vue'
import type { Command } from '@/find/command'

/** What a place can put on the stage. */
export interface Stage {
    /** Its part of the address: /studies/STUDY/PLACE/STAGE. */
    name: string
    /** On its tab. */
    words: string
    shows: Component
    /** It takes the whole width: what stands in the columns is about something else. */
    alone?: boolean
    /** It needs the room of the card, which is about single things. */
    wide?: boolean
    /** It has a course of its own: what stands at the foot is about something else. */
    footless?: boolean
}

/** A place of the work on a study: a folder with an `index.ts` that exports one of these, and a line in places/index.ts. */
export interface Place {
    /** Its part of the address, and the name of its folder. */
    name: string
    /** Under its icon. */
    words: string
    icon: Component
    /** The first one is shown where the address names none. */
    stages: readonly [Stage, ...Stage[]]
    /** What stands in the left column, if anything, and what is shown and hidden with it. */
    left?: { shows: Component; words: string }
    /** What stands in the right column; the card of what is selected where nothing else is said. */
    right?: Component
    /** What stands at the foot, under everything; the tracks of the run where nothing else is said. */
    foot?: Component
    /** Whether it is in the list of places; always where nothing is said. It can be gone to all the same. */
    listed?: () => ComputedRef<boolean>
    /** How many things want attention there; asked for while the window is set up. */
    attention?: () => ComputedRef<number>
    /** What the chip in the head says of it where nothing is wrong, if it is not about the run; asked for while the window is set up. */
    state?: () => ComputedRef<string>
    /** What can be done there, found by words; asked for while the window is set up. */
    commands?: () => ComputedRef<Command[]>
    /** Lines for the list of keys: those that act there alone, with what they do. */
    keys?: readonly [string, string][]
}
