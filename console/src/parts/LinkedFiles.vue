<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef, watch } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { count, number } from '../use/words'
import StateView from './StateView.vue'

/** What came along with a list of people: units, groups, memberships, pictures. */
const props = defineProps<{ made: Schemas['ImportView'] }>()
/** Whether it says something new of units or groups, which counts once it is released. */
const emit = defineEmits<{ lists: [news: boolean] }>()
const id = toRef(() => props.made.id)
const path = computed(() => `/api/v1/imports/${id.value}/linked`)
const files = useResource(async (signal) => (await api<Page<Schemas['LinkedFileView']>>(path.value, { signal })).items, [id, () => props.made.stage])
const VERDICTS = [['refused', 'Refused'], ['set aside', 'Set aside'], ['changed', 'Changed'], ['new', 'New'], ['left alone', 'Left alone'], ['unchanged', 'As they were']] as const
const file = ref('')
const verdict = ref('')
const shown = computed(() => files.data.value?.find((one) => one.file === file.value))
const verdicts = computed(() => VERDICTS.filter(([value]) => shown.value?.counts[value]))
const amiss = (one: Schemas['LinkedFileView']): number => (one.counts.refused ?? 0) + (one.counts['set aside'] ?? 0)
watch(files.data, (now) => {
  emit('lists', !!now?.some((one) => (one.file === 'units' || one.file === 'groups') && (one.counts.new || one.counts.changed)))
  if (!shown.value) file.value = (now?.find(amiss) ?? now?.[0])?.file ?? ''
})
watch(verdicts, (now) => {
  if (!now.some(([value]) => value === verdict.value)) verdict.value = now[0]?.[0] ?? ''
})
const rows = usePages<Schemas['LinkedRowView']>(
  (cursor, signal) => (file.value && verdict.value ? api<Page<Schemas['LinkedRowView']>>(`${path.value}/${file.value}${query({ verdict: verdict.value, cursor, limit: 25 })}`, { signal }) : Promise.resolve({ items: [], next: null, total: 0, moreThan: null })),
  [id, file, verdict]
)
const SHOWN = ['unit', 'group', 'person', 'name', 'parent', 'application', 'from', 'until', 'file']
const said = (row: Schemas['LinkedRowView']): [string, string][] => SHOWN.filter((name) => name in row.says).map((name) => [name, row.says[name]])
</script>

<template>
  <section v-if="files.data.value?.length" aria-label="Linked files">
    <h2>What came along</h2>
    <div class="acts">
      <div class="switch" role="group" aria-label="Linked file shown">
        <button v-for="one in files.data.value" :key="one.file" type="button" :aria-pressed="file === one.file" @click="file = one.file"><span class="called">{{ one.file }}</span>{{ amiss(one) ? `: ${number(amiss(one))} not taken` : '' }}</button>
      </div>
      <div class="switch" role="group" aria-label="Rows of it shown">
        <button v-for="[value, words] in verdicts" :key="value" type="button" :aria-pressed="verdict === value" @click="verdict = value">{{ words }} {{ number(shown?.counts[value] ?? 0) }}</button>
      </div>
    </div>
    <p v-if="verdict === 'refused'" class="soft small">These are mended in their file; then bring all of it in again.</p>
    <p v-if="verdict === 'set aside'" class="soft small">{{ count(shown?.counts['set aside'] ?? 0, 'row follows', 'rows follow') }} by themselves once the person's own row is mended or answered.</p>
    <StateView :data="rows.items.value" :trouble="rows.trouble.value" :is-loading="rows.isLoading.value" :is-empty="!rows.items.value?.length" @retry="rows.reload">
      <template #empty>Everything here is as it was.</template>
      <table>
        <thead><tr><th class="number">Line</th><th>What it says</th><th v-if="verdict === 'refused' || verdict === 'set aside'">What is wrong</th></tr></thead>
        <tbody>
          <tr v-for="row in rows.items.value ?? []" :key="row.line">
            <td class="number">{{ row.line }}</td>
            <td><span v-for="[name, value] in said(row)" :key="name" class="value"><span class="soft">{{ name }}</span> <bdi>{{ value }}</bdi> </span></td>
            <td v-if="row.problems.length"><div v-for="problem in row.problems" :key="problem.code"><strong>{{ problem.what }}</strong> <span class="soft">{{ problem.remedy }}</span></div></td>
          </tr>
        </tbody>
      </table>
      <Button v-if="rows.hasMore.value" label="Show more rows" severity="secondary" @click="rows.more" />
    </StateView>
  </section>
</template>

<style scoped>
.number { width: 4rem; }
.called { text-transform: capitalize; }
.value { margin-right: 0.8rem; }
</style>
