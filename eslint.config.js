import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** Registered for all pages by resources/js/ui/controls.ts. */
const CONTROLS = ['Button', 'InputText', 'Textarea', 'Checkbox', 'Select']

export default ts.config(
    ts.configs.strict,
    vue.configs['flat/recommended'],
    {
        files: ['**/*.vue'],
        languageOptions: { parserOptions: { parser: ts.parser } },
    },
    {
        rules: {
            'vue/html-indent': ['error', 4],
            'vue/max-attributes-per-line': 'off',
            'vue/singleline-html-element-content-newline': 'off',
            'vue/multi-word-component-names': 'error',
            'vue/html-self-closing': ['error', { html: { void: 'always' } }],
            'no-console': 'error',
            eqeqeq: 'error',
            'vue/no-undef-components': ['error', { ignorePatterns: [...CONTROLS, 'RouterLink', 'RouterView'] }],
        },
    },
    {
        // What is drawn (sheet, tracks) stays ours; all other controls come from PrimeVue, by resources/js/ui/controls.ts.
        files: ['resources/js/**/*.vue'],
        ignores: ['resources/js/canvas/**', 'resources/js/tracks/**'],
        rules: {
            'vue/no-restricted-html-elements': ['error', ...['button', 'input', 'select', 'textarea'].map((element) => ({
                element, message: `Take PrimeVue’s control in place of <${element}>.`,
            }))],
        },
    },
)
