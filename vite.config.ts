import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'

export default defineConfig({
    plugins: [vue()],
    base: '/build/',
    publicDir: false,
    build: {
        outDir: 'public/build',
        emptyOutDir: true,
        manifest: 'manifest.json',
        chunkSizeWarningLimit: 1500,
        rollupOptions: { input: 'resources/js/main.ts' },
    },
    resolve: { alias: { '@': new URL('./resources/js', import.meta.url).pathname } },
})
