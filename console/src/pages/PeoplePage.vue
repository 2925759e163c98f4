<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, onBeforeUnmount, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import MovePeople from '../parts/MovePeople.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import SuspendPeople from '../parts/SuspendPeople.vue'
import { useSelection } from '../selection'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { attribute, count, day, number } from '../use/words'

type Person = Schemas['PersonSummary']
interface Column { name: string; words: string; sort?: string; text: (one: Person) => string }
const COLUMNS: Column[] = [
  { name: 'userName', words: 'Login', sort: 'userName', text: (one) => one.login },
  { name: 'employeeNumber', words: 'Staff number', sort: 'employeeNumber', text: (one) => one.employeeNumber },
  { name: 'title', words: 'Job', text: (one) => one.title },
  { name: 'department', words: 'Unit', sort: 'department', text: (one) => one.department },
  { name: 'userType', words: 'Kind', text: (one) => one.userType },
  { name: 'stage', words: 'Stage', text: (one) => (one.suspended ? `${one.stage}, suspended` : one.stage) },
  { name: 'startDate', words: 'First day', sort: 'startDate', text: (one) => day(one.startDate) },
  { name: 'endDate', words: 'Last day', sort: 'endDate', text: (one) => day(one.endDate) }
]
const USUAL = 'userName,department,title,stage,startDate,endDate'
const STAGES = ['expected', 'present', 'leaving', 'departed']
const EDITABLE = ['department', 'title', 'userType', 'location', 'endDate', 'startDate']

const session = useSession()
const selection = useSelection()
const route = useRoute()
const router = useRouter()
const text = (name: string): string => String(route.query[name] ?? '')
const set = (changes: Record<string, string | null | undefined>) =>
  router.replace({ query: Object.fromEntries(Object.entries({ ...route.query, ...changes }).filter(([, value]) => value)) })

const quoted = (value: string): string => JSON.stringify(value)
const filter = computed(() =>
  [
    text('unit') && `department eq ${quoted(text('unit'))}`,
    text('name') && `name.familyName sw ${quoted(text('name'))}`,
    text('kind') && `userType eq ${quoted(text('kind'))}`,
    text('stage') && `stage eq ${quoted(text('stage'))}`,
    text('filter') && `(${text('filter')})`
  ].filter(Boolean).join(' and ')
)
const editable = computed(() => [...EDITABLE, ...own.value.filter((one) => one.byHand !== 'forbidden').map((one) => one.name)])
const sort = computed(() => text('sort') || 'name')
const { data: attributes } = useResource(async (signal) => (await api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })).items, [], false)
const own = computed(() => attributes.value?.filter((one) => one.own) ?? [])
const offered = computed<Column[]>(() => [...COLUMNS, ...own.value.map(({ name, type }) => ({ name, words: attribute(name), text: (one: Person) => (type === 'date' ? day(one.own[name]) : (one.own[name] ?? '')) }))])
const columns = computed(() => {
  const chosen = (text('columns') || USUAL).split(',')
  return offered.value.filter((one) => chosen.includes(one.name))
})
const list = usePages<Person>(
  (cursor, signal) => api<Page<Person>>(`/api/v1/people${query({ filter: filter.value, sort: sort.value, cursor, limit: 100 })}`, { signal }),
  [filter, sort]
)
const { data: units } = useResource(async (signal) => (await api<Page<string>>(`/api/v1/people/values?attribute=department`, { signal })).items, [], false)
const { data: kinds } = useResource(async (signal) => (await api<Page<string>>(`/api/v1/people/values?attribute=userType`, { signal })).items, [], false)

const name = ref(text('name'))
const free = ref(text('filter'))
let typed: number | undefined
watch(name, (now) => {
  window.clearTimeout(typed)
  typed = window.setTimeout(() => set({ name: now.trim() }), 200)
})
watch(() => text('name'), (now) => now !== name.value.trim() && (name.value = now))
const isFiltered = computed(() => filter.value !== '')
const clear = (): void => {
  name.value = free.value = ''
  void router.replace({ query: { sort: route.query.sort, columns: route.query.columns } })
}
function order(column: string): void {
  void set({ sort: sort.value === column ? `-${column}` : column === 'name' ? null : column })
}
const ariaSort = (column?: string): 'ascending' | 'descending' | 'none' | undefined =>
  !column ? undefined : sort.value === column ? 'ascending' : sort.value === `-${column}` ? 'descending' : 'none'
