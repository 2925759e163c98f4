<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, query, type Schemas } from '../api/client'
import ImportSteps from '../parts/ImportSteps.vue'
import PageHead from '../parts/PageHead.vue'
import ProblemNote from '../parts/ProblemNote.vue'
import { useAct } from '../use/act'
import { MODES, number } from '../use/words'

const router = useRouter()
const file = ref<File | null>(null)
const isComplete = ref(false)
const mode = ref('add-and-update')
const source = ref('')
const needsSource = ref(false)
const { isBusy, trouble: refused, run } = useAct()

function take(event: Event): void {
  file.value = (event.target as HTMLInputElement).files?.[0] ?? null
}
function drop(event: DragEvent): void {
  file.value = event.dataTransfer?.files[0] ?? null
}
async function bring(): Promise<void> {
  const chosen = file.value
  if (!chosen) return
  const made = await run(() =>
    api<Schemas['ImportView']>(`/api/v1/imports${query({ file: chosen.name, complete: isComplete.value, mode: mode.value, source: source.value.trim() || undefined })}`, { method: 'POST', file: chosen })
  )
  needsSource.value ||= refused.value?.problems.some((one) => one.code === 'source-needed') ?? false
  if (made) await router.push(`/now/imports/${made.id}`)
}
</script>

<template>
  <PageHead title="Bring in a file" place="Now" to="/now"><template #facts>It is read and checked, and what it would do is shown. Nothing is written before you release it.</template></PageHead>
  <ImportSteps at="file" />
  <form class="fields" @submit.prevent="bring">
    <ProblemNote v-if="refused" :problems="refused.problems" />
    <div class="drop" @dragover.prevent @drop.prevent="drop">
      <label for="file">The file, as it is<span class="hint">CSV with any separator and encoding, XLSX, JSON lines or LDIF; or a ZIP of it with units, groups, memberships and pictures. Choose it, or drop it here</span><input id="file" type="file" @change="take" /></label>
      <p v-if="file" role="status"><strong><bdi>{{ file.name }}</bdi></strong>, {{ number(Math.ceil(file.size / 1024)) }} kB</p>
    </div>
    <div class="choice"><input id="complete" v-model="isComplete" type="checkbox" /><label for="complete">It names everybody<span class="hint">Whoever it does not name is listed as missing; nobody leaves by that alone.</span></label></div>
    <label for="mode">What it may do<Select v-model="mode" :options="MODES" option-label="words" option-value="value" label-id="mode" aria-label="What it may do" /></label>
    <label v-if="needsSource" for="source">Whose people they are<span class="hint">the source that knows the keys in it, as in hr</span><InputText id="source" v-model="source" autocomplete="off" /></label>
    <div><Button type="submit" label="Read it and show what it would do" :disabled="!file" :loading="isBusy" /></div>
  </form>
  <p class="soft small template">No list yet? <a href="/api/v1/imports/template?format=xlsx" download>Take an empty workbook</a>, <a href="/api/v1/imports/template?format=csv" download>an empty CSV</a> or <a href="/api/v1/imports/template?format=zip" download>a ZIP with linked files</a>: every attribute has its column, compulsory ones are marked, and an example shows how each is written.</p>
</template>

<style scoped>
.drop { border: 1px dashed var(--line-strong); padding: 1rem; background: var(--sheet); }
.choice { display: grid; grid-template-columns: auto 1fr; gap: 0.6rem; align-items: start; }
input[type='file'] { font: inherit; max-width: 100%; }
.template { max-width: 44rem; margin-top: 1.5rem; }
</style>
