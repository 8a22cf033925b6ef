import { Users } from '@lucide/vue'
import { computed } from 'vue'
import { offered } from '@/find/command'
import { useModel } from '@/stores/model'
import { useTalk } from '@/stores/talk'
import { useView } from '@/stores/view'
import type { Place } from '../place'
import PageStage from './PageStage.vue'
import PeopleStage from './PeopleStage.vue'
import ReportStage from './ReportStage.vue'
import TalkStage from './TalkStage.vue'

/** Where a study is shown to others, and worked on with them. */
export const tellPlace: Place = {
    name: 'tell',
    words: 'Tell',
    icon: Users,
    stages: [
        { name: 'people', words: 'People', shows: PeopleStage, alone: true, footless: true },
        { name: 'page', words: 'Page for readers', shows: PageStage, alone: true, footless: true },
        { name: 'report', words: 'Report', shows: ReportStage, alone: true, footless: true },
        { name: 'comments', words: 'Comments', shows: TalkStage, alone: true, footless: true },
    ],
    attention: () => {
        const talk = useTalk()
        return computed(() => talk.waiting.length)
    },
    state: () => {
        const model = useModel()
        return computed(() => (model.may === 'own' ? 'yours' : 'shared with you'))
    },
    commands: () => {
        const view = useView()
        return computed(() =>
            offered([
                {
                    words: 'Share this study with somebody',
                    also: 'invite people access permission collaborate',
                    run: () => {
                        view.go({ place: 'tell', stage: 'people' })
                    },
                },
                {
                    words: 'Write a page for readers',
                    also: 'showcase publish present link embed',
                    run: () => {
                        view.go({ place: 'tell', stage: 'page' })
                    },
                },
                {
                    words: 'Make a report of the study',
                    also: 'documentation print pdf export html markdown',
                    run: () => {
                        view.go({ place: 'tell', stage: 'report' })
                    },
                },
                {
                    words: 'All comments',
                    also: 'discussion talk remarks',
                    run: () => {
                        view.go({ place: 'tell', stage: 'comments' })
                    },
                },
            ]),
        )
    },
}
