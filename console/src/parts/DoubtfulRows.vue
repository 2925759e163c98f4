<script setup lang="ts">
import Button from 'primevue/button'
import { computed, ref, toRef, watch } from 'vue'
import { api, query, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { usePages } from '../use/pages'
import { attribute, count } from '../use/words'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** Rows that may be somebody known: each beside the people it may be, answered with one key. */
const props = defineProps<{ made: Schemas['ImportView']; decides: boolean }>()
const emit = defineEmits<{ answered: [] }>()
type Row = Schemas['RowView']
type Like = Schemas['ResemblanceView']
const id = toRef(() => props.made.id)
const path = computed(() => `/api/v1/imports/${id.value}/rows`)
const { isBusy, trouble: refused, run } = useAct()
const rows = usePages<Row>((cursor, signal) => api<Page<Row>>(`${path.value}${query({ verdict: 'set-aside', cursor })}`, { signal }), [id])
const at = ref(0)
const row = computed<Row | null>(() => rows.items.value?.[at.value] ?? null)
const open = computed(() => (rows.items.value ?? []).filter((one) => !one.answer).length)
watch(rows.items, (items) => {
  if (items && at.value >= items.length) at.value = Math.max(0, items.length - 1)
})
const shown = computed(() => {
  const one = row.value
  if (!one) return []
  const names = new Set(Object.keys(one.values))
  one.resembles.forEach((like) => Object.keys(like.values).forEach((name) => names.add(name)))
  return [...names].filter((name) => name !== 'manager')
})
const isOther = (name: string, like: Like): boolean => (row.value?.values[name] ?? '') !== (like.values[name] ?? '')

async function answer(words: string): Promise<void> {
  const one = row.value
  if (!one || isBusy.value || !props.decides) return
  const done = await run(() => api(`${path.value}/${one.line}/answer`, { method: 'PUT', body: { answer: words } }))
  if (done === undefined) return
  await rows.reload()
  const next = (rows.items.value ?? []).findIndex((other) => !other.answer)
  if (next >= 0) at.value = next
  emit('answered')
}
function step(by: number): void {
  at.value = Math.min(Math.max(0, at.value + by), (rows.items.value?.length ?? 1) - 1)
}
function onKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey) return
  const like = row.value?.resembles[Number(event.key) - 1]
  if (event.key === 'n') void answer('new')
  else if (like) void answer(`same:${like.person}`)
  else if (event.key === 'ArrowDown' || event.key === 'j') step(1)
  else if (event.key === 'ArrowUp' || event.key === 'k') step(-1)
  else return
  event.preventDefault()
}
const answered = (one: Row): string => {
  if (!one.answer) return 'open'
  if (one.answer === 'new') return 'somebody new'
  const like = one.resembles.find((other) => `same:${other.person}` === one.answer)
  return like ? `is ${like.displayName}` : one.answer
}
</script>

<template>
  <ProblemNote v-if="refused" :problems="refused.problems" />
  <StateView :data="rows.items.value" :trouble="rows.trouble.value" :is-loading="rows.isLoading.value" :is-empty="!rows.items.value?.length" @retry="rows.reload">
    <template #empty>No row is doubtful.</template>
    <p role="status">{{ open ? `${count(open, 'row waits', 'rows wait')} for an answer.` : 'Every row is answered.' }}<span v-if="decides" class="soft"> Keys: <kbd>1</kbd> to <kbd>5</kbd> for the person of that number, <kbd>n</kbd> for somebody new, <kbd>↓</kbd> and <kbd>↑</kbd> for the next row and the one before.</span></p>
    <div class="desk" tabindex="0" role="group" aria-label="Doubtful rows; answered with one key" @keydown="onKey">
      <ul class="plain list">
        <li v-for="(one, index) in rows.items.value ?? []" :key="one.line"><button type="button" :aria-current="index === at" @click="at = index"><bdi>{{ one.name }}</bdi> <span class="small soft">line {{ one.line }}, {{ answered(one) }}</span></button></li>
        <li v-if="rows.hasMore.value"><Button label="Show more rows" size="small" severity="secondary" @click="rows.more" /></li>
      </ul>
      <div v-if="row" class="scroll">
        <table>
          <thead>
            <tr>
              <th><span class="unseen">Attribute</span></th>
              <th>In the file<br /><span class="small soft">line {{ row.line }}, key <bdi>{{ row.key }}</bdi></span></th>
              <th v-for="(like, index) in row.resembles" :key="like.person"><kbd>{{ index + 1 }}</kbd> <RouterLink :to="`/who/${like.person}`"><bdi>{{ like.displayName }}</bdi></RouterLink><br /><span class="small soft">likeness {{ like.score }} of 100</span></th>
            </tr>
          </thead>
          <tbody>
            <tr>
              <th scope="row">Why it may be</th><td></td>
              <td v-for="like in row.resembles" :key="like.person"><ul class="plain"><li v-for="reason in like.reasons" :key="reason">{{ reason }}</li></ul></td>
            </tr>
            <tr v-for="name in shown" :key="name">
              <th scope="row">{{ attribute(name) }}</th>
              <td><bdi>{{ row.values[name] }}</bdi></td>
              <td v-for="like in row.resembles" :key="like.person" :class="{ other: isOther(name, like) }"><bdi>{{ like.values[name] ?? (row.values[name] ? '—' : '') }}</bdi></td>
            </tr>
          </tbody>
          <tfoot v-if="decides">
            <tr>
              <th scope="row">Who is it?</th>
              <td><Button size="small" :severity="row.answer === 'new' ? undefined : 'secondary'" label="Somebody new" :aria-pressed="row.answer === 'new'" :disabled="isBusy" @click="answer('new')" /></td>
              <td v-for="like in row.resembles" :key="like.person"><Button size="small" :severity="row.answer === `same:${like.person}` ? undefined : 'secondary'" :label="`It is ${like.displayName}`" :aria-pressed="row.answer === `same:${like.person}`" :disabled="isBusy" @click="answer(`same:${like.person}`)" /></td>
            </tr>
          </tfoot>
        </table>
        <p v-if="!row.resembles.length">Nobody known has this key or name, and the file may add nobody.</p>
      </div>
    </div>
  </StateView>
</template>

<style scoped>
.other { border-left: 3px solid var(--signal); }
</style>