function show(column: string, on: boolean): void {
  const names = offered.value.map((one) => one.name).filter((one) => (one === column ? on : columns.value.some((c) => c.name === one)))
  void set({ columns: names.join(',') === USUAL ? null : names.join(',') })
}
const counted = computed(() =>
  list.total.value !== null ? count(list.total.value, 'person', 'people') : list.moreThan.value !== null ? `More than ${number(list.moreThan.value)} people` : ''
)
const exportTo = computed(() => `/api/v1/people/export${query({ filter: filter.value, sort: sort.value, columns: ['displayName', ...columns.value.map((one) => one.name)].join(',') })}`)

const allShown = computed(() => !!list.items.value?.length && list.items.value.every((one) => selection.people.has(one.id)))
function takeAll(on: boolean): void {
  list.items.value?.forEach((one) => (on ? selection.add(one.id, one.displayName) : selection.remove(one.id)))
}

const end = ref<HTMLElement | null>(null)
let observer: IntersectionObserver | null = null
onMounted(() => {
  observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && void list.more(), { rootMargin: '600px' })
  if (end.value) observer.observe(end.value)
})
onBeforeUnmount(() => observer?.disconnect())

const { isBusy, trouble: refused, run } = useAct()
const doing = ref<'edit' | 'reset' | null>(null)
const isMoving = ref(false)
const suspending = ref<'chosen' | 'found' | null>(null)
const edited = ref('department')
const value = ref('')
const until = ref('')
const names = computed(() => [...selection.people.values()])
async function carryOut(): Promise<void> {
  const people = [...selection.people.keys()]
  const made = await run(() =>
    doing.value === 'edit'
      ? api<Schemas['ChangeSetView']>('/api/v1/people/edits', { method: 'POST', body: { people, attributes: { [edited.value]: value.value.trim() || null }, until: until.value || null } })
      : api<Schemas['ChangeSetView']>('/api/v1/people/resets', { method: 'POST', body: { people } })
  )
  if (!made) return
  doing.value = null
  selection.clear()
  await router.push(`/now/change-sets/${made.id}`)
}
function begin(what: 'edit' | 'reset'): void {
  refused.value = null
  doing.value = what
}
</script>

