<script setup lang="ts">
import { computed } from 'vue'
import { useMembers } from '@/stores/members'
import { useView } from '@/stores/view'
import ChoiceField from '@/ui/ChoiceField.vue'
import MembersTabs from './MembersTabs.vue'
import { useWhere } from './useWhere'
import WherePicture from './WherePicture.vue'

/** Where members are: by two of their numbers in a plane or on a map, or by the area they belong to. */
const members = useMembers()
const view = useView()
const where = useWhere()
const numbers = computed(() => where.columns.value.map((c) => ({ value: c.key, words: c.name })))
const NOTHING = { value: '', words: '–' }
const optional = computed(() => [NOTHING, ...numbers.value])
const isMap = computed(() => where.areas.value !== null)
const belongs = computed(() => isMap.value && where.areaOf.value !== null)
const places = computed(() => (belongs.value ? [{ value: '', words: 'where they belong' }, ...numbers.value] : numbers.value))
const grounds = computed(() => [{ value: '', words: 'a plane' }, ...where.maps.value.map((m) => ({ value: m.id, words: m.name }))])
const beneath = computed(() => [NOTHING, ...where.fields.value.map((t) => ({ value: t.id, words: t.name }))])
const field = <K extends 'across' | 'up' | 'colour' | 'size' | 'map'>(key: K) =>
    computed({
        get: () => where.seen.value[key] ?? '',
        set: (value: string) => {
            where.set(value === '' && key === 'across' ? { across: '', up: '' } : { [key]: value })
        },
    })
const [across, up, tint, size, ground] = [field('across'), field('up'), field('colour'), field('size'), field('map')]
const under = computed({
    get: () => where.beneath.value?.id ?? '',
    set: (of: string) => {
        where.set({ beneath: of ? { of } : undefined })
    },
})
const ready = computed(() => Boolean(across.value && up.value) || belongs.value)
</script>

<template>
    <section class="leaf members" aria-label="Where they are">
        <header :class="{ beside: !view.outline }">
            <MembersTabs />
            <div class="how" role="group" aria-label="How they are drawn">
                <label v-if="where.maps.value.length"
                    ><span>on</span><ChoiceField v-model="ground" label="What they are drawn on" :choices="grounds"
                /></label>
                <label
                    ><span>{{ isMap ? 'longitude' : 'across' }}</span
                    ><ChoiceField v-model="across" label="Where they are, across" placeholder="choose" :choices="places"
                /></label>
                <label v-if="across || !belongs"
                    ><span>{{ isMap ? 'latitude' : 'up' }}</span
                    ><ChoiceField v-model="up" label="Where they are, upwards" placeholder="choose" :choices="numbers"
                /></label>
                <label><span>colour</span><ChoiceField v-model="tint" label="What colours them" :choices="optional" /></label>
                <label><span>size</span><ChoiceField v-model="size" label="What sizes them" :choices="optional" /></label>
                <label v-if="where.fields.value.length"
                    ><span>beneath</span><ChoiceField v-model="under" label="What lies beneath them" :choices="beneath"
                /></label>
            </div>
        </header>
        <p v-if="where.trouble.value" class="refusal" role="alert">{{ where.trouble.value }}</p>
        <WherePicture v-if="ready" :where="where" />
        <p v-else class="none">
            Say by which two of its numbers a {{ members.roster?.name }} stands in a plane: choose what runs <b>across</b> and what runs
            <b>up</b>. With an area map in Data, they can stand in the areas they belong to.
        </p>
    </section>
</template>

<style scoped>
.members {
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
.how {
    display: flex;
    flex-wrap: wrap;
    gap: 4px 12px;
}
label {
    display: flex;
    align-items: center;
    gap: 6px;
    font-size: 13px;
    color: var(--ink-soft);
}
.none,
.refusal {
    max-width: 60ch;
    padding: 20px 16px;
}
.refusal {
    color: var(--brick);
}
.beside {
    padding-left: 54px;
}
</style>
