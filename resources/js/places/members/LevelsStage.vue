<script setup lang="ts">
import { watchDebounced } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { members as api } from '@/api/members'
import type { Level, Levels } from '@/api/types'
import { useMembers } from '@/stores/members'
import { useModel } from '@/stores/model'
import { useNotices } from '@/stores/notices'
import { useRuns } from '@/stores/runs'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import { newId } from '@/ui/ids'
import { short, shownUnit } from '@/ui/numbers'
import { placeBehind } from '@/ui/records'
import SaidText from '@/ui/SaidText.vue'
import ClassesForm from './ClassesForm.vue'
import { LEVELS, levelAt } from './levels'
import LevelsPicture from './LevelsPicture.vue'
import MembersTabs from './MembersTabs.vue'

/** One definition at three levels: single members, classes of them, one aggregate; where they part, and why they must. */
const members = useMembers()
const model = useModel()
const runs = useRuns()
const view = useView()
const notices = useNotices()
const told = shallowRef<Levels | null>(null)
const wanted = ref('')
const trouble = ref('')
const busy = ref(false)
let asked = 0
async function load() {
    const [ticket, roster] = [++asked, members.roster]
    if (!roster) {
        return
    }
    busy.value = true
    try {
        const answer = await api.levels(model.id, runs.ref, roster.of, wanted.value)
        if (ticket === asked) {
            told.value = answer
            trouble.value = ''
        }
    } catch (error) {
        if (ticket === asked) {
            told.value = null
            trouble.value = (error as Error).message
        }
    } finally {
        busy.value = ticket === asked ? false : busy.value
    }
}
watchDebounced([() => model.revision, () => runs.setting, () => members.roster?.id, wanted, () => model.loaded], () => void load(), {
    debounce: 200,
    immediate: true,
    deep: true,
})
const of = computed({ get: () => told.value?.of ?? '', set: (key: string) => (wanted.value = key) })
const choices = computed(() => (told.value?.choices ?? []).map((c) => ({ value: c.key, words: c.name })))
const words = (level: Level) =>
    level.level === 'classes' && members.roster?.classes
        ? `classes of ${members.roster.classes.width} ${model.model.time.unit}s`
        : LEVELS[level.level].words
const number = (value: number | null | undefined) => short(value, { unit: told.value?.unit ?? '' })
/** A scenario in which the roster is at this level: one word of its setting. */
async function keep(level: Level['level']) {
    const roster = members.roster
    if (!roster) {
        return
    }
    const name = `${members.roster?.name}: ${LEVELS[level].words}`
    const setting = { ...runs.setting, levels: { [roster.id]: level } }
    const place = placeBehind(model.model.scenarios)
    if (await model.attempt({ kind: 'scenario', id: newId(), name, note: '', on: [], setting, place })) {
        notices.say(`Kept the scenario “${name}”.`, {
            words: 'Show',
            run: () => {
                view.go({ place: 'try', stage: 'scenarios', selection: [] })
            },
        })
    }
}
</script>

<template>
    <section class="leaf levels" aria-label="Three levels">
        <header :class="{ beside: !view.outline }">
            <MembersTabs />
            <h2>
                <ChoiceField v-if="choices.length" v-model="of" class="which" label="What is asked" :choices="choices" />
                <small v-if="told" class="soft"
                    >{{ shownUnit(told.unit) ? `${shownUnit(told.unit)} · ` : '' }}one definition, three levels{{
                        busy ? ' · running …' : ''
                    }}</small
                >
            </h2>
        </header>
        <p v-if="trouble" class="trouble" role="alert"><SaidText :text="trouble" /></p>
        <div v-if="told" class="scroll" tabindex="0" aria-label="The three levels">
            <LevelsPicture :told="told" />
            <div class="below">
                <table>
                    <thead>
                        <tr>
                            <th scope="col"></th>
                            <th scope="col" class="now">at {{ model.moment(view.playhead) }}</th>
                            <th scope="col">most</th>
                            <th scope="col">mean over time</th>
                            <td></td>
                        </tr>
                    </thead>
                    <tbody>
                        <tr v-for="l in told.levels" :key="l.level">
                            <th scope="row" :style="{ color: `var(${LEVELS[l.level].colour})` }">
                                {{ words(l) }} <small v-if="l.runs > 1" class="soft">mean of {{ l.runs }} runs, nine in ten tinted</small>
                            </th>
                            <template v-if="l.values.length">
                                <td>{{ number(levelAt(told, l, view.playhead)) }}</td>
                                <td>{{ number(l.most) }}</td>
                                <td>{{ number(l.mean) }}</td>
                            </template>
                            <td v-else colspan="3" class="soft said"><SaidText :text="l.refusal ?? ''" /></td>
                            <td>
                                <Button v-if="model.mayEdit && l.values.length" class="button" @click="keep(l.level)"
                                    >Keep as scenario</Button
                                >
                            </td>
                        </tr>
                    </tbody>
                </table>
                <aside aria-label="Why they part">
                    <p v-for="s in told.sentences" :key="s"><SaidText :text="s" /></p>
                    <p v-for="s in [...new Set(told.levels.flatMap((l) => l.lost))]" :key="s" class="soft">{{ s }}</p>
                    <ClassesForm />
                </aside>
            </div>
        </div>
    </section>
</template>

<style scoped>
.levels {
    display: flex;
    flex-direction: column;
    height: 100%;
    min-height: 0;
}
header {
    display: flex;
    flex-wrap: wrap;
    align-items: center;
    gap: 6px 16px;
    padding: 8px 16px 4px;
}
h2 {
    display: flex;
    align-items: baseline;
    gap: 10px;
    font-size: 15px;
}
.which {
    min-width: 190px;
}
small {
    font-size: 13px;
    font-weight: 400;
}
.scroll {
    flex: 1;
    min-height: 0;
    overflow: auto;
    padding-bottom: 16px;
}
.below {
    display: grid;
    grid-template-columns: minmax(0, 3fr) minmax(220px, 2fr);
    gap: 24px;
    padding: 8px 20px;
}
table {
    align-self: start;
    border-collapse: collapse;
}
th,
td {
    padding: 3px 8px;
    text-align: right;
    font-size: 13px;
}
thead th {
    white-space: nowrap;
    font-weight: 400;
    color: var(--ink-soft);
}
thead .now {
    font-weight: 700;
    color: var(--ember);
}
tbody th {
    text-align: left;
}
tbody th small {
    display: block;
}
.said {
    text-align: left;
}
aside {
    display: grid;
    gap: 8px;
    align-content: start;
    font-size: 13px;
}
.soft {
    color: var(--ink-soft);
}
.trouble {
    margin: 4px 16px;
    color: var(--brick);
}
@media (max-width: 1100px) {
    .below {
        grid-template-columns: 1fr;
    }
}
.beside {
    padding-left: 54px;
}
</style>