<template>
  <PageHead title="People">
    <template #facts><span role="status">{{ counted }}{{ isFiltered && counted ? ' found' : '' }}</span></template>
    <Button v-if="session.may('edit-people')" as="router-link" to="/who/new" label="Somebody new" />
    <Button as="router-link" to="/who/units" severity="secondary" label="Units" />
    <Button as="router-link" to="/who/groups" severity="secondary" label="Groups" />
    <Button as="router-link" to="/who/oddities" severity="secondary" label="What may be amiss" />
    <Button v-if="session.may('see-imports')" as="router-link" to="/who/duplicates" severity="secondary" label="Who may be one" />
    <Button v-if="session.may('export')" as="a" severity="secondary" :href="exportTo" download label="Export this list" />
  </PageHead>
  <div class="filters">
    <label for="f-name">Family name begins with<InputText id="f-name" v-model="name" autocomplete="off" /></label>
    <label for="f-unit">Unit<Select id="f-unit" :model-value="text('unit') || null" :options="units ?? []" show-clear placeholder="Any" aria-label="Unit" filter @update:model-value="(v: string | null) => set({ unit: v })" /></label>
    <label for="f-kind">Kind<Select id="f-kind" :model-value="text('kind') || null" :options="kinds ?? []" show-clear placeholder="Any" aria-label="Kind" @update:model-value="(v: string | null) => set({ kind: v })" /></label>
    <label for="f-stage">Stage<Select id="f-stage" :model-value="text('stage') || null" :options="STAGES" show-clear placeholder="Any" aria-label="Stage" @update:model-value="(v: string | null) => set({ stage: v })" /></label>
    <details class="more" :open="!!text('filter')">
      <summary>Columns, and a filter in words</summary>
      <div class="panel">
        <fieldset><legend>Columns</legend><label v-for="one in offered" :key="one.name" class="tick"><input type="checkbox" :checked="columns.some((c) => c.name === one.name)" @change="show(one.name, ($event.target as HTMLInputElement).checked)" /> {{ one.words }}</label></fieldset>
        <form @submit.prevent="set({ filter: free.trim() })"><label for="f-free">Filter (RFC 7644)<InputText id="f-free" v-model="free" placeholder="endDate lt &quot;2026-12-31&quot;" fluid /></label><Button type="submit" label="Filter" severity="secondary" size="small" /></form>
      </div>
    </details>
    <Button v-if="isFiltered" label="Show everybody" severity="secondary" @click="clear" />
  </div>
  <div v-if="selection.size" class="chosen" role="region" aria-label="Chosen people">
    <strong>{{ count(selection.size, 'person', 'people') }} chosen</strong> <span class="soft small">The choice stays while you filter on.</span>
    <Button v-if="session.may('edit-people')" size="small" :label="`Set a value for ${count(selection.size, 'person', 'people')}`" @click="begin('edit')" />
    <Button v-if="session.may('edit-people')" severity="secondary" size="small" :label="`Move ${count(selection.size, 'person', 'people')}`" @click="isMoving = true" />
    <Button v-if="session.may('edit-people')" severity="secondary" size="small" :label="`Suspend ${count(selection.size, 'person', 'people')} …`" @click="suspending = 'chosen'" />
    <Button v-if="session.may('edit-people') && isFiltered && allShown && list.hasMore.value && list.total.value" severity="secondary" size="small" :label="`Suspend all ${number(list.total.value)} found …`" @click="suspending = 'found'" />
    <Button v-if="session.may('reset')" size="small" severity="secondary" :label="`Reset passwords of ${count(selection.size, 'person', 'people')}`" @click="begin('reset')" />
    <Button size="small" severity="secondary" label="Choose nobody" @click="selection.clear()" />
  </div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" :rows="12" @retry="list.reload">
    <template #empty>
      <p v-if="isFiltered">Nobody is like that. Take a filter away, or press <kbd>/</kbd> to look everywhere.</p>
      <p v-else>There is nobody yet. <RouterLink v-if="session.may('import')" to="/now/imports/new">Bring in a file</RouterLink><template v-else>People come with the first file.</template> A file that is shown adds people once it is released.</p>
    </template>
    <table class="people">
      <thead>
        <tr>
          <th class="tickbox"><input type="checkbox" :checked="allShown" aria-label="Choose all that are listed" @change="takeAll(($event.target as HTMLInputElement).checked)" /></th>
          <th :aria-sort="ariaSort('name')"><button type="button" class="order" @click="order('name')">Name<span aria-hidden="true">{{ sort === 'name' ? ' ↓' : sort === '-name' ? ' ↑' : '' }}</span></button></th>
          <th v-for="one in columns" :key="one.name" :aria-sort="ariaSort(one.sort)">
            <button v-if="one.sort" type="button" class="order" @click="order(one.sort)">{{ one.words }}<span aria-hidden="true">{{ sort === one.sort ? ' ↓' : sort === `-${one.sort}` ? ' ↑' : '' }}</span></button>
            <template v-else>{{ one.words }}</template>
          </th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="one in list.items.value ?? []" :key="one.id">
          <td class="tickbox"><input type="checkbox" :checked="selection.people.has(one.id)" :aria-label="`Choose ${one.displayName}`" @change="selection.toggle(one.id, one.displayName)" /></td>
          <td class="who"><RouterLink :to="`/who/${one.id}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
          <td v-for="column in columns" :key="column.name" :class="{ leaving: column.name === 'stage' && one.stage === 'leaving' }"><bdi>{{ column.text(one) }}</bdi></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <p ref="end" class="soft small" role="status">{{ list.items.value && list.hasMore.value ? 'More follow …' : '' }}</p>

  <SuspendPeople v-if="suspending === 'found'" :filter="filter" :found="list.total.value ?? 0" @close="suspending = null" />
  <SuspendPeople v-else-if="suspending" :people="[...selection.people.keys()]" @close="suspending = null" @shown="selection.clear()" />
  <MovePeople v-if="isMoving" :people="[...selection.people.keys()]" :names="names" @close="isMoving = false" @shown="selection.clear()" />
  <Dialog :visible="doing !== null" modal :draggable="false" :header="doing === 'edit' ? `Set a value for ${count(selection.size, 'person', 'people')}` : `Reset passwords of ${count(selection.size, 'person', 'people')}`" @update:visible="doing = null">
    <form class="fields" @submit.prevent="carryOut">
      <ProblemNote v-if="refused" :problems="refused.problems" />
      <p class="names"><bdi v-for="one in names.slice(0, 12)" :key="one">{{ one }}</bdi><span v-if="names.length > 12" class="soft">and {{ names.length - 12 }} more</span></p>
      <template v-if="doing === 'edit'">
        <label for="b-what">What<Select id="b-what" v-model="edited" :options="editable" :option-label="attribute" aria-label="What" /></label>
        <label for="b-value">New value<span class="hint">Empty takes a value set by hand away; dates as 2026-12-31</span><InputText id="b-value" v-model="value" /></label>
        <label for="b-until">Up to and with<span class="hint">then its sources have the say again; empty for good</span><input id="b-until" v-model="until" type="date" /></label>
        <p class="small soft">Next you see what it changes in each application. Nothing is written before you release it.</p>
        <Button type="submit" label="Show what it would change" :loading="isBusy" />
      </template>
      <template v-else>
        <p>Their passwords stop working in every application at once, and each gets a message with a page to choose a new one. This begins right away.</p>
        <Button type="submit" severity="warn" :label="`Reset passwords of ${count(selection.size, 'person', 'people')}`" :loading="isBusy" />
      </template>
    </form>
  </Dialog>
