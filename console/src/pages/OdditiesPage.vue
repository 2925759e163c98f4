<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { useSelection } from '../selection'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { number } from '../use/words'

/** With whom something may be amiss: the kinds, and one of them person by person. */
const route = useRoute()
const router = useRouter()
const selection = useSelection()
const kinds = useResource(async (signal) => (await api<Page<Schemas['OddityView']>>('/api/v1/people/oddities', { signal })).items, [])
const kind = computed(() => (route.query.kind as string | undefined) ?? kinds.data.value?.find((one) => one.people)?.kind ?? '')
const chosen = computed(() => kinds.data.value?.find((one) => one.kind === kind.value))
const people = usePages<Schemas['PersonSummary']>(
  (cursor, signal) => (kind.value ? api<Page<Schemas['PersonSummary']>>(`/api/v1/people/oddities/${kind.value}${query({ cursor })}`, { signal }) : Promise.resolve({ items: [], next: null, total: null, moreThan: null })),
  [kind]
)
function choose(): void {
  people.items.value?.forEach((one) => selection.add(one.id, one.displayName))
  void router.push('/who')
}
</script>

<template>
  <PageHead title="What may be amiss" place="Who" to="/who"><template #facts>Among those who are here today. Nothing is done about it by itself.</template></PageHead>
  <StateView :data="kinds.data.value" :trouble="kinds.trouble.value" :is-loading="kinds.isLoading.value" @retry="kinds.reload">
    <template v-if="kinds.data.value" #default>
      <table class="kinds">
        <thead><tr><th class="number">People</th><th>Who</th><th>Why it matters, and what to do</th></tr></thead>
        <tbody>
          <tr v-for="one in kinds.data.value" :key="one.kind" :class="{ here: one.kind === kind }">
            <td class="number">{{ number(one.people) }}</td>
            <td><RouterLink v-if="one.people" :to="{ query: { kind: one.kind } }" replace>{{ one.words }}</RouterLink><span v-else class="soft">{{ one.words }}</span></td>
            <td class="soft">{{ one.remedy }}</td>
          </tr>
        </tbody>
      </table>
      <template v-if="chosen">
        <h2>Who {{ chosen.words }}</h2>
        <StateView :data="people.items.value" :trouble="people.trouble.value" :is-loading="people.isLoading.value" :is-empty="!people.items.value?.length" @retry="people.reload">
          <template #empty>Nobody.</template>
          <div class="acts"><Button severity="secondary" size="small" :label="`Choose the ${people.items.value?.length ?? 0} shown, in the list of people`" @click="choose" /></div>
          <table>
            <thead><tr><th>Person</th><th>Unit</th><th>Job</th><th>Stage</th></tr></thead>
            <tbody><tr v-for="one in people.items.value ?? []" :key="one.id"><td><RouterLink :to="`/who/${one.id}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td><td>{{ one.department ?? '' }}</td><td>{{ one.title ?? '' }}</td><td>{{ one.stage }}</td></tr></tbody>
          </table>
          <Button v-if="people.hasMore.value" label="Show more" severity="secondary" @click="people.more" />
        </StateView>
      </template>
    </template>
  </StateView>
</template>

<style scoped>
.kinds { max-width: 64rem; }
.here td { background: var(--water-faint); }
.acts { margin-bottom: 0.5rem; }
</style>
