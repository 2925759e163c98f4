<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import EditPerson from '../parts/EditPerson.vue'
import EmergencyStop from '../parts/EmergencyStop.vue'
import LeavingPerson from '../parts/LeavingPerson.vue'
import LevelMark from '../parts/LevelMark.vue'
import MovePeople from '../parts/MovePeople.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import RenamePerson from '../parts/RenamePerson.vue'
import ReturnPeople from '../parts/ReturnPeople.vue'
import StateView from '../parts/StateView.vue'
import StillOpen from '../parts/StillOpen.vue'
import SuspendPeople from '../parts/SuspendPeople.vue'
import TideLine from '../parts/TideLine.vue'
import WhenText from '../parts/WhenText.vue'
import WhoIsWho from '../parts/WhoIsWho.vue'
import WhyAccount from '../parts/WhyAccount.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { attribute, day } from '../use/words'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const session = useSession()
const route = useRoute()
const router = useRouter()
const path = computed(() => `/api/v1/people/${id.value}`)
const { data: person, trouble, isLoading, reload } = useResource((signal) => api<Schemas['PersonView']>(path.value, { signal }), [id])
const time = useResource((signal) => api<Schemas['TimelineView']>(`${path.value}/timeline`, { signal }), [id])
const why = useResource(async (signal) => (await api<Page<Schemas['WhyView']>>(`${path.value}/why`, { signal })).items, [id])
const TABS = [['holds', 'Holds and why'], ['attributes', 'Attributes'], ['who', 'Who is who'], ['notices', 'Notices'], ['journal', 'Journal']] as const
const tab = computed(() => String(route.query.tab ?? 'holds'))
const none = <T>(): Promise<Page<T>> => Promise.resolve({ items: [], next: null, total: 0, moreThan: null })
const notices = usePages<Schemas['NoticeView']>((cursor, signal) => (tab.value === 'notices' ? api(`/api/v1/notices${query({ person: id.value, cursor })}`, { signal }) : none()), [id, tab])
const journal = usePages<Schemas['JournalEntryView']>((cursor, signal) => (tab.value === 'journal' ? api(`/api/v1/journal${query({ person: id.value, cursor })}`, { signal }) : none()), [id, tab])
const moving = computed(() => new Set(person.value?.changes.filter((one) => ['queued', 'claimed', 'unsure'].includes(one.state)).map((one) => one.application)))
const managerName = computed(() => why.data.value?.flatMap((one) => one.values).find((one) => one.attribute === 'manager')?.should)
const { isBusy, trouble: refused, run } = useAct()
const emergency = ref<InstanceType<typeof EmergencyStop> | null>(null)
const isEditing = ref(false)
const isRenaming = ref(false)
const isMoving = ref(false)
const isSuspending = ref(false)
const isLeaving = ref(false)
const isReturning = ref(false)
const isResetting = ref(false)
const SOURCES: Record<string, string> = { hand: 'set by hand; change or take it away here' }

async function reset(): Promise<void> {
  const made = await run(() => api<Schemas['ChangeSetView']>(`${path.value}/reset`, { method: 'POST' }))
  isResetting.value = false
  if (made) await router.push(`/now/change-sets/${made.id}`)
}
</script>

