import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { effectScope, nextTick, ref } from 'vue'
import { useNews } from '@/shell/useNews'

describe('asking for news', () => {
    const revision = ref(0)
    const scope = effectScope()
    const ask = vi.fn()
    const asks = (seconds: number) => {
        ask.mockClear()
        vi.advanceTimersByTime(1000 * seconds)
        return ask.mock.calls.length
    }
    beforeEach(() => {
        vi.useFakeTimers()
        scope.run(() => {
            useNews(ask, [revision])
        })
    })
    afterEach(() => {
        scope.stop()
        vi.useRealTimers()
    })

    it('is done every second while things happen, every five after a quiet minute, and at once when the window is looked at', async () => {
        expect(asks(30)).toBe(30)
        asks(31)
        expect(asks(60)).toBe(12)
        revision.value++
        await nextTick()
        expect(asks(10)).toBe(10)
        asks(60)
        expect(asks(20)).toBe(4)
        window.dispatchEvent(new Event('focus'))
        expect(ask).toHaveBeenCalledTimes(5)
        asks(61)
        window.dispatchEvent(new Event('pointerdown'))
        expect(asks(10)).toBe(10)
        const hidden = vi.spyOn(document, 'hidden', 'get').mockReturnValue(true)
        expect(asks(30)).toBe(0)
        hidden.mockReturnValue(false)
        ask.mockClear()
        document.dispatchEvent(new Event('visibilitychange'))
        expect(ask).toHaveBeenCalledOnce()
    })
})
