import { ref } from 'vue'

/** What a form does when it is sent: once at a time, and what is wrong is told under it. */
export function useAct() {
    const wrong = ref('')
    const busy = ref(false)

    /** @returns whether it was done */
    async function act(work: () => Promise<unknown>): Promise<boolean> {
        if (busy.value) {
            return false
        }
        busy.value = true
        wrong.value = ''
        try {
            await work()
            return true
        } catch (error) {
            wrong.value = (error as Error).message
            return false
        } finally {
            busy.value = false
        }
    }

    /** Looks something up: what is being done need not wait for it, nor it for that. */
    async function look(work: () => Promise<unknown>): Promise<void> {
        try {
            await work()
        } catch (error) {
            wrong.value = (error as Error).message
        }
    }

    return { wrong, busy, act, look }
}
