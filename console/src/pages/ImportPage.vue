<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import ProgressBar from 'primevue/progressbar'
import { computed, onScopeDispose, ref, toRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import DoubtfulRows from '../parts/DoubtfulRows.vue'
import FeedTried from '../parts/FeedTried.vue'
import FollowBar from '../parts/FollowBar.vue'
import ImportSteps from '../parts/ImportSteps.vue'
import LinkedFiles from '../parts/LinkedFiles.vue'
import MappingForm from '../parts/MappingForm.vue'
import MissingPeople from '../parts/MissingPeople.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import RefusedRows from '../parts/RefusedRows.vue'
import ReleaseAct from '../parts/ReleaseAct.vue'
import SetCounts from '../parts/SetCounts.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useFollowing } from '../use/following'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { attribute, capital, count, MODES, number } from '../use/words'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const session = useSession()
const route = useRoute()
const router = useRouter()
const path = computed(() => `/api/v1/imports/${id.value}`)

const { data: made, trouble, isLoading, reload, look } = useResource((signal) => api<Schemas['ImportView']>(path.value, { signal }), [id])
const setId = computed(() => made.value?.changeSet)
const { data: set, trouble: setTrouble, reload: readSet, look: lookAtSet } = useResource(
  (signal) => (setId.value ? api<Schemas['ChangeSetView']>(`/api/v1/change-sets/${setId.value}`, { signal }) : Promise.resolve(null)), [setId], false
)
watch(made, lookAtSet)
useFollowing(set)

// Reading writes nothing that others are told of; whoever looks asks for it.
const timer = window.setInterval(() => made.value?.progress && look(), 700)
onScopeDispose(() => window.clearInterval(timer))

const isAsking = computed(() => (made.value?.questions.length ?? 0) > 0)
const isRemapping = ref(false)
const bringsLists = ref(false)
const isShown = computed(() => set.value?.state === 'shown')
// What a feed brings is released by itself; what it leaves open is decided about afterwards.
const decides = computed(() => (isShown.value || (set.value?.state === 'released' && set.value.cause === 'feed')) && session.may('import'))
const at = computed(() => {
  const now = made.value
  if (!now || isAsking.value) return 'mapping'
  if (now.progress) return now.progress.doing === 'computing' ? 'effect' : 'check'
  return now.stage === 'seen' ? 'seen' : now.stage === 'released' || (set.value && set.value.peopleLeft < set.value.people) ? 'release' : 'effect'
})
const DOING: Record<string, string> = { reading: 'Reading', checking: 'Checking', computing: 'Computing what follows from it' }

const VERDICTS = [['refused', 'Refused'], ['set aside', 'Set aside'], ['missing', 'Missing people'], ['new', 'New'], ['changed', 'Changed'], ['left alone', 'Left alone']] as const
const counted = computed(() => VERDICTS.map(([value, words]) => ({ value, words, count: made.value?.counts[value] ?? 0 })).filter((one) => one.count || one.value !== 'left alone'))
const first = computed(() => counted.value.find((one) => one.count)?.value ?? 'new')
const verdict = computed(() => String(route.query.verdict ?? first.value))
const key = ref(String(route.query.key ?? ''))
const ofRows = computed(() => !!made.value?.changeSet && !['missing', 'refused', 'set aside'].includes(verdict.value))
const rows = usePages<Schemas['RowView']>(
  (cursor, signal) => (!ofRows.value ? Promise.resolve({ items: [], next: null, total: 0, moreThan: null }) : api<Page<Schemas['RowView']>>(`${path.value}/rows${query({ verdict: verdict.value, key: key.value.trim() || undefined, cursor })}`, { signal })),
  [id, verdict, ofRows, key]
)

async function settled(now: Schemas['ImportView']): Promise<void> {
  isRemapping.value = false
  made.value = now
  await reload()
}
/** Whoever mends stays among the refused rows, also when it was the last, to read what came of it. */
async function mended(): Promise<void> {
  if (!route.query.verdict) await router.replace({ query: { ...route.query, verdict: verdict.value } })
  await reload()
}
const choose = (value: string) => router.replace({ query: { ...route.query, verdict: value, code: undefined, heading: undefined } })
const taken = (next: Schemas['ChangeSetView']) => void (set.value = next)
const shownValues = (row: Schemas['RowView']): [string, string][] => Object.entries(row.values).filter(([name]) => !name.startsWith('name.') && name !== 'employeeNumber').slice(0, 6)
</script>

<template>
  <PageHead :title="made ? made.file : `Import ${id}`" place="Now" to="/now">
    <template v-if="made" #facts>
      <span>Import {{ made.id }}<template v-if="made.source"> from {{ made.source }}</template>: {{ made.format ?? 'no list of people' }}</span>
      <span>{{ made.complete ? 'said to name everybody' : 'names some' }}; {{ MODES.find((one) => one.value === made?.mode)?.words.toLowerCase() }}</span>
      <span>brought in by {{ made.createdBy }}, <WhenText :at="made.createdAt" /></span>
      <span v-if="set">{{ isShown ? (set.peopleLeft < set.people ? 'released in part; nothing of the rest is written' : 'nothing of it is written') : set.state }}</span>
    </template>
    <template v-if="set">
      <Button as="router-link" severity="secondary" :to="`/now/change-sets/${set.id}`" :label="set.stops.length && isShown ? 'Look at the stop' : 'Person by person'" />
      <a v-if="made" :href="`${path}/report`" download class="report">Report, row by row</a>
    </template>
  </PageHead>
  <ProblemNote v-if="setTrouble" :problems="setTrouble.problems" />
  <StateView :data="made" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="made" #default>
      <ImportSteps :at="at" />
      <template v-if="isAsking">
        <ProblemNote :problems="made.questions" />
        <MappingForm v-if="session.may('import')" :made="made" @settled="settled" />
        <p v-else>Somebody who may bring files in has to say what its columns mean.</p>
      </template>
      <section v-else-if="made.progress" class="progress" role="status">
        <p><strong>{{ DOING[made.progress.doing] ?? capital(made.progress.doing) }}</strong><template v-if="made.progress.of">: {{ number(made.progress.done) }} of {{ count(made.progress.of, 'row', 'rows') }}</template><template v-else-if="made.progress.done">: {{ count(made.progress.done, 'row', 'rows') }} so far</template><template v-if="made.progress.secondsLeft">; going by files before, about {{ count(made.progress.secondsLeft, 'second', 'seconds') }} more</template>.</p>
        <ProgressBar :value="made.progress.of ? Math.round((made.progress.done / made.progress.of) * 100) : undefined" :mode="made.progress.of ? 'determinate' : 'indeterminate'" :show-value="false" aria-label="How far the reading has come" />
        <p class="soft">It goes on without this page.</p>
      </section>
      <template v-else-if="made.changeSet">
        <section v-if="isRemapping" aria-label="How it is read"><MappingForm :made="made" @settled="settled"><Button label="Leave it as it is" severity="secondary" @click="isRemapping = false" /></MappingForm></section>
        <ProblemNote v-if="set && isShown && set.stops.length" :problems="set.stops" />
        <FeedTried v-if="isShown && made.source && session.may('see-settings')" :source="made.source" />
        <ReleaseAct v-if="set" :set="set" :lists="bringsLists" @released="taken" @stale="readSet" />
        <FollowBar v-if="set" :set="set" />
        <SetCounts v-if="set?.counts.length && isShown" :counts="set.counts" />
        <details v-else-if="set?.counts.length"><summary>What it changed, by application</summary><SetCounts :counts="set.counts" /></details>
        <p v-else-if="set?.people">{{ count(set.people, 'person is', 'people are') }} taken in; no account changes by that yet. What follows comes with their dates and the rules.</p>
        <p v-else-if="set && made.counts.refused">Nothing follows from it yet: {{ count(made.counts.refused, 'row is', 'rows are') }} refused. Mend them below, or bring in a corrected file.</p>
        <p v-else-if="set && (made.counts['set aside'] || made.counts.missing)">Nothing follows from it until what is open below is decided.</p>
        <p v-else-if="set">It brings no changes: everybody is as the file says already.</p>
        <div class="head">
          <h2>Row by row</h2>
          <Button v-if="decides && made.format && !isRemapping" size="small" text label="Read its columns otherwise" @click="isRemapping = true" />
        </div>
        <p v-if="made.counts.unchanged" class="soft">{{ count(made.counts.unchanged, 'row is', 'rows are') }} as they were, and not listed.</p>
        <div class="acts">
          <div class="switch" role="group" aria-label="Rows shown">
            <button v-for="one in counted" :key="one.value" type="button" :aria-pressed="verdict === one.value" @click="choose(one.value)">{{ one.words }} {{ number(one.count) }}</button>
          </div>
          <label v-if="ofRows" class="small">Key begins with <InputText v-model.lazy="key" class="key" autocomplete="off" /></label>
        </div>
        <MissingPeople v-if="verdict === 'missing'" :made="made" :decides="decides" @decided="readSet" />
        <DoubtfulRows v-else-if="verdict === 'set aside'" :made="made" :decides="decides" @answered="readSet" />
        <RefusedRows v-else-if="verdict === 'refused'" :made="made" :mends="decides" @mended="mended" />
        <StateView v-else :data="rows.items.value" :trouble="rows.trouble.value" :is-loading="rows.isLoading.value" :is-empty="!rows.items.value?.length" @retry="rows.reload">
          <template #empty>No row is of this kind.</template>
          <table>
            <thead><tr><th class="number">Line</th><th>Key</th><th>Name</th><th>{{ verdict === 'new' ? 'What is said of them' : 'What becomes different' }}</th></tr></thead>
            <tbody>
              <tr v-for="row in rows.items.value ?? []" :key="row.line">
                <td class="number">{{ row.line }}</td>
                <td><bdi>{{ row.key }}</bdi></td>
                <td><RouterLink v-if="row.person && (row.verdict === 'changed' || row.verdict === 'left alone' || (row.verdict === 'new' && !isShown))" :to="`/who/${row.person}`"><bdi>{{ row.name }}</bdi></RouterLink><bdi v-else>{{ row.name }}</bdi></td>
                <td>
                  <template v-if="row.edits.length"><span v-for="edit in row.edits" :key="edit.attribute" class="edit">{{ attribute(edit.attribute) }}: <template v-if="edit.before"><del><bdi>{{ edit.before }}</bdi></del> → </template><bdi>{{ edit.after ?? 'nothing' }}</bdi></span></template>
                  <template v-else><span v-for="[name, value] in shownValues(row)" :key="name" class="edit"><span class="soft">{{ attribute(name) }}</span> <bdi>{{ value }}</bdi></span></template>
                </td>
              </tr>
            </tbody>
          </table>
          <Button v-if="rows.hasMore.value" label="Show more rows" severity="secondary" @click="rows.more" />
        </StateView>
        <LinkedFiles :made="made" @lists="bringsLists = $event" />
      </template>
    </template>
  </StateView>
</template>

<style scoped>
.head { display: flex; gap: 1rem; align-items: baseline; }
.progress { max-width: 40rem; }
summary { cursor: pointer; }
.edit { display: inline-block; margin-right: 1.2rem; }
.key { width: 9rem; }
.report { align-self: center; }
</style>
