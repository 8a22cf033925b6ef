import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { ProblemError } from '@/api/client'
import { people, type Me } from '@/api/people'

/** Who is here. */
export const useMe = defineStore('me', () => {
    const me = shallowRef<Me | null>(null)

    async function load(): Promise<Me | null> {
        try {
            me.value = await people.me()
        } catch (error) {
            if (!(error instanceof ProblemError && error.status === 401)) {
                throw error
            }
            me.value = null
        }
        return me.value
    }

    /** Everything that is open belongs to who was here before: the page begins anew. */
    async function be(email: string) {
        await people.be(email)
        window.location.assign('/')
    }
    async function signOut() {
        await people.signOut()
        window.location.assign('/sign-in')
    }

    return { me, load, be, signOut }
})
