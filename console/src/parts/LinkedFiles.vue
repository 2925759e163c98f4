<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef, watch } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { number } from '../use/words'
import StateView from './StateView.vue'

/** What came along with a list of people: units, groups, memberships, pictures. */
const props = defineProps<{ made: Schemas['ImportView'] }>()
const id = toRef(() => props.made.id)
const path = computed(() => `/api/v1/imports/${id.value}/linked`)
const files = useResource(async (signal) => (await api<Page<Schemas['LinkedFileView']>>(path.value, { signal })).items, [id, () => props.made.stage])
const file = ref('')
watch(files.data, (now) => {
  if (!now?.some((one) => one.file === file.value)) file.value = (now?.find((one) => one.counts.refused || one.counts['set aside']) ?? now?.[0])?.file ?? ''
})
const rows = usePages<Schemas['LinkedRowView']>(
  (cursor, signal) => (file.value ? api<Page<Schemas['LinkedRowView']>>(`${path.value}/${file.value}${query({ cursor, limit: 25 })}`, { signal }) : Promise.resolve({ items: [], next: null, total: 0, moreThan: null })),
  [id, file]
)
const counted = (one: Schemas['LinkedFileView']): string => Object.entries(one.counts).map(([verdict, many]) => `${number(many)} ${verdict}`).join(', ')
const SHOWN = ['unit', 'group', 'person', 'name', 'parent', 'application', 'from', 'until', 'file']
const said = (row: Schemas['LinkedRowView']): [string, string][] => SHOWN.filter((name) => name in row.says).map((name) => [name, row.says[name]])
</script>

<template>
  <section v-if="files.data.value?.length" aria-label="Linked files">
    <h2>What came along</h2>
    <p class="soft small">Refused rows of these are mended in their file; bring all of it in again.</p>
    <div class="acts">
      <div class="switch" role="group" aria-label="Linked file shown">
        <button v-for="one in files.data.value" :key="one.file" type="button" :aria-pressed="file === one.file" @click="file = one.file"><span class="called">{{ one.file }}</span> {{ counted(one) || 'as they were' }}</button>
      </div>
    </div>
    <StateView :data="rows.items.value" :trouble="rows.trouble.value" :is-loading="rows.isLoading.value" :is-empty="!rows.items.value?.length" @retry="rows.reload">
      <template #empty>Everything here is as it was.</template>
      <table>
        <thead><tr><th class="number">Line</th><th>Verdict</th><th>What it says</th><th>What is wrong</th></tr></thead>
        <tbody>
          <tr v-for="row in rows.items.value ?? []" :key="row.line">
            <td class="number">{{ row.line }}</td>
            <td>{{ row.verdict }}</td>
            <td><span v-for="[name, value] in said(row)" :key="name" class="value"><span class="soft">{{ name }}</span> <bdi>{{ value }}</bdi> </span></td>
            <td><div v-for="problem in row.problems" :key="problem.code"><strong>{{ problem.what }}</strong> <span class="soft">{{ problem.remedy }}</span></div></td>
          </tr>
        </tbody>
      </table>
      <Button v-if="rows.hasMore.value" label="Show more rows" severity="secondary" @click="rows.more" />
    </StateView>
  </section>
</template>

<style scoped>
.called { text-transform: capitalize; }
.value { margin-right: 0.8rem; }
</style>
