const GROUNDS = ['moss', 'heather', 'sky', 'sand', 'clay', 'slate']

/** The tint of a party in every picture of the ledgers, by its place among all. */
export const groundOf = (place: number) => `var(--${GROUNDS[Math.max(0, place) % GROUNDS.length]})`
