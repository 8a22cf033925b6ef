import { execFileSync, spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect } from '@playwright/test'
import { ACCOUNTS, environmentOf, test } from './test'

/** What each example needs, beside the application. */
const NEEDS: Record<string, { run: string[]; needs: string[][] }> = {
    sh: {
        run: ['sh'],
        needs: [
            ['curl', '--version'],
            ['jq', '--version'],
        ],
    },
    python: { run: ['python3'], needs: [['python3', '--version']] },
    r: {
        run: ['Rscript'],
        needs: [
            ['Rscript', '-e', 'library(jsonlite)'],
            ['curl', '--version'],
        ],
    },
}
const there = ([program = '', ...words]: string[]) => spawnSync(program, words).status === 0

test('the examples of the API do what they say, in each language', () => {
    const token = execFileSync('php', ['tests/Browser/token.php'], {
        env: environmentOf(ACCOUNTS),
    }).toString()
    const examples = [...readFileSync('docs/api.md', 'utf8').matchAll(/```(\w+)\n([\s\S]*?)```/g)].filter(
        ([, language = '']) => NEEDS[language],
    )
    expect(examples.map(([, language]) => language)).toEqual(['sh', 'python', 'r'])
    const said: string[][] = []
    for (const [, language = '', text = ''] of examples) {
        const { run, needs } = NEEDS[language] ?? { run: [], needs: [] }
        if (!needs.every(there)) {
            continue
        }
        const folder = mkdtempSync(join(tmpdir(), 'orbit-api-'))
        const file = join(folder, `example.${language}`)
        writeFileSync(file, text)
        const [program = '', ...words] = run
        const out = execFileSync(program, [...words, file, `${process.cwd()}/demo/kelp-and-urchins.json`], {
            cwd: folder,
            env: { ...process.env, MERRY_ORBIT: `http://127.0.0.1:${ACCOUNTS}`, MERRY_ORBIT_TOKEN: token },
        }).toString()
        said.push(out.trim().split('\n'))
    }
    // One of them at least can be tried everywhere; what is tried says the same, number for number.
    expect(said.length).toBeGreaterThan(0)
    const numbers = said.map((lines) => lines.flatMap((l) => l.split(/[,:]/).map(Number).filter(Number.isFinite)))
    for (const one of numbers) {
        expect(one.length).toBeGreaterThan(3)
        expect(one.length).toBe(numbers[0]?.length)
        one.forEach((n, i) => {
            expect(Math.abs(n / (numbers[0]?.[i] ?? NaN) - 1)).toBeLessThan(1e-9)
        })
    }
})
