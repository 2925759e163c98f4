<script setup lang="ts">
import Button from 'primevue/button'
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import AheadPlaces from '../parts/AheadPlaces.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import TideTable from '../parts/TideTable.vue'
import { useSession } from '../session'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { count, day as dayWords, exact, money } from '../use/words'

/** What dates alone will bring: the span as a drawing, one day of it person by person. */
const route = useRoute()
const router = useRouter()
const session = useSession()
const SPANS = [[31, 'A month'], [92, 'A season'], [366, 'A year']] as const
const days = computed(() => Number(route.query.days ?? 92))
const application = computed(() => (route.query.application as string | undefined) ?? '')

const forecast = useResource((signal) => api<Schemas['ForecastView']>(`/api/v1/forecast${query({ days: days.value, application: application.value || undefined })}`, { signal }), [days, application])
/** Whoever asks for no day is shown the next on which something happens. */
const day = computed(() => (route.query.day as string | undefined) ?? forecast.data.value?.days[0]?.day ?? '')
const chosen = computed(() => forecast.data.value?.days.find((one) => one.day === day.value))
const people = usePages<Schemas['ComingView']>(
  (cursor, signal) => (day.value ? api<Page<Schemas['ComingView']>>(`/api/v1/forecast/${day.value}${query({ application: application.value || undefined, cursor })}`, { signal }) : Promise.resolve({ items: [], next: null, total: null, moreThan: null })),
  [day, application]
)
const applications = useResource(async (signal) => (session.may('see-settings') ? (await api<Page<Schemas['ApplicationView']>>('/api/v1/applications', { signal })).items.map((one) => one.name) : []), [], false)

function set(more: Record<string, string | undefined>): void {
  void router.replace({ query: { ...route.query, ...more } })
}
const steps = (one: Schemas['ComingView'], name: string) => one.steps.filter((step) => step.application === name)
const named = (one: Schemas['ComingView']) => [...new Set(one.steps.map((step) => step.application))]
</script>

<template>
  <PageHead title="Ahead">
    <template #facts><span>What dates alone will bring, if nobody changes anything: first and last days, leave, grants, rules that begin or end.</span></template>
    <AheadPlaces />
  </PageHead>
  <div class="acts">
    <div class="switch" role="group" aria-label="How far to look"><button v-for="[value, words] in SPANS" :key="value" type="button" :aria-pressed="days === value" @click="set({ days: value === 92 ? undefined : String(value), day: undefined })">{{ words }}</button></div>
    <label v-if="applications.data.value?.length" class="inline">in <select :value="application" aria-label="In which application" @change="set({ application: ($event.target as HTMLSelectElement).value || undefined, day: undefined })"><option value="">all applications</option><option v-for="one in applications.data.value" :key="one">{{ one }}</option></select></label>
  </div>
  <StateView :data="forecast.data.value" :trouble="forecast.trouble.value" :is-loading="forecast.isLoading.value" @retry="forecast.reload">
    <template v-if="forecast.data.value" #default>
      <TideTable :forecast="forecast.data.value" :day="day" @choose="(chosenDay) => set({ day: chosenDay })" />
      <p v-for="one in forecast.data.value.amiss" :key="one.application" class="signal">As <RouterLink :to="`/where/${encodeURIComponent(one.application)}`">{{ one.application }}</RouterLink> is now, it would not take this: {{ one.problem.what }} {{ one.problem.remedy }}</p>
      <ul v-if="forecast.data.value.seats.length" class="seats small">
        <li v-for="one in forecast.data.value.seats" :key="one.application + one.seat">Seats of {{ one.application }}, {{ one.seat }}: {{ one.more }} more taken, {{ one.fewer }} freed by {{ dayWords(forecast.data.value.until) }}</li>
      </ul>
      <template v-if="day">
        <h2>{{ dayWords(day) }}<span v-if="chosen" class="soft">, {{ count(chosen.people, 'person', 'people') }}<template v-for="one in chosen.costs" :key="one.currency">; seats cost {{ money(one, Math.sign(one.amount)) }} {{ one.amount < 0 ? 'less' : 'more' }} a month from then on</template></span></h2>
        <StateView :data="people.items.value" :trouble="people.trouble.value" :is-loading="people.isLoading.value" :is-empty="!people.items.value?.length" @retry="people.reload">
          <template #empty>Nothing happens by itself on this day.</template>
          <table>
            <thead><tr><th>Person</th><th>Unit</th><th>What will happen</th></tr></thead>
            <tbody>
              <tr v-for="one in people.items.value ?? []" :key="one.person">
                <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
                <td>{{ one.department ?? '' }}</td>
                <td><span v-for="name in named(one)" :key="name" class="steps"><b>{{ name }}</b> <span v-for="(step, i) in steps(one, name)" :key="i" :title="exact(step.at)">{{ i ? ', ' : '' }}{{ step.words }}</span></span></td>
              </tr>
            </tbody>
          </table>
          <Button v-if="people.hasMore.value" label="Show more" severity="secondary" @click="people.more" />
        </StateView>
      </template>
      <p v-else class="soft">Nothing happens by itself before {{ dayWords(forecast.data.value.until) }}.</p>
    </template>
  </StateView>
</template>

<style scoped>
.acts { margin-bottom: 0.6rem; }
.inline { display: inline-flex; gap: 0.4rem; align-items: center; }
.steps { display: inline-block; margin-right: 1.2rem; }
.seats { padding-left: 1.1rem; }
</style>
