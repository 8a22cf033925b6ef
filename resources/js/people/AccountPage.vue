<script setup lang="ts">
import { onMounted, ref } from 'vue'
import { people } from '@/api/people'
import { useMe } from '@/stores/me'
import HappeningsPart from './HappeningsPart.vue'
import LeavePart from './LeavePart.vue'
import OpensForm from './OpensForm.vue'
import PaperPage from './PaperPage.vue'
import PasswordField from './PasswordField.vue'
import SecondFactorPart from './SecondFactorPart.vue'
import SignInsPart from './SignInsPart.vue'
import TokensPart from './TokensPart.vue'
import './form.css'
import { useAct } from './useAct'

/** One's own account. */
const here = useMe()
const gone = ref('')
onMounted(async () => {
    const me = await here.load()
    if (me) {
        name.value = me.name
    } else {
        gone.value = 'You are not signed in.'
    }
})

const name = ref('')
const naming = useAct()
const named = ref(false)
async function rename() {
    named.value = await naming.act(async () => {
        here.me = await people.rename(name.value)
    })
}

const email = ref('')
const emailPassword = ref('')
const addressing = useAct()
const addressed = ref('')
async function changeAddress() {
    if (await addressing.act(() => people.email(email.value, emailPassword.value))) {
        addressed.value = email.value
        email.value = emailPassword.value = ''
    }
}

const old = ref('')
const next = ref('')
const passing = useAct()
const passed = ref('')
async function changePassword() {
    await passing.act(async () => {
        const { ended } = await people.password(old.value, next.value)
        passed.value = ended === 0 ? 'Changed.' : `Changed. ${ended === 1 ? 'One other sign-in' : `${ended} other sign-ins`} ended.`
        old.value = next.value = ''
    })
}

const invited = ref('')
const friend = ref('')
const inviting = useAct()
async function invite() {
    if (await inviting.act(() => people.invite(friend.value))) {
        invited.value = friend.value
        friend.value = ''
    }
}
</script>

<template>
    <PaperPage title="Your account" wide>
        <p v-if="gone">{{ gone }} <RouterLink class="quiet-link" to="/sign-in">Sign in</RouterLink></p>
        <template v-if="here.me">
            <p v-if="here.me.demo" class="demo">
                In demo mode, on this machine, nobody needs a password: you are <strong>{{ here.me.name }}</strong>. Tokens for programs
                work here as everywhere.
            </p>
            <section aria-labelledby="who">
                <h2 id="who">What you are called</h2>
                <form class="form" @submit.prevent="rename">
                    <label
                        >Name
                        <InputText v-model="name" class="field" autocomplete="name" maxlength="80" required @input="named = false" />
                        <span class="hint">Others see it on what you share, change and say.</span>
                    </label>
                    <p v-if="naming.wrong.value" class="wrong" role="alert">{{ naming.wrong.value }}</p>
                    <p class="acts">
                        <Button type="submit" class="button" :disabled="naming.busy.value || name === here.me.name">Rename</Button>
                        <span v-if="named" class="right" role="status">You are called {{ here.me.name }} now.</span>
                    </p>
                </form>
            </section>
            <template v-if="!here.me.demo">
                <section aria-labelledby="address">
                    <h2 id="address">Address</h2>
                    <p>
                        You sign in with <strong>{{ here.me.email }}</strong>.
                    </p>
                    <OpensForm words="Take another address"
                        ><form class="form" @submit.prevent="changeAddress">
                            <label>Another address <InputText v-model="email" class="field" type="email" maxlength="255" required /></label>
                            <PasswordField v-model="emailPassword" label="Your password" complete="current-password" />
                            <p v-if="addressing.wrong.value" class="wrong" role="alert">{{ addressing.wrong.value }}</p>
                            <p class="acts">
                                <Button type="submit" class="button" :disabled="addressing.busy.value">Send a letter to it</Button>
                                <span v-if="addressed" role="status">Open the letter to {{ addressed }} to make it yours.</span>
                            </p>
                        </form></OpensForm
                    >
                </section>
                <section aria-labelledby="password">
                    <h2 id="password">Password</h2>
                    <OpensForm words="Change the password"
                        ><form class="form" @submit.prevent="changePassword">
                            <PasswordField v-model="old" label="Password of today" complete="current-password" />
                            <PasswordField v-model="next" label="New password" complete="new-password" />
                            <p v-if="passing.wrong.value" class="wrong" role="alert">{{ passing.wrong.value }}</p>
                            <p class="acts">
                                <Button type="submit" class="button" :disabled="passing.busy.value">Change it</Button>
                                <span v-if="passed" class="right" role="status">{{ passed }}</span>
                            </p>
                        </form></OpensForm
                    >
                </section>
                <SecondFactorPart :me="here.me" @changed="here.load" />
                <SignInsPart />
                <section v-if="here.me.invites" aria-labelledby="invite">
                    <h2 id="invite">Invite somebody</h2>
                    <p>They get a letter, and make an account with it. To work together on a study, share it in its place Tell.</p>
                    <OpensForm words="Send an invitation"
                        ><form class="form" @submit.prevent="invite">
                            <label>Their address <InputText v-model="friend" class="field" type="email" maxlength="255" required /></label>
                            <p v-if="inviting.wrong.value" class="wrong" role="alert">{{ inviting.wrong.value }}</p>
                            <p class="acts">
                                <Button type="submit" class="button" :disabled="inviting.busy.value">Send a letter</Button>
                                <span v-if="invited" role="status"
                                    >A letter goes to {{ invited }}, unless they have an account already.</span
                                >
                            </p>
                        </form></OpensForm
                    >
                </section>
            </template>
            <TokensPart :asks="!here.me.demo" />
            <HappeningsPart v-if="!here.me.demo" />
            <LeavePart :demo="here.me.demo" />
        </template>
    </PaperPage>
</template>

<style scoped>
.demo {
    padding: 12px 16px;
    border-left: 3px solid var(--ink);
    background: var(--card);
    margin-bottom: 8px;
}
:deep(section) {
    padding: 26px 0 28px;
    border-top: 1px solid var(--hairline);
}
:deep(section:first-of-type) {
    border-top: 0;
}
:deep(h2) {
    font-size: 18px;
    margin-bottom: 10px;
}
:deep(section > p) {
    margin-bottom: 14px;
    max-width: 62ch;
}
:deep(.form) {
    max-width: 420px;
}
</style>
