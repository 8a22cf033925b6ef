import { execFileSync } from 'node:child_process'
import { createPinia, setActivePinia, type Pinia } from 'pinia'
import { afterAll, expect, vi } from 'vitest'
import { createApp, nextTick, type App, type Component } from 'vue'
import type { Edit } from '@/api/types'
import { useModel } from '@/stores/model'
import { controls } from '@/ui/controls'

/** All that the tests of a file sent. */
const all: Edit[] = []

// What the page sends is what the engine reads.
afterAll(() => {
    const refused = all.length ? execFileSync('php', ['tests/Page/read-edits.php'], { input: JSON.stringify(all), encoding: 'utf8' }) : ''
    expect(refused).toBe('')
})

let pinia: Pinia
let app: App | undefined

/** What components of the page are shown in; begin() and end() go around each test. */
export const harness = {
    host: document.createElement('div'),
    /** Edits that were attempted. */
    sent: [] as Edit[],

    begin() {
        HTMLCanvasElement.prototype.getContext = () => null
        window.matchMedia = vi.fn().mockReturnValue({ matches: false, addEventListener: vi.fn(), removeEventListener: vi.fn() })
        // Nothing has a size here.
        vi.stubGlobal(
            'ResizeObserver',
            class {
                observe() {}
                unobserve() {}
                disconnect() {}
            },
        )
        localStorage.clear()
        pinia = createPinia()
        setActivePinia(pinia)
        harness.host = document.createElement('div')
        document.body.append(harness.host)
        harness.sent = []
        const model = useModel()
        vi.spyOn(model, 'attempt').mockImplementation(((edit: Edit) => {
            harness.sent.push(edit)
            return Promise.resolve(true)
        }) as never)
        vi.spyOn(model, 'edit').mockImplementation((edit: Edit) => {
            harness.sent.push(edit)
            return Promise.resolve()
        })
        vi.spyOn(model, 'together').mockImplementation(((edits: Edit[], words: string) => {
            harness.sent.push(edits.length === 1 ? (edits[0] as Edit) : { kind: 'together', edits, words })
            return Promise.resolve(true)
        }) as never)
    },

    end() {
        all.push(...harness.sent)
        harness.leave()
        harness.host.remove()
        vi.restoreAllMocks()
    },

    leave() {
        app?.unmount()
        app = undefined
    },

    async show(component: Component, props: Record<string, unknown> = {}) {
        app = createApp(component, props)
        app.use(pinia)
        app.use(controls)
        app.mount(harness.host)
        await nextTick()
    },

    /** All that is written, with single spaces. */
    words: () => (harness.host.textContent ?? '').replace(/\s+/g, ' ').trim(),

    button: (words: string) =>
        [...harness.host.querySelectorAll('button')].find((b) => b.textContent?.trim() === words || b.getAttribute('aria-label') === words),

    /** Takes one of a list of choices by its words. */
    async pick(label: string, words: string) {
        harness.host.querySelector<HTMLElement>(`[role="combobox"][aria-label="${label}"]`)?.click()
        await nextTick()
        await nextTick()
        const option = [...document.querySelectorAll<HTMLElement>('[role="option"]')].find((o) => o.textContent?.trim() === words)
        option?.dispatchEvent(new MouseEvent('mousedown', { bubbles: true }))
        await harness.settle()
        return option !== undefined
    },

    async settle() {
        for (let i = 0; i < 15; i++) {
            await Promise.resolve()
        }
        await nextTick()
    },
}
