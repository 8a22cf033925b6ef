import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
    plugins: [vue()],
    resolve: { alias: { '@': new URL('./resources/js', import.meta.url).pathname } },
    test: {
        include: ['tests/Page/**/*.test.ts'],
        environment: 'jsdom',
        environmentOptions: { jsdom: { url: 'http://127.0.0.1/' } },
        // They stand beside PHP’s tests, on machines that may be busy.
        testTimeout: 30_000,
    },
})
