<script setup lang="ts">
import { Copy, Download, LogOut, MoreHorizontal, Trash2 } from '@lucide/vue'
import { useIntersectionObserver } from '@vueuse/core'
import Menu from 'primevue/menu'
import { computed, nextTick, ref, shallowRef } from 'vue'
import { api } from '@/api/client'
import type { Study, Thumbnail } from '@/api/types'
import { useExports } from '@/stores/exports'

const { study } = defineProps<{ study: Study }>()
const emit = defineEmits<{ duplicate: []; leave: []; remove: [] }>()
const exports = useExports()

const WIDTH = 280
const HEIGHT = 104
const INKS = ['var(--ink)', 'var(--basin)', 'var(--ribbon)']
const DASHES = [undefined, '7 4', '2 4']

const thumbnail = shallowRef<Thumbnail | null>(null)
const menu = ref<InstanceType<typeof Menu>>()
const menuOpen = ref(false)
const menuWanted = ref(false)

const changed = computed(() => {
    const days = Math.round((new Date(study.changed ?? 0).getTime() - Date.now()) / 86_400_000)
    return new Intl.RelativeTimeFormat(undefined, { numeric: 'auto' }).format(days, 'day')
})

const items = computed(() => [
    {
        label: study.owner === null ? 'Duplicate' : 'Take a copy',
        mark: Copy,
        command: () => {
            emit('duplicate')
        },
    },
    {
        label: 'Export as a model file',
        mark: Download,
        command: () => {
            void exports.exportStudy(study.id, 'native')
        },
    },
    {
        label: 'Export as XMILE',
        mark: Download,
        command: () => {
            void exports.exportStudy(study.id, 'xmile')
        },
    },
    study.owner === null
        ? {
              label: 'Delete',
              mark: Trash2,
              command: () => {
                  emit('remove')
              },
          }
        : {
              label: 'Leave it',
              mark: LogOut,
              command: () => {
                  emit('leave')
              },
          },
])

function path(values: number[]): string {
    return values
        .map(
            (v, i) =>
                `${i ? 'L' : 'M'}${((i / Math.max(1, values.length - 1)) * WIDTH).toFixed(1)} ${(HEIGHT - 4 - v * (HEIGHT - 12)).toFixed(1)}`,
        )
        .join('')
}

/** Asked for when the card comes into view: of many studies few are seen. */
const card = ref<HTMLElement>()
const { stop } = useIntersectionObserver(
    card,
    async ([entry]) => {
        if (entry?.isIntersecting) {
            stop()
            thumbnail.value = await api.thumbnail(study.id).catch(() => null)
        }
    },
    { rootMargin: '200px' },
)

async function showMenu(event: Event) {
    // Made when it is wanted: very many cards have one.
    menuWanted.value = true
    const { currentTarget } = event
    await nextTick()
    menu.value?.toggle(event, currentTarget)
}
</script>

<template>
    <article ref="card" class="study">
        <RouterLink :to="`/studies/${study.id}`" class="open" :aria-label="`Open ${study.name}`">
            <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" preserveAspectRatio="none" aria-hidden="true">
                <line x1="0" :x2="WIDTH" :y1="HEIGHT - 4" :y2="HEIGHT - 4" stroke="var(--hairline)" />
                <path
                    v-for="(line, i) in thumbnail?.lines"
                    :key="line.name"
                    :d="path(line.values)"
                    fill="none"
                    :stroke="INKS[i]"
                    :stroke-dasharray="DASHES[i]"
                    stroke-width="1.8"
                    vector-effect="non-scaling-stroke"
                />
            </svg>
            <p v-if="thumbnail && !thumbnail.lines.length" class="blank soft">Nothing to plot yet</p>
            <div class="words">
                <h3 :title="study.name">{{ study.name }}</h3>
                <p v-if="study.owner" class="shared">shared by {{ study.owner }}</p>
                <p v-else-if="study.origin" class="shared">a copy of {{ study.origin.name }}, version {{ study.origin.revision }}</p>
                <p class="soft lines">
                    <span v-for="(line, i) in thumbnail?.lines" :key="line.name"
                        ><svg width="20" height="8" aria-hidden="true">
                            <line x1="0" x2="20" y1="4" y2="4" :stroke="INKS[i]" :stroke-dasharray="DASHES[i]" stroke-width="2" /></svg
                        >{{ line.name }}</span
                    >
                </p>
                <p v-if="study.toCheck" class="check">
                    {{ study.toCheck }} {{ study.toCheck === 1 ? 'line' : 'lines' }} of the import log to check
                </p>
                <p class="soft">
                    {{ thumbnail ? `${thumbnail.words} · ${thumbnail.start}–${thumbnail.end} ${thumbnail.unit}` : ' ' }} · changed
                    {{ changed }}
                </p>
            </div>
        </RouterLink>
        <Button
            class="icon-button more"
            :aria-label="`More about ${study.name}`"
            aria-haspopup="menu"
            :aria-expanded="menuOpen"
            @click="showMenu"
        >
            <MoreHorizontal :size="18" :stroke-width="1.5" />
        </Button>
        <Menu v-if="menuWanted" ref="menu" :model="items" popup @show="menuOpen = true" @hide="menuOpen = false">
            <template #item="{ item, props: p }">
                <a v-bind="p.action" class="choice"><component :is="item.mark" :size="16" :stroke-width="1.5" />{{ item.label }}</a>
            </template>
        </Menu>
    </article>
</template>

<style scoped>
.study {
    position: relative;
    height: 100%;
}
.open {
    display: block;
    height: 100%;
    border: 1px solid var(--hairline);
    border-radius: 14px;
    background: var(--card);
    color: inherit;
    text-decoration: none;
    overflow: hidden;
    transition: border-color var(--quick);
}
.open:hover {
    border-color: var(--line);
}
.open > svg {
    display: block;
    width: 100%;
    height: 120px;
    padding: 14px 16px 6px;
    background: var(--paper);
}
.blank {
    position: absolute;
    top: 48px;
    left: 0;
    right: 0;
    text-align: center;
}
.words {
    padding: 12px 16px 14px;
    border-top: 1px solid var(--hairline);
}
.shared {
    margin-bottom: 2px;
    font-style: italic;
}
h3 {
    font-size: 16px;
    padding-right: 30px;
    overflow: hidden;
    text-overflow: ellipsis;
    white-space: nowrap;
}
.check {
    font-size: 13px;
    color: var(--ochre);
}
.lines {
    display: flex;
    flex-wrap: wrap;
    gap: 2px 14px;
    min-height: 19px;
    margin: 4px 0;
}
.lines span {
    display: inline-flex;
    align-items: center;
    gap: 6px;
}
.more {
    position: absolute;
    right: 10px;
    top: 128px;
}
.choice {
    display: flex;
    align-items: center;
    gap: 10px;
    padding: 8px 12px;
}
</style>
