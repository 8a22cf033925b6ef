<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { people, type Grant, type Sharing } from '@/api/people'
import { dayWords, sinceWords } from '@/people/when'
import '@/people/form.css'
import { useAct } from '@/people/useAct'
import { useMe } from '@/stores/me'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import SaidBy from '@/talk/SaidBy.vue'
import LinksPart from './LinksPart.vue'
import SendBack from './SendBack.vue'
import TellTabs from './TellTabs.vue'

/** Who may do what with the study: by its owner to be said, by others to be seen. */
const model = useModel()
const notices = useNotices()
const here = useMe()
const router = useRouter()
const sharing = shallowRef<Sharing | null>(null)
const record = shallowRef<{ who: string; words: string; at: string }[]>([])
const { wrong, busy, act, look } = useAct()
const email = ref('')
const may = ref('edit')
const until = ref('')
const invited = ref('')
/** Whose study it is about to become; asked once more. */
const handing = ref('')

async function load() {
    if (!model.study) {
        return
    }
    sharing.value = await people.sharing(model.study)
    record.value = sharing.value.owner.you && !here.me?.guest ? await people.record(model.study) : []
}
onMounted(() => look(load))
watch(
    () => model.study,
    () => look(load),
)

async function share() {
    invited.value = ''
    const done = await act(async () => {
        await people.share(model.study, { email: email.value }, may.value, until.value || null)
        await load()
    })
    if (done) {
        invited.value = email.value
        email.value = until.value = ''
    }
}
const change = (grant: Grant, to: string, day: string | null) =>
    act(async () => {
        await people.changeGrant(model.study, grant.id, to, day)
        await load()
    })
const everyone = (to: string) =>
    act(async () => {
        const grant = sharing.value?.grants.find((g) => g.kind === 'everyone')
        if (to !== 'nothing') {
            await people.share(model.study, { everyone: true }, to, null)
        } else if (grant) {
            await people.takeBack(model.study, grant.id)
        }
        await load()
    })
async function takeBack(grant: Grant) {
    const done = await act(async () => {
        await people.takeBack(model.study, grant.id)
        await load()
    })
    const { email: whose } = grant
    if (done && whose) {
        notices.say(`${grant.name ?? whose} cannot open the study any more.`, {
            words: 'Undo',
            run: () => {
                void act(async () => {
                    await people.share(model.study, { email: whose }, grant.may, grant.until?.slice(0, 10) ?? null)
                    await load()
                })
            },
        })
    }
}
const handOver = (grant: Grant) =>
    act(async () => {
        await people.handOver(model.study, grant.id)
        handing.value = ''
        model.may = 'edit'
        await load()
    })
async function leave() {
    if (await act(() => people.giveBack(model.study))) {
        void router.push('/')
    }
}
const everyones = (s: Sharing) => s.grants.find((g) => g.kind === 'everyone')
const persons = (s: Sharing) => s.grants.filter((g) => g.kind === 'person')
const choices = computed(() => sharing.value?.choices ?? [])
const orNobody = computed(() => [{ words: 'cannot open it', value: 'nothing' }, ...choices.value])
</script>

