import Base from '@primevue/core/base'
import Button from 'primevue/button'
import Checkbox from 'primevue/checkbox'
import PrimeVue from 'primevue/config'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import type { App, Component } from 'vue'
import { preset } from './theme'

/** PrimeVue’s behaviour in our look: what it draws itself follows the preset, what base.css draws comes without its styles. */
const drawnByUs = (name: string, control: Component): Component => ({
    extends: control,
    name,
    props: { unstyled: { type: Boolean, default: true } },
    // Ripples are not drawn; their directive would work at every repainted button all the same.
    directives: { ripple: {} },
})

const CONTROLS: Record<string, Component> = {
    Button: drawnByUs('Button', Button),
    InputText: drawnByUs('InputText', InputText),
    Textarea: drawnByUs('Textarea', Textarea),
    Checkbox,
    Select,
}

/** A text field, by `ref`. */
export interface Field {
    $el: HTMLInputElement
}

declare module 'vue' {
    export interface GlobalComponents {
        Button: typeof Button
        InputText: typeof InputText
        Textarea: typeof Textarea
        Checkbox: typeof Checkbox
        Select: typeof Select
    }
}

/** Puts a text field back to what it held: the control hears of it as if it had been typed. */
export function putBack(field: HTMLInputElement, text: string) {
    field.value = text
    field.dispatchEvent(new Event('input'))
}

/** The controls of all pages; a component imports none of these by itself. */
export const controls = {
    install(app: App) {
        // Every control that comes up would otherwise forget which styles are there and write them anew, and the browser would
        // work out the styles of the whole page again: the preset never changes, the dark theme is a selector.
        Base.clearLoadedStyleNames = () => {}
        app.use(PrimeVue, { theme: { preset, options: { darkModeSelector: '[data-theme="dark"]' } } })
        for (const [name, control] of Object.entries(CONTROLS)) {
            app.component(name, control)
        }
    },
}
