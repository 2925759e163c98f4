<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import FeedForm from '../parts/FeedForm.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import PushToken from '../parts/PushToken.vue'
import RetireSource from '../parts/RetireSource.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { number } from '../use/words'

const props = defineProps<{ source: string }>()
const source = toRef(props, 'source')
const session = useSession()
const router = useRouter()
const path = computed(() => `/api/v1/feeds/${encodeURIComponent(source.value)}`)
const { data: feed, trouble, isLoading, reload } = useResource((signal) => api<Schemas['FeedView']>(path.value, { signal }), [source])
const runs = usePages<Schemas['FeedRunView']>((cursor, signal) => api<Page<Schemas['FeedRunView']>>(`${path.value}/runs${query({ cursor })}`, { signal }), [source])
const { isBusy, trouble: refused, run } = useAct()
const isEdited = ref(false)
const expected = ref('')

const KINDS: Record<string, string> = { folder: 'files in a folder', http: 'got over HTTP', sftp: 'got over SFTP', push: 'sent to us over SCIM' }
const STATES: Record<string, string> = { draft: 'a draft: nothing comes in by itself', on: 'on', paused: 'paused' }
const OUTCOMES: Record<string, string> = {
  running: 'going on', done: 'read and let through', 'nothing-new': 'nothing new', stopped: 'stopped by the guard', asked: 'asks how it is read', failed: 'failed', late: 'has not come'
}
const isPushed = computed(() => feed.value?.kind === 'push')
const isPulled = computed(() => feed.value?.kind !== 'folder' && !(isPushed.value && feed.value?.state !== 'on'))
const needsLook = (outcome: string): boolean => ['stopped', 'asked', 'failed', 'late'].includes(outcome)

async function turn(to: string): Promise<void> {
  await run(() => api(`${path.value}/${to}`, { method: 'POST' }))
  await Promise.all([reload(), runs.reload()])
}
async function test(): Promise<void> {
  const number_ = expected.value.trim()
  const made = await run(() => api<Schemas['ImportView']>(`${path.value}/test${query({ expected: number_ || null })}`, { method: 'POST' }))
  if (made) await router.push(`/now/imports/${made.id}`)
}
async function kept(): Promise<void> {
  isEdited.value = false
  await reload()
}
</script>

