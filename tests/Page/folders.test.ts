import { readdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, it } from 'vitest'

const ROOT = 'resources/js'
/** As docs/architecture.md lists them. */
const ORDER = ['api', 'ui', 'stores', 'people', 'talk', 'charts', 'reader', 'find', 'card', 'canvas', 'tracks', 'places', 'shell']
const PLACES = ['home', 'ask', 'map', 'model', 'data', 'try', 'tell']

const sources = readdirSync(ROOT, { recursive: true, encoding: 'utf8' }).filter((name) => /\.(ts|vue)$/.test(name))

/** What a file imports of this page, as paths below its root. */
function imports(name: string): string[] {
    const text = readFileSync(join(ROOT, name), 'utf8')
    return [...text.matchAll(/from '(@\/|\.{1,2}\/)([^']+)'/g)].map(([, how = '', path = '']) =>
        how === '@/' ? path : join(name, '..', how, path),
    )
}

it('folders of the page use only those before them', () => {
    const wrong = sources
        .flatMap((name) => imports(name).map((used) => ({ name, used })))
        .filter(({ name, used }) => {
            const [folder, other] = [name.split('/')[0] ?? '', used.split('/')[0] ?? '']
            return name.includes('/') && used.includes('/') && ORDER.indexOf(other) > ORDER.indexOf(folder)
        })
    expect(wrong).toEqual([])
    expect(sources.filter((name) => name.includes('/') && !ORDER.includes(name.split('/')[0] ?? ''))).toEqual([])
})

it('no place uses another', () => {
    const wrong = sources
        .filter((name) => name.startsWith('places/'))
        .flatMap((name) => imports(name).map((used) => ({ name, used })))
        .filter(({ name, used }) => {
            const [mine, other] = [name.split('/')[1] ?? '', used.split('/')[1] ?? '']
            return used.startsWith('places/') && PLACES.includes(mine) && PLACES.includes(other) && mine !== other
        })
    expect(wrong).toEqual([])
})
