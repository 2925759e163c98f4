<script setup lang="ts">
import Button from 'primevue/button'
import InputText from 'primevue/inputtext'
import { computed } from 'vue'
import { compared, group, type ConditionPart as Part } from '../use/condition'
import { attribute } from '../use/words'

/** Comparisons of which all, any, none or not all must hold; groups may stand within. */
const props = defineProps<{ part: Part; attributes: string[]; inner?: boolean }>()
const emit = defineEmits<{ changed: [part: Part]; removed: [] }>()

const KINDS = [['all', 'all of these'], ['any', 'any of these'], ['none', 'none of these'], ['not-all', 'not all of these']] as const
const COMPARISONS = [
  ['equal', 'is'], ['unequal', 'is not'], ['one-of', 'is one of'], ['begins', 'begins with'], ['ends', 'ends with'],
  ['contains', 'contains'], ['at-least', 'is at or after'], ['before', 'is before'], ['set', 'is known']
] as const

const fresh = (): Part => compared(props.attributes.includes('department') ? 'department' : (props.attributes[0] ?? ''))

/** "Not any" is none of them; a single part is a group of one. */
const inside = computed<Part>(() => {
  const one = props.part.kind === 'not' ? props.part.of[0]! : props.part
  return one.kind === 'all' || one.kind === 'any' ? one : group('all', [one])
})
const kind = computed(() => (props.part.kind === 'not' ? (inside.value.kind === 'any' ? 'none' : 'not-all') : inside.value.kind))

function say(kind: string, of: Part[]): void {
  const inner = group(kind === 'none' || kind === 'any' ? 'any' : 'all', of)
  emit('changed', kind === 'none' || kind === 'not-all' ? group('not', [inner]) : inner)
}
const put = (at: number, part: Part): void => say(kind.value, inside.value.of.map((one, i) => (i === at ? part : one)))
const edit = (at: number, more: Partial<Part>): void => put(at, { ...inside.value.of[at]!, ...more })
const take = (at: number): void => say(kind.value, inside.value.of.filter((_, i) => i !== at))
const values = (comparison: string, text: string): string[] =>
  comparison === 'set' ? [] : comparison === 'one-of' ? text.split(',').map((one) => one.trim()).filter(Boolean) : [text]
</script>

<template>
  <fieldset class="group">
    <legend><select :value="kind" :aria-label="inner ? 'How these belong together' : 'Who is meant: whoever meets'" @change="say(($event.target as HTMLSelectElement).value, inside.of)"><option v-for="[value, words] in KINDS" :key="value" :value="value">{{ inner ? '' : 'Whoever meets ' }}{{ words }}</option></select></legend>
    <p v-if="!inside.of.length" class="soft small">{{ kind === 'all' || kind === 'not-all' ? 'No comparison: everybody is meant.' : 'No comparison: nobody is meant.' }}</p>
    <div v-for="(one, i) in inside.of" :key="i" class="row">
      <template v-if="one.kind === 'is'">
        <select :value="one.attribute" aria-label="Attribute" @change="edit(i, { attribute: ($event.target as HTMLSelectElement).value })"><option v-for="name in attributes.includes(one.attribute ?? '') ? attributes : [one.attribute ?? '', ...attributes]" :key="name" :value="name">{{ attribute(name) }}</option></select>
        <select :value="one.comparison" aria-label="Comparison" @change="edit(i, { comparison: ($event.target as HTMLSelectElement).value, values: values(($event.target as HTMLSelectElement).value, one.values.join(', ')) })"><option v-for="[value, words] in COMPARISONS" :key="value" :value="value">{{ words }}</option></select>
        <InputText v-if="one.comparison !== 'set'" :model-value="one.values.join(', ')" size="small" :aria-label="one.comparison === 'one-of' ? 'Values, with commas between' : 'Value'" :placeholder="one.comparison === 'one-of' ? 'Deck, Engine' : one.attribute?.endsWith('Date') ? '2026-12-31' : ''" @change="edit(i, { values: values(one.comparison ?? '', ($event.target as HTMLInputElement).value) })" />
      </template>
      <code v-else-if="one.kind === 'other'">{{ one.cel }}</code>
      <ConditionGroup v-else :part="one" :attributes="attributes" inner @changed="put(i, $event)" />
      <Button text size="small" severity="secondary" label="Take away" :aria-label="`Take away comparison ${i + 1}`" @click="take(i)" />
    </div>
    <div class="acts">
      <Button size="small" severity="secondary" label="Add a comparison" @click="say(kind, [...inside.of, fresh()])" />
      <Button v-if="inside.of.length" size="small" text label="Add a group" @click="say(kind, [...inside.of, group('any', [fresh()])])" />
    </div>
  </fieldset>
</template>

<style scoped>
.group { border: 1px solid var(--line-strong); border-left: 3px solid var(--water); padding: 0.4rem 0.8rem 0.8rem; margin: 0; display: grid; gap: 0.5rem; min-width: 0; }
.row { display: flex; flex-wrap: wrap; gap: 0.4rem; align-items: center; }
.row > fieldset { flex: 1; }
</style>
