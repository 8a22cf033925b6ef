import { definePreset } from '@primeuix/themes'
import Aura from '@primeuix/themes/aura'

/** PrimeVue drawn with the page's own tokens: ink and hairlines, ember for focus only. */
export const preset = definePreset(Aura, {
    semantic: {
        primary: {
            50: 'var(--hover)',
            100: 'var(--hover)',
            200: 'var(--hairline)',
            300: 'var(--line)',
            400: 'var(--ink-soft)',
            500: 'var(--ink)',
            600: 'var(--ink)',
            700: 'var(--ink)',
            800: 'var(--ink)',
            900: 'var(--ink)',
            950: 'var(--ink)',
        },
        focusRing: { width: '2px', style: 'solid', color: 'var(--ember)', offset: '2px' },
        colorScheme: Object.fromEntries(
            ['light', 'dark'].map((scheme) => [
                scheme,
                {
                    primary: { color: 'var(--ink)', contrastColor: 'var(--paper)', hoverColor: 'var(--ink)', activeColor: 'var(--ink)' },
                    highlight: {
                        background: 'var(--hover)',
                        focusBackground: 'var(--hover)',
                        color: 'var(--ink)',
                        focusColor: 'var(--ink)',
                    },
                    text: { color: 'var(--ink)', hoverColor: 'var(--ink)', mutedColor: 'var(--ink-soft)', hoverMutedColor: 'var(--ink)' },
                    content: {
                        background: 'var(--card)',
                        hoverBackground: 'var(--hover)',
                        borderColor: 'var(--hairline)',
                        color: 'var(--ink)',
                        hoverColor: 'var(--ink)',
                    },
                    overlay: {
                        select: { background: 'var(--card)', borderColor: 'var(--line)', color: 'var(--ink)' },
                        popover: { background: 'var(--card)', borderColor: 'var(--line)', color: 'var(--ink)' },
                        modal: { background: 'var(--card)', borderColor: 'var(--line)', color: 'var(--ink)' },
                    },
                    formField: {
                        background: 'var(--paper)',
                        borderColor: 'var(--line)',
                        hoverBorderColor: 'var(--ink)',
                        focusBorderColor: 'var(--ink)',
                        color: 'var(--ink)',
                        placeholderColor: 'var(--ink-soft)',
                    },
                    list: {
                        option: {
                            focusBackground: 'var(--hover)',
                            selectedBackground: 'var(--hover)',
                            selectedFocusBackground: 'var(--hover)',
                            color: 'var(--ink)',
                            focusColor: 'var(--ink)',
                            selectedColor: 'var(--ink)',
                            selectedFocusColor: 'var(--ink)',
                        },
                    },
                    navigation: { item: { focusBackground: 'var(--hover)', color: 'var(--ink)', focusColor: 'var(--ink)' } },
                },
            ]),
        ),
    },
    components: {
        datatable: {
            headerCell: { sm: { padding: '4px 14px 4px 8px' } },
            bodyCell: { sm: { padding: '3px 14px 3px 8px' } },
            footerCell: { sm: { padding: '3px 14px 3px 8px' }, background: 'var(--paper)' },
            colorScheme: Object.fromEntries(
                ['light', 'dark'].map((scheme) => [
                    scheme,
                    { root: { borderColor: 'var(--hairline)' }, row: { stripedBackground: 'var(--card)' } },
                ]),
            ),
        },
    },
})
