<script setup lang="ts">
import { api, type Page, type Schemas } from '../api/client'
import BrakeAct from '../parts/BrakeAct.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useResource } from '../use/resource'
import { number } from '../use/words'

const { data, trouble, isLoading, reload } = useResource(async (signal) => (await api<Page<Schemas['ApplicationView']>>('/api/v1/applications', { signal })).items)
const session = useSession()
const execution = useResource((signal) => api<Schemas['ExecutionView']>('/api/v1/execution', { signal }))
const span = (seconds: number): string => (seconds < 120 ? `${seconds} s` : `${Math.round(seconds / 60)} min`)
const work = (name: string): Schemas['WorkView'] | undefined => execution.data.value?.applications.find((one) => one.application === name)
const feeds = useResource(async (signal) => (await api<Page<Schemas['FeedView']>>('/api/v1/feeds', { signal })).items)
const KINDS: Record<string, string> = { folder: 'folder', http: 'HTTP', sftp: 'SFTP' }
const LEVELS = ['active', 'prepared', 'suspended', 'gone']
</script>

<template>
  <PageHead title="Where"><template #facts>Applications and feeds: are they well, and do they agree with us</template></PageHead>
  <h2>Applications</h2>
  <StateView :data="data" :trouble="trouble" :is-loading="isLoading" :is-empty="!data?.length" @retry="reload">
    <template #empty>No application is connected yet.</template>
    <table>
      <thead><tr><th>Application</th><th>By</th><th>Health</th><th class="number">Waiting</th><th v-for="level in LEVELS" :key="level" class="number"><LevelMark :level="level" /></th><th>Last sync</th><th>Drift</th></tr></thead>
      <tbody>
        <tr v-for="one in data ?? []" :key="one.name">
          <td><RouterLink :to="`/where/${encodeURIComponent(one.name)}`">{{ one.name }}</RouterLink></td>
          <td>{{ one.kind.toUpperCase() }}</td>
          <td><span v-if="one.problem" class="signal">{{ one.problem.what }}</span><span v-else-if="one.paused" class="signal">paused by {{ one.paused.by }}</span><span v-else-if="work(one.name)?.restsUntil" class="signal">left alone until <WhenText :at="work(one.name)!.restsUntil" /></span><template v-else>well</template> <span class="soft small"><WhenText :at="one.checkedAt" /></span></td>
          <td class="number">{{ work(one.name)?.waiting || work(one.name)?.underWay ? number((work(one.name)?.waiting ?? 0) + (work(one.name)?.underWay ?? 0)) : '' }}<span v-if="work(one.name)?.expectedSeconds" class="soft small"> about {{ span(work(one.name)!.expectedSeconds!) }}</span></td>
          <td v-for="level in LEVELS" :key="level" class="number">{{ one.accounts[level] ? number(one.accounts[level]) : '' }}</td>
          <td><WhenText v-if="one.syncedAt" :at="one.syncedAt" /><span v-else class="soft">never</span></td>
          <td><RouterLink v-if="one.drift" class="signal" :to="`/now/change-sets/${one.drift}`">waits for a look</RouterLink><span v-else-if="one.syncedAt" class="soft">none known</span></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <p class="acts"><RouterLink v-if="session.may('edit-settings')" to="/where/new">Connect an application</RouterLink><RouterLink to="/where/compare">Compare two side by side</RouterLink></p>
  <BrakeAct v-if="execution.data.value" :stopped="execution.data.value.stopped" stop-path="/api/v1/execution/stop" go-on-path="/api/v1/execution/go-on" what="all work on all applications" @done="execution.reload" />
  <h2>Feeds</h2>
  <StateView :data="feeds.data.value" :trouble="feeds.trouble.value" :is-loading="feeds.isLoading.value" :is-empty="!feeds.data.value?.length" @retry="feeds.reload">
    <template #empty>People come from files that somebody brings in. A feed brings them by itself, each night or as they change.</template>
    <table>
      <thead><tr><th>Feed</th><th>By</th><th>Health</th><th>Last</th><th>Next</th></tr></thead>
      <tbody>
        <tr v-for="one in feeds.data.value ?? []" :key="one.source">
          <td><RouterLink :to="`/where/feeds/${encodeURIComponent(one.source)}`">{{ one.source }}</RouterLink></td>
          <td>{{ KINDS[one.kind] ?? one.kind }}</td>
          <td><span v-if="one.problem" class="signal">{{ one.problem.what }}</span><span v-else-if="one.state !== 'on'" class="soft">{{ one.state }}</span><template v-else>well</template></td>
          <td><WhenText v-if="one.last" :at="one.last.startedAt" /><span v-else class="soft">never</span></td>
          <td><WhenText v-if="one.nextAt" :at="one.nextAt" /><span v-else class="soft">{{ one.state === 'on' ? 'as it comes' : '' }}</span></td>
        </tr>
      </tbody>
    </table>
  </StateView>
  <p v-if="session.may('edit-settings')"><RouterLink to="/where/feeds/new">Set up a feed</RouterLink></p>
</template>
