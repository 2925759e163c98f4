<script setup lang="ts">
import { api, type Page, type Schemas } from '../api/client'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useResource } from '../use/resource'
import { number } from '../use/words'

const { data, trouble, isLoading, reload } = useResource(async (signal) => (await api<Page<Schemas['ApplicationView']>>('/api/v1/applications', { signal })).items)
const LEVELS = ['active', 'prepared', 'suspended', 'gone']
</script>

<template>
  <PageHead title="Where"><template #facts>Applications: are they well, and do they agree with us</template></PageHead>
  <StateView :data="data" :trouble="trouble" :is-loading="isLoading" :is-empty="!data?.length" @retry="reload">
    <template #empty>No application is connected yet: <code>ebb applications connect NAME --kind scim --set address=…</code></template>
    <table>
      <thead><tr><th>Application</th><th>By</th><th>Health</th><th v-for="level in LEVELS" :key="level" class="number"><LevelMark :level="level" /></th><th>Last sync</th><th>Drift</th></tr></thead>
      <tbody>
        <tr v-for="one in data ?? []" :key="one.name">
          <td><RouterLink :to="`/where/${encodeURIComponent(one.name)}`">{{ one.name }}</RouterLink></td>
          <td>{{ one.kind.toUpperCase() }}</td>
          <td><span v-if="one.problem" class="signal">{{ one.problem.what }}</span><template v-else>well</template> <span class="soft small"><WhenText :at="one.checkedAt" /></span></td>
          <td v-for="level in LEVELS" :key="level" class="number">{{ one.accounts[level] ? number(one.accounts[level]) : '' }}</td>
          <td><WhenText v-if="one.syncedAt" :at="one.syncedAt" /><span v-else class="soft">never</span></td>
          <td><RouterLink v-if="one.drift" class="signal" :to="`/now/change-sets/${one.drift}`">waits for a look</RouterLink><span v-else-if="one.syncedAt" class="soft">none known</span></td>
        </tr>
      </tbody>
    </table>
  </StateView>
</template>
