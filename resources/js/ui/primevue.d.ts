/** What PrimeVue tells no types of. */
declare module '@primevue/core/base' {
    /** Which styles of controls are on the page. */
    const Base: { clearLoadedStyleNames: () => void }
    export default Base
}