<template>
    <div class="leaf">
        <TellTabs />
        <div class="scroll">
            <div v-if="sharing" class="sheet">
                <SendBack v-if="sharing.owner.you && sharing.origin" :study="model.study" :origin="sharing.origin" />
                <p v-if="here.me?.guest" class="soft">To share it with others, keep it among the studies of an account first.</p>
                <template v-else-if="sharing.owner.you">
                    <h2>Who works on it with you</h2>
                    <p class="soft lead">
                        It is yours: only you can share it, hand it over or delete it. Nobody else learns that it is there.
                    </p>
                    <form class="form row" @submit.prevent="share">
                        <label class="whom"
                            >Their address
                            <InputText
                                v-model="email"
                                class="field"
                                type="email"
                                maxlength="255"
                                placeholder="name@place.example"
                                list="demo-people"
                                required
                            />
                        </label>
                        <datalist id="demo-people">
                            <option v-for="o in here.me?.others ?? []" :key="o.email" :value="o.email">{{ o.name }}</option>
                        </datalist>
                        <label
                            >may
                            <Select
                                v-model="may"
                                :options="choices"
                                option-label="words"
                                option-value="value"
                                aria-label="What they may do"
                            />
                        </label>
                        <label
                            >until, if not for ever
                            <InputText v-model="until" class="field" type="date" />
                        </label>
                        <Button type="submit" class="button strong" :disabled="busy">Share it</Button>
                    </form>
                    <p v-if="wrong" class="wrong" role="alert">{{ wrong }}</p>
                    <p v-else-if="invited" class="soft" role="status">
                        {{ invited }} can open it, and gets a letter that says so; who has no account yet makes one with it.
                    </p>
                </template>
                <template v-else>
                    <h2>Who works on it</h2>
                    <p class="lead">
                        {{ sharing.owner.name }} shares this study with you: you may {{ sharing.mayWords }}.
                        <span v-if="sharing.may !== 'edit'" class="soft"
                            >To change it as you like, take a copy on the page of all studies.</span
                        >
                    </p>
                </template>
                <ul v-if="!here.me?.guest" class="people">
                    <li>
                        <SaidBy :who="sharing.owner.name" />
                        <span class="who"
                            ><strong>{{ sharing.owner.you ? `${sharing.owner.name} (you)` : sharing.owner.name }}</strong></span
                        >
                        <span class="what soft">owns it</span>
                    </li>
                    <li v-for="g in persons(sharing)" :key="g.id" :class="{ over: g.over }">
                        <SaidBy :who="g.name ?? g.email ?? '?'" />
                        <span class="who">
                            <strong>{{ g.name ?? g.email }}{{ g.you ? ' (you)' : '' }}</strong>
                            <span class="soft">
                                <template v-if="g.name && g.email">{{ g.email }}</template>
                                <template v-else-if="!g.name">has not opened it yet</template>
                                <template v-if="g.until"> · {{ g.over ? 'was let in' : '' }} until {{ dayWords(g.until) }}</template>
                            </span>
                        </span>
                        <template v-if="sharing.owner.you">
                            <Select
                                class="what"
                                :model-value="g.may"
                                :options="choices"
                                option-label="words"
                                option-value="value"
                                :aria-label="`What ${g.name ?? g.email} may do`"
                                @update:model-value="change(g, $event, null)"
                            />
                            <span class="acts">
                                <Button v-if="g.name && handing !== g.id" class="act" @click="handing = g.id">Make it theirs…</Button>
                                <Button class="act" :aria-label="`Take it back from ${g.name ?? g.email}`" @click="takeBack(g)"
                                    >Take it back</Button
                                >
                            </span>
                            <p v-if="handing === g.id" class="handing">
                                {{ g.name }} will own the study and decide who sees it; you go on as an editor.
                                <Button class="button strong" @click="handOver(g)">Hand it over to {{ g.name }}</Button>
                                <Button class="button" @click="handing = ''">Keep it</Button>
                            </p>
                        </template>
                        <span v-else class="what soft">may {{ g.mayWords }}</span>
                    </li>
                    <li v-if="sharing.owner.you || everyones(sharing)">
                        <span class="all" aria-hidden="true">∗</span>
                        <span class="who"><strong>Everyone who has an account here</strong></span>
                        <Select
                            v-if="sharing.owner.you"
                            class="what"
                            :model-value="everyones(sharing)?.may ?? 'nothing'"
                            :options="orNobody"
                            option-label="words"
                            option-value="value"
                            aria-label="What everyone who has an account may do"
                            @update:model-value="everyone"
                        />
                        <span v-else class="what soft">may {{ everyones(sharing)?.mayWords }}</span>
                    </li>
                </ul>
                <p v-if="persons(sharing).some((g) => g.you)">
                    <Button class="button" @click="leave">Leave this study</Button>
                    <span class="soft beside">It is not among your studies any more, until it is shared with you again.</span>
                </p>
                <section v-if="sharing.owner.you && !here.me?.guest" class="links" aria-label="Links">
                    <h3>By a link</h3>
                    <LinksPart showcase="" />
                </section>
                <template v-if="record.length">
                    <h3>What was done with it</h3>
                    <ul class="record">
                        <li v-for="(one, i) in record" :key="i">
                            <time class="soft" :datetime="one.at">{{ sinceWords(one.at) }}</time> {{ one.who }} {{ one.words }}
                        </li>
                    </ul>
                </template>
            </div>
            <p v-else-if="wrong" class="sheet wrong" role="alert">{{ wrong }}</p>
        </div>
    </div>
