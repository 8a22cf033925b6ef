import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

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
        },
    },
)
