<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import AheadPlaces from '../parts/AheadPlaces.vue'
import PageHead from '../parts/PageHead.vue'
import ReturnPeople from '../parts/ReturnPeople.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { usePages } from '../use/pages'
import { count, day } from '../use/words'

/** Who is kept out by an operator, until when, with what that still costs and what is still open. */
type Suspension = Schemas['SuspensionView']
const session = useSession()
const list = usePages<Suspension>((cursor, signal) => api<Page<Suspension>>(`/api/v1/suspensions${query({ cursor })}`, { signal }), [])
const chosen = ref(new Set<number>())
const returning = ref<number[] | null>(null)
const REASONS: Record<string, string> = { leave: 'leave', season: 'season over', inquiry: 'inquiry', dormant: 'nobody signs in', other: 'other' }
const seats = (one: Suspension): string => [...new Set(one.accounts.flatMap((account) => account.seats.map((seat) => `${seat} (${account.application})`)))].join(', ')
const open = (one: Suspension) => one.accounts.filter((account) => account.standing !== 'off')
const shown = computed(() => [...new Set(list.items.value?.map((one) => one.person))])
function choose(person: number, on: boolean): void {
  const next = new Set(chosen.value)
  if (on) next.add(person)
  else next.delete(person)
  chosen.value = next
}
</script>

<template>
  <PageHead title="Suspended">
    <template #facts><span>Kept out by an operator. Whoever is on leave by their source, or has departed, is found in <RouterLink to="/who">Who</RouterLink>.</span></template>
    <AheadPlaces />
  </PageHead>
  <div v-if="chosen.size" class="acts chosen"><strong>{{ count(chosen.size, 'person', 'people') }} chosen</strong><Button :label="`Bring back ${count(chosen.size, 'person', 'people')} …`" @click="returning = [...chosen]" /><Button severity="secondary" label="Choose nobody" @click="chosen = new Set()" /></div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>Nobody is suspended. Choose people in <RouterLink to="/who">Who</RouterLink>, then <em>Suspend</em>.</template>
    <table>
      <thead><tr><th v-if="session.may('edit-people')"><input type="checkbox" aria-label="Choose all shown" :checked="shown.length > 0 && shown.every((one) => chosen.has(one))" @change="shown.forEach((one) => choose(one, ($event.target as HTMLInputElement).checked))" /></th><th>Person</th><th>Unit</th><th>Why</th><th>From</th><th>Last day</th><th>Look again</th><th>Seats still taken</th><th>Still open</th></tr></thead>
      <tbody>
        <tr v-for="one in list.items.value ?? []" :key="one.id">
          <td v-if="session.may('edit-people')"><input type="checkbox" :checked="chosen.has(one.person)" :aria-label="`Choose ${one.displayName}`" @change="choose(one.person, ($event.target as HTMLInputElement).checked)" /></td>
          <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink><span v-if="one.discreet" class="soft small"> discreet</span></td>
          <td>{{ one.department ?? '' }}</td>
          <td>{{ REASONS[one.reason ?? ''] ?? '' }}<p v-if="one.note" class="soft small">{{ one.note }}</p></td>
          <td>{{ day(one.from) }}<span v-if="!one.inForce" class="soft small"> not yet</span></td>
          <td>{{ one.until ? day(one.until) : 'until brought back' }}</td>
          <td>{{ day(one.review) }}</td>
          <td>{{ seats(one) }}</td>
          <td><RouterLink v-if="open(one).length" :to="`/who/${one.person}`" class="signal">{{ open(one).map((account) => `${account.application}: ${account.standing}`).join(', ') }}</RouterLink><span v-else class="soft">nothing</span></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
  <ReturnPeople v-if="returning" :people="returning" @close="returning = null" @shown="chosen = new Set()" />
</template>

<style scoped>
.chosen { padding: 0.5rem 0.8rem; background: var(--water-soft); margin-bottom: 0.6rem; align-items: center; }
td p { margin: 0; }
</style>
