<script setup lang="ts">
import Button from 'primevue/button'
import { computed, toRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { count } from '../use/words'

/** What was made for a group earlier and does not follow it, and the way to have it follow. */
const props = defineProps<{ group: string }>()
const group = toRef(props, 'group')
const found = useResource((signal) => api<Schemas['EarlierItemsView']>(`/api/v1/groups/earlier-items${query({ group: group.value })}`, { signal }), [group], false)
const applications = computed(() => found.data.value?.applications ?? [])
const isAstray = computed(() => applications.value.some((one) => one.strays.length))
const session = useSession()
const router = useRouter()
const { isBusy, trouble, run } = useAct()

async function catchUp(): Promise<void> {
  const set = await run(() => api<Schemas['ChangeSetView']>(`/api/v1/groups/earlier-items/catch-up${query({ group: group.value })}`, { method: 'POST', body: {} }))
  if (set) await router.push(`/now/change-sets/${set.id}`)
}
</script>

<template>
  <section v-if="applications.length" aria-label="Made earlier">
    <h2>Made for it earlier</h2>
    <p class="soft small">Meetings and shares that were made with everybody of the group then do not follow it by themselves.</p>
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <template v-for="one in applications" :key="one.application">
      <ProblemNote v-if="one.problem" :problems="[one.problem]" />
      <p v-else-if="!one.strays.length">{{ one.application }}: all of it says who is in the group now.</p>
      <template v-else>
        <p>{{ one.application }}: {{ one.more ? 'more than ' : '' }}{{ count(one.strays.length, 'place differs', 'places differ') }} from who is in the group now.</p>
        <table>
          <thead><tr><th>Made earlier</th><th>Person</th><th>What is wrong</th></tr></thead>
          <tbody>
            <tr v-for="stray in one.strays" :key="`${stray.kind} ${stray.name} ${stray.account}`">
              <td>{{ stray.kind }} <bdi>{{ stray.name }}</bdi></td>
              <td><RouterLink v-if="stray.person" :to="`/who/${stray.person}`"><bdi>{{ stray.displayName }}</bdi></RouterLink><template v-else><bdi>{{ stray.account }}</bdi>, nobody's account</template></td>
              <td>{{ stray.named ? 'left the group: the item still names them' : 'came into the group later: the item lacks them' }}</td>
            </tr>
          </tbody>
        </table>
      </template>
    </template>
    <div v-if="isAstray && session.may('release')" class="acts"><Button label="Have all of it follow …" severity="secondary" size="small" :loading="isBusy" @click="catchUp" /></div>
  </section>
</template>

<style scoped>
.acts { margin-top: 0.6rem; }
</style>
