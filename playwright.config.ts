import { defineConfig } from '@playwright/test'
import { ACCOUNTS, portOf } from './tests/Browser/test'

/** Browser and server wait for each other often enough that two pairs share two cores well. */
const WORKERS = 2

/** What measures, or loads the machine so much that its neighbour would fail, has the machine for itself. */
const ALONE = ['large.spec.ts', 'safety.spec.ts']

const served = (port: number, settings = '') => ({
    command: `${settings} MERRY_ORBIT_PARENTS=$$ tests/Browser/serve.sh ${port}`,
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 60_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 5000 },
})

export default defineConfig({
    testDir: 'tests/Browser',
    workers: WORKERS,
    // Against what hangs, not against what is slow: a busy machine takes three times as long as a quiet one.
    timeout: 180_000,
    expect: { timeout: 25_000 },
    // A busy machine may miss a deadline once; a second miss is a failure.
    retries: process.env.CI ? 1 : 0,
    projects: [
        { name: 'together', testIgnore: ALONE },
        { name: 'alone', testMatch: ALONE, workers: 1, dependencies: ['together'] },
    ],
    forbidOnly: true,
    reporter: 'list',
    use: {
        viewport: { width: 1280, height: 800 },
        trace: 'on-first-retry',
        launchOptions: {
            executablePath: '/usr/bin/chromium',
            args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update', '--disable-sync'],
        },
    },
    webServer: [
        ...Array.from({ length: WORKERS }, (_, worker) => served(portOf(worker))),
        served(ACCOUNTS, 'MERRY_ORBIT_DEMO=false'),
    ],
})
