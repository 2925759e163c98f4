<script setup lang="ts">
import { toRef } from 'vue'
import { api, type Schemas } from '../api/client'
import StateView from './StateView.vue'
import WhenText from './WhenText.vue'
import { useResource } from '../use/resource'
import { attribute, capital, count, number } from '../use/words'

/** In what an application does not agree with Ebb, by kind, each with the way to settle it. */
const props = defineProps<{ name: string }>()
const name = toRef(props, 'name')
const findings = useResource((signal) => api<Schemas['FindingsView']>(`/api/v1/applications/${encodeURIComponent(name.value)}/findings`, { signal }), [name])
const NEEDS_NOBODY = ['left-alone', 'unlooked']
</script>

<template>
  <StateView :data="findings.data.value" :trouble="findings.trouble.value" :is-loading="findings.isLoading.value" @retry="findings.reload">
    <template v-if="findings.data.value" #default>
      <p v-if="!findings.data.value.syncedAt" class="soft">It was never read: whether it agrees is not known. Sync it.</p>
      <p v-else-if="!findings.data.value.kinds.some((one) => !NEEDS_NOBODY.includes(one.kind))">All agrees, as it was read <WhenText :at="findings.data.value.syncedAt" />.</p>
      <table v-if="findings.data.value.kinds.length" class="kinds">
        <thead class="unseen"><tr><th>How many</th><th>Accounts</th></tr></thead>
        <tbody>
          <tr v-for="one in findings.data.value.kinds" :key="one.kind">
            <td class="number"><strong :class="{ signal: !NEEDS_NOBODY.includes(one.kind) }">{{ number(one.count) }}</strong></td>
            <td><RouterLink v-if="one.kind !== 'unlooked'" :to="`/where/${encodeURIComponent(name)}/${one.kind}`">{{ capital(one.words) }}</RouterLink><span v-else class="soft">{{ capital(one.words) }}</span></td>
          </tr>
        </tbody>
      </table>
      <template v-if="findings.data.value.quarrels.length">
        <h3>Somebody else keeps writing</h3>
        <ul class="plain"><li v-for="one in findings.data.value.quarrels" :key="`${one.person} ${one.attribute}`"><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink>: {{ attribute(one.attribute) }} <span class="signal">came back {{ count(one.times, 'time', 'times') }}</span>, since <WhenText :at="one.since" /></li></ul>
      </template>
    </template>
  </StateView>
</template>

<style scoped>
.kinds { max-width: 44rem; }
.kinds td.number { width: 6rem; }
</style>
