<script setup lang="ts">
import Textarea from 'primevue/textarea'
import { computed, onScopeDispose, ref, watch } from 'vue'
import { api, Trouble, type Page, type Schemas } from '../api/client'
import { useSession } from '../session'
import type { ConditionPart } from '../use/condition'
import { useResource } from '../use/resource'
import { count, number } from '../use/words'
import ConditionGroup from './ConditionGroup.vue'
import ProblemNote from './ProblemNote.vue'

/** Who is meant: built from comparisons, or written as CEL; and how many that are, as it is typed. */
const cel = defineModel<string>({ required: true })
const session = useSession()
const attributes = useResource(async (signal) => (await api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })).items, [], false)
const names = computed(() => (attributes.data.value ?? []).map((one) => one.name))

const read = ref<{ cel: string; built: ConditionPart; sentence: string } | null>(null)
const trouble = ref<Trouble | null>(null)
const isWritten = ref(false)
const canBeBuilt = computed(() => read.value !== null && read.value.built.kind !== 'other')

const found = ref<Schemas['MatchView'] | null>(null)
let running: AbortController | null = null
let typed: number | undefined

/** Whatever is asked for later makes earlier answers worthless. */
async function look(request: { cel?: string; built?: ConditionPart }): Promise<void> {
  running?.abort()
  const mine = (running = new AbortController())
  try {
    const answer = await api<Schemas['ConditionView']>('/api/v1/conditions/read', { method: 'POST', body: request, signal: mine.signal })
    if (mine !== running) return
    trouble.value = null
    // A group of one comparison is none any more once it was CEL: what is being built stays.
    read.value = { ...answer, built: request.built ?? (answer.built as ConditionPart) }
    cel.value = answer.cel
    if (session.may('edit-settings')) await match(answer.cel, mine)
  } catch (e) {
    if (mine !== running || (e instanceof DOMException && e.name === 'AbortError')) return
    if (!(e instanceof Trouble)) throw e
    trouble.value = e
    found.value = null
  }
}
async function match(what: string, mine: AbortController): Promise<void> {
  found.value = null
  let after: number | null = null
  do {
    const part: Schemas['MatchView'] = await api<Schemas['MatchView']>('/api/v1/conditions/match', { method: 'POST', body: { cel: what, after }, signal: mine.signal })
    if (mine !== running) return
    const before = found.value as Schemas['MatchView'] | null
    found.value = before ? { ...part, looked: before.looked + part.looked, matching: before.matching + part.matching, failing: before.failing + part.failing, failure: before.failure ?? part.failure, first: before.first.length ? before.first : part.first } : part
    after = part.next
  } while (after)
}
function write(text: string): void {
  cel.value = text
  window.clearTimeout(typed)
  typed = window.setTimeout(() => void look({ cel: text }), 400)
}
watch(cel, (now) => now !== read.value?.cel && typed === undefined && void look({ cel: now }), { immediate: true })
watch(canBeBuilt, (can) => !can && read.value && (isWritten.value = true))
onScopeDispose(() => {
  running?.abort()
  running = null
  window.clearTimeout(typed)
})
defineExpose({ found })
</script>

<template>
  <section aria-label="Who is meant" class="condition">
    <div class="switch" role="group" aria-label="How it is said">
      <button type="button" :aria-pressed="!isWritten" :disabled="!canBeBuilt" @click="isWritten = false">Built</button>
      <button type="button" :aria-pressed="isWritten" @click="isWritten = true">As CEL</button>
    </div>
    <label v-if="isWritten" class="written">Condition
      <span class="hint">CEL over person, as in person.department == "Deck"<template v-if="read && !canBeBuilt">; this one can only be written</template></span>
      <Textarea :model-value="cel" rows="3" spellcheck="false" class="code" @update:model-value="write(String($event ?? ''))" />
    </label>
    <ConditionGroup v-else-if="read" :part="read.built" :attributes="names" @changed="look({ built: $event })" />
    <ProblemNote v-if="trouble" :problems="trouble.problems" />
    <template v-else-if="read">
      <p class="sentence">{{ read.sentence.charAt(0).toUpperCase() + read.sentence.slice(1) }}.</p>
      <p v-if="!isWritten" class="soft small"><code>{{ read.cel }}</code></p>
      <div v-if="found" role="status" class="found">
        <p><strong>{{ number(found.matching) }}</strong> of {{ count(found.looked, 'person', 'people') }}<template v-if="found.next"> looked at so far, of {{ number(found.of) }}</template> today<template v-if="found.first.length">: <template v-for="(one, i) in found.first" :key="one.id"><template v-if="i">, </template><RouterLink :to="`/who/${one.id}`"><bdi>{{ one.displayName }}</bdi></RouterLink></template><template v-if="found.matching > found.first.length"> and {{ number(found.matching - found.first.length) }} more</template></template>.</p>
        <p v-if="found.failing" class="signal">It cannot be computed for {{ count(found.failing, 'person', 'people') }}, who are not meant then: {{ found.failure }}</p>
      </div>
      <p v-else-if="session.may('edit-settings')" class="soft" role="status">Counting …</p>
    </template>
  </section>
</template>

<style scoped>
.condition { display: grid; gap: 0.6rem; }
.written { display: grid; gap: 0.2rem; font-weight: 600; font-size: 0.9rem; }
.written .hint { font-weight: 400; color: var(--ink-soft); }
.code { font-family: ui-monospace, monospace; }
.sentence { font-size: 1.05rem; margin: 0; }
.found p { margin: 0; }
</style>
