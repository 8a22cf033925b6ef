import { MessageCircleQuestion } from '@lucide/vue'
import { computed } from 'vue'
import type { Place } from '../place'
import AskFoot from './AskFoot.vue'
import AskStage from './AskStage.vue'
import { useAsk } from './useAsk'

/** Where a study begins: its question, its boundary, and the courses that are feared, hoped for or seen. */
export const askPlace: Place = {
    name: 'ask',
    words: 'Ask',
    icon: MessageCircleQuestion,
    stages: [{ name: 'ask', words: 'Ask', shows: AskStage, alone: true }],
    foot: AskFoot,
    state: () => {
        const ask = useAsk()
        return computed(() => (ask.question.text ? 'up to date' : 'no question yet'))
    },
}
