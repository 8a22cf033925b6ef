import { defineConfig } from '@playwright/test'

const PORT = 8791

export default defineConfig({
    testDir: 'tests/Browser',
    workers: 1,
    timeout: 60_000,
    expect: { timeout: 10_000 },
    // A busy machine may miss a deadline once; a second miss is a failure.
    retries: process.env.CI ? 1 : 0,
    forbidOnly: true,
    reporter: 'list',
    use: {
        baseURL: `http://127.0.0.1:${PORT}`,
        viewport: { width: 1280, height: 800 },
        trace: 'retain-on-failure',
        launchOptions: {
            executablePath: '/usr/bin/chromium',
            args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
        },
    },
    webServer: {
        command: `tests/Browser/serve.sh ${PORT}`,
        url: `http://127.0.0.1:${PORT}/api/health`,
        timeout: 60_000,
        reuseExistingServer: false,
        gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
    },
})
