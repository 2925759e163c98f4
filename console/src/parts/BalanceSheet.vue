<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { bytes, capital } from '../use/words'
import SheetItems from './SheetItems.vue'

/** What an account of a departure owned by kind, and what became of it. */
const props = defineProps<{ departure: number; account: Schemas['DepartureAccountView']; runs: boolean }>()
const stock = computed(() => props.account.gates.find((gate) => gate.name === 'stock'))
const emit = defineEmits<{ changed: [Schemas['DepartureView']] }>()
const isOpen = ref(false)
/** What waits for nobody: neither arrived, nor left out, nor impossible. */
const still = (line: Schemas['SheetLineView']): number => line.count - line.arrived - line.failed - line.leftOut - line.uncovered
const share = (count: number, line: Schemas['SheetLineView']): string => `${line.count ? (100 * count) / line.count : 0}%`
</script>

<template>
  <p v-if="account.sheet === null" class="soft">{{ stock?.state === 'open' ? stock.why : account.gates.length ? 'Stock is not taken yet.' : 'No stock was taken.' }}</p>
  <p v-else-if="!account.sheet.length">It owned nothing.</p>
  <template v-else>
    <table class="sheet">
      <thead><tr><th>Kind</th><th>Owned</th><th>Size</th><th>What became of it</th></tr></thead>
      <tbody>
        <tr v-for="line in account.sheet" :key="line.kind">
          <td>{{ capital(line.kind) }}</td><td class="number">{{ line.count.toLocaleString('en') }}</td><td class="number">{{ bytes(line.bytes) }}</td>
          <td>
            <div class="course" aria-hidden="true"><i class="arrived" :style="{ width: share(line.arrived, line) }" /><i class="left" :style="{ width: share(line.leftOut, line) }" /><i class="failed" :style="{ width: share(line.failed + line.uncovered, line) }" /></div>
            <span v-if="line.arrived">{{ line.arrived.toLocaleString('en') }} arrived </span><span v-if="still(line)" class="soft">{{ still(line).toLocaleString('en') }} still here </span><span v-if="line.failed" class="signal">{{ line.failed.toLocaleString('en') }} could not be handed over </span><span v-if="line.uncovered" class="signal">{{ line.uncovered.toLocaleString('en') }} cannot be handed over there </span><span v-if="line.leftOut">{{ line.leftOut.toLocaleString('en') }} left out </span><span v-if="line.gone" class="soft">{{ line.gone.toLocaleString('en') }} gone meanwhile</span>
          </td>
        </tr>
      </tbody>
    </table>
    <details @toggle="isOpen = ($event.target as HTMLDetailsElement).open">
      <summary>Item by item</summary>
      <SheetItems v-if="isOpen" :departure="departure" :account="account" :runs="runs" @changed="(next) => emit('changed', next)" />
    </details>
  </template>
</template>

<style scoped>
.number { text-align: right; white-space: nowrap; }
.course { display: flex; height: 0.45rem; background: var(--line); margin-bottom: 0.2rem; min-width: 10rem; }
.arrived { background: var(--water); }
.left { background: var(--line-strong); }
.failed { background: var(--signal); }
.sheet span { margin-right: 0.7rem; }
summary { cursor: pointer; margin: 0.4rem 0; }
</style>
