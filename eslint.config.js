import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** Registered for all pages by resources/js/ui/controls.ts. */
const CONTROLS = ['Button', 'InputText', 'Textarea', 'Checkbox', 'Select']

export default ts.config(
    { ignores: ['resources/js/api/openapi.d.ts'] },
    ts.configs.strict,
    vue.configs['flat/recommended'],
    prettier,
    {
        files: ['**/*.vue'],
        languageOptions: { parserOptions: { parser: ts.parser } },
    },
    {
        rules: {
            'vue/multi-word-component-names': 'error',
            'no-console': 'error',
            eqeqeq: 'error',
            // Texts are not broken; all else is wrapped by Prettier.
            'max-len': ['error', { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreUrls: true, ignorePattern: '^\\s*(it|test)\\(|class="|title="|d="' }],
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
