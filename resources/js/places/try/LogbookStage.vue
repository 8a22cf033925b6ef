<script setup lang="ts">
import { Download, Eye, EyeOff, MessageSquare, Star } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { api } from '@/api/client'
import type { LoggedRun } from '@/api/types'
import { useCourses } from '@/stores/courses'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChangesPart from './ChangesPart.vue'
import TryTabs from './TryTabs.vue'

const model = useModel()
const runs = useRuns()
const courses = useCourses()
const view = useView()
const notices = useNotices()
const list = ref<LoggedRun[]>([])
const starred = ref(false)
const commenting = ref(0)
const shown = computed(() => list.value.filter((r) => !starred.value || r.starred))

let timer = 0
watch(
    [() => runs.shown, () => model.id],
    () => {
        window.clearTimeout(timer)
        timer = window.setTimeout(() => {
            void api.logbook(model.id).then(
                (found) => {
                    list.value = found
                },
                () => undefined,
            )
        }, 150)
    },
    { immediate: true },
)

const keyOf = (r: LoggedRun) => `log:${r.id}`
const when = (made: string) =>
    new Date(made).toLocaleString(undefined, { month: 'short', day: 'numeric', hour: '2-digit', minute: '2-digit' })
const named = (r: LoggedRun) => r.comment || r.scenario || r.setting[0] || (r.edits.at(-1) ?? `run of revision ${r.revision}`)
const logged = computed(() =>
    list.value.map((r) => ({ key: keyOf(r), name: `${when(r.made)} ${named(r)}`.slice(0, 60), ref: { log: r.id } })),
)

async function remark(r: LoggedRun, change: { starred?: boolean; comment?: string }) {
    try {
        list.value = await api.remark(model.id, r.id, change)
    } catch (error) {
        notices.trouble((error as Error).message)
    }
}
/** The setting comes back; the model stays as it is, for its old versions are in the history. */
function back(r: LoggedRun) {
    runs.put(r.settings)
    notices.say(
        r.revision < model.revision
            ? 'Dials and hands are as they were. The model has changed since.'
            : 'Dials and hands are as they were.',
        r.revision < model.revision
            ? {
                  words: 'Old version',
                  run: () => {
                      view.go({ place: 'model', stage: 'history' })
                  },
              }
            : undefined,
    )
}
</script>

<template>
    <section class="leaf" aria-label="Logbook">
        <TryTabs
            ><a class="button" :href="api.logbookAddress(model.id)" download
                ><Download :size="14" :stroke-width="1.6" />Logbook as CSV</a
            ></TryTabs
        >
        <div class="scroll" tabindex="0">
            <ChangesPart :logged="logged" />
            <div class="bar">
                <h2>What was tried</h2>
                <label class="soft"><Checkbox v-model="starred" binary /> only with a star</label>
            </div>
            <ol>
                <li v-for="r in shown" :key="r.id" :class="{ starred: r.starred }">
                    <Button
                        class="icon-button"
                        :aria-pressed="r.starred"
                        :aria-label="`Star for the run of ${when(r.made)}`"
                        :title="r.starred ? 'Take the star away' : 'Star: it is never forgotten'"
                        @click="remark(r, { starred: !r.starred })"
                        ><Star :size="15" :stroke-width="1.6" :fill="r.starred ? 'currentColor' : 'none'"
                    /></Button>
                    <time class="soft" :datetime="r.made">{{ when(r.made) }}</time>
                    <div class="what">
                        <p v-if="r.scenario">
                            <b>{{ r.scenario }}</b>
                        </p>
                        <p v-for="(e, i) in r.edits.slice(-4)" :key="i">{{ e }}</p>
                        <p v-if="r.edits.length > 4" class="soft">and {{ r.edits.length - 4 }} more edits before</p>
                        <p v-for="s in r.setting" :key="s" class="setting">{{ s }}</p>
                        <p v-if="!r.edits.length && !r.setting.length && !r.scenario" class="soft">
                            the baseline of revision {{ r.revision }}
                        </p>
                        <InputText
                            v-if="r.comment || commenting === r.id"
                            class="field comment"
                            :model-value="r.comment"
                            placeholder="Comment"
                            :autofocus="commenting === r.id"
                            :aria-label="`Comment on the run of ${when(r.made)}`"
                            maxlength="500"
                            @vue:mounted="
                                ({ el }) => {
                                    if (commenting === r.id) (el as HTMLInputElement).focus()
                                }
                            "
                            @blur="commenting = 0"
                            @change="remark(r, { comment: ($event.target as HTMLInputElement).value })"
                            @keydown.enter="($event.target as HTMLElement).blur()"
                        />
                    </div>
                    <span class="actions">
                        <Button
                            class="icon-button"
                            :aria-pressed="courses.called.some((c) => c.key === keyOf(r))"
                            :aria-label="`Plot the run of ${when(r.made)}`"
                            title="Call it back into the plots"
                            @click="courses.call(keyOf(r), named(r).slice(0, 40), { log: r.id })"
                            ><Eye v-if="courses.called.some((c) => c.key === keyOf(r))" :size="15" :stroke-width="1.6" /><EyeOff
                                v-else
                                :size="15"
                                :stroke-width="1.6"
                        /></Button>
                        <Button
                            v-if="!r.comment"
                            class="icon-button"
                            :aria-label="`Comment on the run of ${when(r.made)}`"
                            title="Comment"
                            @click="commenting = r.id"
                            ><MessageSquare :size="14" :stroke-width="1.6"
                        /></Button>
                        <Button class="button" @click="courses.keep(named(r).slice(0, 100), '', { log: r.id })">Keep</Button>
                        <Button class="button" title="Put dials and hands as they were" @click="back(r)">Go back to it</Button>
                    </span>
                </li>
            </ol>
            <p v-if="!shown.length" class="soft">
                {{ starred ? 'No run has a star yet.' : 'Every run that was looked at is told of here.' }}
            </p>
        </div>
    </section>
</template>

<style scoped>
.scroll {
    overflow: auto;
    padding: 12px 16px 30px;
}
.bar {
    display: flex;
    align-items: center;
    gap: 16px;
    margin: 22px 0 6px;
}
ol {
    list-style: none;
    padding: 0;
}
li {
    display: grid;
    grid-template-columns: 30px 118px minmax(0, 1fr) auto;
    gap: 8px;
    align-items: start;
    padding: 7px 0;
    border-bottom: 1px solid var(--hairline);
}
time {
    padding-top: 5px;
    font-size: 13px;
    white-space: nowrap;
}
.what p {
    padding-top: 3px;
}
.setting {
    color: var(--plum);
}
.comment {
    width: min(100%, 340px);
    min-height: 26px;
    margin-top: 4px;
    border-color: transparent;
    background: none;
}
.comment:hover,
.comment:focus {
    border-color: var(--line);
}
.starred > .icon-button {
    color: var(--ochre);
}
.actions {
    display: flex;
    gap: 4px;
}
.actions .button {
    min-height: 28px;
    padding: 0 10px;
}
</style>
