<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import Select from 'primevue/select'
import Textarea from 'primevue/textarea'
import { computed, reactive, ref, toRef, watch } from 'vue'
import { api, type Page, type Schemas } from '../api/client'
import { useAct } from '../use/act'
import { useResource } from '../use/resource'
import { attribute as called, MODES } from '../use/words'
import ProblemNote from './ProblemNote.vue'
import StateView from './StateView.vue'

/** Says what the columns of a file mean, and on what terms it is taken; it is read anew so. */
const props = defineProps<{ made: Schemas['ImportView'] }>()
const emit = defineEmits<{ settled: [made: Schemas['ImportView']] }>()
const id = toRef(() => props.made.id)
const { isBusy, trouble: refused, run } = useAct()
const NOT_USED = 'none'
const CHARSETS = ['UTF-8', 'windows-1252', 'UTF-16', 'UTF-16LE', 'UTF-16BE']
const SEPARATORS = [{ value: ',', words: 'commas' }, { value: ';', words: 'semicolons' }, { value: '\t', words: 'tabs' }, { value: '|', words: 'upright bars' }]
const DATES = [
  { value: 'uuuu-MM-dd', words: '2027-03-31' }, { value: 'd.M.uuuu', words: '31.3.2027' }, { value: 'd/M/uuuu', words: '31/3/2027, day first' },
  { value: 'M/d/uuuu', words: '3/31/2027, month first' }, { value: 'd-M-uuuu', words: '31-3-2027' }, { value: 'uuuuMMdd', words: '20270331' }, { value: 'd.M.uu', words: '31.3.27' }
]

interface Line { heading: string; attribute: string; isCode: boolean; confidence: number; reason: string; examples: string[] }
const form = reactive({
  source: '', key: null as string | null, dateFormat: null as string | null, charset: null as string | null, separator: null as string | null, sheet: null as string | null,
  complete: false, mode: 'add-and-update', opens: '', ends: '', kind: ''
})
const lines = ref<Line[]>([])
/** Attribute to its codes as they are typed: one a line, as in D = Deck. */
const codes = reactive<Record<string, string>>({})
const formulas = ref<{ attribute: string; expression: string }[]>([])
const { data, trouble, isLoading, reload } = useResource(async (signal) => {
  const [mapping, attributes] = await Promise.all([
    api<Schemas['MappingView']>(`/api/v1/imports/${id.value}/mapping`, { signal }),
    api<Page<Schemas['AttributeView']>>('/api/v1/attributes', { signal })
  ])
  return { mapping, attributes: attributes.items }
}, [id], false)

watch(data, (now) => {
  if (!now) return
  const { mapping } = now
  lines.value = mapping.columns.map((one) => ({ ...one, attribute: one.attribute ?? NOT_USED, isCode: !!one.attribute && one.attribute in mapping.tables }))
  for (const [name, table] of Object.entries(mapping.tables)) codes[name] = Object.entries(table).map(([code, meaning]) => `${code} = ${meaning}`).join('\n')
  formulas.value = Object.entries(mapping.computed).map(([name, expression]) => ({ attribute: name, expression }))
  Object.assign(form, {
    source: mapping.source ?? '', key: mapping.key, dateFormat: mapping.dateFormat, charset: mapping.charset, separator: mapping.separator, sheet: mapping.sheet,
    complete: props.made.complete, mode: props.made.mode, opens: props.made.everyone.startDate ?? '', ends: props.made.everyone.endDate ?? '', kind: props.made.everyone.userType ?? ''
  })
})
const OF_ROWS = [
  { value: 'formerKey', words: 'The key they had before' },
  { value: 'gone', words: 'Whether they have gone (yes or no)' }
]
const choices = computed(() => [{ value: NOT_USED, words: 'is not used' }, ...OF_ROWS, ...(data.value?.attributes.map((one) => ({ value: one.name, words: called(one.name) + (one.required ? ' (compulsory)' : '') })) ?? [])])
const fillable = computed(() => choices.value.filter((one) => one.value !== NOT_USED && !OF_ROWS.includes(one)))
const coded = computed(() => lines.value.filter((one) => one.isCode && one.attribute !== NOT_USED))
const headings = computed(() => lines.value.map((one) => one.heading))
const dates = computed(() => {
  const fits = data.value?.mapping.dateFormats ?? []
  return DATES.map((one) => ({ ...one, words: fits.includes(one.value) ? `${one.words} (fits all)` : one.words }))
})
const unsure = computed(() => lines.value.filter((one) => one.confidence < 100).length)

