import { Shapes } from '@lucide/vue'
import { computed } from 'vue'
import { useMembers } from '@/stores/members'
import { useView } from '@/stores/view'
import type { Place } from '../place'
import LevelsStage from './LevelsStage.vue'
import MembersStage from './MembersStage.vue'
import MembersTable from './MembersTable.vue'
import RostersPanel from './RostersPanel.vue'
import WhereStage from './WhereStage.vue'

/** Where single members are looked at: how they live, who comes and goes. */
export const membersPlace: Place = {
    name: 'members',
    words: 'Members',
    icon: Shapes,
    stages: [
        { name: 'members', words: 'One by one', shows: MembersStage },
        { name: 'where', words: 'Where they are', shows: WhereStage },
        { name: 'levels', words: 'At three levels', shows: LevelsStage, wide: true },
    ],
    left: { shows: RostersPanel, words: 'the rosters' },
    right: MembersTable,
    listed: () => {
        const members = useMembers()
        return computed(() => members.isThere)
    },
    commands: () => {
        const view = useView()
        return computed(() => [
            {
                words: 'Make a roster of a table',
                also: 'members individuals agents list csv boats come go',
                run: () => {
                    view.go({ place: 'members', stage: 'members', selection: [] })
                },
            },
        ])
    },
    keys: [['Up and down', 'In the table of members: the one before or after is looked at']],
}