</template>

<style scoped>
.leaf {
    background: var(--paper);
}
.scroll {
    overflow: auto;
}
.sheet {
    max-width: 860px;
    margin: 0 auto;
    padding: 32px 32px 60px;
}
.leaf h2 {
    font-size: 24px;
    margin-bottom: 4px;
}
h3 {
    margin: 30px 0 8px;
    font-size: 16px;
}
.lead {
    margin-bottom: 20px;
    max-width: 62ch;
}
.form.row {
    display: flex;
    flex-wrap: wrap;
    align-items: end;
    gap: 12px;
    margin-bottom: 8px;
}
.form.row label {
    width: auto;
}
.form.row .button {
    height: 36px;
}
.form.row .whom {
    flex: 1 1 240px;
}
.people,
.record {
    margin: 18px 0 20px;
    padding: 0;
    list-style: none;
}
.people li {
    display: grid;
    grid-template-columns: 26px minmax(0, 1fr) 230px 210px;
    align-items: center;
    gap: 4px 14px;
    min-height: 56px;
    padding: 8px 0;
    border-bottom: 1px solid var(--hairline);
}
.who {
    display: grid;
    overflow-wrap: anywhere;
}
.all {
    display: grid;
    place-items: center;
    width: 26px;
    height: 26px;
    border: 1px dashed var(--line);
    border-radius: 50%;
    font-weight: 700;
}
.over strong {
    color: var(--ink-soft);
}
.acts {
    display: flex;
    gap: 16px;
    justify-content: end;
}
.act {
    min-height: 24px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
    white-space: nowrap;
}
.act:hover {
    color: var(--ink);
}
.handing {
    grid-column: 2 / -1;
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 10px;
    padding: 8px 0;
}
.beside {
    margin-left: 12px;
}
.links {
    display: grid;
    gap: 10px;
    max-width: 560px;
}
.links :deep(.card) {
    display: grid;
    gap: 10px;
    padding: 14px;
    border: 1px solid var(--hairline);
    border-radius: 12px;
    background: var(--card);
}
.links :deep(label) {
    display: grid;
    gap: 3px;
}
.links :deep(.pair) {
    display: grid;
    grid-template-columns: 1fr 1fr;
    gap: 10px;
}
.links :deep(.field) {
    width: 100%;
    height: 34px;
    padding: 0 9px;
    border: 1px solid var(--line);
    border-radius: 8px;
    background: var(--paper);
}
.links :deep(.acts) {
    display: flex;
    gap: 12px;
}
.links :deep(.act) {
    min-height: 24px;
    color: var(--ink-soft);
    text-decoration: underline;
    text-underline-offset: 3px;
}
.record li {
    padding: 3px 0;
}
.record time {
    display: inline-block;
    min-width: 130px;
}
@media (width < 900px) {
    .people li {
        grid-template-columns: 26px minmax(0, 1fr);
    }
    .people .what,
    .people .acts {
        grid-column: 2;
        justify-content: start;
    }
    .sheet {
        padding: 20px 16px;
    }
}
</style>
