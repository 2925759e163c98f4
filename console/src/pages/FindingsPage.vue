<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, reactive, ref, toRef, useId, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Page, type Schemas } from '../api/client'
import AccountActs from '../parts/AccountActs.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { useResource } from '../use/resource'
import { attribute, capital, count, number } from '../use/words'

/** Findings of one kind in an application, and what is done about those chosen, or about all. */
const props = defineProps<{ name: string; kind: string }>()
const name = toRef(props, 'name')
const kind = toRef(props, 'kind')
const session = useSession()
const router = useRouter()
const id = useId()
const path = computed(() => `/api/v1/applications/${encodeURIComponent(name.value)}/findings`)
const findings = useResource((signal) => api<Schemas['FindingsView']>(path.value, { signal }), [name])
const list = usePages<Schemas['FindingView']>((cursor, signal) => api<Page<Schemas['FindingView']>>(`${path.value}/${kind.value}${query({ cursor })}`, { signal }), [name, kind])
const { isBusy, trouble, run } = useAct()
const mine = computed(() => findings.data.value?.kinds.find((one) => one.kind === kind.value))
const settled = ref<Schemas['SettledView'] | null>(null)
const opened = ref<number | null>(null)

const chosen = reactive(new Set<number>())
watch([name, kind], () => {
  chosen.clear()
  settled.value = null
})
const toggle = (one: number): void => void (chosen.has(one) ? chosen.delete(one) : chosen.add(one))
const many = computed(() => chosen.size || (mine.value?.count ?? 0))
const accounts = computed(() => count(many.value, 'account', 'accounts'))

const PUT_RIGHT: Record<string, string> = {
  'on-there': 'Switch off',
  'off-there': 'Switch on',
  missing: 'Create',
  drifted: 'Put right'
}
const isDrift = computed(() => kind.value in PUT_RIGHT)
const isOfNobody = computed(() => ['duplicate', 'doubtful', 'unmatched'].includes(kind.value))
const mayBeLeft = computed(() => isOfNobody.value || ['drifted', 'off-there', 'on-there'].includes(kind.value))

const why = ref('')
const userType = ref('guest')
const taken = reactive(new Set<string>())
const differing = computed(() => {
  const names = (list.items.value ?? []).flatMap((one) => one.differences.map((each) => each.what))
  return [...new Set(names)].filter((one) => !one.includes(' ')).sort()
})

async function settle(act: string, more: object = {}): Promise<void> {
  settled.value = null
  const ids = chosen.size ? [...chosen] : null
  const done = await run(() => api<Schemas['SettledView']>(`${path.value}/${kind.value}/${act}`, { method: 'POST', body: { ids, suspended: false, ...more } }))
  if (!done) return
  chosen.clear()
  if (done.changeSet && !done.leftOut) return void router.push(`/now/change-sets/${done.changeSet}`)
  settled.value = done
  await Promise.all([findings.reload(), list.reload()])
}
function decided(): void {
  opened.value = null
  void Promise.all([findings.reload(), list.reload()])
}
</script>

