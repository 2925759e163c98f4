<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, onScopeDispose, ref, toRef } from 'vue'
import { api, type Schemas } from '../api/client'
import BalanceSheet from '../parts/BalanceSheet.vue'
import GateDoor from '../parts/GateDoor.vue'
import LevelMark from '../parts/LevelMark.vue'
import PageHead from '../parts/PageHead.vue'
import PickPerson from '../parts/PickPerson.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import StateView from '../parts/StateView.vue'
import StepLine from '../parts/StepLine.vue'
import TideLine from '../parts/TideLine.vue'
import WhenText from '../parts/WhenText.vue'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { capital, day, sentence } from '../use/words'

const props = defineProps<{ id: string }>()
const id = toRef(props, 'id')
const session = useSession()
const path = computed(() => `/api/v1/departures/${id.value}`)
const { data: departure, trouble, isLoading, reload, look } = useResource((signal) => api<Schemas['DepartureView']>(path.value, { signal }), [id])
// What arrives is told to nobody one by one; whoever looks asks for it.
const timer = window.setInterval(() => departure.value?.accounts.some((one) => one.handover === 'running') && look(), 2000)
onScopeDispose(() => window.clearInterval(timer))
const person = computed(() => departure.value?.person)
const time = useResource((signal) => (person.value ? api<Schemas['TimelineView']>(`/api/v1/people/${person.value}/timeline`, { signal }) : Promise.resolve(null)), [person])
const { isBusy, trouble: refused, run } = useAct()
const isChoosing = ref(false)
const waiving = ref<{ account: number; gate: string } | null>(null)
const approving = ref<number | null>(null)
const reason = ref('')
const doing = ref<'confirmation' | 'pause' | 'dates' | null>(null)
const dates = ref({ handOverFrom: '', deleteFrom: '' })
const runs = computed(() => departure.value?.state === 'running')
const failed = computed(() => departure.value?.accounts.some((one) => one.handover === 'failed') ?? false)
const WAIVABLE = new Set(['stock', 'recipient', 'handover', 'uncovered', 'references', 'waiting', 'refusals'])
const ENDINGS: Record<string, string> = { delete: 'is deleted', strip: 'is stripped of what is personal', keep: 'is done with; it stays suspended' }
const DOORS: Record<string, string> = { open: 'Open', shut: 'Shut', 'not known': 'Not known', waived: 'Waived' }
const isShut = (gate: Schemas['GateView']): boolean => gate.state === 'shut' || gate.state === 'not known'

async function act(method: 'PUT' | 'POST', part: string, body?: unknown): Promise<void> {
  const next = await run(() => api<Schemas['DepartureView']>(`${path.value}/${part}`, { method, body, version: method === 'PUT' ? departure.value?.version : undefined }))
  if (!next) return
  departure.value = next
  isChoosing.value = false
  waiving.value = doing.value = approving.value = null
  reason.value = ''
}
function begin(what: 'confirmation' | 'pause' | 'dates'): void {
  refused.value = null
  doing.value = what
  dates.value = { handOverFrom: departure.value?.handOverFrom ?? '', deleteFrom: departure.value?.accounts.map((one) => one.deleteFrom).sort()[0] ?? '' }
}
function say(): Promise<void> {
  return doing.value === 'dates' ? act('PUT', 'dates', { ...dates.value, reason: reason.value }) : act('POST', doing.value ?? '', { reason: reason.value })
}
</script>

