<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useSession } from '../session'
import { useAct } from '../use/act'
import { count } from '../use/words'
import ProblemNote from './ProblemNote.vue'

/** Lets a shown set through: all of it, or a few people first, so that they can be looked at. */
const props = defineProps<{ set: Schemas['ChangeSetView']; chosen?: number[]; lists?: boolean }>()
const emit = defineEmits<{ released: [set: Schemas['ChangeSetView']]; stale: [] }>()
const session = useSession()
const { isBusy, trouble, run } = useAct()
const first = ref('2')
const left = computed(() => props.set.peopleLeft)
const rules = computed(() => props.set.rules.join(', '))
const isBegun = computed(() => left.value < props.set.people)
const few = computed(() => Math.min(Math.max(1, Math.floor(Number(first.value) || 0)), left.value))
const mayRelease = computed(() => props.set.state === 'shown' && !props.set.stops.length && session.may('release'))

async function release(part?: { first?: number; people?: number[] }): Promise<void> {
  const next = await run(() =>
    api<Schemas['ChangeSetView']>(`/api/v1/change-sets/${props.set.id}/release`, { method: 'POST', version: props.set.version, body: part ? { reason: null, first: null, people: null, ...part } : undefined })
  )
  if (next) emit('released', next)
  else emit('stale')
}
</script>

<template>
  <div v-if="mayRelease && !left && lists" class="acts">
    <Button label="Release the lists of units and groups" :loading="isBusy" @click="release()" /> <span class="soft small">Nobody changes by them today; the next files of this source are read by them.</span>
  </div>
  <div v-if="mayRelease && rules" class="release">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <div class="acts"><Button :label="left ? `Release for ${count(left, 'person', 'people')}` : 'Release it'" :loading="isBusy" @click="release()" /></div>
    <p class="soft small">With that, what was edited of {{ rules }} is in force: for everybody, and for whoever comes.</p>
  </div>
  <div v-else-if="mayRelease && left" class="release">
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <div class="acts">
      <Button v-if="chosen?.length" :label="`Release the ${count(chosen.length, 'person', 'people')} chosen`" :loading="isBusy" @click="release({ people: chosen })" />
      <template v-else-if="left > 2">
        <label>Try the first <InputText v-model="first" inputmode="numeric" class="few" aria-label="How many to try first" /></label>
        <Button severity="secondary" :label="`Release ${count(few, 'person', 'people')} first`" :loading="isBusy" :disabled="few >= left" @click="release({ first: few })" />
      </template>
      <Button :label="isBegun ? `Release the other ${count(left, 'person', 'people')}` : `Release for ${count(left, 'person', 'people')}`" :loading="isBusy" @click="release()" />
    </div>
    <p v-if="left > 2" class="soft small">Whoever the first ones report to goes with them; the rest stays as it is shown.</p>
  </div>
</template>

<style scoped>
.few { width: 4rem; }
label { display: inline-flex; gap: 0.4rem; align-items: center; }
</style>
