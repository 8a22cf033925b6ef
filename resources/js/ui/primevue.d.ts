/** What PrimeVue tells no types of. */
declare module '@primevue/core/base' {
    /** Which styles of controls are on the page. */
    const Base: { clearLoadedStyleNames: () => void }
    export default Base
}
declare module 'primevue/toasteventbus' {
    /** Tells the toast on the page what to show, and what no longer. */
    const bus: { emit: (what: 'add' | 'remove', message: { id: number }) => void }
    export default bus
}