function table(typed: string): Record<string, string> {
  const pairs = typed.split('\n').filter((line) => line.trim()).map((line) => (line.includes('=') ? [line.slice(0, line.indexOf('=')), line.slice(line.indexOf('=') + 1)] : [line, '']))
  return Object.fromEntries(pairs.map(([code, meaning]) => [code.trim(), meaning.trim()]))
}
async function settle(): Promise<void> {
  const tables = Object.fromEntries(coded.value.map((one) => [one.attribute, table(codes[one.attribute] ?? '')]))
  const formula = Object.fromEntries(formulas.value.filter((one) => one.attribute && one.expression.trim()).map((one) => [one.attribute, one.expression.trim()]))
  const done = await run(() =>
    api<Schemas['ImportView']>(`/api/v1/imports/${id.value}/mapping`, {
      method: 'PUT',
      body: {
        source: form.source.trim() || null, key: form.key, columns: Object.fromEntries(lines.value.filter((one) => one.attribute !== NOT_USED).map((one) => [one.heading, one.attribute])), tables, computed: formula,
        dateFormat: form.dateFormat, charset: form.charset, separator: form.separator, sheet: form.sheet, complete: form.complete, mode: form.mode,
        everyone: { startDate: form.opens, endDate: form.ends, userType: form.kind }
      }
    })
  )
  if (done) emit('settled', done)
}
</script>

