/** What can be let others do, from little to much. */
export const MAY = [
    { label: 'read it and try settings', value: 'read' },
    { label: 'read it and comment', value: 'comment' },
    { label: 'change it', value: 'edit' },
]

export const mayWords = (may: string): string => MAY.find((m) => m.value === may)?.label ?? 'do everything with it'
