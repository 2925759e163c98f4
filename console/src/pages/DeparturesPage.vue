<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import AheadPlaces from '../parts/AheadPlaces.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import { usePages } from '../use/pages'
import { day } from '../use/words'

const route = useRoute()
const router = useRouter()
const STATES = [['running', 'Running'], ['done', 'Done'], ['turned-back', 'Turned back']] as const
const state = computed(() => String(route.query.state ?? 'running'))
const list = usePages<Schemas['DepartureView']>((cursor, signal) => api<Page<Schemas['DepartureView']>>(`/api/v1/departures${query({ state: state.value, cursor })}`, { signal }), [state])
const shut = (one: Schemas['DepartureView']): number => one.accounts.reduce((n, account) => n + account.gates.filter((gate) => gate.state === 'shut' || gate.state === 'not known').length, 0)
const earliest = (one: Schemas['DepartureView']): string => one.accounts.filter((a) => a.level !== 'gone').map((a) => a.deleteFrom).sort()[0] ?? ''
</script>

<template>
  <PageHead title="Departures">
    <template #facts><span>From the last day to the last trace. Who leaves later is found in <RouterLink to="/who?stage=leaving&sort=endDate">Who, leaving</RouterLink>.</span></template>
    <AheadPlaces />
  </PageHead>
  <div class="switch" role="group" aria-label="Which departures"><button v-for="[value, words] in STATES" :key="value" type="button" :aria-pressed="state === value" @click="router.replace({ query: { state: value === 'running' ? undefined : value } })">{{ words }}</button></div>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length" @retry="list.reload">
    <template #empty>No departure is {{ state === 'turned-back' ? 'turned back' : state }}. One begins by itself on the day after somebody's last day.</template>
    <table>
      <thead><tr><th>Person</th><th>Last day</th><th>Accounts</th><th>Recipient</th><th class="number">Gates shut</th><th>First deletion from</th></tr></thead>
      <tbody>
        <tr v-for="one in list.items.value ?? []" :key="one.id">
          <td><RouterLink :to="`/ahead/departures/${one.id}`"><bdi>{{ one.displayName }}</bdi></RouterLink><span v-if="one.closing" class="soft small"> one account closes</span></td>
          <td>{{ day(one.lastDay) }}</td>
          <td><span v-for="account in one.accounts" :key="account.id" class="account">{{ account.application }} <LevelMark :level="account.level" wordless /></span></td>
          <td><bdi v-if="one.recipientName">{{ one.recipientName }}</bdi><span v-else-if="state === 'running'" class="signal">nobody yet</span></td>
          <td class="number">{{ shut(one) || '' }}</td>
          <td>{{ day(earliest(one)) }}</td>
        </tr>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
</template>

<style scoped>
.account { display: inline-flex; gap: 0.3rem; margin-right: 1rem; }
.switch { margin-bottom: 0.6rem; }
</style>