</template>

<style scoped>
.filters { display: flex; flex-wrap: wrap; gap: 0.6rem 1rem; align-items: flex-end; margin-bottom: 0.8rem; }
.filters > label { display: grid; gap: 0.15rem; font-size: 0.85rem; color: var(--ink-soft); }
.filters :deep(.p-select) { min-width: 10rem; }
.more summary { cursor: pointer; padding: 0.45rem 0; }
.more[open] { flex-basis: 100%; order: 9; }
.panel { display: flex; flex-wrap: wrap; gap: 1rem 2.5rem; padding: 0.6rem 0; }
.panel fieldset { border: 0; padding: 0; margin: 0; display: flex; flex-wrap: wrap; gap: 0.2rem 1rem; }
.panel form { display: flex; gap: 0.6rem; align-items: flex-end; flex: 1; min-width: 22rem; }
.panel form label { flex: 1; }
.chosen { display: flex; flex-wrap: wrap; gap: 0.6rem; align-items: center; padding: 0.5rem 0.8rem; background: var(--water-soft); margin-bottom: 0.6rem; position: sticky; top: 3rem; z-index: 3; }
.order { font: inherit; background: none; border: 0; padding: 0; color: inherit; cursor: pointer; text-decoration: underline dotted; text-underline-offset: 0.25em; }
.tickbox { width: 2rem; }
.who { font-weight: 600; min-width: 12rem; }
/* A long name gives way, and never makes the other columns fall apart. */
.people td:not(.who) bdi { overflow-wrap: break-word; }
.leaving { font-weight: 600; }
.people tbody tr { content-visibility: auto; contain-intrinsic-size: auto 2.1rem; }
.people thead th { position: sticky; top: 2.9rem; background: var(--paper); z-index: 1; }
.names { display: flex; flex-wrap: wrap; gap: 0.1rem 0.9rem; }
</style>
