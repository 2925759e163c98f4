import { defineStore } from 'pinia'
import { computed, reactive } from 'vue'

/** People gathered for one act, however the list is filtered meanwhile. */
export const useSelection = defineStore('selection', () => {
  const people = reactive(new Map<number, string>())
  const size = computed(() => people.size)
  const toggle = (id: number, name: string): void => void (people.has(id) ? people.delete(id) : people.set(id, name))
  const add = (id: number, name: string): void => void people.set(id, name)
  const remove = (id: number): void => void people.delete(id)
  const clear = (): void => people.clear()
  return { people, size, toggle, add, remove, clear }
})
