<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import AheadPlaces from '../parts/AheadPlaces.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import StepLine from '../parts/StepLine.vue'
import { usePages } from '../use/pages'
import { day, dayAfter, sentence } from '../use/words'

const route = useRoute()
const router = useRouter()
const STATES = [['running', 'Running'], ['done', 'Done'], ['turned-back', 'Turned back']] as const
const state = computed(() => String(route.query.state ?? 'running'))
const list = usePages<Schemas['DepartureView']>((cursor, signal) => api<Page<Schemas['DepartureView']>>(`/api/v1/departures${query({ state: state.value, cursor })}`, { signal }), [state])
/** What needs somebody comes before what goes on by itself; within that, what is due first. */
const waits = (one: Schemas['DepartureView']) => one.steps.find((step) => step.state === 'waits')
const next = (one: Schemas['DepartureView']): string => {
  if (one.paused) return `Paused ${one.paused}`
  const step = waits(one) ?? one.steps.find((now) => now.state === 'under way') ?? one.steps.find((now) => now.state === 'ahead')
  return step ? (step.state === 'ahead' && step.day ? `${step.words.replace(/\.$/, '')}` : step.words) : ''
}
const only = computed(() => String(route.query.waits ?? ''))
const kinds = computed(() => [...new Set((list.items.value ?? []).map((one) => waits(one)?.name).filter((name) => name !== undefined))].sort())
const rows = computed(() => (list.items.value ?? []).filter((one) => !only.value || (only.value === 'any' ? waits(one) : waits(one)?.name === only.value)).sort((a, b) => Number(!!waits(b)) - Number(!!waits(a)) || earliest(a).localeCompare(earliest(b))))
const NAMES: Record<string, string> = { return: 'whether they come back', stock: 'what they own', handover: 'a recipient, or a handover', references: 'what refers to them' }
const earliest = (one: Schemas['DepartureView']): string => one.accounts.filter((a) => a.level !== 'gone').map((a) => (a.restorableUntil ? dayAfter(a.restorableUntil) : a.deleteFrom)).sort()[0] ?? ''
</script>

<template>
  <PageHead title="Departures">
    <template #facts><span>From the last day to the last trace. Who leaves later is found in <RouterLink to="/who?stage=leaving&sort=endDate">Who, leaving</RouterLink>.</span></template>
    <AheadPlaces />
  </PageHead>
  <div class="switch" role="group" aria-label="Which departures"><button v-for="[value, words] in STATES" :key="value" type="button" :aria-pressed="state === value" @click="router.replace({ query: { state: value === 'running' ? undefined : value } })">{{ words }}</button></div>
  <div v-if="state === 'running' && kinds.length" class="switch waits" role="group" aria-label="What they wait for">
    <button type="button" :aria-pressed="only === ''" @click="router.replace({ query: {} })">All</button>
    <button type="button" :aria-pressed="only === 'any'" @click="router.replace({ query: { waits: 'any' } })">Waits for somebody</button>
    <button v-for="kind in kinds" :key="kind" type="button" :aria-pressed="only === kind" @click="router.replace({ query: { waits: kind } })">Waits for {{ NAMES[kind] ?? kind }}</button>
  </div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>No departure is {{ state === 'turned-back' ? 'turned back' : state }}. One begins by itself on the day after somebody's last day.</template>
    <table>
      <thead><tr><th>Person</th><th>Last day</th><th>Accounts</th><th v-if="state === 'running'">Steps</th><th v-if="state === 'running'">Next</th><th>Recipient</th><th>{{ state === 'running' ? 'First removal from' : 'Ended' }}</th></tr></thead>
      <tbody>
        <tr v-for="one in rows" :key="one.id">
          <td><RouterLink :to="`/ahead/departures/${one.id}`"><bdi>{{ one.displayName }}</bdi></RouterLink><div v-if="one.kind !== 'departure'" class="soft small">{{ one.kind === 'closing' ? 'one account closes' : 'one account is removed' }}</div></td>
          <td class="day">{{ day(one.lastDay) }}</td>
          <td><span v-for="account in one.accounts" :key="account.id" class="account">{{ account.application }} <LevelMark :level="account.level" wordless /></span></td>
          <td v-if="state === 'running'"><StepLine :steps="one.steps" short /></td>
          <td v-if="state === 'running'" class="next" :class="{ signal: waits(one) }"><div class="brief" :title="sentence(next(one))">{{ sentence(next(one)) }}</div></td>
          <td><bdi v-if="one.recipientName">{{ one.recipientName }}</bdi><span v-else-if="state === 'running'" class="signal">nobody yet</span></td>
          <td class="day">{{ state === 'running' ? day(one.turnsBackUntil ?? earliest(one)) : day(one.endedAt?.slice(0, 10)) }}</td>
        </tr>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
</template>

<style scoped>
.account { display: flex; gap: 0.3rem; white-space: nowrap; }
.day { white-space: nowrap; }
.switch { margin-bottom: 0.6rem; }
.waits { margin-left: 1rem; }
.next { max-width: 20rem; }
.brief { display: -webkit-box; -webkit-box-orient: vertical; -webkit-line-clamp: 3; line-clamp: 3; overflow: hidden; }
</style>