<template>
  <StateView :data="data" :trouble="trouble" :is-loading="isLoading" @retry="reload">
    <template v-if="data" #default>
      <form class="mapping" @submit.prevent="settle">
        <ProblemNote v-if="refused" :problems="refused.problems" />
        <div class="terms">
          <label :for="`source-${id}`">Where it comes from<span class="hint">a name of your own, as in hr; the mapping is kept with it</span><InputText :id="`source-${id}`" v-model="form.source" required autocomplete="off" /></label>
          <label>The key<span class="hint">the column by which a person is found again for ever</span><Select v-model="form.key" :options="headings" placeholder="Choose the column" aria-label="The key" fluid /></label>
          <label>Dates are written<span class="hint">{{ form.dateFormat ? 'found out from the values' : 'it cannot be told: please say' }}</span><Select v-model="form.dateFormat" :options="dates" option-label="words" option-value="value" placeholder="Choose" aria-label="Dates are written" fluid :class="{ asks: !form.dateFormat }" /></label>
        </div>
        <table>
          <thead><tr><th>Column</th><th>Holds, for example</th><th>Fills</th><th>Holds codes</th><th>Why that</th></tr></thead>
          <tbody>
            <tr v-for="one in lines" :key="one.heading">
              <th scope="row"><bdi>{{ one.heading }}</bdi></th>
              <td class="soft examples"><bdi v-for="(example, i) in one.examples" :key="i">{{ example }}</bdi></td>
              <td><Select v-model="one.attribute" :options="choices" option-label="words" option-value="value" filter auto-filter-focus :aria-label="`${one.heading} fills`" class="fills" /></td>
              <td><input v-if="one.attribute !== NOT_USED" v-model="one.isCode" type="checkbox" :aria-label="`${one.heading} holds codes`" /></td>
              <td class="small" :class="{ soft: one.confidence >= 60 || one.attribute === NOT_USED }">{{ one.confidence === 100 ? one.reason : one.confidence ? `${one.confidence} %: ${one.reason}` : one.reason }}</td>
            </tr>
          </tbody>
        </table>
        <details :open="coded.length > 0 || formulas.length > 0">
          <summary>What codes mean, and what is computed</summary>
          <div v-if="coded.length" class="terms">
            <label v-for="one in coded" :key="one.heading" :for="`codes-${one.heading}-${id}`">Codes in {{ one.heading }}<span class="hint">one a line, as in D = Deck; a code met later is asked about once</span><Textarea :id="`codes-${one.heading}-${id}`" v-model="codes[one.attribute]" rows="4" spellcheck="false" fluid /></label>
          </div>
          <p class="small">An attribute can be put together from columns, with an expression (CEL) over the row: <code>row['Given name'] + ' ' + row['Family name']</code></p>
          <div v-for="(one, i) in formulas" :key="i" class="formula">
            <Select v-model="one.attribute" :options="fillable" option-label="words" option-value="value" filter placeholder="Attribute" :aria-label="`Computed attribute ${i + 1}`" />
            <InputText v-model="one.expression" spellcheck="false" autocomplete="off" :aria-label="`Expression ${i + 1}`" fluid />
            <Button text size="small" label="Take out" @click="formulas.splice(i, 1)" />
          </div>
          <Button severity="secondary" size="small" label="Compute an attribute" @click="formulas.push({ attribute: '', expression: '' })" />
        </details>
        <details>
          <summary>On what terms, and how the file is written</summary>
          <div class="terms">
            <div class="choice"><input :id="`all-${id}`" v-model="form.complete" type="checkbox" /><label :for="`all-${id}`">It names everybody<span class="hint">whoever it does not name is missing</span></label></div>
            <label>What it may do<Select v-model="form.mode" :options="MODES" option-label="words" option-value="value" aria-label="What it may do" fluid /></label>
            <label :for="`opens-${id}`">Opens on<span class="hint">for rows that give no first day</span><input :id="`opens-${id}`" v-model="form.opens" type="date" /></label>
            <label :for="`ends-${id}`">Ends after<span class="hint">for rows that give no last day</span><input :id="`ends-${id}`" v-model="form.ends" type="date" /></label>
            <label :for="`kind-${id}`">Kind of people<span class="hint">for rows that say none, as in guest or technical</span><InputText :id="`kind-${id}`" v-model="form.kind" autocomplete="off" /></label>
            <label v-if="form.charset">Letters are written in<Select v-model="form.charset" :options="CHARSETS" aria-label="Letters are written in" fluid /></label>
            <label v-if="form.separator">Values are separated by<Select v-model="form.separator" :options="SEPARATORS" option-label="words" option-value="value" aria-label="Values are separated by" fluid /></label>
            <label v-if="data.mapping.sheets.length > 1">The sheet<Select v-model="form.sheet" :options="data.mapping.sheets" aria-label="The sheet" fluid /></label>
          </div>
        </details>
        <p class="soft small">{{ unsure ? `${unsure} columns are suggested; look at each. ` : '' }}What you confirm is remembered: the next file like it is read without asking.</p>
        <div class="acts"><Button type="submit" label="Read it so" :loading="isBusy" :disabled="!form.source.trim() || !form.key" /><slot /></div>
      </form>
    </template>
  </StateView>
</template>

<style scoped>
.formula { display: grid; grid-template-columns: 14rem 1fr auto; gap: 0.6rem; margin: 0.4rem 0; max-width: 66rem; }
.terms { display: grid; grid-template-columns: repeat(auto-fill, minmax(17rem, 1fr)); gap: 0.8rem 1.5rem; margin: 0.8rem 0; max-width: 66rem; align-items: end; }
.terms label { display: grid; gap: 0.2rem; font-weight: 600; font-size: 0.9rem; }
.hint { font-weight: 400; color: var(--ink-soft); }
.choice { display: grid; grid-template-columns: auto 1fr; gap: 0.6rem; align-items: start; align-self: center; }
.examples bdi + bdi::before { content: ', '; }
.examples { max-width: 18rem; overflow: hidden; text-overflow: ellipsis; }
.fills { width: 16.5rem; }
.asks { outline: 2px solid var(--signal); }
tbody th { font-weight: 600; font-size: inherit; color: var(--ink); vertical-align: middle; border-bottom: 1px solid var(--line); }
tbody td { vertical-align: middle; }
input[type='date'] { font: inherit; padding: 0.35rem 0.5rem; color: var(--ink); background: var(--sheet); border: 1px solid var(--line-strong); }
details { margin: 0.8rem 0; }
summary { cursor: pointer; color: var(--water); }
</style>
