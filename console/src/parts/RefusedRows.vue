<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, toRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { count, number } from '../use/words'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** What is wrong with rows, by kind; each can be mended here, and all alike with it. */
const props = defineProps<{ made: Schemas['ImportView']; mends: boolean }>()
const emit = defineEmits<{ mended: [] }>()
const id = toRef(() => props.made.id)
const path = computed(() => `/api/v1/imports/${id.value}`)
const route = useRoute()
const router = useRouter()
const { isBusy, trouble: refused, run } = useAct()
const said = ref('')
const texts = reactive<Record<string, string>>({})
const alike = ref(true)

const kinds = useResource(async (signal) => (await api<Page<Schemas['ProblemKindView']>>(`${path.value}/problems`, { signal })).items, [id])
const code = computed(() => String(route.query.code ?? ''))
const heading = computed(() => String(route.query.heading ?? ''))
const rows = usePages<Schemas['RowView']>(
  (cursor, signal) => api<Page<Schemas['RowView']>>(`${path.value}/rows${query({ verdict: 'refused', code: code.value || undefined, heading: code.value ? heading.value : undefined, cursor, limit: 25 })}`, { signal }),
  [id, code, heading]
)
const choose = (kind?: Schemas['ProblemKindView']) => router.replace({ query: { ...route.query, code: kind?.code, heading: kind?.heading } })
const slot = (line: number, column: string): string => `${line} ${column}`
const columns = (row: Schemas['RowView']): string[] => [...new Set(row.problems.map((one) => one.column).filter((one): one is string => !!one && one in row.texts))]

async function mend(row: Schemas['RowView'], column: string): Promise<void> {
  const text = texts[slot(row.line, column)] ?? row.texts[column]
  const done = await run(() => api<Schemas['MendedView']>(`${path.value}/rows/${row.line}/mend`, { method: 'PUT', body: { texts: { [column]: text }, alike: alike.value } }))
  await tell(done)
}
async function means(row: Schemas['RowView'], column: string, attribute: string): Promise<void> {
  const meaning = texts[slot(row.line, column)]
  const done = await run(() => api<Schemas['MendedView']>(`${path.value}/codes`, { method: 'PUT', body: { attribute, code: row.texts[column], meaning } }))
  await tell(done)
}
async function tell(done: Schemas['MendedView'] | undefined): Promise<void> {
  if (!done) return
  said.value = `${count(done.rows, 'row was', 'rows were')} checked again; ${done.refused ? `${number(done.refused)} refused still` : 'none is refused any more'}.`
  await Promise.all([kinds.reload(), rows.reload()])
  if (!rows.items.value?.length && code.value) await choose()
  emit('mended')
}
/** The attribute a code stands for is named in the remedy's place only in words; the mapping knows it, while the file is kept. */
const mapping = useResource(async (signal) => (props.mends ? api<Schemas['MappingView']>(`${path.value}/mapping`, { signal }) : null), [id, () => props.mends], false)
const fills = (column: string): string | null => mapping.data.value?.columns.find((one) => one.heading === column)?.attribute ?? null
const isCode = (row: Schemas['RowView'], column: string): boolean => row.problems.some((one) => one.column === column && one.code === 'code-unknown')
</script>

<template>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <p v-if="said" role="status" class="said">{{ said }}</p>
  <StateView :data="kinds.data.value" :trouble="kinds.trouble.value" :is-loading="kinds.isLoading.value" :is-empty="!kinds.data.value?.length" @retry="kinds.reload">
    <template #empty>No row is refused.</template>
    <table class="kinds">
      <thead><tr><th class="number">Rows</th><th>What is wrong, for example</th><th>Column</th><th>What to do</th></tr></thead>
      <tbody>
        <tr v-for="kind in kinds.data.value ?? []" :key="kind.code + kind.heading" :class="{ chosen: kind.code === code && kind.heading === heading }">
          <td class="number">{{ number(kind.rows) }}</td>
          <td><button type="button" class="link" :aria-pressed="kind.code === code && kind.heading === heading" @click="choose(kind.code === code && kind.heading === heading ? undefined : kind)">{{ kind.example.what }}</button> <span class="soft small">{{ kind.example.why }}</span></td>
          <td><bdi>{{ kind.heading }}</bdi></td>
          <td>{{ kind.example.remedy }}</td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <p v-if="made.counts.refused" class="acts small"><a :href="`${path}/refused`" download>Take the refused rows as a file</a> <span class="soft">with the reason beside each; mended, it is brought in as it is.</span></p>
  <div v-if="mends && rows.items.value?.length" class="choice small"><input id="alike" v-model="alike" type="checkbox" /><label for="alike">Mend all rows alike: those refused because the same text stands in the same column</label></div>
  <StateView v-if="made.counts.refused" :data="rows.items.value" :trouble="rows.trouble.value" :is-loading="rows.isLoading.value" :is-empty="!rows.items.value?.length" @retry="rows.reload">
    <template #empty>No row is refused for this any more. <button type="button" class="link" @click="choose()">See all refused rows</button></template>
    <table>
      <thead><tr><th class="number">Line</th><th>Key</th><th>Name</th><th>What is wrong</th><th>{{ mends ? 'Mend it here' : 'As it stands' }}</th></tr></thead>
      <tbody>
        <tr v-for="row in rows.items.value ?? []" :key="row.line">
          <td class="number">{{ row.line }}</td>
          <td><bdi>{{ row.key }}</bdi></td>
          <td><bdi>{{ row.name }}</bdi></td>
          <td><div v-for="problem in row.problems" :key="problem.code + problem.column"><strong>{{ problem.what }}</strong> <span class="soft">{{ problem.remedy }}</span></div></td>
          <td>
            <template v-if="mends">
              <form v-for="column in columns(row)" :key="column" class="mend" @submit.prevent="isCode(row, column) && fills(column) ? means(row, column, fills(column)!) : mend(row, column)">
                <label><span class="soft small"><bdi>{{ isCode(row, column) ? `${row.texts[column]} means` : column }}</bdi></span><InputText :model-value="texts[slot(row.line, column)] ?? (isCode(row, column) ? '' : row.texts[column])" autocomplete="off" :aria-label="`${column} in line ${row.line}`" @update:model-value="texts[slot(row.line, column)] = $event ?? ''" /></label>
                <Button type="submit" size="small" severity="secondary" :label="isCode(row, column) ? 'Remember' : 'Mend'" :disabled="isBusy" />
              </form>
            </template>
            <template v-else><span v-for="column in columns(row)" :key="column"><bdi>{{ column }}</bdi>: <bdi>{{ row.texts[column] || 'nothing' }}</bdi> </span></template>
          </td>
        </tr>
      </tbody>
    </table>
    <Button v-if="rows.hasMore.value" label="Show more rows" severity="secondary" @click="rows.more" />
  </StateView>
</template>

<style scoped>
.kinds { max-width: 76rem; margin-bottom: 0.6rem; }
.kinds tr.chosen { background: var(--water-soft); }
.link { font: inherit; color: var(--water); background: none; border: 0; padding: 0; cursor: pointer; text-align: left; text-decoration: underline; }
.mend { display: flex; gap: 0.5rem; align-items: end; }
.mend label { display: grid; }
.choice { display: flex; gap: 0.5rem; margin: 0.6rem 0; }
.said { background: var(--water-soft); padding: 0.4rem 0.8rem; max-width: 40rem; }
</style>
