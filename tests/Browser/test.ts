import { test as base } from '@playwright/test'

/** The first port of the servers that tests talk to; each worker has one of its own, with a database of its own. */
const FIRST = 8791

/** A server on which everybody has an account; all workers share it. */
export const ACCOUNTS = FIRST + 3

export const portOf = (worker: number) => FIRST + worker

/** What a program on the data of a server needs to know. */
export const environmentOf = (port: number): NodeJS.ProcessEnv => ({
    ...process.env,
    DB_DATABASE: `${process.cwd()}/storage/testing-${port}/browser.sqlite`,
    ...(process.env.OWN_PART ? { DB_URL: `${process.env.DB_URL}&search_path=port_${port}`, REDIS_PREFIX: `port_${port}:` } : {}),
})

export const test = base.extend({
    baseURL: async ({}, use, info) => {
        await use(`http://127.0.0.1:${portOf(info.parallelIndex)}`)
    },
})
