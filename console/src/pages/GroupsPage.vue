<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { computed, reactive, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import EarlierItems from '../parts/EarlierItems.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { count, number } from '../use/words'

/** Groups across applications, and who is in one of them and why. */
const route = useRoute()
const always = ref(0)
const name = computed(() => (route.query.group as string | undefined) ?? '')
const isEmpty = computed(() => route.query.show === 'empty')
const groups = usePages<Schemas['NamedGroupView']>((cursor, signal) => api<Page<Schemas['NamedGroupView']>>(`/api/v1/groups${query({ cursor, empty: isEmpty.value ? 'true' : undefined })}`, { signal }), [always, isEmpty])
const holders = usePages<Schemas['HolderView']>(
  (cursor, signal) => (name.value ? api<Page<Schemas['HolderView']>>(`/api/v1/groups/holders${query({ group: name.value, cursor })}`, { signal }) : Promise.resolve({ items: [], next: null, total: null, moreThan: null })),
  [name]
)
const reach = useResource(async (signal) => (name.value ? api<Schemas['GroupReachView']>(`/api/v1/groups/reach${query({ group: name.value })}`, { signal }) : null), [name])

const RISKS = [
  { value: '', words: 'nothing said' },
  { value: 'low', words: 'low: an ordinary working right' },
  { value: 'high', words: 'high: much can be harmed or seen' },
  { value: 'full', words: 'full: can give themselves anything' }
]
const session = useSession()
const { isBusy, trouble, run } = useAct()
const form = reactive({ risk: '', scope: '', most: '', reason: '' })
const isMarking = ref(false)
const chosen = computed(() => groups.items.value?.find((one) => one.name === name.value))
watch(name, () => (isMarking.value = false))

function begin(): void {
  Object.assign(form, { risk: chosen.value?.risk ?? '', scope: chosen.value?.scope ?? '', most: chosen.value?.most == null ? '' : String(chosen.value.most), reason: '' })
  isMarking.value = true
}
async function mark(): Promise<void> {
  const body = { risk: form.risk || undefined, scope: form.scope.trim() || undefined, most: form.most.trim() ? Number(form.most) : undefined, reason: form.reason.trim() || undefined }
  const done = await run(() => api(`/api/v1/group-marks/${encodeURIComponent(name.value)}`, { method: 'PUT', body }))
  if (done === undefined) return
  isMarking.value = false
  await groups.reload()
}
</script>

<template>
  <PageHead title="Groups" place="Who" to="/who"><template #facts><span>Across all applications: those of one name are one</span><span v-if="isEmpty">Only those nobody is in: <RouterLink to="/who/groups">the others</RouterLink></span><span v-else><RouterLink to="/who/groups?show=empty">Groups nobody is in</RouterLink></span></template></PageHead>
  <StateView :data="groups.items.value" :trouble="groups.trouble.value" :is-loading="groups.isLoading.value" :is-empty="!groups.items.value?.length" @retry="groups.reload">
    <template #empty>{{ isEmpty ? 'Somebody is in every group that was seen.' : 'Nobody was seen in a group. Groups come with a sync of an application that has some.' }}</template>
    <table class="groups">
      <thead><tr><th>Group</th><th>In</th><th class="number">Accounts</th><th class="number">Put there by Ebb</th><th>Given by</th><th>What it opens</th></tr></thead>
      <tbody>
        <tr v-for="one in groups.items.value ?? []" :key="one.name" :class="{ here: one.name === name }">
          <td><RouterLink :to="{ query: { ...route.query, group: one.name } }" replace><bdi>{{ one.name }}</bdi></RouterLink></td>
          <td>{{ one.applications.join(', ') }}</td>
          <td class="number">{{ number(one.accounts) }}</td>
          <td class="number">{{ number(one.given) }}</td>
          <td>{{ one.rules.join(', ') || (one.given ? 'grants' : isEmpty ? 'nothing: it may be dead' : 'nobody here: found there') }}</td>
          <td><span v-if="one.risk" :class="{ signal: one.risk !== 'low' }">{{ one.risk }} risk</span> <bdi>{{ one.scope ?? '' }}</bdi><span v-if="one.most != null" class="small soft"><br />{{ number(one.most) }} in use at most</span></td>
        </tr>
      </tbody>
    </table>
    <Button v-if="groups.hasMore.value" label="Show more groups" severity="secondary" @click="groups.more" />
  </StateView>
  <template v-if="name">
    <h2>Who is in <bdi>{{ name }}</bdi></h2>
    <p v-if="reach.data.value" class="soft">{{ count(reach.data.value.accounts, 'account', 'accounts') }}, {{ number(reach.data.value.inUse) }} in use; {{ count(reach.data.value.people, 'person', 'people') }} of {{ count(reach.data.value.units, 'unit', 'units') }}</p>
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <form v-if="isMarking" class="fields" @submit.prevent="mark">
      <label>How much harm it lets one do<Select v-model="form.risk" :options="RISKS" option-label="words" option-value="value" aria-label="How much harm it lets one do" /></label>
      <label for="scope">What it opens<span class="hint">in words, for whoever gives it or looks at it</span><InputText id="scope" v-model="form.scope" autocomplete="off" /></label>
      <label for="most">At most<span class="hint">accounts in use, in one application; more stand in Now; empty for any number</span><InputText id="most" v-model="form.most" inputmode="numeric" autocomplete="off" /></label>
      <label for="reason">Reason<span class="hint">goes into the journal</span><InputText id="reason" v-model="form.reason" autocomplete="off" /></label>
      <div class="acts"><Button type="submit" label="Say so" :loading="isBusy" /><Button label="Leave it" severity="secondary" @click="isMarking = false" /></div>
    </form>
    <div v-else-if="session.may('edit-settings')" class="acts"><Button severity="secondary" size="small" label="Say what it opens …" @click="begin" /></div>
    <StateView :data="holders.items.value" :trouble="holders.trouble.value" :is-loading="holders.isLoading.value" :is-empty="!holders.items.value?.length" @retry="holders.reload">
      <template #empty>Nobody is in it.</template>
      <table>
        <thead><tr><th>Person</th><th>Unit</th><th>In</th><th>Account</th><th>Because of</th></tr></thead>
        <tbody>
          <tr v-for="one in holders.items.value ?? []" :key="`${one.application} ${one.person}`">
            <td><RouterLink :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink></td>
            <td>{{ one.department ?? '' }}</td>
            <td>{{ one.application }}</td>
            <td><LevelMark :level="one.level" /> <span class="soft small"><bdi>{{ one.account }}</bdi></span></td>
            <td>{{ one.ground ?? 'found there' }}<span v-if="one.through" class="small soft"><br />in <bdi>{{ one.through }}</bdi>, which is within it</span></td>
          </tr>
        </tbody>
      </table>
      <Button v-if="holders.hasMore.value" label="Show more people" severity="secondary" @click="holders.more" />
    </StateView>
    <EarlierItems :group="name" />
  </template>
</template>

<style scoped>
.groups { max-width: 72rem; }
.fields { margin-bottom: 1.2rem; }
.here td { background: var(--water-faint); }
</style>