<template>
  <PageHead :title="capital(mine?.words ?? 'nothing of this kind')" :place="name" :to="`/where/${encodeURIComponent(name)}`">
    <template #facts><span v-if="mine">{{ count(mine.count, 'account', 'accounts') }}</span><span v-if="findings.data.value?.syncedAt">read <WhenText :at="findings.data.value.syncedAt" /></span></template>
  </PageHead>
  <nav v-if="(findings.data.value?.kinds.length ?? 0) > 1" class="switch kinds" aria-label="Kinds of findings">
    <RouterLink v-for="one in findings.data.value?.kinds ?? []" :key="one.kind" :to="`/where/${encodeURIComponent(name)}/${one.kind}`" :aria-current="one.kind === kind ? 'page' : undefined">{{ capital(one.words) }} <strong>{{ number(one.count) }}</strong></RouterLink>
  </nav>
  <ProblemNote v-if="trouble" :problems="trouble.problems" />
  <div v-if="settled" role="status" class="settled">
    <p>{{ number(settled.settled) }} settled<template v-if="settled.leftOut">, {{ number(settled.leftOut) }} left out</template>. <RouterLink v-if="settled.changeSet" class="signal" :to="`/now/change-sets/${settled.changeSet}`">See what follows, and release it</RouterLink></p>
    <ul v-if="settled.leftOut" class="plain small"><li v-for="one in settled.examples" :key="one.id"><bdi>{{ one.name }}</bdi>: {{ one.problem.what }} {{ one.problem.remedy }}</li></ul>
  </div>
  <section v-if="session.may('edit-people') && mine" class="what" aria-label="What to do">
    <p class="soft small">{{ chosen.size ? `${count(chosen.size, 'is', 'are')} chosen.` : `Nothing is chosen: what you do is done for all ${number(mine.count)}.` }} You see what follows before anything is written there.</p>
    <div class="acts">
      <Button v-if="isDrift" :label="`${PUT_RIGHT[kind]} ${accounts} there`" :loading="isBusy" @click="settle('put-right')" />
      <Button v-if="kind === 'doubtful'" :label="`Link ${accounts} to the likeliest person each`" :loading="isBusy" @click="settle('link')" />
      <template v-if="isOfNobody">
        <label class="inline">As <InputText v-model="userType" size="small" aria-label="Of which kind they are" /></label>
        <Button :severity="kind === 'unmatched' ? undefined : 'secondary'" :label="`Adopt ${accounts} as ${many === 1 ? 'a person' : 'people'}`" :loading="isBusy" @click="settle('adopt', { userType: userType.trim() || null })" />
        <Button severity="secondary" :label="`Adopt and switch off ${accounts}`" :loading="isBusy" @click="settle('adopt', { userType: userType.trim() || null, suspended: true })" />
      </template>
      <Button v-if="kind === 'left-alone'" :label="`Keep ${accounts} as they should be`" :loading="isBusy" @click="settle('keep')" />
    </div>
    <form v-if="kind === 'drifted' && differing.length" class="acts" @submit.prevent="settle('take', { attributes: [...taken] })">
      <span>What stands there is right:</span>
      <label v-for="one in differing" :key="one" class="inline"><input type="checkbox" :checked="taken.has(one)" @change="taken.has(one) ? taken.delete(one) : taken.add(one)" /> {{ attribute(one) }}</label>
      <Button type="submit" severity="secondary" size="small" :label="`Take it for ${count(many, 'person', 'people')}`" :disabled="!taken.size" :loading="isBusy" />
    </form>
    <form v-if="mayBeLeft" class="acts" @submit.prevent="settle('leave-alone', { reason: why.trim() })">
      <label :for="id">{{ isDrift ? 'They may differ, because' : 'They are nobody’s and meant to be there, because' }}</label>
      <InputText :id="id" v-model="why" required class="why" />
      <Button type="submit" severity="secondary" size="small" :label="`Leave ${accounts} alone`" :disabled="!why.trim()" :loading="isBusy" />
    </form>
  </section>
  <h2 class="unseen">The accounts</h2>
  <StateView :data="list.items.value" :trouble="list.trouble.value" :is-loading="list.isLoading.value" :is-empty="!list.items.value?.length && !list.hasMore.value" @retry="list.reload">
    <template #empty>Nothing of this kind is found. <RouterLink :to="`/where/${encodeURIComponent(name)}`">Back to {{ name }}</RouterLink></template>
    <table>
      <thead><tr><th class="tickbox"><span class="unseen">Chosen</span></th><th>Account</th><th>Whose</th><th v-if="isDrift">What differs</th><th v-else-if="isOfNobody">Like</th><th v-else>Why</th><th>{{ isDrift ? 'Since' : 'Seen' }}</th></tr></thead>
      <tbody>
        <template v-for="one in list.items.value ?? []" :key="one.id">
          <tr>
            <td class="tickbox"><input type="checkbox" :checked="chosen.has(one.id)" :aria-label="`Choose ${one.account?.name ?? one.displayName}`" @change="toggle(one.id)" /></td>
            <td><template v-if="one.account"><button v-if="session.may('edit-people')" type="button" class="open" :aria-expanded="opened === one.id" @click="opened = opened === one.id ? null : one.id"><bdi>{{ one.account.name }}</bdi></button><bdi v-else>{{ one.account.name }}</bdi> <LevelMark :level="one.account.level" /></template><span v-else class="soft">none</span></td>
            <td><RouterLink v-if="one.person" :to="`/who/${one.person}`"><bdi>{{ one.displayName }}</bdi></RouterLink><span v-else class="soft">nobody’s</span></td>
            <td v-if="isDrift">
              <ul class="plain"><li v-for="each in one.differences" :key="each.what">{{ attribute(each.what) }}: <del><bdi>{{ each.there || 'empty' }}</bdi></del> <span class="unseen">there, and should be</span><span aria-hidden="true">→</span> <ins><bdi>{{ each.here || 'empty' }}</bdi></ins> <span v-if="each.times" class="signal small">came back {{ count(each.times, 'time', 'times') }}</span></li></ul>
            </td>
            <td v-else-if="isOfNobody">
              <ul class="plain"><li v-for="like in one.likely" :key="like.person"><RouterLink :to="`/who/${like.person}`"><bdi>{{ like.displayName }}</bdi></RouterLink> <span class="soft small">{{ like.why.join(', ') }}</span><span v-if="like.account" class="small"> has <bdi>{{ like.accountName }}</bdi> already</span></li></ul>
            </td>
            <td v-else>{{ one.account?.leftAlone?.why }} <span class="soft small">{{ one.account?.leftAlone?.by }}</span></td>
            <td><WhenText :at="one.since" /></td>
          </tr>
          <tr v-if="opened === one.id && one.account"><td /><td colspan="4"><AccountActs :account="one.account" @done="decided" /></td></tr>
        </template>
      </tbody>
    </table>
    <Button v-if="list.hasMore.value" label="Show more" severity="secondary" @click="list.more" />
  </StateView>
</template>

<style scoped>
.kinds { margin: 0.8rem 0 0; }
.kinds a { color: var(--ink); text-decoration: none; background: var(--sheet); border: 1px solid var(--line-strong); padding: 0.2rem 0.7rem; margin: 0 -1px -1px 0; }
.kinds a:hover { background: var(--hover); }
.kinds a[aria-current] { background: var(--water-soft); box-shadow: inset 0 -3px var(--water); }
.what { border-left: 3px solid var(--water); padding: 0.2rem 0 0.2rem 1rem; margin: 1rem 0; display: grid; gap: 0.6rem; }
.settled { margin: 0.8rem 0; }
.inline { display: inline-flex; gap: 0.3rem; align-items: center; }
.why { flex: 1; min-width: 14rem; }
.tickbox { width: 2rem; }
.open { font: inherit; color: var(--water); background: none; border: 0; padding: 0; cursor: pointer; text-decoration: underline; text-align: left; }
del { color: var(--ink-soft); }
ins { text-decoration: none; font-weight: 600; }
</style>
