import Column from 'primevue/column'
import ColumnGroup from 'primevue/columngroup'
import DataTable from 'primevue/datatable'
import Row from 'primevue/row'

/** PrimeVue’s table in our look (see theme.ts and base.css): heads that stay in sight, rows drawn as they come into it. */
export { Column, ColumnGroup, DataTable, Row }

/** For a column whose cells name their rows. */
export const naming = { bodyCell: { role: 'rowheader' } }

/** From so many rows on only those in sight are drawn; all are one line high then. */
const MANY = 60
const ROW_HEIGHT = 28
export const drawnInSight = (rows: number) => (rows > MANY ? { itemSize: ROW_HEIGHT } : undefined)
