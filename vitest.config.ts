import { defineConfig } from 'vitest/config'

export default defineConfig({
    resolve: { alias: { '@': new URL('./resources/js', import.meta.url).pathname } },
    test: { include: ['tests/Page/**/*.test.ts'], environment: 'jsdom', environmentOptions: { jsdom: { url: 'http://127.0.0.1/' } } },
})