<template>
  <PageHead :title="person?.displayName ?? 'Person'" place="Who" to="/who">
    <template v-if="person" #facts>
      <img v-if="person.attributes['photos.photo']" class="picture" :src="`${path}/picture?of=${person.attributes['photos.photo'].value.slice(0, 8)}`" :alt="`Picture of ${person.displayName}`" />
      <span>{{ person.stage }}</span>
      <span v-if="person.attributes.title"><bdi>{{ person.attributes.title.value }}</bdi></span>
      <span v-if="person.attributes.department"><RouterLink :to="{ path: '/who', query: { unit: person.attributes.department.value } }"><bdi>{{ person.attributes.department.value }}</bdi></RouterLink></span>
      <span v-if="person.login">login {{ person.login }}<template v-if="person.aliases.length">, once {{ person.aliases.join(', ') }}</template></span>
      <span v-if="person.attributes.endDate">last day {{ day(person.attributes.endDate.value) }}</span>
      <span v-for="hold in person.holds" :key="hold.id" class="signal">held by {{ hold.setBy }}<template v-if="hold.until">, until {{ day(hold.until) }}</template>: {{ hold.reason }}</span>
    </template>
    <template v-if="person">
      <template v-if="session.may('edit-people')">
        <Button label="Edit" @click="isEditing = true" />
        <Button label="Rename …" severity="secondary" @click="isRenaming = true" />
        <Button label="Move …" severity="secondary" @click="isMoving = true" />
        <Button v-if="person.suspensions.length" label="Bring back …" severity="secondary" @click="isReturning = true" />
        <Button v-else-if="person.stage !== 'departed'" label="Suspend …" severity="secondary" @click="isSuspending = true" />
      </template>
      <Button v-if="session.may('departures') && person.stage !== 'departed'" label="Leaves …" severity="secondary" @click="isLeaving = true" />
      <template v-if="session.may('reset') && person.accounts.length">
        <Button v-if="!isResetting" label="Reset password" severity="secondary" @click="isResetting = true" />
        <span v-else class="acts sure"><span>All passwords stop working at once.</span><Button severity="warn" :label="`Reset for ${person.displayName}`" :loading="isBusy" @click="reset" /><Button severity="secondary" label="Leave it" @click="isResetting = false" /></span>
      </template>
      <Button v-if="session.may('emergency-stop') && !person.emergencyStop" label="Emergency stop …" severity="secondary" @click="emergency?.ask()" />
    </template>
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="person" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="person" #default>
      <EmergencyStop ref="emergency" :person="person" @done="reload" />
      <p v-for="one in person.suspensions" :key="one.id" class="off">{{ one.inForce ? 'Suspended' : 'To be suspended' }} from {{ day(one.from) }}, {{ one.until ? `back after ${day(one.until)}` : 'until somebody brings them back' }}{{ one.applications.length ? `, in ${one.applications.join(', ')} only` : '' }}: {{ one.reason ? [one.reason, one.note].filter(Boolean).join(', ') : 'why is discreet' }} <span class="soft small">{{ [one.by, one.review && `to be looked at again on ${day(one.review)}`, one.notices && 'notices go on'].filter(Boolean).join('; ') }}</span></p>
      <StillOpen v-if="person.accounts.some((one) => one.level === 'suspended')" :person="person.id" />
      <ul v-if="person.accounts.length" class="plain accounts"><li v-for="one in person.accounts" :key="one.id"><RouterLink :to="`/where/${encodeURIComponent(one.application)}`">{{ one.application }}</RouterLink> <LevelMark :level="one.level" :moving="moving.has(one.application)" /> <span class="soft small"><bdi>{{ one.name }}</bdi>{{ one.seats.length ? `, seat ${one.seats.join(', ')}` : '' }}{{ one.strippedAt ? ', stripped of what is personal' : '' }}</span></li></ul>
      <p v-else class="soft">No account yet.</p>
      <StateView :data="time.data.value" :trouble="time.trouble.value" :is-loading="time.isLoading.value" :rows="3" @retry="time.reload"><TideLine v-if="time.data.value" :time="time.data.value" /></StateView>
      <div class="switch tabs" role="tablist" aria-label="About this person">
        <button v-for="[value, words] in TABS" :id="`tab-${value}`" :key="value" type="button" role="tab" :aria-selected="tab === value" :aria-pressed="undefined" :class="{ on: tab === value }" aria-controls="panel" @click="router.replace({ query: { ...route.query, tab: value } })">{{ words }}</button>
      </div>
      <div id="panel" role="tabpanel" :aria-labelledby="`tab-${tab}`">
        <template v-if="tab === 'holds'">
          <StateView :data="why.data.value" :trouble="why.trouble.value" :is-loading="why.isLoading.value" :is-empty="!why.data.value?.length" @retry="why.reload">
            <template #empty>No application is connected yet, or no rule says who gets what there.</template>
            <WhyAccount v-for="one in why.data.value ?? []" :key="one.application" :why="one" />
          </StateView>
          <template v-if="person.grants.length">
            <h2>Given to them</h2>
            <ul class="plain"><li v-for="one in person.grants" :key="one.id">{{ one.application }}: {{ one.group ?? 'an account' }}, from {{ day(one.from) }}{{ one.until ? ` until ${day(one.until)}` : '' }}: {{ one.reason }}</li></ul>
          </template>
        </template>
        <table v-else-if="tab === 'attributes'">
          <thead><tr><th>Attribute</th><th>Value</th><th>Whose it is</th><th>Since</th></tr></thead>
          <tbody>
            <tr v-for="(value, name) in person.attributes" :key="name">
              <td>{{ attribute(String(name)) }}</td>
              <td><RouterLink v-if="name === 'manager'" :to="`/who/${value.value}`">{{ managerName ?? `person ${value.value}` }}</RouterLink><template v-else-if="name === 'photos.photo'">the picture above</template><bdi v-else>{{ String(name).endsWith('Date') || String(name).startsWith('away') ? day(value.value) : value.value }}</bdi></td>
              <td>{{ SOURCES[value.source] ?? `${value.source}: change it there, or override it by hand` }}<template v-if="value.until">, up to and with {{ day(value.until) }}</template><template v-for="other in value.others" :key="other.source"><br /><span class="small" :class="other.value === value.value ? 'soft' : 'signal'">{{ other.value === value.value ? `${other.source} says the same` : name === 'manager' ? `${other.source} names person ${other.value}` : `${other.source} says ${other.value}` }}</span><span class="small soft">, <WhenText :at="other.since" /></span></template></td>
              <td><WhenText :at="value.since" /></td>
            </tr>
          </tbody>
        </table>
        <WhoIsWho v-else-if="tab === 'who'" :person="person" />
        <StateView v-else-if="tab === 'notices'" :data="notices.items.value" :trouble="notices.trouble.value" :is-loading="notices.isLoading.value" :is-empty="!notices.items.value?.length" @retry="notices.reload">
          <template #empty>Nothing was sent to them yet.</template>
          <table><thead><tr><th>Notice</th><th>To</th><th>State</th><th>When</th></tr></thead><tbody><tr v-for="one in notices.items.value ?? []" :key="one.id"><td>{{ one.subject }}</td><td>{{ one.recipient }}</td><td>{{ one.state }}<p v-if="one.problem" class="small">{{ one.problem.what }}</p></td><td><WhenText :at="one.sentAt ?? one.createdAt" /></td></tr></tbody></table>
        </StateView>
        <StateView v-else :data="journal.items.value" :trouble="journal.trouble.value" :is-loading="journal.isLoading.value" :is-empty="!journal.items.value?.length" @retry="journal.reload">
          <template #empty>Nothing was done about them yet.</template>
          <table><thead><tr><th>When</th><th>Who</th><th>What</th></tr></thead><tbody><tr v-for="one in journal.items.value ?? []" :key="one.id"><td><WhenText :at="one.at" full /></td><td>{{ one.actor === 'ebb' ? 'Ebb' : one.actor }}</td><td>{{ one.act }}<template v-if="one.reason"> ({{ one.reason }})</template></td></tr></tbody></table>
          <Button v-if="journal.hasMore.value" label="Show more" severity="secondary" @click="journal.more" />
        </StateView>
      </div>
      <EditPerson v-if="isEditing" :person="person" @close="isEditing = false" />
      <RenamePerson v-if="isRenaming" :person="person" @close="isRenaming = false" />
      <LeavingPerson v-if="isLeaving" :person="person" @close="isLeaving = false" />
      <SuspendPeople v-if="isSuspending" :people="[person.id]" @close="isSuspending = false" />
      <ReturnPeople v-if="isReturning" :people="[person.id]" @close="isReturning = false" />
      <MovePeople v-if="isMoving" :people="[person.id]" :names="[person.displayName]" @close="isMoving = false" />
    </template>
  </StateView>
</template>

<style scoped>
.picture { width: 3.5rem; height: 3.5rem; object-fit: cover; border: 1px solid var(--line-strong); }
.accounts { display: flex; flex-wrap: wrap; gap: 0.3rem 2rem; margin-bottom: 0.6rem; }
.accounts li { display: flex; flex-wrap: wrap; min-width: 0; gap: 0.6rem; align-items: center; }
.off { border-left: 0.35rem solid var(--line-strong); padding: 0.2rem 0 0.2rem 1rem; }
.tabs { margin: 0.8rem 0; }
.tabs .on { background: var(--water-soft); font-weight: 600; box-shadow: inset 0 -3px var(--water); }
.sure { background: var(--signal-soft); padding: 0.3rem 0.6rem; }
</style>