<template>
  <PageHead :title="`Feed ${source}`" place="Where" to="/where">
    <template v-if="feed" #facts>
      <span>{{ KINDS[feed.kind] }}</span>
      <span :class="{ signal: feed.state !== 'on' }">{{ STATES[feed.state] }}</span>
      <span v-if="feed.nextAt">{{ isPushed ? 'all gone through next' : isPulled ? 'got next' : 'expected' }} <WhenText :at="feed.nextAt" /></span>
    </template>
    <template v-if="feed && session.may('edit-settings')">
      <Button v-if="feed.state !== 'on'" label="Switch it on" :disabled="!feed.isMapped" :loading="isBusy" @click="turn('on')" />
      <Button v-else label="Pause it" severity="secondary" :loading="isBusy" @click="turn('pause')" />
    </template>
    <Button v-if="feed && isPulled && session.may('import')" :label="isPushed ? 'Go through all' : 'Look now'" severity="secondary" :loading="isBusy" @click="turn('run')" />
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="feed" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="feed" #default>
      <template v-if="feed.problem"><p class="small soft">Amiss <WhenText :at="feed.problemSince" /></p><ProblemNote :problems="[feed.problem]" /></template>
      <PushToken v-if="isPushed" :feed="feed" @made="reload" />
      <form v-if="session.may('import')" class="test" @submit.prevent="test">
        <p>{{ feed.isMapped ? 'Try what its next delivery would do.' : 'Try it, and say what its columns mean; then it can be switched on.' }} Nothing is taken away there, and nothing is sent to any application.</p>
        <label for="expected">How many rows should there be? <input id="expected" v-model="expected" inputmode="numeric" pattern="[0-9]*" size="8" autocomplete="off" /></label>
        <Button type="submit" :label="feed.isMapped ? 'Try it' : 'Try it and map its columns'" :severity="feed.isMapped ? 'secondary' : undefined" :loading="isBusy" />
      </form>
      <h2>What came</h2>
      <StateView :data="runs.items.value" :trouble="runs.trouble.value" :is-loading="runs.isLoading.value" :is-empty="!runs.items.value?.length" @retry="runs.reload">
        <template #empty>Nothing came yet.</template>
        <table>
          <thead><tr><th>When</th><th>What</th><th>File</th><th class="number">New</th><th class="number">Changed</th><th class="number">Set aside</th><th class="number">Refused</th><th class="number">Missing</th><th>Effects</th></tr></thead>
          <tbody>
            <tr v-for="one in runs.items.value ?? []" :key="one.id">
              <td><WhenText :at="one.startedAt" /><span v-if="one.cause === 'hand'" class="small soft"> by {{ one.by }}</span></td>
              <td><span :class="{ signal: needsLook(one.outcome) }">{{ OUTCOMES[one.outcome] ?? one.outcome }}</span><span v-if="one.problem" class="small soft"><br />{{ one.problem.what }}</span></td>
              <td><RouterLink v-if="one.made" :to="`/now/imports/${one.made}`"><bdi>{{ one.file }}</bdi></RouterLink><bdi v-else>{{ one.file }}</bdi></td>
              <td v-for="verdict in ['new', 'changed', 'set aside', 'refused', 'missing']" :key="verdict" class="number">{{ one.counts[verdict] ? number(one.counts[verdict]) : '' }}</td>
              <td><RouterLink v-if="one.changeSet" :to="`/now/change-sets/${one.changeSet}`">change set {{ one.changeSet }}</RouterLink></td>
            </tr>
          </tbody>
        </table>
        <Button v-if="runs.hasMore.value" label="Show more" severity="secondary" @click="runs.more" />
      </StateView>
      <h2>How it is set up</h2>
      <FeedForm v-if="isEdited" :feed="feed" @kept="kept" @left="isEdited = false" />
      <template v-else>
        <dl>
          <template v-for="(value, key) in feed.settings" :key="key"><dt>{{ key === 'groupsIn' ? 'its groups are in' : key }}</dt><dd><bdi>{{ value }}</bdi></dd></template>
          <template v-if="feed.cron"><dt>times</dt><dd>{{ feed.cron }}{{ feed.zone ? `, ${feed.zone}` : '' }}</dd></template>
          <template v-if="feed.blackouts.length"><dt>not on</dt><dd>{{ feed.blackouts.join(', ') }}</dd></template>
          <dt>each delivery</dt><dd>{{ feed.complete ? 'names everybody' : isPushed ? 'names whoever changed' : 'names some people' }}</dd>
          <template v-if="feed.complete || isPushed"><dt>{{ isPushed ? 'whoever is deleted there' : 'whoever it does not name' }}</dt><dd>{{ feed.missing === 'leaver' ? 'is taken for a leaver' : feed.missing === 'still-here' ? 'is still here' : 'is asked about' }}</dd></template>
        </dl>
        <Button v-if="session.may('edit-settings')" label="Change it" severity="secondary" @click="isEdited = true" />
      </template>
      <template v-if="session.may('edit-settings') && feed.isMapped">
        <h2>If it fell silent</h2>
        <RetireSource :source="source" />
      </template>
    </template>
  </StateView>
</template>

<style scoped>
.test { border-left: 3px solid var(--water); padding: 0.1rem 0 0.1rem 1rem; margin: 1rem 0; display: grid; gap: 0.6rem; justify-items: start; }
.test p { margin: 0; max-width: 46rem; }
.test input { font: inherit; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); padding: 0.2rem 0.5rem; margin-left: 0.4rem; }
</style>
