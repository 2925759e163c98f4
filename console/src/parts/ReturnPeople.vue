<script setup lang="ts">
import Button from 'primevue/button'
import Dialog from 'primevue/dialog'
import { computed } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { useShownSet } from '../use/set'
import { count } from '../use/words'

/** Ends all suspensions of people; what comes back, and what no longer fits, is seen before. */
const props = defineProps<{ people: number[] }>()
const emit = defineEmits<{ close: []; shown: [] }>()
const { isBusy, trouble, run } = useAct()
const carryOut = useShownSet()
const returning = useResource(async (signal) => (await api<Page<Schemas['ReturningView']>>('/api/v1/suspensions/returns/check', { method: 'POST', body: { people: props.people }, signal })).items, [() => props.people], false)
const button = computed(() => (props.people.length === 1 ? `Bring ${returning.data.value?.[0]?.displayName ?? 'them'} back` : `Bring ${count(props.people.length, 'person', 'people')} back`))

async function bringBack(): Promise<void> {
  await run(async () => {
    await carryOut('/api/v1/suspensions/returns', { people: props.people })
    emit('shown')
    emit('close')
  })
}
</script>

<template>
  <Dialog visible modal :draggable="false" header="Bring back, with what they had" @update:visible="emit('close')">
    <form @submit.prevent="bringBack">
      <ProblemNote v-if="trouble" :problems="trouble.problems" />
      <StateView :data="returning.data.value" :trouble="returning.trouble.value" :is-loading="returning.isLoading.value" @retry="returning.reload">
        <div class="roll">
          <table>
            <thead><tr><th>Person</th><th>Back in</th><th>Not as it was before</th></tr></thead>
            <tbody>
              <tr v-for="one in returning.data.value ?? []" :key="one.person">
                <td><bdi>{{ one.displayName }}</bdi></td>
                <td>{{ one.back.join(', ') || 'nothing' }}<p v-if="one.staysOff" class="signal small">The rest stays off: {{ one.staysOff }}</p></td>
                <td><ul v-if="one.otherwise.length" class="plain"><li v-for="words in one.otherwise" :key="words">{{ words }}</li></ul><span v-else class="soft">all of it fits still</span></td>
              </tr>
            </tbody>
          </table>
        </div>
      </StateView>
      <div class="acts"><Button type="submit" :label="button" :disabled="!returning.data.value" :loading="isBusy" /><Button type="button" severity="secondary" label="Leave it" @click="emit('close')" /></div>
    </form>
  </Dialog>
</template>

<style scoped>
.roll { max-height: 26rem; overflow: auto; margin-bottom: 0.8rem; }
</style>