<template>
  <PageHead :title="departure ? `Departure of ${departure.displayName}` : `Departure ${id}`" place="Departures" to="/ahead/departures">
    <template v-if="departure" #facts>
      <span><RouterLink :to="`/who/${departure.person}`"><bdi>{{ departure.displayName }}</bdi></RouterLink>, {{ departure.state }}</span>
      <span>last day {{ day(departure.lastDay) }}</span><span v-if="!departure.reason.startsWith('last day')">{{ departure.reason }}</span>
      <span>begun <WhenText :at="departure.startedAt" /></span><span v-if="departure.endedAt">ended <WhenText :at="departure.endedAt" /></span>
    </template>
    <template v-if="runs && session.may('departures')">
      <Button v-if="failed" label="Retry the handover" :loading="isBusy" @click="act('POST', 'retry')" />
      <Button v-if="departure?.asksReturn && !departure.notReturning" label="They are not coming back …" @click="begin('confirmation')" />
      <Button v-if="departure?.paused" label="Let it go on" :loading="isBusy" @click="act('POST', 'go-on')" />
      <Button v-else label="Pause …" severity="secondary" @click="begin('pause')" />
      <Button label="Move its days …" severity="secondary" @click="begin('dates')" />
    </template>
  </PageHead>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="departure" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="departure" #default>
      <StepLine v-if="runs" :steps="departure.steps" />
      <p v-for="step in runs ? [] : departure.steps" :key="step.name" :class="{ signal: step.state === 'waits' }"><template v-if="step.day">{{ day(step.day) }}: </template>{{ sentence(step.words) }}</p>
      <form v-if="doing" class="fields" @submit.prevent="say">
        <template v-if="doing === 'dates'">
          <label for="d-over">What they own is handed over from<input id="d-over" v-model="dates.handOverFrom" type="date" required /></label>
          <label for="d-delete">Accounts may be removed from<input id="d-delete" v-model="dates.deleteFrom" type="date" required /></label>
        </template>
        <label for="d-reason">{{ doing === 'confirmation' ? 'Who says that they are not coming back' : 'Why, for the journal' }}<InputText id="d-reason" v-model="reason" required autocomplete="off" /></label>
        <div class="acts"><Button type="submit" :severity="doing === 'confirmation' ? 'warn' : undefined" :label="doing === 'confirmation' ? `${departure.displayName} is not coming back` : doing === 'pause' ? 'Pause: nothing is handed over or removed' : 'Move the days'" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="doing = null" /></div>
      </form>
      <p v-if="departure.paused" class="signal">Paused {{ departure.paused }}. Nothing is handed over or removed.</p>
      <p v-if="runs" class="soft">{{ departure.turnsBackUntil ? `All of it can be turned back until ${day(departure.turnsBackUntil)}: ${departure.kind === 'closing' ? 'it is, once a rule or a grant gives them the account again' : departure.kind === 'removal' ? 'it is, once the account is to be in use again' : 'give them a later last day, or none, where it comes from or by hand'}.` : 'Something has been removed: who comes back now is given a new account there.' }}</p>
      <p v-if="runs || departure.recipient">
        What the accounts {{ runs ? 'own goes' : 'owned went' }} to <RouterLink v-if="departure.recipient" :to="`/who/${departure.recipient}`"><bdi>{{ departure.recipientName }}</bdi></RouterLink><span v-else class="signal">nobody yet</span><template v-if="departure.accepted">, who takes it</template><span v-else-if="departure.declined" class="signal">: declined by <bdi>{{ departure.declined }}</bdi></span>.
        <Button v-if="runs && session.may('departures') && !isChoosing" size="small" severity="secondary" :label="departure.recipient ? 'Name somebody else' : 'Name a recipient'" @click="isChoosing = true" />
      </p>
      <PickPerson v-if="isChoosing" label="Who gets it: the beginning of a name" @pick="(chosen) => act('PUT', 'recipient', { person: chosen })" />
      <TideLine v-if="time.data.value" :time="time.data.value" />
      <section v-for="account in departure.accounts" :key="account.id">
        <h2><RouterLink :to="`/where/${encodeURIComponent(account.application)}`">{{ account.application }}</RouterLink> <LevelMark :level="account.level" /> <span class="soft small"><bdi>{{ account.name }}</bdi></span></h2>
        <div class="columns">
          <div>
            <h3 v-if="!account.gates.length">What is left to do</h3>
            <h3 v-else>Gates before it {{ ENDINGS[account.ending] }}, from {{ day(account.deleteFrom) }}</h3>
            <p v-if="!account.gates.some(isShut)">{{ sentence(capital(account.next)) }}.</p>
            <template v-if="account.gates.length">
              <ol class="plain gates">
                <li v-for="gate in account.gates.filter(isShut)" :key="gate.name" class="shut">
                  <GateDoor shut />
                  <div>
                    <strong>{{ capital(gate.name) }}: {{ DOORS[gate.state] ?? gate.state }}</strong>
                    <p class="small">{{ sentence(gate.why) }} {{ sentence(gate.remedy ?? '') }} <span v-if="gate.opener" class="soft"><template v-if="gate.since">Shut since {{ day(gate.since) }}. </template>Opened by: {{ gate.opener }}.</span></p>
                    <form v-if="waiving?.account === account.id && waiving.gate === gate.name" class="acts" @submit.prevent="act('POST', 'waivers', { account: account.id, gate: gate.name, reason })">
                      <label :for="`w-${gate.name}`" class="unseen">Reason for waiving</label><InputText :id="`w-${gate.name}`" v-model="reason" placeholder="Reason, for the journal" autofocus />
                      <Button type="submit" size="small" severity="warn" :label="`Waive the gate ${gate.name}`" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" size="small" severity="secondary" label="Leave it" @click="waiving = null" />
                    </form>
                    <form v-else-if="approving === account.id && gate.name === 'approval'" class="acts" @submit.prevent="act('POST', 'approvals', { account: account.id, reason })">
                      <label :for="`a-${account.id}`" class="unseen">Why it may go</label><InputText :id="`a-${account.id}`" v-model="reason" placeholder="What you looked at, for the journal" autofocus />
                      <Button type="submit" size="small" severity="warn" :label="`Approve its removal from ${account.application}`" :disabled="!reason.trim()" :loading="isBusy" /><Button type="button" size="small" severity="secondary" label="Leave it" @click="approving = null" />
                    </form>
                    <Button v-else-if="runs && gate.name === 'approval' && gate.needsSomebody && session.may('approve')" size="small" text label="Approve its removal" :aria-label="`Approve the removal from ${account.application}`" @click="approving = account.id" />
                    <Button v-else-if="runs && WAIVABLE.has(gate.name) && session.may('departures')" size="small" text label="Waive it" :aria-label="`Waive the gate ${gate.name} in ${account.application}`" @click="waiving = { account: account.id, gate: gate.name }" />
                  </div>
                </li>
              </ol>
              <details>
                <summary>Open: {{ account.gates.filter((gate) => !isShut(gate)).map((gate) => gate.name).join(', ') || 'none' }}</summary>
                <ol class="plain gates">
                  <li v-for="gate in account.gates.filter((one) => !isShut(one))" :key="gate.name"><GateDoor /><p><strong>{{ capital(gate.name) }}{{ gate.state === 'waived' ? ', waived' : '' }}:</strong> {{ sentence(gate.why) }}</p></li>
                </ol>
              </details>
            </template>
          </div>
          <div>
            <h3>Balance sheet</h3>
            <BalanceSheet :departure="departure.id" :account="account" :runs="runs" @changed="(next) => (departure = next)" />
            <p v-if="account.provenAt">Handed over, and counts and checksums found right at the recipient, <WhenText :at="account.provenAt" />.</p>
            <p v-else-if="account.handover !== 'none'">Handover: {{ account.handover }}.</p>
          </div>
        </div>
      </section>
    </template>
  </StateView>
</template>

<style scoped>
h2 { display: flex; gap: 0.8rem; align-items: center; border-top: 1px solid var(--line-strong); padding-top: 0.8rem; }
.gates li { display: grid; grid-template-columns: auto 1fr; gap: 0.7rem; padding: 0.35rem 0; }
summary { cursor: pointer; margin-top: 0.4rem; }
p { max-width: 60rem; }
</style>
