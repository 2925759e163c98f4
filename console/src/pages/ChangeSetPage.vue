<script setup lang="ts">
import Button from 'primevue/button'
import ProgressBar from 'primevue/progressbar'
import Textarea from 'primevue/textarea'
import { computed, ref, toRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import ChangeList from '../parts/ChangeList.vue'
import FollowBar from '../parts/FollowBar.vue'
import PageHead from '../parts/PageHead.vue'
import ReleaseAct from '../parts/ReleaseAct.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import SetCounts from '../parts/SetCounts.vue'
import SetEffects from '../parts/SetEffects.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { isUnderWay, useFollowing } from '../use/following'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { capital, count, number } from '../use/words'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const session = useSession()
const route = useRoute()
const router = useRouter()
const reason = ref('')
const { isBusy, trouble: refused, run } = useAct()

const { data: set, trouble, isLoading, reload } = useResource(
  (signal) => api<Schemas['ChangeSetView']>(`/api/v1/change-sets/${id.value}`, { signal }), [id]
)
useFollowing(set)

const DOING: Record<string, string> = { computing: 'Computing what follows', releasing: 'Taking in what was released' }
const OUTCOMES = [['', 'All'], ['failed', 'Failed'], ['open', 'Open'], ['done', 'Done']] as const
const outcome = computed(() => String(route.query.outcome ?? ''))
const application = computed(() => String(route.query.application ?? ''))
const people = usePages(
  (cursor, signal) =>
    api<Page<Schemas['OutcomeView']>>(
      `/api/v1/change-sets/${id.value}/people${query({ outcome: outcome.value, application: application.value, cursor, limit: 50 })}`, { signal }
    ),
  [id, outcome, application]
)
const applications = computed(() => [...new Set(set.value?.counts.map((one) => one.application) ?? [])].sort())
const isStopped = computed(() => set.value?.state === 'shown' && set.value.stops.length > 0)
const failed = computed(() => set.value?.counts.some((one) => one.state === 'refused' || one.state === 'blocked') ?? false)
const isPart = computed(() => set.value?.state === 'shown' && set.value.peopleLeft < set.value.people)
const isHalted = computed(() => set.value?.counts.some((one) => one.state === 'halted') ?? false)
const CAUSES: Record<string, string> = {
  import: 'a file brought in', hand: 'an edit by hand', 'take-back': 'the taking back of another set', rule: 'an edited rule',
  date: 'a date that was reached', sync: 'a sync', correction: 'a sync of an application in which drift is put right at once', departure: 'a departure whose gates are open', order: 'an order',
  feed: 'a feed', emergency: 'an emergency stop'
}
const STATES: Record<string, string> = {
  draft: 'is being computed', shown: 'shown; nothing of it is written', releasing: 'is being released', released: 'released', discarded: 'given up; nothing of it was written'
}

const chosen = ref<number[]>([])
function taken(next: Schemas['ChangeSetView']): void {
  chosen.value = []
  set.value = next
  void people.reload()
}

const filter = (name: string, value: string) => router.replace({ query: { ...route.query, [name]: value || undefined } })

async function act(path: string, body?: unknown): Promise<void> {
  const next = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/change-sets/${id.value}/${path}`, {
    method: 'POST', body, version: path === 'release' || path === 'discard' ? set.value?.version : undefined
  }))
  if (!next) return void (refused.value?.status === 412 && reload())
  reason.value = ''
  if (next.id !== Number(id.value)) await router.push(`/now/change-sets/${next.id}`)
  else set.value = next
}
</script>

<template>
  <PageHead :title="set ? capital(set.title) : `Change set ${id}`" place="Now" to="/now">
    <template v-if="set" #facts>
      <span>Change set {{ set.id }}: {{ isPart ? 'released in part; nothing of the rest is written' : (STATES[set.state] ?? set.state) }}</span>
      <span>from {{ CAUSES[set.cause] ?? set.cause }}, by {{ set.createdBy }}, <WhenText :at="set.createdAt" /></span>
      <span v-if="set.importId && session.may('see-imports')"><RouterLink :to="`/now/imports/${set.importId}`">row by row</RouterLink></span>
      <span v-if="set.releasedBy">released by {{ set.releasedBy === 'ebb' ? 'Ebb itself' : set.releasedBy }}, <WhenText :at="set.releasedAt" /></span>
      <span v-if="set.takesBack">takes back <RouterLink :to="`/now/change-sets/${set.takesBack}`">set {{ set.takesBack }}</RouterLink></span>
      <span v-if="set.takenBackBy">taken back by <RouterLink :to="`/now/change-sets/${set.takenBackBy}`">set {{ set.takenBackBy }}</RouterLink></span>
    </template>
    <template v-if="set && session.may('release')">
      <template v-if="set.state === 'shown'">
        <Button :label="set.peopleLeft < set.people ? 'Give up the rest' : 'Give it up'" severity="secondary" :disabled="isBusy" @click="act('discard')" />
      </template>
      <Button v-if="failed" label="Retry what failed" :loading="isBusy" @click="act('retry')" />
      <Button v-if="isHalted" label="Let the rest go on" severity="warn" :loading="isBusy" @click="act('go-on')" />
      <Button v-if="set.state === 'released' && !set.takenBackBy && !isUnderWay(set)" label="Show what taking it back does" severity="secondary" :loading="isBusy" @click="act('take-back')" />
    </template>
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="set" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="set" #default>
      <section v-if="isStopped" class="stop" aria-labelledby="stopped">
        <h2 id="stopped" class="signal">The guard stopped it</h2>
        <div v-for="stop in set.stops" :key="stop.code"><p><strong>{{ stop.what }}</strong></p><p>{{ stop.why }} {{ stop.remedy }}</p></div>
        <form v-if="session.may('pass-stop')" class="fields" @submit.prevent="act('release', { reason })">
          <label for="reason">Why it is right all the same; it goes into the journal<Textarea id="reason" v-model="reason" rows="2" required /></label>
          <div><Button type="submit" severity="warn" :label="`Let it pass for ${count(set.people, 'person', 'people')}`" :disabled="!reason.trim()" :loading="isBusy" /></div>
        </form>
        <p v-else>An administrator may let it pass, with a reason.</p>
      </section>
      <section v-if="set.remarks.length" aria-labelledby="remarks">
        <h2 id="remarks">Before you let it through</h2>
        <div v-for="one in set.remarks" :key="one.what" class="trouble"><p><strong>{{ one.what }}</strong></p><p class="small">{{ one.why }} {{ one.remedy }}</p></div>
      </section>
      <p v-if="isHalted" class="trouble"><strong>It stopped by itself: too much of it was refused.</strong> Look at why below, mend the cause, retry what failed; then let the rest go on.</p>
      <section v-if="set.progress" class="progress" role="status">
        <p><strong>{{ DOING[set.progress.doing] ?? capital(set.progress.doing) }}</strong><template v-if="set.progress.of">: {{ number(set.progress.done) }} of {{ count(set.progress.of, 'person', 'people') }}</template>. It goes on without this page.</p>
        <ProgressBar :value="set.progress.of ? Math.round((set.progress.done / set.progress.of) * 100) : undefined" :mode="set.progress.of ? 'determinate' : 'indeterminate'" :show-value="false" aria-label="How far it has come" />
      </section>
      <p v-if="set.rules.length && set.state === 'shown'">What was edited: rule <template v-for="(one, i) in set.rules" :key="one"><template v-if="i">, </template><RouterLink :to="`/why/rules/${encodeURIComponent(one)}`">{{ one }}</RouterLink></template>. It is not in force.</p>
      <ReleaseAct :set="set" :chosen="chosen" @released="taken" @stale="reload" />
      <FollowBar :set="set" />
      <ul v-if="set.cannotBeTakenBack.length && set.state !== 'discarded'" class="small soft"><li v-for="one in set.cannotBeTakenBack" :key="one">{{ one }}</li></ul>
      <template v-if="set.state === 'shown' && (set.cause === 'hand' || set.cause === 'rule') && set.counts.length">
        <h2>Gained and lost</h2>
        <SetEffects :set="set.id" />
        <h2>What it changes</h2>
      </template>
      <SetCounts v-if="set.counts.length" :counts="set.counts" />
      <p v-else>It brings no changes: everything is as it would be.</p>
      <template v-if="set.troubles.length">
        <h2>What holds it up</h2>
        <ul class="plain">
          <li v-for="(one, i) in set.troubles" :key="i" class="trouble">
            <strong>{{ one.application }}: {{ one.problem?.what }}</strong> <span class="soft">{{ count(one.count, 'change', 'changes') }} {{ one.state }}<template v-if="one.nextTry">, tried again <WhenText :at="one.nextTry" /></template></span>
            <p class="small">{{ one.problem?.why }} {{ one.problem?.remedy }}</p>
          </li>
        </ul>
      </template>
      <h2>Person by person</h2>
      <div class="acts filters">
        <div role="group" aria-label="Outcome" class="switch">
          <button v-for="[value, words] in OUTCOMES" :key="value" type="button" :aria-pressed="outcome === value" @click="filter('outcome', value)">{{ words }}</button>
        </div>
        <div role="group" aria-label="Application" class="switch">
          <button type="button" :aria-pressed="!application" @click="filter('application', '')">Everywhere</button>
          <button v-for="one in applications" :key="one" type="button" :aria-pressed="application === one" @click="filter('application', one)">{{ one }}</button>
        </div>
      </div>
      <StateView :data="people.items.value" :trouble="people.trouble.value" :is-loading="people.isLoading.value" :is-empty="!people.items.value?.length" @retry="people.reload">
        <template #empty>Nobody is of this kind here.</template>
        <ChangeList v-model:chosen="chosen" :outcomes="people.items.value ?? []" :chooses="set.state === 'shown' && !set.rules.length && session.may('release')" />
        <Button v-if="people.hasMore.value" label="Show more people" severity="secondary" :loading="people.isLoading.value" @click="people.more" />
      </StateView>
    </template>
  </StateView>
</template>

<style scoped>
.stop { border-left: 3px solid var(--signal); padding: 0 1rem 0.8rem; background: var(--signal-soft); margin: 0.8rem 0; max-width: 60rem; }
.stop h2 { padding-top: 0.6rem; margin-top: 0; }
.trouble { border-left: 3px solid var(--signal); padding-left: 0.8rem; margin-bottom: 0.6rem; }
.filters { margin-bottom: 0.6rem; gap: 0.5rem 1.5rem; }
</style>
